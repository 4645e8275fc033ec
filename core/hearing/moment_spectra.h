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

} // namespace wirenote
