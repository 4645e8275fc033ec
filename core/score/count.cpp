#include "score/count.h"

#include "piece/timeline_map.h"

#include <algorithm>
#include <map>
#include <set>

namespace wirenote {
namespace {

// Syllables by the part of a beat in twelfths (and fifths apart).
std::string numbersPart(int twelfths) {
    switch (twelfths) {
    case 3:
        return "e";
    case 6:
        return "&";
    case 9:
        return "a";
    case 4:
        return "&";
    case 8:
        return "a";
    default:
        return {};
    }
}

std::string germanPart(int twelfths) {
    switch (twelfths) {
    case 3:
    case 9:
        return "e";
    case 6:
    case 4:
        return "und";
    case 8:
        return "e";
    default:
        return {};
    }
}

std::string takadimiPart(int twelfths) {
    switch (twelfths) {
    case 0:
        return "ta";
    case 3:
        return "ka";
    case 6:
        return "di";
    case 9:
        return "mi";
    case 4:
        return "ki";
    case 8:
        return "da";
    case 2:
        return "va";
    case 10:
        return "ma";
    default:
        return {};
    }
}

} // namespace

std::string syllable(CountSchool school, const Metre& metre, int beat, Rational part) {
    const Rational scaled = part * Rational(12);
    if (scaled.den() != 1)
        return {}; // fifths and thirty-seconds are not said
    const auto twelfths = static_cast<int>(scaled.num());
    if (school == CountSchool::Takadimi)
        return takadimiPart(twelfths);
    // Compound metres count their quavers in numbers.
    if (metre.compound()) {
        const bool half_quaver = twelfths % 4 == 2;
        if (half_quaver)
            return school == CountSchool::German ? "und" : "&";
        return twelfths % 4 == 0 ? std::to_string(3 * beat + twelfths / 4 + 1) : std::string();
    }
    if (twelfths == 0)
        return std::to_string(beat + 1);
    return school == CountSchool::German ? germanPart(twelfths) : numbersPart(twelfths);
}

namespace {

// How finely each bar is counted: parts of each of its beats.
struct BarLevel {
    int twos = 1;            // 1, 2 or 4 in simple metres; 3 or 6 in compound ones
    std::set<int> in_threes; // simple beats played in thirds
};

using Levels = std::map<int, BarLevel>;

Levels levelsOf(const Quantised& quantised, const BarGrid& grid) {
    Levels levels;
    for (const BeatReading& reading : quantised.beats) {
        const auto place = grid.at(reading.beat);
        BarLevel& level = levels[place.bar];
        if (place.metre.compound())
            level.twos = std::max(level.twos, reading.parts % 6 == 0 ? 6 : 3);
        else if (reading.parts % 3 == 0)
            level.in_threes.insert(place.beat);
        else
            level.twos = std::max(level.twos, reading.parts >= 4 ? 4 : reading.parts >= 2 ? 2 : 1);
    }
    return levels;
}

int partsOf(const Levels& levels, const BarGrid::Place& place) {
    const auto level = levels.find(place.bar);
    const bool compound = place.metre.compound();
    if (level == levels.end())
        return compound ? 3 : 1;
    if (!compound && level->second.in_threes.contains(place.beat))
        return 3;
    return compound ? std::max(3, level->second.twos) : level->second.twos;
}

} // namespace

std::vector<CountMark> countOf(const Piece& piece, const Quantised& quantised, CountSchool school) {
    const TimelineMap map(piece.timeline);
    const BarGrid& grid = map.grid();
    const Levels levels = levelsOf(quantised, grid);
    std::map<Rational, Rational>
        sounding; // where something begins, and where its longest note ends
    for (const ScoreNote& note : quantised.notes)
        if (!note.grace) {
            Rational& end = sounding[note.start];
            end = std::max(end, note.start + note.length);
        }
    std::vector<CountMark> marks;
    for (std::size_t b = 0; b < map.beats_s().size(); ++b) {
        const int beat = static_cast<int>(b);
        const auto place = grid.at(beat);
        const int parts = partsOf(levels, place);
        const Rational start = grid.quartersOf(beat);
        const Rational length = place.metre.beatLength();
        for (int k = 0; k < parts; ++k) {
            CountMark mark;
            const Rational part(k, parts);
            mark.quarters = start + length * part;
            mark.text = syllable(school, place.metre, place.beat, part);
            mark.on_beat = k == 0;
            mark.time_s = map.timeAt(mark.quarters.toDouble());
            if (const auto note = sounding.find(mark.quarters); note != sounding.end()) {
                mark.sounds = true;
                mark.syncopated = !mark.on_beat && note->second > start + length;
            }
            if (!mark.text.empty())
                marks.push_back(std::move(mark));
        }
    }
    return marks;
}

} // namespace wirenote
