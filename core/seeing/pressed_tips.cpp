#include "seeing/pressed_tips.h"

#include "seeing/tip_evidence.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

constexpr double kMoved_mm = 20.0;  // no nearer tip: it was elsewhere
constexpr double kAnother_s = 0.05; // another stroke
constexpr double kSounds = 0.95;    // the finger that makes what is heard
constexpr double kFits = 1.5;       // nepers against a tip at its place
constexpr double kOffset = -1.97;   // of the logistic function
constexpr double kPerMm = -0.157;   // moved
constexpr double kPerString = 4.23; // share of the strings that it reaches over

double nearestTip_mm(const NeckPlane& plane, const SeenFacts& there, const SeenTip& tip) {
    double nearest_mm = kMoved_mm;
    const double along_mm = plane.wire_mm(tip.fret);
    const double across_mm = plane.string_mm(tip.string, along_mm);
    for (const SeenTip& other : there.tips) {
        const double at_mm = plane.wire_mm(other.fret);
        nearest_mm = std::min(
            nearest_mm,
            std::hypot(at_mm - along_mm, plane.string_mm(other.string, at_mm) - across_mm));
    }
    return nearest_mm;
}

// The moment of the stroke before (step −1) or after (+1).
const SeenFacts* strokeBeside(std::span<const SeenMoment> moments, std::size_t at, int step) {
    for (auto i = static_cast<std::ptrdiff_t>(at) + step;
         i >= 0 && i < static_cast<std::ptrdiff_t>(moments.size());
         i += step) {
        const SeenMoment& other = moments[static_cast<std::size_t>(i)];
        if (std::abs(other.onset_s - moments[at].onset_s) > kAnother_s)
            return other.seen;
    }
    return nullptr;
}

void tellSounding(const Instrument& instrument, const NeckPlane& plane, const SeenMoment& moment) {
    SeenTip* sounding = nullptr;
    double least = kFits;
    for (int string = 1; string <= instrument.stringCount(); ++string) {
        const int fret = instrument.fretFor(string, moment.midi);
        if (fret <= 0)
            continue;
        for (SeenTip& tip : moment.seen->tips)
            if (const double cost =
                    tipCost(plane, std::span(&tip, 1), {string, fret + instrument.capo});
                cost < least) {
                least = cost;
                sounding = &tip;
            }
    }
    if (sounding)
        sounding->pressed = std::max(kSounds, sounding->pressed.value_or(0.0));
}

} // namespace

void tellPressed(const Instrument& instrument,
                 const NeckPlane& plane,
                 std::span<const SeenMoment> moments) {
    for (std::size_t i = 0; i < moments.size(); ++i) {
        const SeenFacts* before = strokeBeside(moments, i, -1);
        const SeenFacts* after = strokeBeside(moments, i, 1);
        for (SeenTip& tip : moments[i].seen->tips) {
            double moved_mm = kMoved_mm;
            for (const SeenFacts* other : {before, after})
                if (other)
                    moved_mm = std::min(moved_mm, nearestTip_mm(plane, *other, tip));
            const double reach =
                std::clamp(tip.string, 0.0, static_cast<double>(plane.strings())) / plane.strings();
            tip.pressed =
                1.0 / (1.0 + std::exp(-(kOffset + kPerMm * moved_mm + kPerString * reach)));
        }
        if (moments[i].midi >= 0)
            tellSounding(instrument, plane, moments[i]);
    }
}

} // namespace wirenote
