#include "signal/pitch_spectrogram.h"

#include "music/pitch.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

namespace wirenote {
namespace {

constexpr std::array<double, 3> kWindow_s = {0.37, 0.16, 0.08};
constexpr std::array<double, 2> kSplit_hz = {220.0, 700.0}; // where the next shorter window begins

int powerOfTwo(double samples) {
    int size = 16;
    while (size < samples)
        size *= 2;
    return size;
}

} // namespace

PitchSpectrogram::PitchSpectrogram(double rate_hz, const PitchAxis& axis) : m_rate_hz(rate_hz) {
    for (const double length_s : kWindow_s) {
        const auto length = static_cast<std::size_t>(length_s * rate_hz);
        m_ffts.emplace_back(powerOfTwo(2.0 * static_cast<double>(length)));
        std::vector<float> window(length);
        for (std::size_t i = 0; i < length; ++i)
            window[i] = static_cast<float>(
                (1.0 - std::cos(2.0 * std::numbers::pi * (static_cast<double>(i) + 0.5) /
                                static_cast<double>(length))) *
                2.0 / static_cast<double>(length)); // a sine of amplitude a gives a at its bin
        m_windows.push_back(std::move(window));
    }
    for (int r = 0; r < axis.rows(); ++r) {
        const double half = 0.5 / axis.rows_per_semitone;
        const double low_hz = hzFromMidi(axis.midiOf(r) - half, axis.a4_hz);
        const double high_hz = hzFromMidi(axis.midiOf(r) + half, axis.a4_hz);
        Row row;
        row.window = low_hz < kSplit_hz[0] ? 0 : low_hz < kSplit_hz[1] ? 1 : 2;
        const double bin_hz = rate_hz / m_ffts[static_cast<std::size_t>(row.window)].size();
        row.low_bin = low_hz / bin_hz;
        row.high_bin = high_hz / bin_hz;
        m_rows.push_back(row);
    }
}

double PitchSpectrogram::reach_s() const {
    return 0.5 * kWindow_s[0];
}

void PitchSpectrogram::addFrame(SoundView sound, double at_s, std::vector<double>& power) {
    std::array<std::vector<double>, 3> spectra;
    for (std::size_t w = 0; w < m_ffts.size(); ++w) {
        const auto in = m_ffts[w].time();
        std::fill(in.begin(), in.end(), 0.0F);
        const auto first = static_cast<std::ptrdiff_t>(std::llround(at_s * m_rate_hz)) -
                           static_cast<std::ptrdiff_t>(m_windows[w].size() / 2);
        for (std::size_t i = 0; i < m_windows[w].size(); ++i) {
            const std::ptrdiff_t at = first + static_cast<std::ptrdiff_t>(i);
            if (at >= 0 && at < static_cast<std::ptrdiff_t>(sound.samples.size()))
                in[i] = m_windows[w][i] * sound.samples[static_cast<std::size_t>(at)];
        }
        m_ffts[w].forward();
        for (const auto& bin : m_ffts[w].spectrum())
            spectra[w].push_back(std::norm(bin));
    }
    for (std::size_t r = 0; r < m_rows.size(); ++r) {
        const Row& row = m_rows[r];
        const auto& spectrum = spectra[static_cast<std::size_t>(row.window)];
        const auto last = static_cast<double>(spectrum.size() - 2);
        if (row.low_bin >= last)
            continue;
        // The strongest bin of the row; between two bins what lies on the line between them.
        const double middle = std::min(0.5 * (row.low_bin + row.high_bin), last);
        const auto below = static_cast<std::size_t>(middle);
        const double share = middle - static_cast<double>(below);
        double strongest = (1.0 - share) * spectrum[below] + share * spectrum[below + 1];
        for (auto b = static_cast<std::size_t>(std::ceil(row.low_bin));
             static_cast<double>(b) < std::min(row.high_bin, last);
             ++b)
            strongest = std::max(strongest, spectrum[b]);
        power[r] += strongest;
    }
}

std::vector<std::uint8_t>
PitchSpectrogram::columns(SoundView sound, double first_s, double hop_s, int count, int frames) {
    std::vector<std::uint8_t> out;
    out.reserve(m_rows.size() * static_cast<std::size_t>(std::max(0, count)));
    std::vector<double> power(m_rows.size());
    for (int k = 0; k < count; ++k) {
        std::fill(power.begin(), power.end(), 0.0);
        for (int f = 0; f < frames; ++f)
            addFrame(sound, first_s + hop_s * (k + (f + 0.5) / frames - 0.5), power);
        for (const double p : power) {
            const double db = 10.0 * std::log10(p / frames + 1e-12);
            const double shade = 255.0 * (db - kQuietest_db) / (kLoudest_db - kQuietest_db);
            out.push_back(static_cast<std::uint8_t>(std::clamp(shade, 0.0, 255.0)));
        }
    }
    return out;
}

} // namespace wirenote
