// What sounds at a moment, as partial combs of stiff strings.
#pragma once

#include "base/sound.h"
#include "music/instrument.h"
#include "signal/fft.h"

#include <vector>

namespace wirenote {

// Spectra of one sound up to 4.2 kHz, with a window of any length. One thread.
class MomentSpectra {
  public:
    explicit MomentSpectra(SoundView sound);
    std::size_t bins() const;
    double binHz() const;
    // Magnitudes under a Hann window over the stretch (at most 8192 samples of it), a sine of
    // amplitude a giving about a. All nought when there are fewer than 256 samples.
    std::vector<float> at(double from_s, double to_s);

  private:
    SoundView m_sound;
    RealFft m_fft;
};

// Inharmonicity of a pitch: the mean over the places of the neck that have it.
double meanStiffness(const Instrument& instrument, int midi);

// The combs of all pitches of a neck, for one window length: six shapes each, stiff or not, bright
// to dull.
class Combs {
  public:
    Combs(const Instrument& instrument,
          double a4_hz,
          double window_s,
          std::size_t bins,
          double bin_hz);

    // How much of each pitch explains a spectrum, lowest first: non-negative decomposition with the
    // Kullback-Leibler divergence, the templates held fixed (Lee & Seung, "Algorithms for
    // non-negative matrix factorization", NIPS 2000).
    std::vector<double> explain(const std::vector<float>& spectrum) const;
    int lowestMidi() const { return m_low; }

  private:
    struct Cell {
        std::size_t bin;
        float value;
    };
    void fillModel(const std::vector<float>& gain, float total, std::vector<float>& model) const;

    int m_low;
    int m_high;
    std::vector<std::vector<Cell>> m_combs;
};

} // namespace wirenote
