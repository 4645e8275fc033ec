#include "hearing/span_kinds.h"

#include "base/best_path.h"
#include "signal/spectral_flux.h"
#include "signal/yin.h"

#include <algorithm>
#include <cmath>
#include <optional>

namespace wirenote {
namespace {

SoundView partOf(SoundView sound, TimeRange span) {
    const auto at = [&sound](double s) {
        return static_cast<std::size_t>(
            std::clamp(s * sound.rate_hz, 0.0, static_cast<double>(sound.samples.size())));
    };
    return {sound.samples.subspan(at(span.start_s), at(span.end_s) - at(span.start_s)),
            sound.rate_hz};
}

// Half a second of talk without a voiced sound is rare; noise never has any.
constexpr double kFrame_s = 0.02;
constexpr float kVoiced = 0.7F;     // clarity
constexpr double kSaysTalk = 1.0;   // a voiced frame, as odds
constexpr double kSaysNoise = 0.15; // … and one that is not
constexpr double kChange = 5.0;
constexpr double kNoise_s = 0.8; // at least
constexpr double kAudible_db = -60.0;

double level_db(SoundView sound, double from_s, double to_s) {
    const SoundView part = partOf(sound, {from_s, to_s});
    double power = 1e-12;
    for (const float sample : part.samples)
        power += static_cast<double>(sample) * sample;
    return 10.0 *
           std::log10(power / std::max<double>(1.0, static_cast<double>(part.samples.size())));
}

// Where a span of talk is noise.
Result<std::vector<TimeRange>> noiseIn(SoundView sound, TimeRange span, const JobControl& job) {
    std::vector<TimeRange> noise;
    if (span.length_s() < kNoise_s)
        return noise;
    YinParameters with;
    with.hop_s = kFrame_s;
    with.highest_hz = 500.0; // of a voice
    with.most = 1;
    const auto pitch = yinCandidates(partOf(sound, span), with, job);
    if (!pitch)
        return pitch.error();
    const auto own = [&](std::size_t i) {
        const double at_s = span.start_s + pitch->first_s + static_cast<double>(i) * pitch->hop_s;
        if (level_db(sound, at_s - kFrame_s, at_s + kFrame_s) < kAudible_db)
            return std::vector<double>{0.0, 0.0};
        const auto& found = pitch->frames[i];
        const bool voiced = !found.empty() && found.front().clarity >= kVoiced;
        return voiced ? std::vector<double>{0.0, kSaysTalk} : std::vector<double>{kSaysNoise, 0.0};
    };
    const auto steps = [](std::size_t, StepCosts& costs) {
        costs.fill(2, 2, [](std::size_t i, std::size_t j) { return i == j ? 0.0 : kChange; });
    };
    const auto states = bestPath(pitch->frames.size(), own, steps);
    const auto edge = [&](std::size_t i) {
        return i == 0 ? span.start_s
               : i == states.size()
                   ? span.end_s
                   : span.start_s + pitch->first_s + static_cast<double>(i) * pitch->hop_s;
    };
    for (std::size_t i = 0; i < states.size();) {
        std::size_t end = i;
        while (end < states.size() && states[end] == states[i])
            ++end;
        if (states[i] == 1 && edge(end) - edge(i) >= kNoise_s)
            noise.push_back({edge(i), edge(end)});
        i = end;
    }
    return noise;
}

constexpr double kLongestCount_s = 7.0;
constexpr double kFastest_s = 0.28; // from count to count
constexpr double kSlowest_s = 1.2;
constexpr double kEven = 0.1;       // of that: how exactly people count
constexpr int kCounts = 3;          // at least
constexpr double kWord = 0.35;      // strength of a word's beginning
constexpr double kBetween = 0.6;    // what one more beginning takes away of …
constexpr double kLeastCount = 2.0; // … so many counts
constexpr double kBreath_s = 0.35;  // talk so short before a count belongs to it

// Evenly spaced beginnings that lead to `to_s`, with hardly anything between.
struct Count {
    double begins_s = 0.0;
    double score = kLeastCount; // in counts
};

// Beginnings with this period, one after the other backwards from `to_s`; as many as score best.
std::optional<Count>
countBefore(const std::vector<OnsetPeak>& peaks, double from_s, double to_s, double period) {
    constexpr int kMost = 8;
    std::optional<Count> best;
    double off = 0.0;
    int between = 0;
    for (int counts = 1; counts <= kMost; ++counts) {
        const double want_s = to_s - period * counts;
        if (want_s < from_s - kEven * period)
            break;
        double nearest = kEven * period;
        bool there = false;
        for (const OnsetPeak& peak : peaks) {
            const double away = peak.time_s - want_s;
            if (std::abs(away) < nearest) {
                nearest = std::abs(away);
                there = true;
            }
            // A word may have a second beginning, talk has many.
            between += away > 2.0 * kEven * period && away < (1.0 - 2.0 * kEven) * period ? 1 : 0;
        }
        if (!there)
            break;
        off += nearest / period;
        const double score = counts - kBetween * between - 10.0 * off / counts;
        if (counts >= kCounts && score > (best ? best->score : kLeastCount))
            best = Count{want_s - kEven * period, score};
    }
    return best;
}

std::optional<Count> countBefore(const std::vector<OnsetPeak>& peaks, double from_s, double to_s) {
    std::optional<Count> best;
    for (double period = kFastest_s; period <= kSlowest_s; period *= 1.02) {
        const auto count = countBefore(peaks, from_s, to_s, period);
        if (count && (!best || count->score > best->score))
            best = count;
    }
    return best;
}

// The count-in at the end of what leads to the playing at `begin_s`.
Result<std::optional<TimeRange>>
countIn(SoundView sound, TimeRange talk, double begin_s, const JobControl& job) {
    const double from_s = std::max({0.0, talk.start_s - 0.1, begin_s - kLongestCount_s});
    const auto flux = spectralFlux(partOf(sound, {from_s, begin_s + 1.0}), {}, job);
    if (!flux)
        return flux.error();
    std::vector<OnsetPeak> peaks = pickOnsets(*flux, PeakParameters{});
    std::erase_if(peaks, [](const OnsetPeak& p) { return p.strength < kWord; });
    for (OnsetPeak& peak : peaks)
        peak.time_s += from_s;
    // The first attack of the playing is among the first few about its border.
    constexpr int kFirst = 3;
    std::optional<Count> best;
    int tried = 0;
    for (std::size_t i = 0; i < peaks.size() && tried < kFirst; ++i) {
        if (peaks[i].time_s < begin_s - 0.15)
            continue;
        ++tried;
        const std::vector<OnsetPeak> before(peaks.begin(),
                                            peaks.begin() + static_cast<std::ptrdiff_t>(i));
        const auto count = countBefore(before, talk.start_s, peaks[i].time_s);
        if (count && (!best || count->score > best->score))
            best = count;
    }
    if (!best)
        return std::optional<TimeRange>{};
    const bool all = best->begins_s < talk.start_s + kBreath_s;
    return std::optional<TimeRange>{TimeRange{all ? talk.start_s : best->begins_s, talk.end_s}};
}

} // namespace

Status nameTalk(SoundView sound, std::vector<SoundSpan>& spans, const JobControl& job) {
    JobControl quiet;
    quiet.cancel = job.cancel;
    const std::vector<SoundSpan> heard = spans;
    for (std::size_t i = 0; i < heard.size(); ++i) {
        if (heard[i].kind != SoundKind::Talk)
            continue;
        const auto noise = noiseIn(sound, heard[i].span, quiet);
        if (!noise)
            return noise.error();
        for (const TimeRange& one : *noise)
            putSpan(spans, {one, SoundKind::Noise, heard[i].probability, Basis::Heard});
        std::size_t next = i + 1;
        while (next < heard.size() && heard[next].kind == SoundKind::Silence)
            ++next;
        if (next == heard.size() || !isPlayed(heard[next].kind) ||
            heard[next].span.start_s - heard[i].span.end_s > kSlowest_s)
            continue;
        const auto count = countIn(sound, heard[i].span, heard[next].span.start_s, quiet);
        if (!count)
            return count.error();
        if (*count)
            putSpan(spans, {**count, SoundKind::CountIn, heard[i].probability, Basis::Heard});
    }
    return {};
}

} // namespace wirenote
