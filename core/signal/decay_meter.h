#pragma once

#include "signal/fft.h"

#include <array>
#include <vector>

namespace wirenote {

// How long the place a take was recorded in goes on sounding. Blind: it knows neither notes nor
// room.
//
// A string that is stopped is silent within a tenth of a second; in a room its partials cannot fall
// faster than the room lets them. So each partial's free falls are timed, from 10 to 25 dB below
// its peak: past the direct sound, and where beats do not reach. (In the spirit of blind estimates
// of reverberation time from the decay-rate distribution of a signal: Wen, Habets and Naylor,
// ICASSP 2008; their maximum-likelihood fit is replaced by counting. Cited from memory.)
//
// Memory does not grow. One thread.
class DecayMeter {
  public:
    DecayMeter();
    void add(float sample, double rate_hz);
    // Seconds for 60 dB that a quick fall takes: the reverberation time where the room outlasts the
    // strings. Negative when too little stopped in it to tell.
    double quickFall_s() const;

  private:
    static constexpr int kFft = 4096;
    static constexpr int kHop = 1024;
    static constexpr int kTimes = 128; // classes of one hop each
    struct Partial {
        float peak_db = -200.0F;
        int above = 0; // frames since it was last within the first 10 dB
        int below = 0; // frames it has stayed under the last
        int fall = 0;  // frames from the one to the other
    };
    void endFrame();
    void follow(Partial& partial, float level_db, float loud_db);

    double m_rate_hz = 0.0;
    RealFft m_fft;
    std::vector<float> m_window;
    std::vector<float> m_samples; // the last kFft, as a ring
    std::size_t m_next = 0;
    int m_until_frame = kFft;
    float m_loud_db = -200.0F; // level of the loudest partials, falling slowly
    std::vector<Partial> m_partials;
    std::array<long, kTimes> m_falls{};
};

} // namespace wirenote
