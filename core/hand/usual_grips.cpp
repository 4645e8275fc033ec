#include "hand/usual_grips.h"

#include <algorithm>
#include <array>
#include <optional>

namespace wirenote {
namespace {

constexpr int kStrings = 6;

// From the thickest string to the thinnest: frets (x: not played) and fingers (0: none).
struct Grip {
    std::array<char, 7> frets;
    std::array<char, 7> fingers;
};
constexpr std::array kGrips{
    Grip{"x32010", "032010"}, Grip{"320003", "210003"}, Grip{"320033", "210034"},
    Grip{"022100", "023100"}, Grip{"022000", "023000"}, Grip{"x02220", "001230"},
    Grip{"x02210", "002310"}, Grip{"xx0232", "000132"}, Grip{"xx0231", "000231"},
    Grip{"xx3211", "003211"}, Grip{"xx3210", "003210"}, Grip{"x33210", "034210"},
    Grip{"320001", "320001"}, Grip{"x32310", "032410"}, Grip{"xx0212", "000213"},
    Grip{"x02020", "002030"}, Grip{"020100", "020100"}, Grip{"x21202", "021304"},
    Grip{"x02010", "002010"}, Grip{"020000", "020000"}, Grip{"022030", "012030"},
    Grip{"x32000", "032000"}, Grip{"x32030", "021030"}, Grip{"xx0230", "000130"},
    Grip{"xx0233", "000134"}, Grip{"x02200", "001200"}, Grip{"x02230", "001240"},
    Grip{"022200", "023400"}, Grip{"xx0222", "000111"}, Grip{"xx0211", "000211"},
    Grip{"x02120", "002130"}, Grip{"021100", "031200"}, Grip{"x20202", "010203"},
};

bool tunedAsAGuitar(const Instrument& instrument) {
    constexpr std::array kSteps{5, 4, 5, 5, 5}; // from the thinnest to the next
    if (instrument.stringCount() != kStrings)
        return false;
    for (int string = 1; string < kStrings; ++string)
        if (instrument.string(string).open_midi - instrument.string(string + 1).open_midi !=
            kSteps[static_cast<std::size_t>(string - 1)])
            return false;
    return true;
}

char at(const std::array<char, 7>& of, int string) {
    return of[static_cast<std::size_t>(kStrings - string)];
}

std::optional<std::vector<Finger>>
fingersIn(const Grip& grip, std::span<const Position> stops, unsigned open) {
    for (int string = 1; string <= kStrings; ++string)
        if (((open >> static_cast<unsigned>(string)) & 1U) && at(grip.frets, string) != '0')
            return {};
    std::vector<Finger> fingers;
    for (const Position& stop : stops) {
        if (at(grip.frets, stop.string) != '0' + stop.fret)
            return {};
        fingers.push_back(static_cast<Finger>(static_cast<int>(Finger::Index) +
                                              at(grip.fingers, stop.string) - '1'));
    }
    return fingers;
}

} // namespace

std::vector<std::vector<Finger>>
usualFingers(const Instrument& instrument, std::span<const Position> stops, unsigned open) {
    std::vector<std::vector<Finger>> found;
    constexpr int kHighest = 4;
    if (stops.empty() || !tunedAsAGuitar(instrument) ||
        std::ranges::any_of(stops, [](const Position& stop) { return stop.fret > kHighest; }))
        return found;
    for (const Grip& grip : kGrips)
        if (auto fingers = fingersIn(grip, stops, open))
            found.push_back(std::move(*fingers));
    return found;
}

} // namespace wirenote
