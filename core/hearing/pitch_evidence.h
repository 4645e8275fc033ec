// What speaks for and against each pitch beginning at an attack.
#pragma once

#include "hearing/combs.h"

#include <array>
#include <string_view>
#include <vector>

namespace wirenote {

// One pitch that may begin at an attack. The values are logarithms of ratios (nepers), shares or
// counts, each within a few units of nought, in the order of kPitchEvidenceNames.
constexpr std::size_t kPitchEvidence = 28;
struct AttackPitch {
    int midi = 60;
    double share = 0.0; // of what grew, against the strongest candidate, 0..1
    std::array<double, kPitchEvidence> evidence{};
};
extern const std::array<std::string_view, kPitchEvidence> kPitchEvidenceNames;

// The spectra about one attack, of the same length each.
struct AttackSpectra {
    std::vector<float> before;
    std::vector<float> after;
    std::vector<float> earlier;     // about 0.12 s before `before`: partials that beat come back
    std::vector<float> just_before; // a short stretch on either side: what begins, begins at once
    std::vector<float> just_after;
    std::vector<float> later; // from about 0.15 s after it; empty when the next attack comes sooner
    double window_s = 0.15;
};

// All pitches of the neck that stand out in what grew, the strongest first. `combs` must be made
// for about this window.
std::vector<AttackPitch> pitchCandidates(const AttackSpectra& attack,
                                         const Combs& combs,
                                         const Instrument& instrument,
                                         double a4_hz,
                                         double bin_hz);

// True when every partial of the higher pitch is near one of the lower pitch's.
bool sharesPartials(int low_midi, int high_midi);

} // namespace wirenote
