#pragma once

#include "base/measure.h"
#include "base/sound.h"
#include "base/time_range.h"
#include "signal/fft.h"

#include <span>
#include <vector>

namespace wirenote {

// What the partials of one note say beside their frequencies.
struct ToneFit {
    // Natural logarithm of how fast the sound dies, in dB a second: of the fundamental, and of the
    // sixth partial.
    Measure decay_low;
    Measure decay_high;
    // Natural logarithm of the place of the comb: where the string was plucked (or picked up), from
    // the bridge, as a share of its sounding length, up to one half.
    Measure comb;
    Measure
        tilt; // dB an octave by which partials fall (negative) at the attack, the comb taken out
};

// Measures the strengths of up to 24 partials over time. The loss of each partial is the slope of
// its level; losses of a string grow with the square of the frequency beside a constant part
// (Valette & Cuesta, Mécanique de la corde vibrante, 1993; from memory), fitted by weighted least
// squares. The strengths at the attack are those of a plucked string, whose partials fail where the
// place of plucking is a node: |sin(π·n·r)| (Fletcher & Rossing, The Physics of Musical
// Instruments, chapter 2); r is looked for on a grid and told only when one place is likelier than
// all others. One thread.
class ToneMeter {
  public:
    explicit ToneMeter(SoundView sound);
    // `span` from after the attack until the note ends (0.8 s of it are used; nothing is told under
    // 0.12 s), f0_hz and stiffness_b of its partials, `others_hz` the fundamentals of what sounds
    // with it, whose partials are kept clear of.
    ToneFit measure(TimeRange span,
                    double f0_hz,
                    double stiffness_b,
                    std::span<const double> others_hz = {});

  private:
    struct Course { // what was read of one partial
        int number = 1;
        double f_hz = 0.0;
        std::vector<double> level_db; // window by window
        double between_db = 0.0;      // beside it, in the mean
    };
    struct Track { // how it dies
        int number = 1;
        double start_db = 0.0; // at the start of the span
        double loss_db_s = 0.0;
        double loss_sd = -1.0; // negative: too short to say
        bool heard = true;     // false: below the noise, weaker than start_db
    };
    std::vector<Course> ownPartials(double f0_hz,
                                    double stiffness_b,
                                    std::span<const double> others_hz,
                                    double apart_hz) const;
    void readLevels(TimeRange span, double window_s, double f0_hz, std::vector<Course>& partials);
    static Track trackOf(const Course& partial, double strongest_db, double window_s);
    std::vector<Track>
    follow(TimeRange span, double f0_hz, double stiffness_b, std::span<const double> others_hz);
    double levelAt_db(double f_hz);

    SoundView m_sound;
    RealFft m_fft;
};

} // namespace wirenote
