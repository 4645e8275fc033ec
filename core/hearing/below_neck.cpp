#include "hearing/below_neck.h"

#include "music/pitch.h"
#include "signal/fft.h"
#include "signal/hann.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <optional>

namespace wirenote {
namespace {

constexpr int kFftSize = 8192;
constexpr double kWindow_s = 0.19; // tells B0 from C1 by their upper multiples
constexpr double kAfter_s = 0.02;  // the noise of the stroke is over
constexpr int kLowestMidi = 23;    // B0, the lowest string of a five-string bass
constexpr double kTop_hz = 2000.0;
// Working figures, set with all takes at hand in sight (docs/decisions/0031).
constexpr double kClear_db = 6.0;      // a multiple above what lies half way to the next
constexpr double kWeakest_db = 36.0;   // and below the strongest of all
constexpr int kFewest = 5;             // of the first six
constexpr double kOddWeaker_db = 12.0; // first and fifth against second to fourth

class LowPitch {
  public:
    explicit LowPitch(SoundView sound) : m_sound(sound), m_fft(kFftSize) {}

    std::optional<int> at(double time_s, int below_midi, double a4_hz) {
        transform(time_s + kAfter_s);
        std::optional<int> best;
        double most = 0.0;
        for (int midi = kLowestMidi; midi < below_midi; ++midi)
            if (const auto score = scoreOf(hzFromMidi(midi, a4_hz)); score && *score > most) {
                most = *score;
                best = midi;
            }
        return best;
    }

  private:
    void transform(double start_s) {
        putHann(m_sound,
                std::lround(start_s * m_sound.rate_hz),
                std::lround(kWindow_s * m_sound.rate_hz),
                m_fft.time());
        m_fft.forward();
        m_level_db.clear();
        for (const auto& bin : m_fft.spectrum())
            m_level_db.push_back(10.0F * std::log10(std::norm(bin) + 1e-12F));
        m_top_db = *std::max_element(
            m_level_db.begin(), m_level_db.begin() + static_cast<std::ptrdiff_t>(binOf(kTop_hz)));
    }

    std::size_t binOf(double hz) const {
        return static_cast<std::size_t>(std::lround(hz * kFftSize / m_sound.rate_hz));
    }

    double levelAt(double hz) const {
        const std::size_t bin = binOf(hz);
        const std::size_t reach = 0.03 * hz * kFftSize / m_sound.rate_hz < 2.0 ? 1 : 2;
        double level = -200.0;
        for (std::size_t b = bin - std::min(bin, reach); b <= bin + reach; ++b)
            level = std::max(level, static_cast<double>(m_level_db[b]));
        return level;
    }

    // How well the multiples of f0 stand there; nothing: no string sounds it.
    std::optional<double> scoreOf(double f0) const {
        constexpr std::size_t kMultiples = 6;
        std::array<double, kMultiples> level{};
        std::array<bool, kMultiples> clear{};
        for (std::size_t k = 0; k < kMultiples; ++k) {
            const double n = static_cast<double>(k) + 1.0;
            level[k] = levelAt(n * f0);
            clear[k] =
                level[k] - std::max(levelAt((n - 0.5) * f0), levelAt((n + 0.5) * f0)) > kClear_db &&
                level[k] > m_top_db - kWeakest_db;
        }
        const auto found = std::ranges::count(clear, true);
        const double odd_over_even =
            0.5 * (level[0] + level[4]) - (level[1] + level[2] + level[3]) / 3.0;
        if (found < kFewest || !clear[0] || !(clear[2] || clear[4]) ||
            odd_over_even < -kOddWeaker_db)
            return {};
        return static_cast<double>(found) + 0.1 * odd_over_even;
    }

    SoundView m_sound;
    RealFft m_fft;
    std::vector<float> m_level_db;
    float m_top_db = 0.0F;
};

} // namespace

Result<std::vector<NearMiss>> heardBelow(SoundView sound,
                                         const Instrument& instrument,
                                         double a4_hz,
                                         const std::vector<double>& attacks_s,
                                         const JobControl& job) {
    constexpr double kSure = 0.5; // as a near miss: another instrument makes it a note
    constexpr double kShown_s = 0.2;
    std::vector<NearMiss> found;
    LowPitch low(sound);
    for (const double attack_s : attacks_s) {
        if (job.cancelRequested())
            return cancelled();
        if (const auto midi = low.at(attack_s, instrument.lowestMidi(), a4_hz);
            midi && found.size() < kMaxMisses)
            found.push_back({{attack_s, attack_s + kShown_s}, *midi, kSure, {0, 0}});
    }
    return found;
}

} // namespace wirenote
