#pragma once

#include "base/sound.h"
#include "base/time_range.h"
#include "signal/fft.h"

#include <vector>

namespace wirenote {

struct PartialFit {
    double f0_hz = 0.0;          // ideal fundamental; 0 when nothing could be fitted
    double stiffness = 0.0;      // B of f_n = n·f0·√(1 + B·n²); never negative
    int partials = 0;            // how many took part
    double residual_cents = 0.0; // RMS
};

// Measures the partials of one note and fits the stiff-string law to them. A period-based pitch of
// a stiff string is some cents sharp, because its upper partials are; the fit takes that out. Peaks
// by parabolic interpolation of the log spectrum (Smith & Serra, PARSHL, 1987).
class PartialMeter {
  public:
    explicit PartialMeter(SoundView sound);
    // f0_hz within half a semitone of the truth; `span` is the steady part of the note, 60 ms or
    // longer.
    PartialFit measure(TimeRange span, double f0_hz);

  private:
    void transform(TimeRange span);
    // Frequency of the strongest peak within ±tolerance of `near_hz`; 0 when there is none.
    double peakNear(double near_hz, double tolerance_hz, double& level) const;

    SoundView m_sound;
    RealFft m_fft;
    std::vector<float> m_log_level;
};

} // namespace wirenote
