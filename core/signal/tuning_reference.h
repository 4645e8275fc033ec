#pragma once

#include "base/sound.h"

#include <span>

namespace wirenote {

struct WeightedPitch {
    double midi = 0.0; // against A4 = 440 Hz
    double weight = 1.0;
};

struct ReferenceEstimate {
    double cents = 0.0;        // −50..50: how far the instrument stands from A4 = 440 Hz
    double spread_cents = 0.0; // circular standard deviation of the notes about it
    double certainty = 0.0;    // length of the mean vector, 0..1
    double a4_hz() const;
};

// The offset from the equal-tempered grid that fits the pitches best: the circular mean of their
// distances from the nearest semitone (circular statistics: Mardia & Jupp, "Directional
// Statistics", 2000).
ReferenceEstimate estimateReference(std::span<const WeightedPitch> pitches);

// The same from the spectrum alone, where chords hide the single notes: where most of the strong
// low partials lie. Their commonest distance from the grid is taken, not the mean, because the
// fifth and seventh partial of every note lie off it.
ReferenceEstimate spectralReference(SoundView sound);

} // namespace wirenote
