#include "app/text/question_wording.h"

#include "app/text/wording.h"
#include "piece/timeline_map.h"

#include <QCoreApplication>
#include <algorithm>
#include <cmath>

namespace wirenote::app {
namespace {

QString tr(const char* text) {
    return QCoreApplication::translate("wording", text);
}

// How the tempo of a choice stands to the present one.
QString tempoRelation(double ratio) {
    const auto near = [ratio](double of) { return std::abs(ratio / of - 1.0) < 0.06; };
    if (near(2.0))
        return tr("twice as fast as it is now");
    if (near(0.5))
        return tr("half as fast as it is now");
    if (near(1.5))
        return tr("three beats for two of now");
    if (near(2.0 / 3.0))
        return tr("two beats for three of now");
    if (near(4.0 / 3.0))
        return tr("four beats for three of now");
    if (near(0.75))
        return tr("three beats for four of now");
    return tr("the same beat, divided otherwise");
}

QString feltIn(Metre metre) {
    return metre.compound() ? tr("felt in threes, %1") : tr("%1");
}

QString metresText(const Timeline& timeline) {
    constexpr std::size_t kMost = 3;
    QStringList metres{QString::fromStdString(timeline.metre.text())};
    for (const MetreChange& change : timeline.changes) {
        if (metres.size() > static_cast<qsizetype>(kMost)) {
            metres << tr("…");
            break;
        }
        metres << tr("from bar %1 on %2")
                      .arg(change.bar)
                      .arg(QString::fromStdString(change.metre.text()));
    }
    return metres.join(tr(", "));
}

// Where the first note falls, which tells best where bars begin.
QString firstNoteText(const Piece& piece, const Timeline& timeline) {
    if (piece.notes.empty())
        return {};
    const double first_s = piece.notes.front().onset_s();
    const auto at = TimelineMap(timeline).barBeatAt(first_s + 0.03);
    if (at.bar >= 1 && at.beat < 1.15)
        return tr("“One” is the first note");
    const QString place = musicPlaceText(TimelineMap(timeline), first_s);
    return at.bar < 1 ? tr("The first notes are a pick-up: %1").arg(place)
                      : tr("The first note comes at %1").arg(place);
}

} // namespace

QString questionText(QuestionKind kind) {
    switch (kind) {
    case QuestionKind::Instrument:
        return tr("Which strings are these?");
    case QuestionKind::Tempo:
        return tr("How fast is the beat?");
    case QuestionKind::Metre:
        return tr("How many beats to a bar?");
    case QuestionKind::One:
        return tr("Where is “one”?");
    }
    return {};
}

QString whyItIsAsked(QuestionKind kind) {
    switch (kind) {
    case QuestionKind::Instrument:
        return tr("Every string and fret follows from it. A number plays the open strings of that "
                  "choice, thickest first, beside the take.");
    case QuestionKind::Tempo:
        return tr("Every note value follows from it. A number plays the take with a click on that "
                  "beat: take the one you would tap with your foot.");
    case QuestionKind::Metre:
        return tr("A number plays the take with a click, the first beat of each bar louder.");
    case QuestionKind::One:
        return tr("A number plays the take with a click, each “one” louder.");
    }
    return {};
}

QString choiceText(const Piece& piece, const Question& question, const Choice& choice) {
    switch (question.kind) {
    case QuestionKind::Instrument: {
        const Instrument& instrument = choice.tuning.instrument;
        const QString tuned = tuningNameText(choice.tuning.name, instrument.capo);
        const bool one_kind = std::ranges::all_of(question.choices, [&piece](const Choice& c) {
            return c.tuning.instrument.kind == piece.instrument.kind;
        });
        return one_kind ? tr("%1: %2").arg(tuned, QString::fromStdString(tuningText(instrument)))
                        : tr("%1, %2: %3")
                              .arg(instrumentText(instrument.kind),
                                   tuned,
                                   QString::fromStdString(tuningText(instrument)));
    }
    case QuestionKind::Tempo:
        return tr("%1 a minute, %2")
            .arg(std::lround(choice.timeline.tempo_bpm))
            .arg(feltIn(choice.timeline.metre)
                     .arg(QString::fromStdString(choice.timeline.metre.text())));
    case QuestionKind::Metre:
        return metresText(choice.timeline);
    case QuestionKind::One:
        return firstNoteText(piece, choice.timeline);
    }
    return {};
}

QString choiceReason(const Piece& piece, const Question& question, const Choice& choice) {
    if (choice.by_sound)
        return tr("the strings sound like it: how their overtones stand and die away");
    if (question.kind == QuestionKind::Instrument)
        return tuningReason(choice.tuning);
    if (choice.now)
        return tr("as it was heard");
    if (question.kind == QuestionKind::Tempo)
        return tempoRelation(choice.timeline.tempo_bpm / std::max(1.0, piece.timeline.tempo_bpm));
    return {};
}

QString tuningReason(const TuningGuess& guess) {
    QStringList reasons;
    if (guess.off_neck > 0)
        reasons << tr("%1 of %2 notes are not on that neck").arg(guess.off_neck).arg(guess.notes);
    reasons << tr("lowest note %1").arg(QString::fromStdString(pitchName(guess.lowest_midi)));
    reasons << tr("%1 of %2 notes are its open strings").arg(guess.open_notes).arg(guess.notes);
    return reasons.join(tr(", "));
}

QString otherInstrumentText(const Piece& piece, const OtherInstrument& other) {
    QStringList untrue;
    if (other.homeless > 0)
        untrue << countText(other.homeless,
                            QT_TRANSLATE_NOOP("wording", "%1 note lies on no string of it"),
                            QT_TRANSLATE_NOOP("wording", "%1 notes lie on no string of it"));
    if (other.moved > 0)
        untrue << countText(other.moved,
                            QT_TRANSLATE_NOOP("wording", "%1 note lies elsewhere now"),
                            QT_TRANSLATE_NOOP("wording", "%1 notes lie elsewhere now"));
    if (piece.instrument.lowestMidi() < other.heard_with.lowestMidi())
        untrue << tr("nothing below %1 was listened for")
                      .arg(QString::fromStdString(pitchName(other.heard_with.lowestMidi())));
    const QString heard = tr("The notes were heard as played on other strings (%1, %2).")
                              .arg(instrumentText(other.heard_with.kind),
                                   QString::fromStdString(tuningText(other.heard_with)));
    return untrue.isEmpty() ? heard : tr("%1 So %2.").arg(heard, untrue.join(tr("; ")));
}

} // namespace wirenote::app
