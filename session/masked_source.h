// A recording with some bins of each frame taken out, as it is read.
#pragma once

#include "media/stereo_source.h"
#include "signal/fft.h"

#include <array>
#include <deque>
#include <functional>
#include <mutex>
#include <span>
#include <vector>

namespace wirenote {

constexpr int kMaskedFrame = 4096;
constexpr int kMaskedHop = kMaskedFrame / 4;

// Overlap-add of masked frames; frame k begins at sample k · kMaskedHop. The same wherever the
// reading starts.
class MaskedSource : public StereoSource {
  public:
    // The power spectrum of a frame, both sides together: kMaskedFrame / 2 + 1 bins. Valid until
    // about thirty others were asked for.
    using PowerOf = std::function<std::span<const float>(std::int64_t frame)>;
    // Writes what share of each bin of a frame stays, 0..1.
    using Shares =
        std::function<void(std::int64_t frame, const PowerOf& power_of, std::span<float> shares)>;

    MaskedSource(std::shared_ptr<StereoSource> whole, Shares shares);
    double rate_hz() const override { return m_whole->rate_hz(); }
    std::int64_t frames() const override { return m_whole->frames(); }
    void read(std::int64_t first_frame, std::span<float> out) override;

  private:
    struct Kept {
        std::int64_t k = 0;
        std::vector<float> values;
    };
    const std::vector<float>& made(std::int64_t k);
    std::span<const float> power(std::int64_t k);
    void transform(std::int64_t k); // both sides of a frame, into m_ffts
    std::vector<float> make(std::int64_t k);

    std::mutex m_mutex; // the player may read from one thread after another
    std::shared_ptr<StereoSource> m_whole;
    Shares m_shares;
    std::array<RealFft, 2> m_ffts;
    std::vector<float> m_window;
    std::deque<Kept> m_made;   // stereo frames
    std::deque<Kept> m_powers; // power spectra
};

// Without drums and knocks: what keeps its pitch (steadyShares). Strokes lose their edge with them.
std::shared_ptr<StereoSource> withoutDrums(std::shared_ptr<StereoSource> whole);

} // namespace wirenote
