// What is going on when in a take.
#include "hearing/sound_spans.h"

#include "hearing/melody.h"
#include "music/pitch.h"
#include "support/tones.h"
#include "support/voices.h"

#include <gtest/gtest.h>

namespace wirenote {
namespace {

// A line of plucked notes, four a second.
void addLine(Sound& sound, double start_s, double end_s) {
    static constexpr int kLine[] = {52, 57, 55, 60, 62, 59, 64, 57};
    int k = 0;
    for (double t = start_s; t + 0.24 < end_s; t += 0.25)
        test::addTone(sound, {.start_s = t, .length_s = 0.24, .f0_hz = hzFromMidi(kLine[k++ % 8])});
}

Sound lesson() {
    Sound sound = test::silence(24.0, kAnalysisRateHz);
    test::addTalk(sound, 0.2, 6.0);
    addLine(sound, 7.5, 14.0);
    test::addTalk(sound, 14.6, 18.5, 2);
    addLine(sound, 19.0, 23.5);
    return sound;
}

std::vector<SoundSpan> spansOf(const Sound& sound) {
    const auto spans = soundSpans(sound.view(), {});
    return spans.ok() ? *spans : std::vector<SoundSpan>{};
}

double called(const std::vector<SoundSpan>& spans, SoundKind kind, TimeRange where) {
    double sum_s = 0.0;
    for (const SoundSpan& one : spans)
        if (one.kind == kind)
            sum_s += std::max(0.0,
                              std::min(one.span.end_s, where.end_s) -
                                  std::max(one.span.start_s, where.start_s));
    return sum_s / where.length_s();
}

TEST(SoundSpans, TellTalkFromPlaying) {
    const auto spans = spansOf(lesson());
    EXPECT_GT(called(spans, SoundKind::Talk, {0.3, 5.8}), 0.9);
    EXPECT_GT(called(spans, SoundKind::Playing, {7.6, 13.8}), 0.95);
    EXPECT_GT(called(spans, SoundKind::Talk, {14.9, 18.3}), 0.75);
    EXPECT_GT(called(spans, SoundKind::Playing, {19.2, 23.3}), 0.95);
    EXPECT_GT(called(spans, SoundKind::Silence, {6.3, 7.3}), 0.8);
}

TEST(SoundSpans, FollowEachOtherWithoutGaps) {
    const Sound sound = lesson();
    const auto spans = spansOf(sound);
    ASSERT_FALSE(spans.empty());
    EXPECT_EQ(spans.front().span.start_s, 0.0);
    EXPECT_NEAR(spans.back().span.end_s, sound.length_s(), 1e-9);
    for (std::size_t i = 0; i + 1 < spans.size(); ++i) {
        EXPECT_EQ(spans[i].span.end_s, spans[i + 1].span.start_s);
        EXPECT_NE(spans[i].kind, spans[i + 1].kind);
        EXPECT_GT(spans[i].probability, 0.5);
    }
}

// What glides and shakes on a string is playing all the same.
TEST(SoundSpans, BendsAndSlidesAreNotTalk) {
    Sound sound = test::silence(16.0, kAnalysisRateHz);
    for (int k = 0; k < 15; ++k)
        test::addTone(sound,
                      {.start_s = 0.3 + k,
                       .length_s = 0.95,
                       .f0_hz = hzFromMidi(57 + k % 5),
                       .vibrato_cents = 45.0});
    EXPECT_GT(called(spansOf(sound), SoundKind::Playing, {0.5, 15.0}), 0.95);
}

TEST(SoundSpans, OfNothingOrAMomentSayNothing) {
    EXPECT_TRUE(spansOf(test::silence(0.2, kAnalysisRateHz)).empty());
    for (const SoundSpan& one : spansOf(test::silence(5.0, kAnalysisRateHz)))
        EXPECT_NE(one.kind, SoundKind::Talk);
    std::atomic<bool> stop = true;
    JobControl job;
    job.cancel = &stop;
    EXPECT_EQ(soundSpans(lesson().view(), job).error().kind, ErrorKind::Cancelled);
}

TEST(SoundSpans, TalkIsMutedAndNothingElse) {
    Sound sound = lesson();
    const Sound before = sound;
    muteTalk({{{0.0, 6.0}, SoundKind::Talk, 0.9, Basis::Heard},
              {{6.0, 24.0}, SoundKind::Playing, 0.9, Basis::Heard}},
             sound);
    const auto at = [](double t) { return static_cast<std::size_t>(t * kAnalysisRateHz); };
    for (double t = 0.1; t < 5.9; t += 0.013)
        ASSERT_EQ(sound.samples[at(t)], 0.0F);
    for (double t = 6.1; t < 24.0; t += 0.013)
        ASSERT_EQ(sound.samples[at(t)], before.samples[at(t)]);
}

} // namespace
} // namespace wirenote
