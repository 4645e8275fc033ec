#include "hearing/sound_spans.h"

#include "base/best_path.h"
#include "signal/talk_meter.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

constexpr double kOfItsOwn = 0.13; // of its odds a frame says so much that its neighbours do not
constexpr double kChange = 4.0;
constexpr double kOverOfItsOwn = 0.1;
constexpr double kOverChange = 6.0;
// Odds from which on it is said that somebody talks over playing: …
constexpr double kOverDoubt = -0.5; // … where much is said without playing in the same sound, …
constexpr double kSomeDoubt = 0.5;  // … where it may be a count-in, …
constexpr double kUnheardDoubt = 3.0; // … and where nobody talks by themselves.
constexpr double kMuchTalk_s = 4.0;
constexpr double kSomeTalk_s = 1.0;
constexpr double kBreath_s = 0.8; // a pause in talk or playing is no longer
constexpr double kFade_s = 0.03;

// Frame by frame.
enum State : std::size_t { Playing, Talking };

std::vector<std::size_t> statesOf(const TalkFrames& frames) {
    const auto own = [&frames](std::size_t i) {
        const double odds = frames.sounds[i] ? kOfItsOwn * talkOdds(frames.figures[i]) : 0.0;
        return std::vector<double>{0.5 * odds, -0.5 * odds};
    };
    const auto steps = [](std::size_t, StepCosts& costs) {
        costs.fill(2, 2, [](std::size_t i, std::size_t j) { return i == j ? 0.0 : kChange; });
    };
    return bestPath(frames.figures.size(), own, steps);
}

// Within what is not talk: whether somebody talks over it. The likeliest way through, where a
// change costs more than a syllable tells. Whoever talks over playing talks between it too; where
// nobody does, it is rather a sound the network does not know.
std::vector<std::size_t> overStates(const TalkFrames& frames,
                                    const std::vector<std::size_t>& states) {
    const auto talking = static_cast<double>(std::ranges::count(states, std::size_t{Talking}));
    const double talking_s = talking * frames.hop_s;
    const double doubt = talking_s >= kMuchTalk_s   ? kOverDoubt
                         : talking_s >= kSomeTalk_s ? kSomeDoubt
                                                    : kUnheardDoubt;
    const auto own = [&](std::size_t i) {
        const bool counts = frames.sounds[i] && states[i] == Playing;
        const double odds =
            counts ? kOverOfItsOwn * (talkOverOdds(frames.figures[i]) - doubt) : 0.0;
        return std::vector<double>{0.5 * odds, -0.5 * odds};
    };
    const auto steps = [](std::size_t, StepCosts& costs) {
        costs.fill(2, 2, [](std::size_t i, std::size_t j) { return i == j ? 0.0 : kOverChange; });
    };
    return bestPath(frames.figures.size(), own, steps);
}

double oddsOf(SoundKind kind, const TalkFigures& figures) {
    return kind == SoundKind::Talk              ? talkOdds(figures)
           : kind == SoundKind::TalkOverPlaying ? talkOverOdds(figures)
                                                : -talkOdds(figures);
}

// How likely a span is what it is called: by the mean of its moments.
double believed(const TalkFrames& frames, std::size_t from, std::size_t to, SoundKind kind) {
    double sum = 0.0;
    double count = 1e-9;
    for (std::size_t i = from; i < to; ++i)
        if (frames.sounds[i]) {
            sum += oddsOf(kind, frames.figures[i]);
            count += 1.0;
        }
    return 1.0 / (1.0 + std::exp(-sum / count));
}

} // namespace

Result<std::vector<SoundSpan>> soundSpans(SoundView sound, const JobControl& job) {
    const auto frames = talkFrames(sound, job);
    if (!frames)
        return frames.error();
    std::vector<SoundSpan> spans;
    const std::size_t count = frames->figures.size();
    if (count == 0)
        return spans;
    const auto states = statesOf(*frames);
    const auto breath = static_cast<std::size_t>(kBreath_s / frames->hop_s);
    std::vector<SoundKind> kinds;
    const auto over = overStates(*frames, states);
    for (std::size_t i = 0; i < count; ++i)
        kinds.push_back(states[i] == Talking ? SoundKind::Talk
                        : over[i] != 0       ? SoundKind::TalkOverPlaying
                                             : SoundKind::Playing);
    for (std::size_t i = 0; i < count;) {
        std::size_t end = i;
        while (end < count && !frames->sounds[end])
            ++end;
        if (end - i > breath)
            std::fill(kinds.begin() + static_cast<std::ptrdiff_t>(i),
                      kinds.begin() + static_cast<std::ptrdiff_t>(end),
                      SoundKind::Silence);
        i = std::max(end, i + 1);
    }
    for (std::size_t i = 0; i < count;) {
        std::size_t end = i;
        while (end < count && kinds[end] == kinds[i])
            ++end;
        SoundSpan span;
        span.kind = kinds[i];
        span.span = {static_cast<double>(i) * frames->hop_s,
                     end == count ? sound.length_s() : static_cast<double>(end) * frames->hop_s};
        span.probability =
            span.kind == SoundKind::Silence ? 1.0 : believed(*frames, i, end, span.kind);
        spans.push_back(span);
        i = end;
    }
    return spans;
}

void muteTalk(const std::vector<SoundSpan>& spans, Sound& sound) {
    const double rate = sound.rate_hz;
    for (const SoundSpan& span : spans) {
        if (isPlayed(span.kind) || span.kind == SoundKind::Silence)
            continue;
        const auto from = static_cast<std::size_t>(std::max(0.0, span.span.start_s) * rate);
        const auto to =
            std::min(sound.samples.size(), static_cast<std::size_t>(span.span.end_s * rate));
        const double fade = kFade_s * rate;
        for (std::size_t i = from; i < to; ++i) {
            const double edge =
                std::min(static_cast<double>(i - from), static_cast<double>(to - i));
            sound.samples[i] *= static_cast<float>(std::max(0.0, 1.0 - edge / fade));
        }
    }
}

} // namespace wirenote
