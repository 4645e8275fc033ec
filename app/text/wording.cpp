#include "app/text/wording.h"

#include "app/text/reading_wording.h"

#include "hearing/techniques.h"

#include <QCoreApplication>
#include <QFileInfo>
#include <algorithm>
#include <array>
#include <cmath>

namespace wirenote::app {
namespace {
QString tr(const char* text) {
    return QCoreApplication::translate("wording", text);
}
} // namespace

QString pitchText(const Piece& piece, double midi) {
    return QString::fromStdString(pitchName(midi, piece.key.spelling()));
}

QString fingerText(Finger finger) {
    switch (finger) {
    case Finger::Open:
        return tr("open string");
    case Finger::Index:
        return tr("first finger");
    case Finger::Middle:
        return tr("second finger");
    case Finger::Ring:
        return tr("third finger");
    case Finger::Little:
        return tr("fourth finger");
    case Finger::Thumb:
        return tr("thumb over the neck");
    case Finger::Unknown:
        break;
    }
    return tr("finger open");
}

QString strokeText(Stroke stroke) {
    switch (stroke) {
    case Stroke::Down:
        return tr("down-stroke");
    case Stroke::Up:
        return tr("up-stroke");
    case Stroke::P:
        return tr("plucked by p, the thumb");
    case Stroke::I:
        return tr("plucked by i, the index");
    case Stroke::M:
        return tr("plucked by m, the middle finger");
    case Stroke::A:
        return tr("plucked by a, the ring finger");
    case Stroke::C:
        return tr("plucked by c, the little finger");
    case Stroke::Ghost:
        return tr("ghost stroke");
    case Stroke::None:
        return tr("not struck");
    case Stroke::Unknown:
        break;
    }
    return tr("stroke open");
}

QString techniqueText(Technique technique) {
    static const std::array<const char*, kTechniqueCount> kNames = {
        QT_TRANSLATE_NOOP("wording", "hammer-on"), QT_TRANSLATE_NOOP("wording", "pull-off"),
        QT_TRANSLATE_NOOP("wording", "slide"),     QT_TRANSLATE_NOOP("wording", "bend"),
        QT_TRANSLATE_NOOP("wording", "release"),   QT_TRANSLATE_NOOP("wording", "vibrato"),
        QT_TRANSLATE_NOOP("wording", "palm mute"), QT_TRANSLATE_NOOP("wording", "dead note"),
        QT_TRANSLATE_NOOP("wording", "staccato"),  QT_TRANSLATE_NOOP("wording", "let ring"),
        QT_TRANSLATE_NOOP("wording", "harmonic"),  QT_TRANSLATE_NOOP("wording", "grace note"),
        QT_TRANSLATE_NOOP("wording", "accent"),    QT_TRANSLATE_NOOP("wording", "ghost stroke"),
        QT_TRANSLATE_NOOP("wording", "pre-bend"),  QT_TRANSLATE_NOOP("wording", "rolled chord"),
        QT_TRANSLATE_NOOP("wording", "rake"),      QT_TRANSLATE_NOOP("wording", "trill"),
        QT_TRANSLATE_NOOP("wording", "tremolo"),   QT_TRANSLATE_NOOP("wording", "tapped")};
    return tr(kNames[static_cast<std::size_t>(technique)]);
}

QString toolText(PluckingTool tool) {
    switch (tool) {
    case PluckingTool::Unknown:
        break;
    case PluckingTool::Pick:
        return tr("a pick");
    case PluckingTool::Fingers:
        return tr("the fingers");
    case PluckingTool::Both:
        return tr("pick and fingers");
    }
    return tr("not known yet");
}

QString instrumentText(InstrumentKind kind) {
    switch (kind) {
    case InstrumentKind::Guitar:
        return tr("electric guitar");
    case InstrumentKind::Guitar7:
        return tr("seven-string guitar");
    case InstrumentKind::Acoustic:
        return tr("steel-string guitar");
    case InstrumentKind::Nylon:
        return tr("nylon-string guitar");
    case InstrumentKind::Bass:
        return tr("bass");
    case InstrumentKind::Bass5:
        return tr("five-string bass");
    }
    return {};
}

QString placeText(Position place) {
    return place.fret == 0 ? tr("string %1, open").arg(place.string)
                           : tr("string %1, fret %2").arg(place.string).arg(place.fret);
}

QString positionText(int hand_fret) {
    static const std::array<const char*, 18> kOrdinals = {
        "",
        QT_TRANSLATE_NOOP("wording", "first position"),
        QT_TRANSLATE_NOOP("wording", "second position"),
        QT_TRANSLATE_NOOP("wording", "third position"),
        QT_TRANSLATE_NOOP("wording", "fourth position"),
        QT_TRANSLATE_NOOP("wording", "fifth position"),
        QT_TRANSLATE_NOOP("wording", "sixth position"),
        QT_TRANSLATE_NOOP("wording", "seventh position"),
        QT_TRANSLATE_NOOP("wording", "eighth position"),
        QT_TRANSLATE_NOOP("wording", "ninth position"),
        QT_TRANSLATE_NOOP("wording", "tenth position"),
        QT_TRANSLATE_NOOP("wording", "eleventh position"),
        QT_TRANSLATE_NOOP("wording", "twelfth position"),
        QT_TRANSLATE_NOOP("wording", "thirteenth position"),
        QT_TRANSLATE_NOOP("wording", "fourteenth position"),
        QT_TRANSLATE_NOOP("wording", "fifteenth position"),
        QT_TRANSLATE_NOOP("wording", "sixteenth position"),
        QT_TRANSLATE_NOOP("wording", "seventeenth position")};
    if (hand_fret < 1)
        return {};
    return hand_fret < static_cast<int>(kOrdinals.size())
               ? tr(kOrdinals[static_cast<std::size_t>(hand_fret)])
               : tr("position %1").arg(hand_fret);
}

namespace {

QString attackText(const HeardAttack& attack) {
    if (attack.soft)
        return tr("the pitch moves without a new attack");
    return attack.strength > 0.6 ? tr("a clear attack") : tr("a soft attack");
}

} // namespace

QString beginningText(const Note& note) {
    if (note.time.isSet())
        return tr("its time is set");
    return note.heard().attack.told() ? attackText(note.heard().attack) : tr("from the file");
}

namespace {

// Reasons whose words only name their numbers: %1 is a, %2 is b.
constexpr std::array<std::pair<ReasonKind, const char*>, 33> kPlainReasons = {{
    {ReasonKind::TipSeen,
     QT_TRANSLATE_NOOP("wording",
                       "a fingertip was seen on string %1, none where string %2 needs it")},
    {ReasonKind::OctaveDoubt, QT_TRANSLATE_NOOP("wording", "the octave is in doubt")},
    {ReasonKind::OnlyPlace, QT_TRANSLATE_NOOP("wording", "no other string has this pitch")},
    {ReasonKind::OpenString, QT_TRANSLATE_NOOP("wording", "open string: nothing to press")},
    {ReasonKind::SameString, QT_TRANSLATE_NOOP("wording", "a slur stays on its string, string %1")},
    {ReasonKind::LowPosition, QT_TRANSLATE_NOOP("wording", "low on the neck, the usual place")},
    {ReasonKind::FingerPerFret, QT_TRANSLATE_NOOP("wording", "one finger per fret from fret %2")},
    {ReasonKind::AlternatesOnBeat, QT_TRANSLATE_NOOP("wording", "down on the beat, up off it")},
    {ReasonKind::SweepsOn,
     QT_TRANSLATE_NOOP("wording", "a sweep: %1 notes one way over neighbouring strings")},
    {ReasonKind::DownStrokesOnly,
     QT_TRANSLATE_NOOP("wording", "a riff, slow enough for down-strokes only")},
    {ReasonKind::TakesTurns, QT_TRANSLATE_NOOP("wording", "the other way than the stroke before")},
    {ReasonKind::ThumbHasBass, QT_TRANSLATE_NOOP("wording", "the thumb has the thick strings")},
    {ReasonKind::NotStruck, QT_TRANSLATE_NOOP("wording", "slurred: the plucking hand rests")},
    {ReasonKind::FingersAlternate, QT_TRANSLATE_NOOP("wording", "index and middle take turns")},
    {ReasonKind::FingerPerString,
     QT_TRANSLATE_NOOP("wording", "held chords: thumb below, a finger for each thin string")},
    {ReasonKind::StruckAgain,
     QT_TRANSLATE_NOOP("wording", "the same grip nearby has it on string %1")},
    {ReasonKind::ShapeMoves,
     QT_TRANSLATE_NOOP("wording", "the grip moves and keeps its shape: string %1")},
    {ReasonKind::DecayFits,
     QT_TRANSLATE_NOOP("wording", "dies away as on string %1, unlike string %2")},
    {ReasonKind::CombFits,
     QT_TRANSLATE_NOOP("wording", "plucked where string %1 would put it, unlike string %2")},
    {ReasonKind::TiltFits,
     QT_TRANSLATE_NOOP("wording", "as bright as string %1 sounds, unlike string %2")},
    {ReasonKind::SlideHeard,
     QT_TRANSLATE_NOOP("wording", "a hand was heard sliding along a wound string")},
    {ReasonKind::DecidedByPerson, QT_TRANSLATE_NOOP("wording", "you decided this")},
    {ReasonKind::OverNode,
     QT_TRANSLATE_NOOP("wording", "a harmonic: it rings over the node at fret %1")},
    {ReasonKind::NothingFits, QT_TRANSLATE_NOOP("wording", "no place on this neck has this pitch")},
    {ReasonKind::PlayedInOthers,
     QT_TRANSLATE_NOOP("wording", "played in %1 of %2 times that this place was heard")},
    {ReasonKind::OutOfHand,
     QT_TRANSLATE_NOOP("wording", "no hand can take it together with the others")},
    {ReasonKind::FingerStays, QT_TRANSLATE_NOOP("wording", "the finger stays where it is")},
    {ReasonKind::UsualGrip, QT_TRANSLATE_NOOP("wording", "as this grip is taught")},
    {ReasonKind::OneFinger,
     QT_TRANSLATE_NOOP("wording", "one finger holds string %1 at fret %2, too")},
    {ReasonKind::FingerElsewhere,
     QT_TRANSLATE_NOOP("wording", "finger %3 is on string %1 at fret %2")},
    {ReasonKind::FingerHolds,
     QT_TRANSLATE_NOOP("wording", "finger %3 holds string %1 at fret %2, which rings on")},
    {ReasonKind::OpenRings,
     QT_TRANSLATE_NOOP("wording", "stopped here: the open string %1 rings on")},
    {ReasonKind::ThumbOver, QT_TRANSLATE_NOOP("wording", "the thumb reaches over the neck")},
}};

QString plainReason(const Reason& r) {
    const auto* found =
        std::ranges::find(kPlainReasons, r.kind, &std::pair<ReasonKind, const char*>::first);
    if (found == kPlainReasons.end())
        return {};
    QString text = tr(found->second);
    return text.replace("%1", QString::number(r.a))
        .replace("%2", QString::number(r.b))
        .replace("%3", QString::number(std::lround(r.x)));
}

} // namespace

QString reasonTitle(const Reason& r) {
    switch (r.kind) {
    case ReasonKind::ClearPitch:
        return r.x > 0.9   ? tr("the pitch is clear")
               : r.x > 0.7 ? tr("the pitch is fairly clear")
                           : tr("the pitch is blurred");
    case ReasonKind::SharpAttack:
        return attackText({r.x, false});
    case ReasonKind::SoftAttack:
        return attackText({-1.0, true});
    case ReasonKind::StaysInPosition:
        return tr("stays in %1").arg(positionText(r.a));
    case ReasonKind::ShiftNeeded:
        return tr("the hand moves from fret %1 to fret %2 in %3 s")
            .arg(r.a)
            .arg(r.b)
            .arg(r.x, 0, 'f', 2);
    case ReasonKind::OtherNeedsShift:
        return r.b == 1 ? tr("string %1 would move the hand by a fret").arg(r.a)
                        : tr("string %1 would move the hand by %2 frets").arg(r.a).arg(r.b);
    case ReasonKind::OtherNeedsStretch:
        return tr("string %1 would need a stretch of %2 mm").arg(r.a).arg(std::lround(r.x));
    case ReasonKind::OpenGivesTime:
        return tr("gives the hand %1 s to move").arg(r.x, 0, 'f', 2);
    case ReasonKind::StiffnessFits:
        return r.b == 0    ? tr("as stiff as string %1 sounds").arg(r.a)
               : r.x > 1.0 ? tr("stiffer than string %1 would make it").arg(r.b)
                           : tr("less stiff than string %1 would make it").arg(r.b);
    case ReasonKind::ThumbTooSlow:
        return tr("%1 notes a second: too fast for the thumb alone").arg(r.x, 0, 'f', 1);
    case ReasonKind::StrokeSeen:
        if (r.b > 0) // a finger
            return tr("the %1 was seen moving")
                .arg(QStringList{tr("thumb"),
                                 tr("index finger"),
                                 tr("middle finger"),
                                 tr("ring finger"),
                                 tr("little finger")}
                         .value(r.b - 1));
        return r.a > 0 ? tr("the hand was seen going down") : tr("the hand was seen going up");
    case ReasonKind::StrokesSound:
        return r.a > 0 ? tr("the strokes sound hard, as of a pick")
                       : tr("the strokes sound soft, as of flesh");
    case ReasonKind::DecidedByPerson: {
        const QString why = setWhyText(static_cast<SetWhy>(std::clamp(r.a, 0, kSetWhys - 1)));
        return why.isEmpty() ? plainReason(r) : plainReason(r) + ": " + why;
    }
    case ReasonKind::StringsInTurn:
        return r.a > 0 ? tr("the thick strings sounded first")
                       : tr("the thin strings sounded first");
    default:
        return plainReason(r);
    }
}

QString techniqueText(const Note& note, Technique technique) {
    if (technique == Technique::Vibrato)
        if (const auto vibrato = vibratoOf(note))
            return tr("vibrato of %1 a second, %2 cents each way")
                .arg(vibrato->rate_hz, 0, 'f', 1)
                .arg(std::lround(vibrato->width_cents));
    if (technique == Technique::PreBend)
        return tr("drawn by %1 before the stroke")
            .arg(countText(note.midi() - note.frettedMidi(),
                           QT_TRANSLATE_NOOP("wording", "%1 semitone"),
                           QT_TRANSLATE_NOOP("wording", "%1 semitones")));
    const double bend = note.bendSemitones();
    if (technique != Technique::Bend || bend <= 0.0)
        return techniqueText(technique);
    if (bend == 2.0)
        return tr("bend of a tone");
    if (bend < 2.0)
        return tr(bend == 0.5   ? "bend of a quarter tone"
                  : bend == 1.0 ? "bend of half a tone"
                                : "bend of three quarters of a tone");
    return tr("bend of %1 tones").arg(0.5 * bend);
}

QString doubtText(DoubtKind kind) {
    switch (kind) {
    case DoubtKind::Place:
        return tr("Which string?");
    case DoubtKind::Pitch:
        return tr("Is this the pitch?");
    case DoubtKind::Existence:
        return tr("Is there a note?");
    case DoubtKind::Finger:
        return tr("Which finger?");
    case DoubtKind::Stroke:
        return tr("Downwards or upwards?");
    case DoubtKind::OnlyHere:
        return tr("A slip, or meant so?");
    case DoubtKind::NoPlace:
        return tr("No place on this neck");
    }
    return {};
}

QString basisText(Basis basis) {
    switch (basis) {
    case Basis::Heard:
        return tr("Heard");
    case Basis::Seen:
        return tr("Seen");
    case Basis::Reasoned:
        return tr("Reasoned");
    case Basis::Set:
        return tr("Set");
    }
    return {};
}

QString cautionText(SoundCaution caution) {
    switch (caution) {
    case SoundCaution::Truncated:
        return tr("The file breaks off early; what is there was heard.");
    case SoundCaution::Clipped:
        return tr("It is clipped: loudness and tone cannot be trusted.");
    case SoundCaution::DeadChannel:
        return tr("One channel is silent; the other was used.");
    case SoundCaution::BadSamples:
        return tr("It holds broken samples, which were taken as silence.");
    case SoundCaution::LowRate:
        return tr("Its sample rate is low: attacks and tone are blurred.");
    }
    return {};
}

QString musicPlaceText(const TimelineMap& map, double time_s) {
    constexpr double kOn = 0.07; // of a beat: on it, or on the half of it
    constexpr double kJust = 0.2;
    TimelineMap::BarBeat at = map.barBeatAt(time_s);
    const GridBar bar = map.grid().bar(at.bar);
    const int beats = bar.metre.feltBeats();
    int beat = static_cast<int>(std::floor(at.beat + kJust));
    const double after = at.beat - beat; // −kJust …
    if (beat > beats) {                  // nearly the next bar: there is no such beat in this one
        beat = 1;
        ++at.bar;
    }
    const auto in_bar = [&](const QString& place) {
        return tr("bar %1, %2").arg(at.bar).arg(place);
    };
    if (std::abs(after) <= kOn)
        return in_bar(tr("beat %1").arg(beat));
    if (std::abs(after - 0.5) <= kOn && !bar.metre.compound())
        return in_bar(tr("the “and” of %1").arg(beat));
    if (after < 0.0)
        return in_bar(tr("just before beat %1").arg(beat));
    return after <= kJust ? in_bar(tr("just after beat %1").arg(beat))
           : after < 0.5  ? in_bar(tr("early in beat %1").arg(beat))
                          : in_bar(tr("late in beat %1").arg(beat));
}

QString divisionText(int parts, bool compound) {
    if (parts == 1)
        return tr("one note");
    if (compound)
        return parts == 3   ? tr("eighths")
               : parts == 6 ? tr("sixteenths")
               : parts == 2 ? tr("two against three")
                            : tr("%1 even parts").arg(parts);
    switch (parts) {
    case 2:
        return tr("eighths");
    case 3:
        return tr("triplets");
    case 4:
        return tr("sixteenths");
    case 5:
        return tr("quintuplets");
    case 6:
        return tr("sextuplets");
    case 8:
        return tr("thirty-seconds");
    default:
        return tr("%1 even parts").arg(parts);
    }
}

QString timeText(double time_s) {
    const double t = std::max(0.0, time_s);
    const int minutes = static_cast<int>(t / 60.0);
    return QString("%1:%2").arg(minutes).arg(t - 60.0 * minutes, 5, 'f', 2, QChar('0'));
}

QString longTimeText(double time_s) {
    const long seconds = std::lround(time_s);
    if (seconds >= 3600)
        return tr("%1 h %2 min").arg(seconds / 3600).arg(seconds % 3600 / 60);
    return seconds >= 120 ? tr("%1 min").arg(seconds / 60) : tr("%1 s").arg(seconds);
}

QString takeKindText(TakeKind kind) {
    switch (kind) {
    case TakeKind::Studio:
        return tr("studio");
    case TakeKind::Stage:
        return tr("stage");
    case TakeKind::Lesson:
        return tr("lesson");
    case TakeKind::Own:
        return tr("my own");
    }
    return {};
}

QString rightsText(TakeRights rights) {
    switch (rights) {
    case TakeRights::Unknown:
        return tr("not known: keep it to yourself");
    case TakeRights::OwnRecording:
        return tr("my own recording");
    case TakeRights::Permitted:
        return tr("may be passed on, with permission");
    case TakeRights::StudyOnly:
        return tr("for my own study only");
    }
    return {};
}

QString channelsText(ChannelChoice channels) {
    switch (channels) {
    case ChannelChoice::Mix:
        return tr("both channels");
    case ChannelChoice::Left:
        return tr("left only");
    case ChannelChoice::Right:
        return tr("right only");
    case ChannelChoice::Difference:
        return tr("left minus right");
    }
    return {};
}

QString tuningNameText(const std::string& name, int capo) {
    if (name == "standard")
        return tr("standard");
    if (name == "half-step-down")
        return tr("a half step down");
    if (name == "whole-step-down")
        return tr("a whole step down");
    if (name == "dropped-low-string")
        return tr("lowest string dropped");
    if (name == "dropped-both-ends")
        return tr("both outer strings dropped");
    if (name == "d-a-d-g-a-d")
        return tr("D A D G A D");
    if (name == "open-g")
        return tr("open G");
    if (name == "open-d")
        return tr("open D");
    return tr("standard, capo at fret %1").arg(capo);
}

QStringList qualityAdvice(const Take& take) {
    QStringList advice;
    for (const SoundCaution caution : take.cautions)
        advice << cautionText(caution);
    const TakeQuality& q = take.quality;
    if (!q.measured())
        return advice;
    if (q.clipped_share > 1e-4 && !advice.contains(cautionText(SoundCaution::Clipped)))
        advice << cautionText(SoundCaution::Clipped);
    if (q.mono_loss_db > 6.0)
        advice << tr("Left and right cancel each other by %1 dB: choose one channel.")
                      .arg(std::lround(q.mono_loss_db));
    if (q.signal_to_noise_db >= 0.0 && q.signal_to_noise_db < 30.0)
        advice << tr("Noise is only %1 dB below the playing: quiet notes and note ends are less "
                     "certain.")
                      .arg(std::lround(q.signal_to_noise_db));
    if (q.hum_db > 10.0)
        advice << tr("Mains hum of %1 Hz: low notes near it are less certain.")
                      .arg(std::lround(q.hum_hz));
    if (q.reverberation_s > 0.8)
        advice << tr("Notes ring on for about %1 s after they are stopped: recorded at a distance, "
                     "or with "
                     "added reverberation. Note ends and quiet notes are less certain.")
                      .arg(q.reverberation_s, 0, 'f', 1);
    if (q.neck_seen >= 0.0 && q.neck_seen < 0.2)
        advice << tr("No neck can be made out in the film: it will not show where the hand is.");
    else if (q.neck_seen >= 0.0 && q.neck_seen < 0.7)
        advice << tr("The neck can be made out in only %1 of the pictures: elsewhere the film does "
                     "not show where the hand is.")
                      .arg(percentText(q.neck_seen));
    if (q.neck_seen >= 0.2 && q.neck_frets < 10)
        advice << tr("The film shows only about %1 frets: a hand outside them is not seen.")
                      .arg(std::lround(q.neck_frets));
    if (q.top_hz > 0.0 && q.top_hz < 12000.0)
        advice << tr("Nothing above %1 kHz: tone and pick noise tell little about the string.")
                      .arg(q.top_hz / 1000.0, 0, 'f', 1);
    return advice;
}

QString centsText(double cents) {
    const long rounded = std::lround(cents);
    if (rounded == 0)
        return tr("in tune with A4 = 440 Hz");
    const auto off = static_cast<int>(std::abs(rounded));
    return rounded < 0 ? countText(off,
                                   QT_TRANSLATE_NOOP("wording", "%1 cent flat"),
                                   QT_TRANSLATE_NOOP("wording", "%1 cents flat"))
                       : countText(off,
                                   QT_TRANSLATE_NOOP("wording", "%1 cent sharp"),
                                   QT_TRANSLATE_NOOP("wording", "%1 cents sharp"));
}

QString sentence(const Error& error) {
    QString text = QString::fromStdString(error.message);
    if (!text.isEmpty())
        text[0] = error.file.empty() ? text[0].toUpper() : text[0];
    if (!error.file.empty())
        text =
            QString("“%1” %2").arg(QFileInfo(QString::fromStdString(error.file)).fileName(), text);
    return text.endsWith('.') ? text : text + '.';
}

QString countText(int count, const char* one, const char* many) {
    return tr(count == 1 ? one : many).arg(count);
}

QString percentText(double probability) {
    return tr("%1 %").arg(std::lround(probability * 100.0));
}

} // namespace wirenote::app
