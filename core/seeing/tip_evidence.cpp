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
        const double cost =
            fret < 0 ? kFarthestTip
                     : tipCost(plane, seen.tips, {string, fret == 0 ? 0 : fret + instrument.capo});
        evidence.costs.push_back(seen.trust * cost);
        least = std::min(least, evidence.costs.back());
    }
    for (double& cost : evidence.costs)
        cost -= least;
    return evidence;
}

std::vector<std::array<double, 4>> fingerEvidence(const Instrument& instrument,
                                                  const NeckPlane& plane,
                                                  const SeenFacts& seen,
                                                  int midi) {
    constexpr int kFingers = 4;
    constexpr double kOtherFinger = 0.6; // nepers
    constexpr double kNear = 2.0;        // the tip that presses lies so near
    std::vector<std::array<double, 4>> against;
    const auto count = static_cast<int>(seen.tips.size());
    for (int string = 1; !seen.tips.empty() && string <= instrument.stringCount(); ++string) {
        against.push_back({});
        const int fret = instrument.fretFor(string, midi);
        if (fret <= 0)
            continue;
        const Position place{string, fret + instrument.capo};
        int nearest = -1;
        double least = kNear;
        for (int k = 0; k < count; ++k)
            if (const double cost = tipCost(
                    plane, std::span(seen.tips).subspan(static_cast<std::size_t>(k), 1), place);
                cost < least) {
                least = cost;
                nearest = k;
            }
        if (nearest < 0)
            continue;
        const int lowest = nearest - std::max(0, count - kFingers);
        const int highest = nearest + std::max(0, kFingers - count);
        for (int finger = 0; finger < kFingers; ++finger)
            if (finger < lowest || finger > highest)
                against.back()[static_cast<std::size_t>(finger)] = seen.trust * kOtherFinger;
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
