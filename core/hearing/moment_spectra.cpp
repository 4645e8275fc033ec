#include "hearing/moment_spectra.h"

#include "music/string_physics.h"
#include "signal/hann.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

constexpr int kFft = 8192;
constexpr double kHighest_hz = 4200.0;

} // namespace

MomentSpectra::MomentSpectra(SoundView sound) : m_sound(sound), m_fft(kFft) {}

double MomentSpectra::binHz() const {
    return m_sound.rate_hz / kFft;
}

std::size_t MomentSpectra::bins() const {
    return std::min<std::size_t>(kFft / 2, static_cast<std::size_t>(kHighest_hz / binHz()));
}

std::vector<float> MomentSpectra::at(double from_s, double to_s) {
    const auto first = static_cast<std::ptrdiff_t>(std::max(0.0, from_s) * m_sound.rate_hz);
    const auto last = std::min(static_cast<std::ptrdiff_t>(to_s * m_sound.rate_hz),
                               static_cast<std::ptrdiff_t>(m_sound.samples.size()));
    const auto length = std::min<std::ptrdiff_t>(last - first, kFft);
    std::vector<float> out(bins(), 0.0F);
    if (length < 256)
        return out;
    putHann(m_sound, first, length, m_fft.time());
    m_fft.forward();
    for (std::size_t b = 0; b < out.size(); ++b)
        out[b] = 4.0F * std::sqrt(std::norm(m_fft.spectrum()[b])) / static_cast<float>(length);
    return out;
}

double meanStiffness(const Instrument& instrument, int midi) {
    double sum = 0.0;
    int count = 0;
    for (int s = 1; s <= instrument.stringCount(); ++s)
        if (const int fret = instrument.fretFor(s, midi); fret >= 0) {
            sum += stiffnessAt(instrument, s, instrument.capo + fret);
            ++count;
        }
    return count > 0 ? sum / count : 1e-4;
}

} // namespace wirenote
