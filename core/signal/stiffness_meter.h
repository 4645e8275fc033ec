#pragma once

#include "base/sound.h"
#include "base/time_range.h"
#include "signal/fft.h"

#include <span>
#include <vector>

namespace wirenote {

// One partial that was measured.
struct Partial {
    int number = 1;
    double f_hz = 0.0;
    double weight = 0.0; // 0: rejected as another's
};

// How stiff a string sounds. B of f_n = n·f0·√(1 + B·n²), as its natural logarithm.
struct StiffnessFit {
    double f0_hz = 0.0;
    double log_b = 0.0;
    double sd = -1.0; // of log_b; negative: nothing can be said
    std::vector<Partial> partials;
    bool told() const { return sd >= 0.0; }
};

// Measures the stiffness of the string behind one note to what its sound allows. The frequencies of
// up to 30 partials, by parabolic interpolation of the log spectrum (Smith & Serra, PARSHL, 1987),
// each looked for where the fit so far expects it; (f_n/n)² is linear in n², fitted by iteratively
// reweighted least squares with Tukey's biweight (Beaton & Tukey, Technometrics 16, 1974), so that
// partials of other notes and of the body do not count. The uncertainty comes from the scatter and
// is widened where few partials agree. One thread.
class StiffnessMeter {
  public:
    explicit StiffnessMeter(SoundView sound);
    // f0_hz within a third of a semitone; `span` a stretch in which the note sounds, 60 ms or
    // longer (at most 0.4 s of it are used); `others_hz` the fundamentals of what sounds with it,
    // whose partials are kept clear of.
    StiffnessFit measure(TimeRange span, double f0_hz, std::span<const double> others_hz = {});

  private:
    void transform(TimeRange span);
    bool ofOthers(double f, std::span<const double> others_hz) const;
    // Fills in fit.partials; gives the standard deviation of each.
    std::vector<double> findPartials(StiffnessFit& fit, std::span<const double> others_hz);
    double levelAt_db(std::size_t bin) const;
    double peakNear(double near_hz, double tolerance_hz, double& level_db) const;

    SoundView m_sound;
    RealFft m_fft;
    std::vector<float> m_power; // of each bin
    double m_resolution_hz = 1.0;
    float m_floor_db = 0.0F;
};

} // namespace wirenote
