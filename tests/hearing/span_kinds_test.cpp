// Talk, noise and counting in, told apart in a stretch that is not playing.
#include "hearing/span_kinds.h"

#include "hearing/melody.h"
#include "music/pitch.h"
#include "support/tones.h"
#include "support/voices.h"

#include <algorithm>
#include <gtest/gtest.h>
#include <random>

namespace wirenote {
namespace {

// SIMULATED: many hands clapping, each at its own speed.
void addApplause(Sound& sound, double start_s, double end_s) {
    std::mt19937 random(4);
    std::uniform_real_distribution<double> chance(-1.0, 1.0);
    for (int hand = 0; hand < 40; ++hand)
        for (double t = start_s + 0.2 * std::abs(chance(random)); t < end_s;
             t += 0.27 + 0.06 * chance(random)) {
            const auto first = static_cast<std::size_t>(t * sound.rate_hz);
            for (std::size_t i = 0; i < 250 && first + i < sound.samples.size(); ++i)
                sound.samples[first + i] += static_cast<float>(
                    0.05 * chance(random) * std::exp(-static_cast<double>(i) / 60.0));
        }
}

void addPlaying(Sound& sound, double start_s, double end_s) {
    for (double t = start_s; t < end_s; t += 0.25)
        test::addTone(sound, {.start_s = t, .length_s = 0.24, .f0_hz = hzFromMidi(57)});
}

std::vector<SoundSpan> named(const Sound& sound, std::vector<SoundSpan> spans) {
    EXPECT_TRUE(nameTalk(sound.view(), spans, {}).ok());
    return spans;
}

double called(const std::vector<SoundSpan>& spans, SoundKind kind) {
    double sum_s = 0.0;
    for (const SoundSpan& one : spans)
        sum_s += one.kind == kind ? one.span.length_s() : 0.0;
    return sum_s;
}

SoundSpan talk(double from_s, double to_s) {
    return {{from_s, to_s}, SoundKind::Talk, 0.9, Basis::Heard};
}
SoundSpan playing(double from_s, double to_s) {
    return {{from_s, to_s}, SoundKind::Playing, 0.9, Basis::Heard};
}

TEST(SpanKinds, ApplauseIsNoiseAndTheAnnouncementAfterItIsTalk) {
    Sound sound = test::silence(14.0, kAnalysisRateHz);
    addApplause(sound, 0.0, 6.0);
    test::addTalk(sound, 6.5, 14.0);
    const auto spans = named(sound, {talk(0.0, 14.0)});
    EXPECT_NEAR(called(spans, SoundKind::Noise), 6.25, 0.7);
    EXPECT_NEAR(called(spans, SoundKind::Talk), 7.75, 0.7);
    EXPECT_EQ(spans.front().kind, SoundKind::Noise);
}

TEST(SpanKinds, TalkStaysTalk) {
    for (unsigned voice = 1; voice < 6; ++voice) {
        Sound sound = test::silence(16.0, kAnalysisRateHz);
        test::addTalk(sound, 0.0, 10.0, voice);
        addPlaying(sound, 10.5, 16.0);
        const auto spans = named(sound, {talk(0.0, 10.2), playing(10.2, 16.0)});
        EXPECT_DOUBLE_EQ(called(spans, SoundKind::Talk), 10.2) << voice;
    }
}

TEST(SpanKinds, EvenWordsThatLeadToTheFirstNoteAreACountIn) {
    for (const double period_s : {0.6, 0.7, 0.9}) {
        Sound sound = test::silence(16.0, kAnalysisRateHz);
        test::addTalk(sound, 0.0, 3.0);
        const double first_s = 4.6;
        for (int word = 0; word < 4; ++word) { // one syllable each
            const double at_s = first_s + word * period_s;
            test::addTalk(sound, at_s, at_s + 0.05, 7);
        }
        const double begin_s = first_s + 4 * period_s;
        addPlaying(sound, begin_s, 16.0);
        const auto spans = named(sound,
                                 {talk(0.0, 3.1),
                                  SoundSpan{{3.1, 4.5}, SoundKind::Silence, 1.0, Basis::Heard},
                                  talk(4.5, begin_s - 0.05),
                                  playing(begin_s - 0.05, 16.0)});
        EXPECT_NEAR(called(spans, SoundKind::CountIn), 4 * period_s, 0.6 * period_s) << period_s;
    }
}

TEST(SpanKinds, ClicksAreACountInTooAndPlayingIsLeftAlone) {
    Sound sound = test::silence(10.0, kAnalysisRateHz);
    for (int click = 0; click < 4; ++click)
        for (std::size_t i = 0; i < 200; ++i)
            sound.samples[static_cast<std::size_t>((0.5 + 0.5 * click) * kAnalysisRateHz) + i] =
                0.4F * ((i * 7919U) % 97 < 48 ? 1.0F : -1.0F) *
                std::exp(-static_cast<float>(i) / 50.0F);
    addPlaying(sound, 2.5, 10.0);
    const auto spans = named(sound, {talk(0.3, 2.4), playing(2.4, 10.0)});
    EXPECT_DOUBLE_EQ(called(spans, SoundKind::Playing), 7.6);
    EXPECT_GT(called(spans, SoundKind::CountIn), 1.5);
}

} // namespace
} // namespace wirenote
