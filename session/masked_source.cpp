#include "session/masked_source.h"

#include "signal/steady_part.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace wirenote {
namespace {

constexpr std::size_t kKeptFrames = 12; // for reads that follow each other
constexpr std::size_t kKeptPowers = 32;
constexpr float kScale =
    1.0F / (1.5F * static_cast<float>(kMaskedFrame)); // Hann twice, four deep, and the FFT's

std::int64_t floorDiv(std::int64_t a, std::int64_t b) {
    return a >= 0 ? a / b : -((-a + b - 1) / b);
}

} // namespace

MaskedSource::MaskedSource(std::shared_ptr<StereoSource> whole, Shares shares)
    : m_whole(std::move(whole)),
      m_shares(std::move(shares)), m_ffts{RealFft(kMaskedFrame), RealFft(kMaskedFrame)} {
    for (int i = 0; i < kMaskedFrame; ++i)
        m_window.push_back(
            static_cast<float>(0.5 - 0.5 * std::cos(2.0 * std::numbers::pi * i / kMaskedFrame)));
}

void MaskedSource::read(std::int64_t first_frame, std::span<float> out) {
    const std::lock_guard lock(m_mutex);
    std::ranges::fill(out, 0.0F);
    const auto count = static_cast<std::int64_t>(out.size() / 2);
    const std::int64_t last = floorDiv(first_frame + count - 1, kMaskedHop);
    for (std::int64_t k = floorDiv(first_frame - kMaskedFrame, kMaskedHop) + 1; k <= last; ++k) {
        const std::vector<float>& stereo = made(k);
        for (std::int64_t i = std::max<std::int64_t>(0, k * kMaskedHop - first_frame); i < count;
             ++i) {
            const std::int64_t at = first_frame + i - k * kMaskedHop;
            if (at >= kMaskedFrame)
                break;
            out[static_cast<std::size_t>(2 * i)] += stereo[static_cast<std::size_t>(2 * at)];
            out[static_cast<std::size_t>(2 * i + 1)] +=
                stereo[static_cast<std::size_t>(2 * at + 1)];
        }
    }
}

const std::vector<float>& MaskedSource::made(std::int64_t k) {
    for (const Kept& one : m_made)
        if (one.k == k)
            return one.values;
    if (m_made.size() >= kKeptFrames)
        m_made.pop_front();
    m_made.push_back({k, make(k)});
    return m_made.back().values;
}

void MaskedSource::transform(std::int64_t k) {
    std::vector<float> stereo(2 * kMaskedFrame);
    m_whole->read(k * kMaskedHop, stereo);
    for (std::size_t side = 0; side < 2; ++side) {
        for (std::size_t i = 0; i < kMaskedFrame; ++i)
            m_ffts[side].time()[i] = stereo[2 * i + side] * m_window[i];
        m_ffts[side].forward();
    }
}

std::span<const float> MaskedSource::power(std::int64_t k) {
    for (const Kept& one : m_powers)
        if (one.k == k)
            return one.values;
    transform(k);
    std::vector<float> power(kMaskedFrame / 2 + 1, 0.0F);
    for (RealFft& fft : m_ffts)
        for (std::size_t b = 0; b < power.size(); ++b)
            power[b] += std::norm(fft.spectrum()[b]);
    if (m_powers.size() >= kKeptPowers)
        m_powers.pop_front();
    m_powers.push_back({k, std::move(power)});
    return m_powers.back().values;
}

std::vector<float> MaskedSource::make(std::int64_t k) {
    std::vector<float> share(kMaskedFrame / 2 + 1, 0.0F);
    m_shares(
        k, [this](std::int64_t other) { return power(other); }, share);
    transform(k);
    std::vector<float> stereo(2 * kMaskedFrame);
    for (std::size_t side = 0; side < 2; ++side) {
        for (std::size_t b = 0; b < share.size(); ++b)
            m_ffts[side].spectrum()[b] *= share[b];
        m_ffts[side].inverse();
        for (std::size_t i = 0; i < kMaskedFrame; ++i)
            stereo[2 * i + side] = m_ffts[side].time()[i] * m_window[i] * kScale;
    }
    return stereo;
}

std::shared_ptr<StereoSource> withoutDrums(std::shared_ptr<StereoSource> whole) {
    if (!whole)
        return whole;
    return std::make_shared<MaskedSource>(
        std::move(whole),
        [](std::int64_t k, const MaskedSource::PowerOf& power_of, std::span<float> shares) {
            std::array<std::span<const float>, kSteadySpectra> powers;
            for (std::size_t i = 0; i < kSteadySpectra; ++i)
                powers[i] = power_of(k + static_cast<std::int64_t>(i) -
                                     static_cast<std::int64_t>(kSteadySpectra / 2));
            steadyShares(powers, shares);
        });
}

} // namespace wirenote
