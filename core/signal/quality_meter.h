#pragma once

#include "signal/decay_meter.h"
#include "signal/fft.h"

#include <array>
#include <vector>

namespace wirenote {

// What a recording is like, as far as it decides what can be heard in it. Negative: not measured.
struct SoundQuality {
    double clipped_share = -1.0; // of all samples: runs at the same extreme value
    double signal_to_noise_db =
        -1.0;                      // loud moments against the quietest ones that sound like noise
    double hum_db = -1.0;          // mains hum above what lies beside it, mean of its partials
    double hum_hz = 0.0;           // 50 or 60
    double reverberation_s = -1.0; // time for 60 dB that nothing in it undercuts (DecayMeter)
    double top_hz = -1.0;          // above it there is nothing (lossy coding, telephone)
    double mono_loss_db = -1.0;    // level lost when left and right are added
};

// Measures while a recording goes by, in memory that grows by a few bytes a second. One thread.
class QualityMeter {
  public:
    QualityMeter();
    // Blocks of samples, one vector a channel, all at the same rate.
    void add(const std::vector<std::vector<float>>& channels, double rate_hz);
    SoundQuality result() const;

  private:
    static constexpr int kFft = 16384;
    static constexpr int kLevels = 24; // classes of 5 dB for the spectra of quiet and loud moments
    void endFrame();
    double percentile(double share) const;
    const std::vector<double>* quietSpectrum() const;
    void measureNoise(SoundQuality& q) const;
    void measureHum(SoundQuality& q) const;
    void measureTop(SoundQuality& q) const;

    double m_rate_hz = 0.0;
    RealFft m_fft;
    DecayMeter m_decay;
    std::vector<float> m_window;                        // Hann
    std::vector<float> m_frame;                         // mono, being filled
    std::array<std::vector<double>, kLevels> m_spectra; // summed power by level of the moment
    std::array<int, kLevels> m_counts{};
    std::vector<float> m_levels_db; // every 10 ms
    double m_level_sum = 0.0;
    int m_level_count = 0;
    std::vector<float> m_last; // per channel, for runs at the extreme
    double m_samples = 0.0;
    double m_clipped = 0.0;
    double m_left = 0.0, m_right = 0.0, m_mono = 0.0; // power
};

} // namespace wirenote
