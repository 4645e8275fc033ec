#include "signal/pulse.h"
#include "support/tones.h"

#include <algorithm>
#include <aubio/aubio.h>
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

// The beats that the general-purpose library aubio hears (its default tempo tracker).
std::vector<double> aubioBeats(const Sound& sound) {
    constexpr uint_t kHop = 512;
    aubio_tempo_t* tempo =
        new_aubio_tempo("default", 1024, kHop, static_cast<uint_t>(sound.rate_hz));
    fvec_t* in = new_fvec(kHop);
    fvec_t* out = new_fvec(2);
    std::vector<double> beats;
    for (std::size_t at = 0; at + kHop <= sound.samples.size(); at += kHop) {
        std::copy_n(sound.samples.begin() + static_cast<std::ptrdiff_t>(at), kHop, in->data);
        aubio_tempo_do(tempo, in, out);
        if (out->data[0] != 0)
            beats.push_back(aubio_tempo_get_last_s(tempo));
    }
    del_fvec(in);
    del_fvec(out);
    del_aubio_tempo(tempo);
    return beats;
}

// F-measure within 70 ms, as beat trackers are compared.
double fMeasure(const std::vector<double>& truth, const std::vector<double>& beats) {
    double hits = 0.0;
    for (const double t : truth)
        hits += std::ranges::any_of(beats, [t](double b) { return std::abs(b - t) < 0.07; });
    return beats.empty() ? 0.0 : 2.0 * hits / static_cast<double>(truth.size() + beats.size());
}

// Quarters and quavers, low notes on every fourth, the tempo swelling by a tenth each way: aubio is
// the floor.
TEST(Pulse, HearsASwellingTempoBetterThanAubio) {
    for (const double bpm : {78.0, 96.0, 118.0}) {
        Sound sound = test::silence(42.0, kRate);
        std::vector<double> beats;
        double t = 0.6;
        for (int beat = 0; t < 40.0; ++beat) {
            const double step = 60.0 / bpm * (1.0 + 0.1 * std::sin(0.4 * beat));
            beats.push_back(t);
            test::addTone(sound, {t, 0.3, beat % 4 == 0 ? 98.0 : 247.0, 0.4});
            if (beat % 3 == 1)
                test::addTone(sound, {t + 0.5 * step, 0.2, 294.0, 0.3});
            t += step;
        }
        test::addNoise(sound, 0.0005);
        const auto ours = trackPulse(*spectralFlux(sound.view(), {}, {}), {}).beats_s;
        EXPECT_GE(fMeasure(beats, ours), 0.95) << bpm;
        EXPECT_GE(fMeasure(beats, ours), fMeasure(beats, aubioBeats(sound))) << bpm;
    }
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
