#include "hand/usual_grips.h"

#include <algorithm>
#include <array>
#include <bit>
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

// The same anywhere on the neck: frets from that of the index finger on.
constexpr std::array kMovable{
    Grip{"022xxx", "134000"}, Grip{"x022xx", "013400"}, Grip{"xx023x", "001340"},
    Grip{"022100", "134211"}, Grip{"022000", "134111"}, Grip{"020100", "131211"},
    Grip{"020000", "131111"}, Grip{"x02220", "013331"}, Grip{"x02210", "013421"},
    Grip{"x02020", "013141"}, Grip{"x02010", "013121"}, Grip{"x02120", "013241"},
    Grip{"xxx010", "000132"}, Grip{"xxx010", "000121"}, Grip{"xxx220", "000341"},
    Grip{"xxx210", "000321"}, Grip{"xxx120", "000231"}, Grip{"x32010", "043121"},
    Grip{"x0121x", "012430"}, Grip{"xx0101", "001324"}, Grip{"0x110x", "103420"},
    Grip{"x10111", "021333"},
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

// The fingers of a grip whose frets are counted from `from` on.
std::optional<std::vector<Finger>>
fingersIn(const Grip& grip, std::span<const Position> stops, unsigned open, int from) {
    for (int string = 1; string <= kStrings; ++string)
        if (((open >> static_cast<unsigned>(string)) & 1U) &&
            (from > 0 || at(grip.frets, string) != '0'))
            return {};
    std::vector<Finger> fingers;
    for (const Position& stop : stops) {
        const char finger = at(grip.fingers, stop.string);
        if (at(grip.frets, stop.string) != '0' + stop.fret - from || finger == '0')
            return {};
        fingers.push_back(static_cast<Finger>(static_cast<int>(Finger::Index) + finger - '1'));
    }
    return fingers;
}

} // namespace

std::vector<std::vector<Finger>>
usualFingers(const Instrument& instrument, std::span<const Position> stops, unsigned open) {
    std::vector<std::vector<Finger>> found;
    if (stops.empty() || !tunedAsAGuitar(instrument))
        return found;
    std::ptrdiff_t least_missing // of the strings that a grip has: the one that fits best counts
        = kStrings;
    const auto add = [&](const Grip& grip, int from) {
        auto fingers = fingersIn(grip, stops, open, from);
        if (!fingers || (from > 0 && std::ranges::find(*fingers, Finger::Index) == fingers->end()))
            return;
        const auto missing = kStrings - std::ranges::count(grip.frets, 'x') - std::ssize(stops) -
                             std::popcount(open);
        if (missing > least_missing)
            return;
        if (missing < least_missing)
            found.clear();
        least_missing = missing;
        if (std::ranges::find(found, *fingers) == found.end())
            found.push_back(std::move(*fingers));
    };
    for (const Grip& grip : kGrips)
        add(grip, 0);
    constexpr int kWidest = 3;
    const int lowest = std::ranges::min(stops, {}, &Position::fret).fret;
    if (open == 0 && stops.size() > 1)
        for (int from = std::max(1, lowest - kWidest); from <= lowest; ++from)
            for (const Grip& grip : kMovable)
                add(grip, from);
    return found;
}

} // namespace wirenote
