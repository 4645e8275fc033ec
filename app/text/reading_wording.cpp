#include "app/text/reading_wording.h"

#include "app/text/wording.h"

#include <QCoreApplication>
#include <QStringList>

namespace wirenote::app {
namespace {

QString say(const char* text) {
    return QCoreApplication::translate("wording", text);
}

QString number(double value, int digits = 0) {
    return QString::number(value, 'f', digits);
}

QString gainOf(const Gain& gain) {
    switch (gain.kind) {
    case GainKind::Shifts:
        return gain.b < 1.0 ? say("no shift")
                            : say("%1 mm less to move").arg(number(gain.a - gain.b));
    case GainKind::Stretch:
        return gain.b < 1.0 ? say("no stretch")
                            : say("a stretch of %1 mm, not %2").arg(number(gain.b), number(gain.a));
    case GainKind::Barre:
        return gain.b <= 0.0 ? say("no barre") : say("a shorter barre");
    case GainKind::Ringing:
        return say("more rings on");
    case GainKind::Tone:
        return say("brighter, on thinner strings");
    case GainKind::Ease:
        return say("could go %1 times as fast").arg(number(gain.b / std::max(0.01, gain.a), 1));
    case GainKind::Crossing:
        return say("fewer strings to cross");
    case GainKind::Legato:
        return say("more is slurred");
    case GainKind::FewerNotes:
        return countText(static_cast<int>(gain.a - gain.b),
                         QT_TRANSLATE_NOOP("wording", "%1 note less"),
                         QT_TRANSLATE_NOOP("wording", "%1 notes less"));
    }
    return {};
}

QString lossOf(const Gain& loss) {
    switch (loss.kind) {
    case GainKind::Shifts:
        return loss.a < 1.0 ? say("a shift of %1 mm").arg(number(loss.b))
                            : say("%1 mm more to move").arg(number(loss.b - loss.a));
    case GainKind::Stretch:
        return loss.a < 1.0 ? say("a stretch of %1 mm").arg(number(loss.b))
                            : say("a stretch of %1 mm, not %2").arg(number(loss.b), number(loss.a));
    case GainKind::Barre:
        return loss.a <= 0.0 ? say("a barre") : say("a longer barre");
    case GainKind::Ringing:
        return say("less rings on");
    case GainKind::Tone:
        return say("less bright, on thicker strings");
    case GainKind::Ease:
        return say("harder: could go only %1 times as fast")
            .arg(number(loss.b / std::max(0.01, loss.a), 1));
    case GainKind::Crossing:
        return say("more strings to cross");
    case GainKind::Legato:
        return say("less is slurred");
    case GainKind::FewerNotes:
        return countText(static_cast<int>(loss.b - loss.a),
                         QT_TRANSLATE_NOOP("wording", "%1 note more"),
                         QT_TRANSLATE_NOOP("wording", "%1 notes more"));
    }
    return {};
}

} // namespace

QString setWhyText(SetWhy why) {
    switch (why) {
    case SetWhy::Unsaid:
        return {};
    case SetWhy::Misheard:
        return say("it was misheard");
    case SetWhy::Score:
        return say("a score has it so");
    case SetWhy::Memory:
        return say("from memory");
    case SetWhy::Taste:
        return say("a matter of taste");
    case SetWhy::Asked:
        return say("somebody was asked");
    }
    return {};
}

QString needText(const Need& need) {
    QString text = need.kind == Necessity::MayGo      ? say("May be left out")
                   : need.kind == Necessity::MustLand ? say("Must land")
                                                      : say("Like any other note");
    if (need.above_bpm > 0.0)
        text += say(", at %1 and faster").arg(number(need.above_bpm));
    if (!need.when.empty())
        text += ", " + QString::fromStdString(need.when);
    return text;
}

QString needLabel(const Need& need) {
    return need.kind == Necessity::MayGo      ? say("may be left out")
           : need.kind == Necessity::MustLand ? say("must land")
                                              : say("like any other note");
}

QString exactnessText(Exactness exactness) {
    switch (exactness) {
    case Exactness::NoteForNote:
        return say("Note for note");
    case Exactness::Essence:
        return say("The essence");
    case Exactness::Adapted:
        break;
    }
    return say("Adapted");
}

QString pointText(const ExactnessPoint& point) {
    const auto counted = [&point](const char* one, const char* many) {
        return countText(static_cast<int>(point.count), one, many);
    };
    switch (point.what) {
    case Against::NoNotes:
        return say("there are no notes");
    case Against::OtherNeck:
        return say("another instrument, tuning or capo");
    case Against::OtherKey:
        return counted(QT_TRANSLATE_NOOP("wording", "%1 semitone away"),
                       QT_TRANSLATE_NOOP("wording", "%1 semitones away"));
    case Against::Wish:
        return say("made to be played otherwise");
    case Against::LeftOut:
        return counted(QT_TRANSLATE_NOOP("wording", "%1 note left out"),
                       QT_TRANSLATE_NOOP("wording", "%1 notes left out"));
    case Against::Added:
        return counted(QT_TRANSLATE_NOOP("wording", "%1 note added"),
                       QT_TRANSLATE_NOOP("wording", "%1 notes added"));
    case Against::OtherPitch:
        return counted(QT_TRANSLATE_NOOP("wording", "%1 note at another pitch"),
                       QT_TRANSLATE_NOOP("wording", "%1 notes at another pitch"));
    case Against::OtherTechnique:
        return counted(QT_TRANSLATE_NOOP("wording", "%1 note with another technique"),
                       QT_TRANSLATE_NOOP("wording", "%1 notes with another technique"));
    case Against::OtherSource:
        return counted(QT_TRANSLATE_NOOP("wording", "%1 stretch from another source"),
                       QT_TRANSLATE_NOOP("wording", "%1 stretches from other sources"));
    case Against::Taste:
        return counted(QT_TRANSLATE_NOOP("wording", "%1 matter of taste"),
                       QT_TRANSLATE_NOOP("wording", "%1 matters of taste"));
    case Against::FromScore:
        return counted(QT_TRANSLATE_NOOP("wording", "%1 note from a score"),
                       QT_TRANSLATE_NOOP("wording", "%1 notes from a score"));
    case Against::FromMemory:
        return counted(QT_TRANSLATE_NOOP("wording", "%1 note from memory"),
                       QT_TRANSLATE_NOOP("wording", "%1 notes from memory"));
    case Against::OpenDoubt:
        return counted(QT_TRANSLATE_NOOP("wording", "%1 open doubt"),
                       QT_TRANSLATE_NOOP("wording", "%1 open doubts"));
    case Against::LeftOpen:
        return counted(QT_TRANSLATE_NOOP("wording", "%1 doubt left open"),
                       QT_TRANSLATE_NOOP("wording", "%1 doubts left open"));
    case Against::Guess:
        return counted(QT_TRANSLATE_NOOP("wording", "%1 guess"),
                       QT_TRANSLATE_NOOP("wording", "%1 guesses"));
    }
    return {};
}

QString againstList(const ExactnessStatement& statement) {
    QStringList all;
    for (const ExactnessPoint& point : statement.against)
        all << pointText(point);
    return all.join(", ");
}

QString differenceText(ReadingDifferenceKind kind) {
    switch (kind) {
    case ReadingDifferenceKind::Missing:
        return say("left out");
    case ReadingDifferenceKind::Added:
        return say("added");
    case ReadingDifferenceKind::Pitch:
        return say("pitch");
    case ReadingDifferenceKind::Start:
        return say("start");
    case ReadingDifferenceKind::Length:
        return say("length");
    case ReadingDifferenceKind::Place:
        return say("place");
    case ReadingDifferenceKind::Finger:
        return say("finger");
    case ReadingDifferenceKind::Stroke:
        return say("stroke");
    case ReadingDifferenceKind::Technique:
        return say("technique");
    }
    return {};
}

QString changedWhatText(ChangedWhat what) {
    switch (what) {
    case ChangedWhat::Comes:
        return say("a new note");
    case ChangedWhat::Goes:
        return say("a note goes");
    case ChangedWhat::Pitch:
        return say("pitch");
    case ChangedWhat::Time:
        return say("start");
    case ChangedWhat::Place:
        return say("place");
    case ChangedWhat::Finger:
        return say("finger");
    case ChangedWhat::Stroke:
        return say("stroke");
    case ChangedWhat::Technique:
        return say("technique");
    }
    return {};
}

QString weighedText(const GainsAndLosses& weighed) {
    QStringList gains;
    QStringList losses;
    for (const Gain& gain : weighed.gains)
        gains << gainOf(gain);
    for (const Gain& loss : weighed.losses)
        losses << lossOf(loss);
    if (losses.isEmpty())
        return gains.join(", ");
    const QString but = say("but: %1").arg(losses.join(", "));
    return gains.isEmpty() ? but : gains.join(", ") + "; " + but;
}

QString madeText(const MadeReading& made) {
    QStringList parts;
    const auto count = [&parts](std::size_t n, const char* one, const char* many) {
        if (n > 0)
            parts << countText(static_cast<int>(n), one, many);
    };
    count(made.left_out.size(),
          QT_TRANSLATE_NOOP("wording", "%1 note is left out"),
          QT_TRANSLATE_NOOP("wording", "%1 notes are left out"));
    count(made.moved.size(),
          QT_TRANSLATE_NOOP("wording", "%1 note sounds octaves away"),
          QT_TRANSLATE_NOOP("wording", "%1 notes sound octaves away"));
    count(made.stopped.size(),
          QT_TRANSLATE_NOOP("wording", "%1 open string is stopped now"),
          QT_TRANSLATE_NOOP("wording", "%1 open strings are stopped now"));
    count(made.unmet.size(),
          QT_TRANSLATE_NOOP("wording", "at %1 place it cannot be had"),
          QT_TRANSLATE_NOOP("wording", "at %1 places it cannot be had"));
    return parts.isEmpty() ? say("The reading is made, and all of it can be had.")
                           : say("The reading is made: %1.").arg(parts.join(", "));
}

} // namespace wirenote::app
