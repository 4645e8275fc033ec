#include "app/text/lesson_wording.h"

#include <QCoreApplication>

namespace wirenote::app {
namespace {

QString tr(const char* text) {
    return QCoreApplication::translate("wording", text);
}

} // namespace

QString stepKindText(StepKind kind) {
    switch (kind) {
    case StepKind::Whole:
        return tr("The whole");
    case StepKind::Context:
        return tr("What it is");
    case StepKind::Fretting:
        return tr("Fretting hand");
    case StepKind::Plucking:
        return tr("Plucking hand");
    case StepKind::Together:
        return tr("Together");
    case StepKind::Slow:
        return tr("Slow");
    case StepKind::Fast:
        return tr("Up to speed");
    case StepKind::Joined:
        return tr("Joined");
    case StepKind::Layer:
        return tr("In layers");
    }
    return {};
}

QString stumbleKindText(StumbleKind kind) {
    switch (kind) {
    case StumbleKind::DroppedThumb:
        return tr("a bass note left out");
    case StumbleKind::LongBarre:
        return tr("a barre kept too long");
    case StumbleKind::FastShift:
        return tr("the hand moves in fast notes");
    case StumbleKind::SameFinger:
        return tr("one finger wanted at once");
    case StumbleKind::WideStretch:
        return tr("a wide stretch");
    case StumbleKind::TemptingGrab:
        return tr("a tempting grab");
    case StumbleKind::StringSkip:
        return tr("a string passed over");
    case StumbleKind::StrokeTurns:
        return tr("two strokes one way");
    case StumbleKind::EarlyRelease:
        return tr("let go too soon");
    case StumbleKind::Seen:
        return tr("seen with pupils");
    }
    return {};
}

QString verdictText(Verdict verdict) {
    switch (verdict) {
    case Verdict::Open:
        return tr("open");
    case Verdict::Adopted:
        return tr("adopted");
    case Verdict::Answered:
        return tr("answered");
    }
    return {};
}

QString claimFieldText(ClaimField field) {
    switch (field) {
    case ClaimField::String:
        return tr("string");
    case ClaimField::Fret:
        return tr("fret");
    case ClaimField::Finger:
        return tr("finger");
    case ClaimField::Stroke:
        return tr("stroke");
    case ClaimField::Beat:
        return tr("beat");
    case ClaimField::Chord:
        return tr("chord");
    case ClaimField::Note:
        return tr("note");
    }
    return {};
}

namespace {

QString shownText(const CheckedClaim& claim, const QString& played, const QString& is) {
    if (claim.field == ClaimField::Stroke)
        return tr("played %1; in the tab it is %2").arg(played, is);
    if (played.isEmpty())
        return tr("note %1 is not played").arg(is);
    if (is.isEmpty())
        return tr("played note %1, which the tab does not have").arg(played);
    return tr("played note %1; in the tab it is note %2").arg(played, is);
}

} // namespace

QString claimText(const CheckedClaim& claim) {
    const QString field = claimFieldText(claim.field);
    const QString said = QString::fromStdString(claim.said);
    if (claim.take)
        return shownText(claim, said, QString::fromStdString(claim.is));
    if (claim.is.empty())
        return tr("said %1 %2").arg(field, said);
    return tr("said %1 %2; it is %1 %3").arg(field, said, QString::fromStdString(claim.is));
}

} // namespace wirenote::app
