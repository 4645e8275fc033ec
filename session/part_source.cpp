#include "session/part_source.h"

#include "hearing/isolation.h"
#include "music/string_physics.h"
#include "signal/fft.h"

#include <array>
#include <cmath>
#include <deque>
#include <mutex>
#include <numbers>
#include <vector>

namespace wirenote {
namespace {

constexpr int kFrame = 4096;
constexpr int kHop = kFrame / 4;
constexpr std::size_t kKept = 12; // frames, for reads that follow each other
constexpr float kScale =
    1.0F / (1.5F * static_cast<float>(kFrame)); // Hann twice, four deep, and the FFT's

// Overlap-add of masked frames; frame k begins at sample k · kHop.
class PartSource : public StereoSource {
  public:
    PartSource(std::shared_ptr<StereoSource> whole,
               NoteMask mask,
               bool without,
               TakeAlignment alignment)
        : m_whole(std::move(whole)), m_mask(std::move(mask)), m_without(without),
          m_alignment(std::move(alignment)), m_ffts{RealFft(kFrame), RealFft(kFrame)} {
        for (int i = 0; i < kFrame; ++i)
            m_window.push_back(
                static_cast<float>(0.5 - 0.5 * std::cos(2.0 * std::numbers::pi * i / kFrame)));
    }
    double rate_hz() const override { return m_whole->rate_hz(); }
    std::int64_t frames() const override { return m_whole->frames(); }

    void read(std::int64_t first_frame, std::span<float> out) override {
        const std::lock_guard lock(m_mutex);
        std::ranges::fill(out, 0.0F);
        const auto count = static_cast<std::int64_t>(out.size() / 2);
        const std::int64_t last = floorDiv(first_frame + count - 1, kHop);
        for (std::int64_t k = floorDiv(first_frame - kFrame, kHop) + 1; k <= last; ++k) {
            const std::vector<float>& made = frame(k);
            for (std::int64_t i = std::max<std::int64_t>(0, k * kHop - first_frame); i < count;
                 ++i) {
                const std::int64_t at = first_frame + i - k * kHop;
                if (at >= kFrame)
                    break;
                out[static_cast<std::size_t>(2 * i)] += made[static_cast<std::size_t>(2 * at)];
                out[static_cast<std::size_t>(2 * i + 1)] +=
                    made[static_cast<std::size_t>(2 * at + 1)];
            }
        }
    }

  private:
    struct Made {
        std::int64_t k = 0;
        std::vector<float> stereo;
    };

    static std::int64_t floorDiv(std::int64_t a, std::int64_t b) {
        return a >= 0 ? a / b : -((-a + b - 1) / b);
    }

    const std::vector<float>& frame(std::int64_t k) {
        for (const Made& made : m_made)
            if (made.k == k)
                return made.stereo;
        if (m_made.size() >= kKept)
            m_made.pop_front();
        m_made.push_back({k, make(k)});
        return m_made.back().stereo;
    }

    std::vector<float> make(std::int64_t k) {
        std::vector<float> stereo(2 * kFrame);
        m_whole->read(k * kHop, stereo);
        std::vector<float> power(kFrame / 2 + 1, 0.0F);
        for (std::size_t side = 0; side < 2; ++side) {
            for (std::size_t i = 0; i < kFrame; ++i)
                m_ffts[side].time()[i] = stereo[2 * i + side] * m_window[i];
            m_ffts[side].forward();
            for (std::size_t b = 0; b < power.size(); ++b)
                power[b] += std::norm(m_ffts[side].spectrum()[b]);
        }
        std::vector<float> share(power.size(), 0.0F);
        const double middle_s = (static_cast<double>(k * kHop) + 0.5 * kFrame) / rate_hz();
        m_mask.shares(m_alignment.toPiece({middle_s}).s, power, share);
        for (std::size_t side = 0; side < 2; ++side) {
            for (std::size_t b = 0; b < share.size(); ++b)
                m_ffts[side].spectrum()[b] *= m_without ? 1.0F - share[b] : share[b];
            m_ffts[side].inverse();
            for (std::size_t i = 0; i < kFrame; ++i)
                stereo[2 * i + side] = m_ffts[side].time()[i] * m_window[i] * kScale;
        }
        return stereo;
    }

    std::mutex m_mutex; // the player may read from one thread after another
    std::shared_ptr<StereoSource> m_whole;
    NoteMask m_mask;
    bool m_without; // what is left when the masked part is taken out
    TakeAlignment m_alignment;
    std::array<RealFft, 2> m_ffts;
    std::vector<float> m_window;
    std::deque<Made> m_made;
};

// Where a string's stiffness was not measured, what its build says.
std::vector<Note> withStiffness(const Piece& piece) {
    std::vector<Note> notes = piece.notes;
    for (std::size_t i = 0; i < notes.size(); ++i) {
        const Position place = piece.asPlayed().plans[i].position.value;
        if (!notes[i].heard().stiffness.told() && piece.instrument.hasString(place.string))
            notes[i].ownSound().stiffness = {
                std::log(stiffnessAt(
                    piece.instrument, place.string, place.fret + piece.instrument.capo)),
                1.0};
    }
    return notes;
}

} // namespace

std::shared_ptr<StereoSource> partOf(std::shared_ptr<StereoSource> whole,
                                     const Piece& piece,
                                     const Take& take,
                                     SoundPart part,
                                     NoteId note) {
    const auto at = piece.indexOf(note);
    if (!whole || part == SoundPart::All || !at)
        return whole;
    std::vector<bool> chosen(piece.notes.size(), false);
    const int string = piece.asPlayed().plans[*at].position.value.string;
    if (part == SoundPart::String && string > 0)
        for (std::size_t i = 0; i < chosen.size(); ++i)
            chosen[i] = piece.asPlayed().plans[i].position.value.string == string;
    else
        chosen[*at] = true;
    const double a4_hz =
        take.reference.a4_hz * std::exp2(static_cast<double>(take.alignment.semitones) / 12.0);
    NoteMask mask(withStiffness(piece), std::move(chosen), a4_hz, whole->rate_hz(), kFrame);
    return std::make_shared<PartSource>(
        std::move(whole), std::move(mask), part == SoundPart::AllButNote, take.alignment);
}

} // namespace wirenote
