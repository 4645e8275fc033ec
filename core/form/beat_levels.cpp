#include "form/beat_levels.h"

#include "base/interpolate.h"
#include "base/small_network.h"
#include "form/beat_weights.h"
#include "form/note_matching.h"

#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <numbers>
#include <numeric>
#include <span>

namespace wirenote {
namespace {

constexpr std::size_t kFewestStrokes = 8;
constexpr std::size_t kMostStrokes = 600;
constexpr std::size_t kFewestBeats = 4;
constexpr double kSlowest_bpm = 38.0;
constexpr double kFastest_bpm = 240.0;
constexpr double kOnBeat_s = 0.045; // how far from its beat a stroke may fall
constexpr double kAgain_s = 0.06;   // … and from where it comes again
constexpr std::size_t kReach = 70;  // strokes: what comes later is not compared
constexpr double kHarmony_s = 1.5;  // sounds together before and after a change
constexpr double kMiddle_bpm = 105.0;

// Working figures (decision 0031).
constexpr double kShaky_s = 0.02;
constexpr double kElsewhere = 0.05;
constexpr double kSaysMost = 24.0; // strokes: of one rhythm they say the same again and again
struct Division {
    double at; // of the beat
    double share;
};
constexpr std::array<Division, 6> kInHalves = {
    {{0.0, 0.50}, {0.5, 0.26}, {0.25, 0.06}, {0.75, 0.06}, {1.0 / 3.0, 0.03}, {2.0 / 3.0, 0.04}}};
constexpr std::array<Division, 6> kInThirds = {{{0.0, 0.42},
                                                {1.0 / 3.0, 0.20},
                                                {2.0 / 3.0, 0.22},
                                                {1.0 / 6.0, 0.02},
                                                {0.5, 0.03},
                                                {5.0 / 6.0, 0.03}}};

constexpr std::array<Division, 6> kSwung = {{{0.0, 0.52},
                                             {2.0 / 3.0, 0.26},
                                             {0.62, 0.08},
                                             {1.0 / 3.0, 0.05},
                                             {0.5, 0.03},
                                             {5.0 / 6.0, 0.02}}};

std::span<const Division> divisionsOf(BeatFeel feel) {
    return feel == BeatFeel::Halves   ? std::span(kInHalves)
           : feel == BeatFeel::Thirds ? std::span(kInThirds)
                                      : std::span(kSwung);
}

std::vector<double> standardised(std::vector<double> values) {
    double mean = 0.0;
    for (const double v : values)
        mean += v / static_cast<double>(values.size());
    double variance = 0.0;
    for (const double v : values)
        variance += (v - mean) * (v - mean) / static_cast<double>(values.size());
    const double sd = std::sqrt(variance);
    for (double& v : values)
        v = sd > 1e-6 ? (v - mean) / sd : 0.0;
    return values;
}

// What begins when, and what about it is of the same kind everywhere: all standardised.
struct Strokes {
    std::vector<double> at_s;
    std::vector<std::vector<int>> pitches; // rising
    std::vector<double> low;               // how high the lowest of each is
    std::vector<double> full;              // how many strings
    std::vector<double> wait;              // logarithm of the time to the next
    std::vector<double> change;            // of harmony
    double usual_gap_s = 0.5;              // from one to the next: the middle of all …
    double short_gap_s = 0.5;              // … and what a tenth of them is shorter than
    double height = 0.0;                   // the mean of the lowest, octaves from middle C
    double strings = 0.0;                  // logarithm of how many there are of each, on average

    explicit Strokes(const std::vector<Note>& notes) {
        std::vector<PlayedNote> played;
        for (const Note& note : notes)
            if (!note.has(Technique::GhostStroke))
                played.push_back({note.onset_s(), note.offset_s(), note.midi()});
        std::vector<double> lowest;
        std::vector<double> strings_of;
        for (const PlayedMoment& moment : momentsOf(played)) {
            if (at_s.size() >= kMostStrokes)
                break;
            at_s.push_back(moment.at_s);
            auto& of_it = pitches.emplace_back();
            for (const PlayedNote& note : moment.notes)
                if (of_it.empty() || of_it.back() != note.midi)
                    of_it.push_back(note.midi);
            lowest.push_back(of_it.front());
            strings_of.push_back(static_cast<double>(moment.notes.size()));
        }
        if (at_s.size() < kFewestStrokes)
            return;
        gaps();
        height = (mean(lowest) - 60.0) / 12.0;
        strings = std::log2(mean(strings_of));
        low = standardised(lowest);
        full = standardised(strings_of);
        wait = standardised(waits());
        change = standardised(changes());
    }

  private:
    static double mean(const std::vector<double>& values) {
        return std::accumulate(values.begin(), values.end(), 0.0) /
               static_cast<double>(values.size());
    }

    void gaps() {
        constexpr double kShortest_s = 0.05, kLongest_s = 2.0;
        std::vector<double> sorted;
        for (std::size_t i = 0; i + 1 < at_s.size(); ++i)
            sorted.push_back(std::clamp(at_s[i + 1] - at_s[i], kShortest_s, kLongest_s));
        std::ranges::sort(sorted);
        usual_gap_s = sorted[sorted.size() / 2];
        short_gap_s = sorted[sorted.size() / 10];
    }

    std::vector<double> waits() const {
        std::vector<double> gaps;
        for (std::size_t i = 0; i + 1 < at_s.size(); ++i)
            gaps.push_back(at_s[i + 1] - at_s[i]);
        std::vector<double> sorted = gaps;
        std::ranges::sort(sorted);
        gaps.push_back(sorted[sorted.size() / 2]);
        for (double& gap : gaps)
            gap = std::log(std::clamp(gap, 0.05, 2.0));
        return gaps;
    }

    std::vector<double> changes() const {
        std::vector<double> novel;
        for (std::size_t i = 0; i < at_s.size(); ++i) {
            std::array<double, 12> before{};
            std::array<double, 12> after{};
            const double border_s = at_s[i] - 0.03;
            const auto take = [&](std::size_t j) {
                if (std::abs(at_s[j] - border_s) >= kHarmony_s)
                    return false;
                for (const int midi : pitches[j])
                    (at_s[j] < border_s ? before : after)[static_cast<std::size_t>(midi % 12)] +=
                        1.0;
                return true;
            };
            for (std::size_t j = i; j-- > 0 && take(j);) {
            }
            for (std::size_t j = i; j < at_s.size() && take(j); ++j) {
            }
            double both = 0.0;
            double one = 0.0;
            double other = 0.0;
            for (std::size_t p = 0; p < 12; ++p) {
                both += before[p] * after[p];
                one += before[p] * before[p];
                other += after[p] * after[p];
            }
            novel.push_back(one > 0.0 && other > 0.0 ? 1.0 - both / std::sqrt(one * other) : 0.0);
        }
        return novel;
    }
};

// The share of pitches that both have.
double inCommon(const std::vector<int>& a, const std::vector<int>& b) {
    std::size_t both = 0;
    for (std::size_t i = 0, j = 0; i < a.size() && j < b.size();) {
        both += a[i] == b[j] ? 1 : 0;
        const bool step_a = a[i] <= b[j];
        const bool step_b = b[j] <= a[i];
        i += step_a ? 1 : 0;
        j += step_b ? 1 : 0;
    }
    return static_cast<double>(both) / static_cast<double>(a.size() + b.size() - both);
}

// One possibility, measured.
class Measuring {
  public:
    // `at`: the strokes in its beats.
    Measuring(const Strokes& strokes, std::vector<double> at, double beat_s, BeatFeel feel)
        : m_strokes(strokes), m_at(std::move(at)), m_beat_s(beat_s), m_feel(feel) {
        for (const double x : m_at) {
            const double part = x - std::floor(x + 1e-9);
            m_part.push_back(part);
            m_on.push_back(std::min(part, 1.0 - part) < kOnBeat_s / beat_s);
        }
    }

    std::array<double, kBeatFigures> figures() const {
        std::array<double, kBeatFigures> f{};
        std::size_t k = 0;
        const auto count = static_cast<double>(m_at.size());
        f[k++] = fit() * std::min(kSaysMost, count) / kSaysMost;
        f[k++] = -onAgainstOff(m_strokes.low);
        f[k++] = onAgainstOff(m_strokes.full);
        f[k++] = onAgainstOff(m_strokes.wait);
        f[k++] = onAgainstOff(m_strokes.change);
        std::array<double, 3> elsewhere{};
        constexpr std::array<double, 7> kElse = {0.75, 1.25, 1.5, 2.5, 2.0 / 3.0, 4.0 / 3.0, 1.75};
        for (const double lag : kElse)
            for (std::size_t i = 0; i < 3; ++i)
                elsewhere[i] += again(lag)[i] / kElse.size();
        const auto one = again(1.0);
        const auto two = again(2.0);
        const auto three = again(3.0);
        const auto four = again(4.0);
        for (std::size_t i = 0; i < 3; ++i)
            f[k++] = one[i] - elsewhere[i];
        for (std::size_t i = 0; i < 3; ++i)
            f[k++] = two[i] - elsewhere[i];
        for (std::size_t i = 0; i < 3; ++i)
            f[k++] = std::max(three[i], four[i]) - elsewhere[i];
        const double octaves = std::log2(60.0 / m_beat_s / kMiddle_bpm);
        f[k++] = octaves;
        f[k++] = octaves * octaves;
        const double beats = std::max(1.0, m_at.back() - m_at.front());
        const double density = std::log2(count / beats);
        f[k++] = density;
        f[k++] = density * density;
        f[k++] = static_cast<double>(struckBeats()) / (m_at.back() - m_at.front() + 1.0);
        f[k++] = m_feel == BeatFeel::Thirds ? 1.0 : 0.0;
        f[k++] = m_feel == BeatFeel::Swung ? 1.0 : 0.0;
        f[k++] = m_on.front() ? 1.0 : 0.0;
        f[k++] = std::abs(m_part.front() - 0.5) < kOnBeat_s / m_beat_s ? 1.0 : 0.0;
        const auto eight = again(8.0);
        for (std::size_t i = 0; i < 3; ++i)
            f[k++] = eight[i] - elsewhere[i];
        f[k++] = changesEvery(2);
        f[k++] = changesEvery(4);
        f[k++] = std::log2(m_beat_s / m_strokes.usual_gap_s);
        f[k++] = std::log2(m_beat_s / m_strokes.short_gap_s);
        f[k++] = m_strokes.height;
        f[k++] = m_strokes.strings;
        return f;
    }

  private:
    // The mean logarithm of how likely the strokes fall where they do.
    double fit() const {
        const double peak = 1.0 / (kShaky_s * std::sqrt(2.0 * std::numbers::pi));
        double sum = 0.0;
        for (const double part : m_part) {
            double density = kElsewhere / m_beat_s;
            for (const Division& division : divisionsOf(m_feel)) {
                const double away = std::abs(part - division.at);
                const double off_s = std::min(away, 1.0 - away) * m_beat_s;
                density += division.share * peak * std::exp(-0.5 * std::pow(off_s / kShaky_s, 2));
            }
            sum += std::log(density * m_beat_s); // more beats have more places for each
        }
        return sum / static_cast<double>(m_part.size());
    }

    double onAgainstOff(const std::vector<double>& values) const {
        double on = 0.0;
        double off = 0.0;
        double count = 0.0;
        for (std::size_t i = 0; i < values.size(); ++i) {
            (m_on[i] ? on : off) += values[i];
            count += m_on[i] ? 1.0 : 0.0;
        }
        const double others = static_cast<double>(values.size()) - count;
        return count < 2.0 || others < 2.0 ? 0.0 : on / count - off / others;
    }

    // How much more the harmony changes on every so manieth beat than on the other beats, counted
    // from where it changes most.
    double changesEvery(int beats) const {
        std::vector<double> sums(static_cast<std::size_t>(beats), 0.0);
        std::vector<int> counts(sums.size(), 0);
        for (std::size_t i = 0; i < m_at.size(); ++i) {
            if (!m_on[i])
                continue;
            const auto beat = static_cast<long>(std::lround(m_at[i]));
            const auto of = static_cast<std::size_t>(((beat % beats) + beats) % beats);
            sums[of] += m_strokes.change[i];
            ++counts[of];
        }
        double most = -1e9, all = 0.0;
        int count = 0;
        for (std::size_t b = 0; b < sums.size(); ++b) {
            if (counts[b] > 1)
                most = std::max(most, sums[b] / counts[b]);
            all += sums[b];
            count += counts[b];
        }
        return most < -1e8 || count < 2 * beats ? 0.0 : most - all / count;
    }

    // Of what comes so many beats later: likeness of pitch, of height, and how often anything does.
    std::array<double, 3> again(double lag) const {
        std::array<double, 3> sums{};
        const double off = kAgain_s / m_beat_s;
        std::size_t asked = 0;
        std::size_t next = 0;
        for (std::size_t i = 0; i < m_at.size() && m_at[i] + lag <= m_at.back() + off; ++i) {
            ++asked;
            const double want = m_at[i] + lag;
            while (next < m_at.size() && m_at[next] < want)
                ++next;
            std::size_t j = std::min(next, m_at.size() - 1);
            if (j > 0 && std::abs(m_at[j - 1] - want) <= std::abs(m_at[j] - want))
                --j;
            if (std::abs(m_at[j] - want) >= off || j <= i || j - i >= kReach)
                continue;
            sums[0] += inCommon(m_strokes.pitches[i], m_strokes.pitches[j]);
            sums[1] += m_strokes.low[i] * m_strokes.low[j];
            sums[2] += 1.0;
        }
        for (double& sum : sums)
            sum = asked < 4 ? 0.0 : sum / static_cast<double>(asked);
        return sums;
    }

    int struckBeats() const {
        int beats = 0;
        double last = -1e9;
        for (std::size_t i = 0; i < m_at.size(); ++i)
            if (const double beat = std::round(m_at[i]); m_on[i] && beat != last) {
                ++beats;
                last = beat;
            }
        return beats;
    }

    const Strokes& m_strokes;
    std::vector<double> m_at;
    double m_beat_s;
    BeatFeel m_feel;
    std::vector<double> m_part;
    std::vector<bool> m_on;
};

struct Candidate {
    double per_beat;
    std::vector<double> phases;
};

const std::vector<Candidate>& candidates() {
    static const std::vector<Candidate> all = {
        {1.0, {0.0, 0.5, 0.25, 0.75}},
        {2.0, {0.0, 0.5}},
        {0.5, {0.0, 0.5, 0.25, 0.75}},
        {1.5, {0.0, 0.5, 0.25, 0.75}},
        {2.0 / 3.0, {0.0, 1.0 / 3.0, 2.0 / 3.0, 1.0 / 6.0, 0.5, 5.0 / 6.0}},
        {4.0 / 3.0, {0.0, 1.0 / 3.0, 2.0 / 3.0}},
        {0.75, {0.0, 0.25, 0.5, 0.75}},
        // Four sixteenths where five were taken for a beat, and the other way round.
        {1.25, {0.0, 0.25, 0.5, 0.75}},
        {0.8, {0.0, 0.2, 0.4, 0.6, 0.8}}};
    return all;
}

// Invented rhythms are of fewer kinds than what people play: what they teach is believed less.
constexpr double kTemper = 0.7;

double scoreOf(const std::array<double, kBeatFigures>& figures) {
    std::array<float, kBeatFigures> seen{};
    std::ranges::transform(figures, seen.begin(), [](double f) { return static_cast<float>(f); });
    return kTemper * networkOdds(seen,
                                 kBeatMeans,
                                 kBeatScatter,
                                 kBeatFirst,
                                 kBeatFirstBias,
                                 kBeatLast,
                                 kBeatLastBias);
}

} // namespace

std::vector<BeatLevel> beatLevels(const std::vector<Note>& notes,
                                  const std::vector<double>& beats_s) {
    std::vector<BeatLevel> levels;
    const Strokes strokes(notes);
    if (strokes.at_s.size() < kFewestStrokes || beats_s.size() < kFewestBeats)
        return levels;
    std::vector<double> places;
    for (const double at_s : strokes.at_s)
        places.push_back(placeAmong(beats_s, at_s));
    const double present_s =
        (beats_s.back() - beats_s.front()) / static_cast<double>(beats_s.size() - 1);
    for (const auto& [per_beat, phases] : candidates()) {
        const double beat_s = present_s / per_beat;
        if (60.0 / beat_s < kSlowest_bpm || 60.0 / beat_s > kFastest_bpm)
            continue;
        for (const double phase : phases)
            for (const BeatFeel feel : {BeatFeel::Halves, BeatFeel::Thirds, BeatFeel::Swung}) {
                std::vector<double> at;
                for (const double place : places)
                    at.push_back(place * per_beat + phase);
                BeatLevel level{per_beat, phase, feel, {}, 0.0};
                level.figures = Measuring(strokes, std::move(at), beat_s, feel).figures();
                level.score = scoreOf(level.figures);
                levels.push_back(level);
            }
    }
    return levels;
}

std::vector<double> beatsAt(const std::vector<double>& beats_s, const BeatLevel& level) {
    std::vector<double> laid;
    const double last = static_cast<double>(beats_s.size() - 1) * level.per_beat;
    for (double k = std::ceil(level.phase - 0.5 * level.per_beat - 1e-9);
         k <= last + level.phase + 1e-6;
         k += 1.0)
        if (const double t = atPlace(beats_s, (k - level.phase) / level.per_beat); t >= 0.0)
            laid.push_back(t);
    return laid;
}

} // namespace wirenote
