#include "seeing/tip_evidence.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace wirenote {
namespace {

constexpr double kAlong_mm = 7.0; // standard deviation of a tip along the neck, outside its fret
constexpr double kAcross_mm = 5.0;
constexpr double kWithin_mm = 1.0; // of the wires

double mean(std::span<const double> values) {
    double sum = 0.0;
    for (const double value : values)
        sum += value;
    return values.empty() ? 0.0 : sum / static_cast<double>(values.size());
}

// Fingers come over the thin strings: one whose tip is over a thicker string of that fret lies over
// this one, and may be laid flat.
double laidFlatCost(const NeckPlane& plane, std::span<const SeenTip> tips, Position place) {
    constexpr double kBeside = 0.3; // strings that a tip may be off
    constexpr double kFlat = 1.5;
    double least = kFarthestTip;
    for (const SeenTip& tip : tips) {
        const double along_mm = plane.wire_mm(tip.fret);
        if (tip.string > place.string + kBeside &&
            along_mm > plane.wire_mm(place.fret - 1) + kWithin_mm &&
            along_mm < plane.wire_mm(place.fret) + kWithin_mm)
            least = kFlat;
    }
    return least;
}

} // namespace

double tipCost(const NeckPlane& plane, std::span<const SeenTip> tips, Position place) {
    if (place.fret <= 0)
        return kOpenSeen;
    const double behind_mm = plane.wire_mm(place.fret - 1) + kWithin_mm;
    const double wire_mm = plane.wire_mm(place.fret) + kWithin_mm;
    double least = kFarthestTip;
    for (const SeenTip& tip : tips) {
        const double along_mm = plane.wire_mm(tip.fret);
        const double off_mm = std::max({0.0, behind_mm - along_mm, along_mm - wire_mm});
        const double across_mm =
            plane.string_mm(tip.string, along_mm) - plane.string_mm(place.string, along_mm);
        least = std::min(least,
                         0.5 * std::pow(off_mm / kAlong_mm, 2) +
                             0.5 * std::pow(across_mm / kAcross_mm, 2));
    }
    return least;
}

StringEvidence
tipEvidence(const Instrument& instrument, const NeckPlane& plane, const SeenFacts& seen, int midi) {
    StringEvidence evidence{ReasonKind::TipSeen, Basis::Seen, {}};
    if (seen.tips.empty())
        return evidence;
    double least = std::numeric_limits<double>::infinity();
    for (int string = 1; string <= instrument.stringCount(); ++string) {
        const int fret = instrument.fretFor(string, midi);
        // Wires are counted from the nut, whatever the capo.
        const Position place{string, fret == 0 ? 0 : fret + instrument.capo};
        double cost = fret < 0 ? kFarthestTip : tipCost(plane, seen.tips, place);
        if (fret > 0)
            cost = std::min(cost, laidFlatCost(plane, seen.tips, place));
        evidence.costs.push_back(seen.trust * cost);
        least = std::min(least, evidence.costs.back());
    }
    for (double& cost : evidence.costs)
        cost -= least;
    return evidence;
}

std::vector<std::array<double, 4>>
fingerEvidence(const Instrument& instrument, const SeenFacts& seen, int midi) {
    constexpr double kOtherFinger = 2.0; // nepers, of one that lies clearly elsewhere
    constexpr double kElsewhere = 0.5;   // frets
    constexpr double kUnseen = 0.6;      // of that, of a finger whose tip was not seen
    constexpr double kBehind = 0.25;     // frets behind its wire a finger presses
    std::vector<std::array<double, 4>> against;
    const auto numbered =
        std::ranges::count_if(seen.tips, [](const SeenTip& tip) { return tip.finger > 0; });
    for (int string = 1; numbered >= 2 && string <= instrument.stringCount(); ++string) {
        against.push_back({});
        const int fret = instrument.fretFor(string, midi);
        if (fret <= 0)
            continue;
        auto& costs = against.back();
        costs.fill(kUnseen);
        for (const SeenTip& tip : seen.tips)
            if (tip.finger > 0) {
                const double off = tip.fret - (fret + instrument.capo - kBehind);
                costs[static_cast<std::size_t>(tip.finger) - 1] =
                    std::min(1.0, std::pow(off / kElsewhere, 2));
            }
        for (double& cost : costs) // all of them where no finger lies at all
            cost *= seen.trust * kOtherFinger;
    }
    return against;
}

double tipTrust(std::span<const double> fits, std::span<const double> by_chance) {
    constexpr std::size_t kFewest = 6;
    // Of what chance leaves: films of something else had .76 to 1.03 of it, right ones up to .52.
    constexpr double kNothing = 0.74;
    constexpr double kAll = 0.52;
    if (fits.size() < kFewest || by_chance.empty())
        return 0.0;
    const double chance = mean(by_chance);
    const double left = chance > 1e-6 ? mean(fits) / chance : 1.0;
    return std::clamp((kNothing - left) / (kNothing - kAll), 0.0, 1.0);
}

} // namespace wirenote
