#include "hand/usual_grips.h"

#include <algorithm>
#include <array>
#include <bit>
#include <optional>
#include <string_view>

namespace wirenote {
namespace {

constexpr int kStrings = 6;

// From the thickest string to the thinnest: frets (x: not played) and fingers (0: none).
struct Grip {
    std::array<char, 7> frets{};
    std::array<char, 7> fingers{};
    const char* name = nullptr; // the chord it is known by, where it is the first one learned
};
constexpr std::array kGrips{
    Grip{"x32010", "032010", "C"},     Grip{"320003", "210003", "G"},
    Grip{"320033", "210034"},          Grip{"022100", "023100", "E"},
    Grip{"022000", "023000", "Em"},    Grip{"x02220", "001230", "A"},
    Grip{"x02210", "002310", "Am"},    Grip{"xx0232", "000132", "D"},
    Grip{"xx0231", "000231", "Dm"},    Grip{"xx3211", "003211"},
    Grip{"xx3210", "003210"},          Grip{"x33210", "034210"},
    Grip{"320001", "320001", "G7"},    Grip{"x32310", "032410", "C7"},
    Grip{"xx0212", "000213", "D7"},    Grip{"x02020", "002030", "A7"},
    Grip{"020100", "020100", "E7"},    Grip{"x21202", "021304", "B7"},
    Grip{"x02010", "002010", "Am7"},   Grip{"020000", "020000", "Em7"},
    Grip{"022030", "012030"},          Grip{"x32000", "032000", "Cmaj7"},
    Grip{"x32030", "021030"},          Grip{"xx0230", "000130"},
    Grip{"xx0233", "000134"},          Grip{"x02200", "001200"},
    Grip{"x02230", "001240"},          Grip{"022200", "023400"},
    Grip{"022033", "012034"},          Grip{"020030", "020030"},
    Grip{"xx0222", "000111", "Dmaj7"}, Grip{"xx0211", "000211", "Dm7"},
    Grip{"x02120", "002130", "Amaj7"}, Grip{"021100", "031200"},
    Grip{"x20202", "010203"},          Grip{"320002", "320001"},
    Grip{"x00232", "000132"},          Grip{"200232", "200143"},
    Grip{"2x0232", "200143"},
};

// The same anywhere on the neck: frets from that of the index finger on.
constexpr std::array kMovable{
    Grip{"02xxxx", "130000"}, Grip{"x02xxx", "013000"}, Grip{"xx02xx", "001300"},
    Grip{"022xxx", "134000"}, Grip{"x022xx", "013400"}, Grip{"xx023x", "001340"},
    Grip{"022100", "134211"}, Grip{"022000", "134111"}, Grip{"020100", "131211"},
    Grip{"020000", "131111"}, Grip{"x02220", "013331"}, Grip{"x02210", "013421"},
    Grip{"x02020", "013141"}, Grip{"x02010", "013121"}, Grip{"x02120", "013241"},
    Grip{"xxx010", "000132"}, Grip{"xxx010", "000121"}, Grip{"xxx220", "000341"},
    Grip{"xxx210", "000321"}, Grip{"xxx120", "000231"}, Grip{"x32010", "043121"},
    Grip{"x0121x", "012430"}, Grip{"xx0101", "001324"}, Grip{"0x110x", "103420"},
    Grip{"x10111", "021333"}, Grip{"x02222", "013333"}, Grip{"xxx100", "000211"},
    Grip{"1x110x", "203410"}, Grip{"x0101x", "013240"}, Grip{"x1011x", "021340"},
    Grip{"020200", "131411"},
};

// Triads on three strings, where no open grip has them.
constexpr std::array kTriads{
    Grip{"320xxx", "431000"},
    Grip{"310xxx", "421000"},
    Grip{"200xxx", "311000"},
    Grip{"100xxx", "211000"},
    Grip{"110xxx", "231000"},
    Grip{"220xxx", "341000"},
    Grip{"x320xx", "043100"},
    Grip{"x310xx", "042100"},
    Grip{"x200xx", "031100"},
    Grip{"x100xx", "021100"},
    Grip{"x110xx", "023100"},
    Grip{"x220xx", "034100"},
    Grip{"xx210x", "003210"},
    Grip{"xx200x", "003110"},
    Grip{"xx201x", "003120"},
    Grip{"xx101x", "002130"},
    Grip{"xx110x", "002310"},
    Grip{"xx000x", "001110"},
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
            at(grip.frets, string) != (from > 0 ? 'x' : '0')) // beside a movable grip
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

// The fingers of the grips that have the fewest strings besides what is held.
class BestFit {
  public:
    BestFit(std::span<const Position> stops, unsigned open) : m_stops(stops), m_open(open) {}
    const std::vector<std::vector<Finger>>& ways() const { return m_ways; }
    bool none() const { return m_ways.empty(); }
    int missing() const { return m_missing; }

    // Frets counted from `from` on; of a movable grip the index finger has a part.
    void add(const Grip& grip, int from) {
        auto fingers = fingersIn(grip, m_stops, m_open, from);
        if (!fingers || (from > 0 && std::ranges::find(*fingers, Finger::Index) == fingers->end()))
            return;
        const int missing = kStrings - static_cast<int>(std::ranges::count(grip.frets, 'x')) -
                            static_cast<int>(std::ssize(m_stops)) -
                            (from > 0 ? 0 : std::popcount(m_open));
        if (missing > m_missing)
            return;
        if (missing < m_missing)
            m_ways.clear();
        m_missing = missing;
        if (std::ranges::find(m_ways, *fingers) == m_ways.end())
            m_ways.push_back(std::move(*fingers));
    }
    void addMovable(std::span<const Grip> grips) {
        constexpr int kWidest = 3;
        const int lowest = std::ranges::min(m_stops, {}, &Position::fret).fret;
        for (int from = std::max(1, lowest - kWidest); from <= lowest; ++from)
            for (const Grip& grip : grips)
                add(grip, from);
    }

  private:
    std::span<const Position> m_stops;
    unsigned m_open;
    std::vector<std::vector<Finger>> m_ways;
    int m_missing = kStrings;
};

} // namespace

std::optional<OpenGrip> openGripLike(const Instrument& instrument, std::span<const Position> grip) {
    constexpr std::size_t kFewest = 3;
    if (grip.size() < kFewest || !tunedAsAGuitar(instrument))
        return {};
    for (const Grip& open : kGrips) {
        const auto stops =
            std::ranges::count_if(open.frets, [](char f) { return f > '0' && f <= '9'; });
        int found = 0;
        std::optional<int> up;
        const bool alike =
            open.name && std::ranges::all_of(grip, [&](const Position& place) {
                const char fret = at(open.frets, place.string);
                const int moved = place.fret - (fret - '0');
                found += fret > '0' && fret <= '9' ? 1 : 0;
                return fret != 'x' && up.value_or(moved) == moved && (up = moved, true);
            });
        // A seventh without its bass is another chord.
        const bool whole = std::ssize(grip) == kStrings - std::ranges::count(open.frets, 'x');
        const bool seventh = open.name && std::string_view(open.name).ends_with('7');
        if (alike && found == stops && *up > 0 && (whole || !seventh))
            return OpenGrip{open.name, *up};
    }
    return {};
}

UsualFingers
usualFingers(const Instrument& instrument, std::span<const Position> stops, unsigned open) {
    if (stops.empty() || !tunedAsAGuitar(instrument))
        return {};
    BestFit fit(stops, open);
    for (const Grip& grip : kGrips)
        fit.add(grip, 0);
    const bool open_grip = !fit.none();
    // Two strings alone are a part of too many; beside open ones, or as a triad, three tell a grip.
    const bool three = stops.size() > 2;
    if (open == 0 ? stops.size() > 1 : three && !open_grip)
        fit.addMovable(kMovable);
    UsualFingers usual;
    usual.learned = open_grip || (open == 0 && !fit.none());
    if (!open_grip && three)
        fit.addMovable(kTriads);
    // Two strings of a grip that has more tell nothing of its fingers.
    if (fit.missing() == 0 || std::ssize(stops) + std::popcount(open) > 2)
        usual.ways = fit.ways();
    return usual;
}

} // namespace wirenote
