#include "app/text/pluck_wording.h"

#include "app/text/wording.h"

#include <QCoreApplication>
#include <QStringList>
#include <algorithm>
#include <array>
#include <cmath>

namespace wirenote::app {
namespace {

QString tr(const char* text) {
    return QCoreApplication::translate("plucking", text);
}

struct SchoolWords {
    PluckingSchool school;
    const char* name;
    const char* means;
};
constexpr std::array kSchools{
    SchoolWords{PluckingSchool::Unknown,
                QT_TRANSLATE_NOOP("plucking", "as it is played"),
                QT_TRANSLATE_NOOP("plucking", "What is heard decides, from place to place.")},
    SchoolWords{PluckingSchool::Alternate,
                QT_TRANSLATE_NOOP("plucking", "alternate, by the beat"),
                QT_TRANSLATE_NOOP("plucking", "Down on the beat and its even parts, up between.")},
    SchoolWords{PluckingSchool::Sequence,
                QT_TRANSLATE_NOOP("plucking", "alternate, in turn"),
                QT_TRANSLATE_NOOP("plucking", "Down and up in turn, whatever the beat.")},
    SchoolWords{PluckingSchool::Economy,
                QT_TRANSLATE_NOOP("plucking", "economy"),
                QT_TRANSLATE_NOOP("plucking", "On to the next string the way the hand is going.")},
    SchoolWords{PluckingSchool::Sweep,
                QT_TRANSLATE_NOOP("plucking", "sweeps"),
                QT_TRANSLATE_NOOP("plucking", "One stroke over runs of one note a string.")},
    SchoolWords{PluckingSchool::Cross,
                QT_TRANSLATE_NOOP("plucking", "cross-picking"),
                QT_TRANSLATE_NOOP("plucking", "Alternating, one note a string, back and forth.")},
    SchoolWords{PluckingSchool::Down,
                QT_TRANSLATE_NOOP("plucking", "down-strokes only"),
                QT_TRANSLATE_NOOP("plucking", "As long as it is slow enough for them.")},
    SchoolWords{
        PluckingSchool::Strum,
        QT_TRANSLATE_NOOP("plucking", "strums"),
        QT_TRANSLATE_NOOP("plucking", "A hand that never stops, and does not always sound.")},
    SchoolWords{PluckingSchool::Hybrid,
                QT_TRANSLATE_NOOP("plucking", "pick and fingers"),
                QT_TRANSLATE_NOOP("plucking", "The pick below, middle and ring finger above.")},
    SchoolWords{PluckingSchool::Pima,
                QT_TRANSLATE_NOOP("plucking", "p i m a"),
                QT_TRANSLATE_NOOP("plucking", "Thumb below, a finger for each thin string.")},
    SchoolWords{PluckingSchool::Thumb,
                QT_TRANSLATE_NOOP("plucking", "alternating thumb"),
                QT_TRANSLATE_NOOP("plucking", "The thumb on every beat, fingers between.")},
    SchoolWords{PluckingSchool::Im,
                QT_TRANSLATE_NOOP("plucking", "i and m in turn"),
                QT_TRANSLATE_NOOP("plucking", "Index and middle finger alternate on all strings.")},
    SchoolWords{PluckingSchool::Ma,
                QT_TRANSLATE_NOOP("plucking", "m and a in turn"),
                QT_TRANSLATE_NOOP("plucking", "Middle and ring finger alternate on all strings.")},
    SchoolWords{
        PluckingSchool::Slap,
        QT_TRANSLATE_NOOP("plucking", "slap and pop"),
        QT_TRANSLATE_NOOP("plucking", "The thumb slaps below, the index finger pops above.")}};

const SchoolWords& wordsOf(PluckingSchool school) {
    const auto at = std::ranges::find(kSchools, school, &SchoolWords::school);
    return at == kSchools.end() ? kSchools.front() : *at;
}

QString barsText(const std::vector<int>& bars) {
    QStringList numbers;
    for (const int bar : bars)
        numbers << QString::number(bar);
    return numbers.join(", ");
}

// "2", "2&", "2⅓" …
QString countPlaceText(CountPlace place) {
    const QString beat = QString::number(place.beat + 1);
    switch (place.twelfth) {
    case 3:
        return beat + 'e';
    case 4:
        return beat + QString::fromUtf8("⅓");
    case 6:
        return beat + '&';
    case 8:
        return beat + QString::fromUtf8("⅔");
    case 9:
        return beat + 'a';
    default:
        return beat;
    }
}

QString placesText(const std::vector<CountPlace>& places) {
    QStringList all;
    for (const CountPlace& place : places)
        all << countPlaceText(place);
    return all.join(", ");
}

QString decibels(double db) {
    return tr("%1 dB").arg(std::abs(db), 0, 'f', 0);
}

// Who is the louder one of two; empty where they are even.
QString louderText(const std::optional<double>& first_over_second_db,
                   const QString& first,
                   const QString& second) {
    constexpr double kTold_db = 1.5; // less is nothing to speak of
    if (!first_over_second_db || std::abs(*first_over_second_db) < kTold_db)
        return {};
    return (*first_over_second_db > 0.0 ? first : second).arg(decibels(*first_over_second_db));
}

// "down", "p i" …
QString shortStroke(Stroke stroke) {
    return stroke == Stroke::Down    ? tr("down")
           : stroke == Stroke::Up    ? tr("up")
           : stroke == Stroke::Ghost ? tr("ghost")
                                     : strokeLetter(stroke);
}

} // namespace

QString schoolText(PluckingSchool school) {
    return tr(wordsOf(school).name);
}

QString schoolMeaning(PluckingSchool school) {
    return tr(wordsOf(school).means);
}

QString strokeLetter(Stroke stroke) {
    switch (stroke) {
    case Stroke::P:
        return "p";
    case Stroke::I:
        return "i";
    case Stroke::M:
        return "m";
    case Stroke::A:
        return "a";
    case Stroke::C:
        return "c";
    case Stroke::None:
        return "·";
    default:
        return {};
    }
}

QString cellText(const Cell& cell) {
    QStringList strokes;
    for (const CellStroke& stroke : cell.strokes) {
        QString together;
        for (const Stroke one : stroke.strokes)
            together += shortStroke(one);
        strokes << together;
    }
    return strokes.join(' ');
}

QString turnText(const HandTurn& turn) {
    if (turn.seen)
        return turn.down ? tr("a down-stroke that passes in silence, seen in the film")
                         : tr("an up-stroke that passes in silence, seen in the film");
    if (turn.note == 0)
        return turn.down ? tr("a down-stroke that passes in silence")
                         : tr("an up-stroke that passes in silence");
    if (turn.ghost)
        return turn.down ? tr("a down-stroke over damped strings")
                         : tr("an up-stroke over damped strings");
    return turn.down ? tr("a down-stroke") : tr("an up-stroke");
}

QString slantText(Slant slant, bool flips) {
    if (slant == Slant::Either)
        return {};
    const QString leaves = slant == Slant::Downward
                               ? tr("leaves the string after an up-stroke: the pick slanted down")
                               : tr("leaves the string after a down-stroke: the pick slanted up");
    return flips ? tr("%1 – it has to turn here").arg(leaves) : leaves;
}

QString cellLine(const PluckReport& told) {
    if (!told.cell)
        return {};
    const Cell& cell = *told.cell;
    QString line = tr("Pattern of bars %1 to %2: %3.")
                       .arg(cell.first_bar)
                       .arg(cell.last_bar)
                       .arg(cellText(cell));
    if (!cell.moved.empty())
        line += ' ' + tr("On other strings in bars %1.").arg(barsText(cell.moved));
    if (!cell.exceptions.empty())
        line += ' ' + tr("Otherwise in bar %1.").arg(barsText(cell.exceptions));
    return line;
}

QString loadLine(const PluckReport& told) {
    const PluckLoad& load = told.load;
    if (told.bar == 0 || load.strokes_per_s <= 0.0)
        return {};
    QStringList parts;
    parts << tr("up to %1 strokes a second").arg(std::lround(load.strokes_per_s));
    if (load.soonest_again_s > 0.0)
        parts << tr("%1 again after %2 s")
                     .arg(strokeLetter(load.again))
                     .arg(load.soonest_again_s, 0, 'f', 2);
    if (load.crossings > 0)
        parts << (load.crossings == 1 ? tr("one finger crosses over")
                                      : tr("fingers cross over %1 times").arg(load.crossings));
    parts.front()[0] = parts.front()[0].toUpper();
    QString line = tr("%1.").arg(parts.join(", "));
    if (load.top_tempo > 0.0 && load.top_tempo < 1.0)
        line += ' ' + tr("It eases at %1 % of the tempo.").arg(std::lround(100 * load.top_tempo));
    return line;
}

QString pathLine(const PluckReport& told) {
    if (told.path.empty())
        return {};
    int flips = 0;
    int swept = 0;
    int skips = 0;
    for (const StringChange& change : told.path) {
        flips += change.flips ? 1 : 0;
        swept += change.swept ? 1 : 0;
        skips += change.skipped > 0 ? 1 : 0;
    }
    QStringList parts;
    parts << (told.path.size() == 1 ? tr("one string change")
                                    : tr("%1 string changes").arg(told.path.size()));
    if (swept > 0)
        parts << tr("%1 swept").arg(swept);
    if (skips > 0)
        parts << tr("%1 over a string between").arg(skips);
    parts << (flips == 0   ? tr("its slant can stay")
              : flips == 1 ? tr("its slant turns once")
                           : tr("its slant turns %1 times").arg(flips));
    return tr("The pick: %1.").arg(parts.join(", "));
}

QString thumbLine(const PluckReport& told) {
    QStringList gaps;
    for (const ThumbGap& gap : told.thumb_gaps)
        gaps << (gap.string > 0
                     ? tr("beat %1 (string %2 expected)").arg(gap.beat + 1).arg(gap.string)
                     : tr("beat %1").arg(gap.beat + 1));
    return gaps.isEmpty()
               ? QString()
               : tr("The thumb leaves out %1, or was not heard there.").arg(gaps.join(", "));
}

QString joinLine(const PluckReport& told) {
    if (!told.join)
        return {};
    return tr("The bar ends %1, the next begins %2.")
        .arg(shortStroke(told.join->last), shortStroke(told.join->next));
}

QString fitLine(const PluckReport& told) {
    if (told.fits.empty())
        return {};
    const SchoolFit& best = told.fits.front();
    return tr("Of %1 strokes that were heard clearly or set by you, %2 go as in “%3”.")
        .arg(best.told)
        .arg(best.agree)
        .arg(schoolText(best.school));
}

QString levelLine(const PluckReport& told) {
    if (told.levels.size() < 2)
        return {};
    const auto loudest = std::ranges::max_element(told.levels, {}, &StrokeLevel::loudness_db);
    const auto quietest = std::ranges::min_element(told.levels, {}, &StrokeLevel::loudness_db);
    constexpr double kTold_db = 2.0; // less is nothing to speak of
    if (loudest->loudness_db - quietest->loudness_db < kTold_db)
        return {};
    QStringList parts;
    for (const StrokeLevel& level : told.levels)
        if (level.stroke != loudest->stroke)
            parts << tr("%1 %2 dB")
                         .arg(shortStroke(level.stroke))
                         .arg(level.loudness_db - loudest->loudness_db, 0, 'f', 0);
    return tr("Loudest in the piece: %1; %2.").arg(shortStroke(loudest->stroke), parts.join(", "));
}

QString departureLine(const PluckReport& told, Stroke set) {
    if (told.otherwise == Stroke::Unknown || told.otherwise == set)
        return {};
    const QString otherwise = tr("By the school it would be %1.").arg(shortStroke(told.otherwise));
    switch (told.departure) {
    case StrokeDeparture::Accent:
        return otherwise + ' ' + tr("It is accented: meant, most likely.");
    case StrokeDeparture::LinesUp:
        return otherwise + ' ' + tr("So the next beat comes out down.");
    case StrokeDeparture::Skips:
        return otherwise + ' ' + tr("A string is skipped here.");
    case StrokeDeparture::LeadsIn:
        return otherwise + ' ' + tr("A phrase begins here.");
    case StrokeDeparture::None:
        break;
    }
    return otherwise;
}

QString strumLine(const PluckReport& told) {
    if (!told.strum)
        return {};
    const StrumShape& strum = *told.strum;
    const QString over = strum.arm ? tr("One stroke of the arm over strings %1 to %2.")
                                   : tr("One turn of the wrist over strings %1 and %2.");
    QString line = over.arg(strum.first).arg(strum.last);
    if (!strum.damped.empty())
        line += ' ' + (strum.damped.size() == 1 ? tr("String %1 lies between and must be silent.")
                                                : tr("Strings %1 lie between and must be silent."))
                          .arg(barsText(strum.damped));
    return line;
}

QString pickMoveLine(const PluckReport& told) {
    QStringList moves;
    for (const PickMove& move : told.pick_moves)
        moves << (move.tucked ? tr("The pick is tucked away: %1 s for it.")
                              : tr("The pick is taken back: %1 s for it."))
                     .arg(move.time_s, 0, 'f', 2);
    return moves.join(' ');
}

// Only what is otherwise is named; a point stands for what stays.
QString nextBestLine(const PluckReport& told) {
    QStringList strokes;
    for (const BarStroke& one : told.next_best)
        if (one.first)
            strokes << (one.differs ? shortStroke(one.stroke) : QString::fromUtf8("·"));
    return strokes.isEmpty()
               ? QString()
               : tr("The best other way (a point: as it is): %1.").arg(strokes.join(' '));
}

QString roomLine(const PluckReport& told) {
    return told.silent.room.empty()
               ? QString()
               : tr("The hand passes down in silence on %1: there a strum has room.")
                     .arg(placesText(told.silent.room));
}

QString roundLine(const PluckReport& told) {
    if (!told.round)
        return {};
    const QString line = tr("Round the loop: it ends %1 and begins %2.")
                             .arg(shortStroke(told.round->last), shortStroke(told.round->next));
    return told.round->last == told.round->next
               ? line + ' ' + tr("Two in a row line up the next time.")
               : line;
}

QString scratchLine(const PluckReport& told) {
    const SilentStrokes& silent = told.silent;
    if (silent.scratched == 0)
        return {};
    QString line = tr("Of the strokes that do not sound %1 % scratch")
                       .arg(std::lround(100.0 * silent.density()));
    if (silent.steady.empty())
        return line + tr(", at no fixed place: a texture.");
    return line +
           tr(": on %1 nearly always, the others as a texture.").arg(placesText(silent.steady));
}

QString balanceLine(const PluckReport& told) {
    const Balance& balance = told.balance;
    QStringList parts;
    for (const QString& part : {louderText(balance.fingers_over_thumb_db,
                                           tr("the fingers are %1 above the thumb"),
                                           tr("the thumb is %1 above the fingers")),
                                louderText(balance.fingers_over_pick_db,
                                           tr("the fingers are %1 above the pick"),
                                           tr("the pick is %1 above the fingers")),
                                louderText(balance.tune_over_rest_db,
                                           tr("the tune is %1 above what goes with it"),
                                           tr("the tune is %1 below what goes with it"))})
        if (!part.isEmpty())
            parts << part;
    for (const LoudCount& count : balance.counts)
        parts << tr("%1 is %2 louder than the rest of its bar")
                     .arg(countPlaceText({count.beat, 6 * count.half}), decibels(count.above_db));
    for (const Echo& echo : balance.echoes)
        parts << tr("bar %1 says bar %2 again, %3 softer")
                     .arg(echo.bar)
                     .arg(echo.of)
                     .arg(decibels(echo.softer_db));
    if (parts.isEmpty())
        return {};
    constexpr qsizetype kMost = 4;
    parts = parts.mid(0, kMost);
    parts.front()[0] = parts.front()[0].toUpper();
    return parts.join("; ") + '.';
}

} // namespace wirenote::app
