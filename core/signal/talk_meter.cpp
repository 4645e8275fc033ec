#include "signal/talk_meter.h"

#include "signal/fft.h"
#include "signal/hann.h"
#include "signal/over_weights.h"
#include "base/small_network.h"
#include "signal/talk_weights.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

constexpr int kFft = 4096;
constexpr int kHop = 1024;
constexpr double kLow_hz = 110.0; // of the axis of pitch
constexpr double kHigh_hz = 3000.0;
constexpr int kPerOctave = 48;
constexpr int kMostMoved = 6;      // steps of the axis
constexpr std::size_t kAbout = 12; // steps each way that a peak stands out from
constexpr double kBottom_hz = 70.0;
constexpr double kHiss_hz = 4000.0;
constexpr double kTop_hz = 9000.0;
constexpr std::size_t kReach = 11; // frames each way
constexpr float kQuiet_db = 35.0F;
constexpr float kGlides = 0.02F;
constexpr float kAlike = 0.5F;
constexpr float kMostStep_db = 20.0F;

using Column = std::vector<float>; // peaks over the axis of pitch

// What is seen of one moment.
struct Moment {
    float stay = 0.0F;  // likeness to the moment two frames later, unmoved …
    float later = 0.0F; // … and four frames later
    float best = 0.0F;  // the best of all moves
    float glide = 0.0F; // how much better a move is
    float hiss_db = 0.0F;
    float middle = 0.0F; // octaves
    float sharp = 0.0F;
    float level_db = -120.0F;
    float rise_db = 0.0F;
    float fall_db = 0.0F;
};

class Looks {
  public:
    explicit Looks(SoundView sound) : m_sound(sound), m_fft(kFft) {
        const double octaves = std::log2(kHigh_hz / kLow_hz);
        for (int k = 0; k < static_cast<int>(kPerOctave * octaves); ++k)
            m_places.push_back(static_cast<float>(
                kLow_hz * std::exp2(static_cast<double>(k) / kPerOctave) * kFft / sound.rate_hz));
    }

    Moment at(std::size_t frame, Column& peaks) {
        putHann(m_sound, static_cast<std::ptrdiff_t>(frame) * kHop - kFft / 2, kFft, m_fft.time());
        m_fft.forward();
        m_magnitude.clear();
        for (const auto& bin : m_fft.spectrum())
            m_magnitude.push_back(std::abs(bin));
        Moment moment;
        measure(moment);
        peaks = peaksOf(moment);
        return moment;
    }

  private:
    std::size_t binOf(double hz) const {
        return static_cast<std::size_t>(hz * kFft / m_sound.rate_hz);
    }

    void measure(Moment& moment) const {
        double low = 0.0;
        double high = 0.0;
        double weighted = 0.0;
        const std::size_t hiss = binOf(kHiss_hz);
        for (std::size_t b = binOf(kBottom_hz); b < binOf(kTop_hz); ++b) {
            const double power = static_cast<double>(m_magnitude[b]) * m_magnitude[b];
            (b < hiss ? low : high) += power;
            weighted += power * static_cast<double>(b);
        }
        const double all = low + high;
        moment.level_db = static_cast<float>(10.0 * std::log10(all + 1e-9));
        moment.hiss_db = static_cast<float>(10.0 * std::log10((high + 1e-7) / (low + 1e-6)));
        moment.middle =
            static_cast<float>(std::log2(weighted * m_sound.rate_hz / kFft / (all + 1e-9) + 50.0));
    }

    // What stands out from its surroundings on the axis of pitch.
    Column peaksOf(Moment& moment) const {
        Column root;
        for (const float place : m_places) {
            const auto bin = static_cast<std::size_t>(place);
            const float part = place - static_cast<float>(bin);
            root.push_back(
                std::sqrt(m_magnitude[bin] * (1.0F - part) + m_magnitude[bin + 1] * part));
        }
        std::vector<double> sums(1, 0.0);
        for (const float v : root)
            sums.push_back(sums.back() + v);
        Column peaks(root.size(), 0.0F);
        double peak_sum = 0.0;
        for (std::size_t i = 0; i < root.size(); ++i) {
            const std::size_t from = i - std::min(i, kAbout);
            const std::size_t to = std::min(root.size(), i + kAbout + 1);
            const double mean = (sums[to] - sums[from]) / static_cast<double>(to - from);
            peaks[i] = std::max(0.0F, root[i] - static_cast<float>(mean));
            peak_sum += peaks[i];
        }
        moment.sharp = static_cast<float>(peak_sum / (sums.back() + 1e-6));
        return peaks;
    }

    SoundView m_sound;
    RealFft m_fft;
    std::vector<float> m_places; // in bins
    std::vector<float> m_magnitude;
};

float lengthOf(const Column& peaks) {
    double power = 0.0;
    for (const float v : peaks)
        power += static_cast<double>(v) * v;
    return static_cast<float>(std::sqrt(power)) + 1e-6F;
}

// How alike two moments are when one is moved along the axis: unmoved (by a step at most), moved
// further, and the best of all.
struct Likeness {
    float stay = 0.0F;
    float moved = 0.0F;
    float best() const { return std::max(stay, moved); }
};

Likeness likeness(const Column& a, const Column& b, bool also_moved) {
    Likeness like;
    const float scale = 1.0F / (lengthOf(a) * lengthOf(b));
    const int most = also_moved ? kMostMoved : 1;
    const auto n = static_cast<int>(a.size());
    for (int move = -most; move <= most; ++move) {
        float sum = 0.0F;
        for (int i = kMostMoved; i < n - kMostMoved; ++i)
            sum += a[static_cast<std::size_t>(i)] * b[static_cast<std::size_t>(i + move)];
        float& best = std::abs(move) <= 1 ? like.stay : like.moved;
        best = std::max(best, sum * scale);
    }
    return like;
}

// Means over what sounds within reach, by sums that go along.
class Means {
  public:
    explicit Means(const std::vector<bool>& sounds) {
        for (const bool one : sounds)
            m_weights.push_back(one ? 1.0 : 1e-3);
    }

    std::vector<float> of(const std::vector<float>& values) const {
        std::vector<double> sums(1, 0.0);
        std::vector<double> weights(1, 0.0);
        for (std::size_t i = 0; i < values.size(); ++i) {
            sums.push_back(sums.back() + m_weights[i] * values[i]);
            weights.push_back(weights.back() + m_weights[i]);
        }
        std::vector<float> means;
        for (std::size_t i = 0; i < values.size(); ++i) {
            const std::size_t from = i - std::min(i, kReach);
            const std::size_t to = std::min(values.size(), i + kReach + 1);
            means.push_back(
                static_cast<float>((sums[to] - sums[from]) / (weights[to] - weights[from])));
        }
        return means;
    }

    std::vector<float> scatterOf(const std::vector<float>& values) const {
        std::vector<float> squares;
        for (const float v : values)
            squares.push_back(v * v);
        auto mean = of(values);
        auto square = of(squares);
        for (std::size_t i = 0; i < mean.size(); ++i)
            square[i] = std::sqrt(std::max(0.0F, square[i] - mean[i] * mean[i]));
        return square;
    }

  private:
    std::vector<double> m_weights;
};

void gather(const std::vector<Moment>& moments, TalkFrames& frames) {
    const Means means(frames.sounds);
    const auto column = [&moments](auto get) {
        std::vector<float> values;
        for (const Moment& moment : moments)
            values.push_back(get(moment));
        return values;
    };
    const auto stay = column([](const Moment& m) { return m.stay; });
    const auto hiss = column([](const Moment& m) { return m.hiss_db; });
    const auto middle = column([](const Moment& m) { return m.middle; });
    const auto sharp = column([](const Moment& m) { return m.sharp; });
    std::vector<float> silent;
    for (const bool sounds : frames.sounds)
        silent.push_back(sounds ? 0.0F : 1.0F);
    const std::array<std::vector<float>, kTalkFigures> all = {
        means.of(stay),
        means.scatterOf(stay),
        means.of(column([](const Moment& m) { return m.later; })),
        means.of(column([](const Moment& m) { return m.best; })),
        means.of(column([](const Moment& m) { return m.glide; })),
        means.of(column(
            [](const Moment& m) { return m.glide > kGlides && m.best > kAlike ? 1.0F : 0.0F; })),
        means.of(hiss),
        means.scatterOf(hiss),
        means.of(middle),
        means.scatterOf(middle),
        means.of(sharp),
        means.scatterOf(sharp),
        means.scatterOf(column([](const Moment& m) { return m.level_db; })),
        means.of(column([](const Moment& m) { return m.rise_db; })),
        means.of(column([](const Moment& m) { return m.fall_db; })),
        Means(std::vector<bool>(silent.size(), true)).of(silent)};
    frames.figures.resize(moments.size());
    for (std::size_t f = 0; f < kTalkFigures; ++f)
        for (std::size_t i = 0; i < moments.size(); ++i)
            frames.figures[i][f] = all[f][i];
}

} // namespace

Result<TalkFrames> talkFrames(SoundView sound, const JobControl& job) {
    TalkFrames frames;
    frames.hop_s = kHop / sound.rate_hz;
    const std::size_t count = sound.samples.size() / kHop;
    if (count < kReach)
        return frames;
    Looks looks(sound);
    std::vector<Moment> moments;
    std::array<Column, 5> recent; // by frame, round and round
    for (std::size_t i = 0; i < count; ++i) {
        if (job.cancelRequested())
            return cancelled();
        Column& now = recent[i % recent.size()];
        moments.push_back(looks.at(i, now));
        if (i >= 2) {
            const Likeness like = likeness(recent[(i - 2) % recent.size()], now, true);
            Moment& before = moments[i - 2];
            before.stay = like.stay;
            before.best = like.best();
            before.glide = std::max(0.0F, like.moved - like.stay);
        }
        if (i >= 4)
            moments[i - 4].later = likeness(recent[(i - 4) % recent.size()], now, false).stay;
        if (i >= 1) {
            const float step = moments[i].level_db - moments[i - 1].level_db;
            moments[i].rise_db = std::clamp(step, 0.0F, kMostStep_db);
            moments[i].fall_db = std::clamp(-step, 0.0F, kMostStep_db);
        }
    }
    for (const Moment& moment : moments)
        frames.level_db.push_back(moment.level_db);
    std::vector<float> sorted = frames.level_db;
    const auto loud =
        sorted.begin() + static_cast<std::ptrdiff_t>(0.95 * static_cast<double>(count));
    std::nth_element(sorted.begin(), loud, sorted.end());
    for (const float level : frames.level_db)
        frames.sounds.push_back(level > *loud - kQuiet_db);
    gather(moments, frames);
    return frames;
}

double talkOdds(const TalkFigures& figures) {
    return networkOdds(
        figures, kTalkMeans, kTalkScatter, kTalkFirst, kTalkFirstBias, kTalkLast, kTalkLastBias);
}

double talkOverOdds(const TalkFigures& figures) {
    return networkOdds(
        figures, kOverMeans, kOverScatter, kOverFirst, kOverFirstBias, kOverLast, kOverLastBias);
}

} // namespace wirenote
