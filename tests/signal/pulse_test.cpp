#include "signal/pulse.h"
#include "support/tones.h"

#include <cmath>
#include <gtest/gtest.h>

namespace wirenote {
namespace {

constexpr double kRate = 22050.0;

FluxTrack fluxOfBeats(double bpm, double drift_per_beat) {
    Sound sound = test::silence(24.0, kRate);
    double t = 0.5;
    double period = 60.0 / bpm;
    for (int i = 0; t < 23.0; ++i) {
        test::addTone(sound, {t, 0.15, 196.0 + 30.0 * (i % 4), 0.4});
        period *= 1.0 + drift_per_beat;
        t += period;
    }
    test::addNoise(sound, 0.0005);
    return *spectralFlux(sound.view(), {}, {});
}

class EvenBeats : public ::testing::TestWithParam<double> {};
TEST_P(EvenBeats, TempoIsFoundWithinOnePerCent) {
    const double bpm = GetParam();
    const Pulse pulse = trackPulse(fluxOfBeats(bpm, 0.0), {});
    EXPECT_NEAR(pulse.tempo_bpm, bpm, 0.01 * bpm);
    int hit = 0;
    for (double t = 0.5; t < 23.0; t += 60.0 / bpm)
        for (const double beat : pulse.beats_s)
            if (std::abs(beat - t) < 0.03) {
                ++hit;
                break;
            }
    EXPECT_GE(hit, static_cast<int>(0.95 * 22.5 * bpm / 60.0));
}
INSTANTIATE_TEST_SUITE_P(Tempi, EvenBeats, ::testing::Values(72.0, 92.0, 104.0, 120.0));

TEST(Pulse, FollowsATempoThatSlows) {
    const Pulse pulse = trackPulse(fluxOfBeats(110.0, 0.002), {});
    ASSERT_GT(pulse.beats_s.size(), 20U);
    const double first = pulse.beats_s[2] - pulse.beats_s[1];
    const double last =
        pulse.beats_s[pulse.beats_s.size() - 2] - pulse.beats_s[pulse.beats_s.size() - 3];
    EXPECT_GT(last, 1.03 * first);
}

TEST(Pulse, AGivenTempoIsKept) {
    PulseParameters p;
    p.tempo_bpm = 52.0;
    EXPECT_DOUBLE_EQ(trackPulse(fluxOfBeats(104.0, 0.0), p).tempo_bpm, 52.0);
}

TEST(Pulse, SilenceHasNone) {
    const Sound sound = test::silence(5.0, kRate);
    EXPECT_TRUE(trackPulse(*spectralFlux(sound.view(), {}, {}), {}).beats_s.empty());
}

} // namespace
} // namespace wirenote
