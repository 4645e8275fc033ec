// How high the instrument stands at any moment of a recording.
#pragma once

#include "base/nearby.h"

#include <vector>

namespace wirenote {

// One reference for a whole recording, and another where the single notes thereabouts agree on one:
// a recording joined from several days, or a tape that drifts.
class LocalTuning {
  public:
    // The same everywhere.
    LocalTuning(double a4_hz) : m_a4_hz(a4_hz) {} // NOLINT(google-explicit-constructor)

    // `pitches`: when single notes begin and where they lie, in semitones (MIDI) against A4 = 440
    // Hz, by time.
    LocalTuning(double a4_hz, const std::vector<TimedValue>& pitches);

    // In steps of two cents where it is not that of the whole.
    double a4At(double time_s) const;

  private:
    double m_a4_hz;
    Nearby m_cents; // off that of the whole, where notes agree on it
};

} // namespace wirenote
