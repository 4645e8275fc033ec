#include "hearing/stroke_edges.h"

#include "signal/fft.h"
#include "signal/hann.h"

#include <algorithm>
#include <bit>
#include <cmath>
#include <optional>

namespace wirenote {
namespace {

constexpr double kLength_s = 0.046;
constexpr double kBefore_s = 0.004; // of the window before the note's time
constexpr double kLowest_hz = 30.0;
constexpr double kHighest_hz = 10000.0;
constexpr double kSilence = 1e-9; // below it there is nothing to compare with

struct Band {
    double low_hz = 0.0;
    double high_hz = 0.0;
};
constexpr Band kOfGuitar = {2500.0, 6000.0};
constexpr Band kOfBass = {1000.0, 2500.0};

class EdgeMeter {
  public:
    EdgeMeter(SoundView sound, Band band)
        : m_sound(sound), m_band(band), m_length(std::lround(kLength_s * sound.rate_hz)),
          m_fft(static_cast<int>(std::bit_ceil(static_cast<unsigned>(std::max(16L, m_length))))) {}

    std::optional<double> at(double onset_s) {
        const auto first = std::lround((onset_s - kBefore_s) * m_sound.rate_hz);
        putHann(m_sound, first, m_length, m_fft.time());
        m_fft.forward();
        const double all = power({kLowest_hz, kHighest_hz});
        if (all < kSilence)
            return std::nullopt;
        return 10.0 * std::log10(std::max(1e-9, power(m_band) / all));
    }

  private:
    double power(Band band) {
        const double bin_hz = m_sound.rate_hz / m_fft.size();
        double sum = 0.0;
        const auto spectrum = m_fft.spectrum();
        for (auto b = static_cast<std::size_t>(std::ceil(band.low_hz / bin_hz));
             b < spectrum.size() && static_cast<double>(b) * bin_hz < band.high_hz;
             ++b)
            sum += static_cast<double>(std::norm(spectrum[b]));
        return sum;
    }

    SoundView m_sound;
    Band m_band;
    long m_length;
    RealFft m_fft;
};

} // namespace

Status measureEdges(SoundView sound, bool bass, std::vector<Note>& notes, const JobControl& job) {
    const Band band = bass ? kOfBass : kOfGuitar;
    if (sound.rate_hz < 2.0 * band.high_hz)
        return {};
    EdgeMeter meter(sound, band);
    for (Note& note : notes) {
        if (job.cancelRequested())
            return cancelled();
        if (!note.slurred() && note.pitched())
            if (const auto edge_db = meter.at(note.onset_s()))
                note.ownSound().attack.edge_db = *edge_db;
    }
    return {};
}

} // namespace wirenote
