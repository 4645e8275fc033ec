#include "hearing/octave_check.h"

#include "music/pitch.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace wirenote {
namespace {
constexpr double kWindow_s = 0.09;
constexpr int kPartials = 10;

int fftSizeFor(double rate_hz) {
    int size = 16;
    while (size < 2.0 * kWindow_s * rate_hz)
        size *= 2;
    return size;
}
} // namespace

OctaveCheck::OctaveCheck(SoundView sound) : m_sound(sound), m_fft(fftSizeFor(sound.rate_hz)) {
    const auto length = static_cast<std::size_t>(kWindow_s * sound.rate_hz);
    for (std::size_t i = 0; i < length; ++i)
        m_window.push_back(static_cast<float>(
            0.5 - 0.5 * std::cos(2.0 * std::numbers::pi * (static_cast<double>(i) + 0.5) /
                                 static_cast<double>(length))));
}

std::vector<float> OctaveCheck::spectrumAt(double start_s) {
    const auto in = m_fft.time();
    std::fill(in.begin(), in.end(), 0.0F);
    const auto first = static_cast<std::ptrdiff_t>(start_s * m_sound.rate_hz);
    for (std::size_t i = 0; i < m_window.size(); ++i) {
        const std::ptrdiff_t at = first + static_cast<std::ptrdiff_t>(i);
        if (at >= 0 && at < static_cast<std::ptrdiff_t>(m_sound.samples.size()))
            in[i] = m_window[i] * m_sound.samples[static_cast<std::size_t>(at)];
    }
    m_fft.forward();
    std::vector<float> magnitude;
    for (const auto& bin : m_fft.spectrum())
        magnitude.push_back(std::hypot(bin.real(), bin.imag()));
    return magnitude;
}

bool OctaveCheck::isOctaveUp(double midi, TimeRange span, double odd_share) {
    const auto after = spectrumAt(span.start_s + 0.015);
    const auto before = spectrumAt(span.start_s - 0.01 - kWindow_s);
    const double bin_hz = m_sound.rate_hz / m_fft.size();
    const double f0 = hzFromMidi(midi);
    double odd = 0.0;
    double even = 0.0;
    for (int k = 1; k <= kPartials; ++k) {
        const auto centre = static_cast<std::size_t>(std::lround(k * f0 / bin_hz));
        if (centre + 3 >= after.size())
            break;
        double grown = 0.0;
        for (std::size_t b = centre > 2 ? centre - 2 : 0; b <= centre + 2; ++b)
            grown = std::max(grown, static_cast<double>(after[b]) - before[b]);
        (k % 2 == 1 ? odd : even) += std::max(0.0, grown);
    }
    return even > 0.0 && odd < odd_share * even;
}

} // namespace wirenote
