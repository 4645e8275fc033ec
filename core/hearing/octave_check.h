#pragma once

#include "base/sound.h"
#include "base/time_range.h"
#include "signal/fft.h"

#include <vector>

namespace wirenote {

// Two strings ringing together, or a string that is still dying away, share a period longer than
// that of the note just struck: the pitch tracker then answers an octave too low. The spectrum
// tells: a note an octave higher has nothing new at the odd multiples of the lower pitch.
class OctaveCheck {
  public:
    explicit OctaveCheck(SoundView sound);

    // True when, of what the attack at span.start_s added, the odd partials of `midi` (against 440
    // Hz) hold less than `odd_share` of the even ones.
    bool isOctaveUp(double midi, TimeRange span, double odd_share);

  private:
    std::vector<float> spectrumAt(double start_s);

    SoundView m_sound;
    RealFft m_fft;
    std::vector<float> m_window;
};

} // namespace wirenote
