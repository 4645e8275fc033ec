#include "app/text/playing_wording.h"

#include "app/text/form_wording.h"
#include "app/text/wording.h"
#include "piece/timeline_map.h"

#include <QCoreApplication>
#include <QStringList>
#include <algorithm>
#include <cmath>

namespace wirenote::app {
namespace {

QString tr(const char* text) {
    return QCoreApplication::translate("wording", text);
}

constexpr double kBarLine_s = 0.12; // what begins this near a bar line begins with the bar

int barAt(const Piece& piece, double time_s) {
    return TimelineMap(piece.timeline).barBeatAt(time_s).bar;
}

// "bar 3, beat 2".
QString placeText(const Piece& piece, double time_s) {
    const auto at = TimelineMap(piece.timeline).barBeatAt(time_s);
    const double half = std::round(at.beat * 4.0) / 4.0;
    return tr("bar %1, beat %2").arg(at.bar).arg(half, 0, 'g', 3);
}

} // namespace

QString tempoRatioText(double ratio) {
    constexpr double kSame = 0.04;
    if (std::abs(ratio - 1.0) < kSame)
        return tr("as fast");
    if (std::abs(ratio - 0.5) < kSame / 2)
        return tr("half as fast");
    return tr("%1 times as fast").arg(ratio, 0, 'f', 2);
}

QString soundKindText(SoundKind kind) {
    switch (kind) {
    case SoundKind::Playing:
        return tr("playing");
    case SoundKind::Talk:
        return tr("talk");
    case SoundKind::TalkOverPlaying:
        return tr("talk over playing");
    case SoundKind::CountIn:
        return tr("count-in");
    case SoundKind::Noise:
        return tr("noise");
    case SoundKind::Silence:
        break;
    }
    return tr("silence");
}

QString placesText(const Piece& piece, TimeRange of_piece) {
    if (piece.timeline.beats_s.size() < 2)
        return QStringLiteral("%1–%2").arg(timeText(of_piece.start_s), timeText(of_piece.end_s));
    const int first = barAt(piece, of_piece.start_s + kBarLine_s);
    return barsText(first, std::max(first, barAt(piece, of_piece.end_s - kBarLine_s)));
}

QString shownText(const Piece& piece, const Demonstration& shown) {
    switch (shown.kind) {
    case DemonstrationKind::Piece:
    case DemonstrationKind::Part: {
        const QString where = shown.kind == DemonstrationKind::Piece
                                  ? tr("the piece")
                                  : placesText(piece, shown.ofPiece());
        QString text = shown.isItself()
                           ? tr("%1, as written down").arg(where)
                           : where + QStringLiteral(", ") + tempoRatioText(shown.tempoRatio());
        if (shown.semitones != 0)
            text += QStringLiteral(", ") + intervalText(shown.semitones);
        return text;
    }
    case DemonstrationKind::Again:
        return tr("the same as before");
    case DemonstrationKind::Exercise:
        return tr("an exercise");
    case DemonstrationKind::Other:
        break;
    }
    return tr("something else");
}

QString playingText(const Piece& piece, const Demonstration& shown, std::size_t take) {
    return tr("take %1 at %2: %3")
        .arg(take + 1)
        .arg(timeText(shown.span.start_s), shownText(piece, shown));
}

QString variantWords(const Piece& piece, const Variant& variant) {
    const QString played = pitchText(piece, variant.midi);
    const bool known =
        variant.kind != VersionDifferenceKind::Added && variant.note < piece.notes.size();
    const QString note =
        known ? pitchText(piece, piece.notes[variant.note].pitch.value) : QString();
    switch (variant.kind) {
    case VersionDifferenceKind::Missing:
        return tr("without the %1").arg(note);
    case VersionDifferenceKind::Added:
        return tr("with a %1 more").arg(played);
    case VersionDifferenceKind::Pitch:
        return tr("%1 instead of %2").arg(played, note);
    case VersionDifferenceKind::Slurred:
        return tr("the %1 slurred").arg(note);
    case VersionDifferenceKind::Struck:
        break;
    }
    return tr("the %1 struck").arg(note);
}

QString variantText(const Piece& piece, const Variant& variant) {
    return QStringLiteral("%1: %2").arg(placeText(piece, variant.piece_s),
                                        variantWords(piece, variant));
}

QString evidenceText(const BarEvidence& bar) {
    QStringList words;
    if (bar.playings == 1)
        words << tr("played once");
    else
        words << (bar.takes == 1
                      ? tr("played %1 times").arg(bar.playings)
                      : tr("played %1 times in %2 takes").arg(bar.playings).arg(bar.takes));
    if (bar.follows)
        words << tr("as take %1 plays it, by you").arg(*bar.follows + 1);
    if (bar.in_film)
        words << tr("in a film");
    if (bar.talked_over)
        words << tr("somebody talks over it");
    if (bar.set > 0)
        words << tr("%1 of %2 notes by you").arg(bar.set).arg(bar.notes);
    return words.join(QStringLiteral(", "));
}

QString hiddenText(const WantedShot& shot) {
    return shot.fretting && shot.plucking ? tr("both hands")
           : shot.fretting                ? tr("the fretting hand")
                                          : tr("the plucking hand");
}

QString angleText(const WantedShot& shot) {
    QStringList parts;
    if (shot.fretting)
        parts << (shot.lowest_fret > 0
                      ? tr("the neck from fret %1 to %2, along it, with the fingertips")
                            .arg(std::max(0, shot.lowest_fret - 1))
                            .arg(shot.highest_fret + 1)
                      : tr("the neck, along it, with the fingertips"));
    if (shot.plucking)
        parts << tr("the strings where they are plucked, from the front");
    return parts.join(QStringLiteral("; "));
}

QString shotText(const Piece& piece, const WantedShot& shot) {
    if (!shot.film)
        return tr("no take with a picture plays it: film it, or add one that does");
    const FilmFacts& film = piece.takes[*shot.film].film;
    return film.told() && film.followed > 0.0
               ? tr("in the film of take %1 the hand is hidden or out of the picture")
                     .arg(*shot.film + 1)
               : tr("the film of take %1 shows it and has not been looked at").arg(*shot.film + 1);
}

QString formDifferenceText(const Piece& piece, const FormDifference& difference) {
    const QString bars = placesText(piece, difference.of_piece);
    switch (difference.kind) {
    case FormDifferenceKind::Lacks:
        return (difference.at_start ? tr("begins without %1")
                : difference.at_end ? tr("ends without %1")
                                    : tr("leaves out %1"))
            .arg(bars);
    case FormDifferenceKind::Adds:
        return difference.at_start ? tr("something else in front")
               : difference.at_end ? tr("goes on after the end with something else")
                                   : tr("something else in between, before %1")
                                         .arg(barsText(barAt(piece, difference.of_piece.start_s),
                                                       barAt(piece, difference.of_piece.start_s)));
    case FormDifferenceKind::Instead:
        return (difference.at_start ? tr("begins with something else instead of %1")
                : difference.at_end ? tr("ends with something else instead of %1")
                                    : tr("something else instead of %1"))
            .arg(bars);
    case FormDifferenceKind::Again:
        return tr("%1 once more").arg(bars);
    case FormDifferenceKind::OtherKey:
        return tr("%1: %2 than the rest").arg(bars, intervalText(difference.semitones));
    case FormDifferenceKind::Earlier:
        break;
    }
    return tr("%1 only now, after later ones").arg(bars);
}

QString copyText(const QString& name, const ClockChange& clock, int notes_gone) {
    constexpr double kSame_s = 0.005;
    constexpr double kSameSpeed = 1e-4;
    const auto seconds = [](double s) { return QString::number(std::abs(s), 'f', 2); };
    QStringList parts{tr("“%1” holds the same performance and takes its place").arg(name)};
    if (clock.at_zero_s > kSame_s)
        parts << tr("it begins %1 s earlier").arg(seconds(clock.at_zero_s));
    else if (clock.at_zero_s < -kSame_s)
        parts << tr("it begins %1 s later").arg(seconds(clock.at_zero_s));
    if (std::abs(clock.rate - 1.0) > kSameSpeed)
        parts << (clock.rate > 1.0 ? tr("runs %1 % slower") : tr("runs %1 % faster"))
                     .arg(100.0 * std::abs(clock.rate - 1.0), 0, 'f', 1);
    const QString moved = parts.join(tr(", "));
    if (notes_gone == 0)
        return tr("%1. All notes stay as they were decided.").arg(moved);
    return tr("%1. %2 (Ctrl+Z brings all back).")
        .arg(moved,
             countText(notes_gone,
                       QT_TRANSLATE_NOOP("wording", "%1 note lies outside of it and went"),
                       QT_TRANSLATE_NOOP("wording", "%1 notes lie outside of it and went")));
}

} // namespace wirenote::app
