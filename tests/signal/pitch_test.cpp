#include "music/pitch.h"
#include "signal/partials.h"
#include "signal/tuning_reference.h"
#include "signal/yin.h"
#include "support/tones.h"

#include <algorithm>
#include <aubio/aubio.h>
#include <gtest/gtest.h>

namespace wirenote {
namespace {

constexpr double kRate = 22050.0;

double medianPitchHz(const PitchCandidates& track) {
    std::vector<float> best;
    for (const auto& frame : track.frames)
        if (!frame.empty())
            best.push_back(frame.front().f0_hz);
    std::sort(best.begin(), best.end());
    return best.empty() ? 0.0 : best[best.size() / 2];
}

// The general-purpose library aubio (its YIN in the time domain) on the same tone.
double aubioPitchHz(const Sound& sound) {
    constexpr uint_t kHop = 256;
    aubio_pitch_t* pitch = new_aubio_pitch("yin", 4096, kHop, static_cast<uint_t>(sound.rate_hz));
    fvec_t* in = new_fvec(kHop);
    fvec_t* out = new_fvec(1);
    std::vector<double> found;
    for (std::size_t at = 4096; at + kHop < sound.samples.size() - 4096; at += kHop) {
        for (uint_t i = 0; i < kHop; ++i)
            in->data[i] = sound.samples[at + i];
        aubio_pitch_do(pitch, in, out);
        if (out->data[0] > 20.0F && at > 8192)
            found.push_back(out->data[0]);
    }
    del_fvec(in);
    del_fvec(out);
    del_aubio_pitch(pitch);
    std::sort(found.begin(), found.end());
    return found.empty() ? 0.0 : found[found.size() / 2];
}

class SteadyTone : public ::testing::TestWithParam<int> {};
TEST_P(SteadyTone, IsWithinFiveCentsOfAubioAndTwoOfTheTruth) {
    const double f0 = hzFromMidi(GetParam());
    Sound sound = test::silence(1.5, kRate);
    test::addTone(sound, {0.0, 1.5, f0, 0.4, 0.0, 0.0, 0.0, 6});
    YinParameters p;
    p.lowest_hz = 38.0;
    const auto track = yinCandidates(sound.view(), p, {});
    ASSERT_TRUE(track.ok());
    const double ours = medianPitchHz(*track);
    EXPECT_NEAR(centsBetween(f0, ours), 0.0, 2.0);
    EXPECT_NEAR(centsBetween(aubioPitchHz(sound), ours), 0.0, 5.0);
}
INSTANTIATE_TEST_SUITE_P(FromBassToHighGuitar,
                         SteadyTone,
                         ::testing::Values(31, 40, 45, 52, 59, 64, 69, 76, 81));

TEST(Yin, SilenceAndNoiseHaveNoPitch) {
    Sound sound = test::silence(0.5, kRate);
    auto track = yinCandidates(sound.view(), {}, {});
    ASSERT_TRUE(track.ok());
    for (const auto& frame : track->frames)
        EXPECT_TRUE(frame.empty());
    test::addNoise(sound, 0.2);
    track = yinCandidates(sound.view(), {}, {});
    std::size_t clear = 0;
    for (const auto& frame : track->frames)
        clear += !frame.empty() && frame.front().clarity > 0.7F ? 1 : 0;
    EXPECT_LT(clear, track->frames.size() / 20);
}

TEST(Yin, StopsWhenCancelled) {
    const Sound sound = test::silence(2.0, kRate);
    const std::atomic<bool> cancel{true};
    JobControl job;
    job.cancel = &cancel;
    const auto track = yinCandidates(sound.view(), {}, job);
    ASSERT_FALSE(track.ok());
    EXPECT_EQ(track.error().kind, ErrorKind::Cancelled);
}

struct Stiff {
    double f0_hz;
    double b;
};
void PrintTo(const Stiff& s, std::ostream* out) {
    *out << s.f0_hz << " Hz, B " << s.b;
}
class StiffTone : public ::testing::TestWithParam<Stiff> {};
TEST_P(StiffTone, PartialsGiveBackFundamentalAndStiffness) {
    // The tone is built by the published law f_n = n·f0·√(1 + B·n²).
    const Stiff s = GetParam();
    Sound sound = test::silence(0.6, kRate);
    test::addTone(sound, {0.05, 0.5, s.f0_hz, 0.4, s.b, 1.0, 0.0, 12});
    test::addNoise(sound, 0.001);
    PartialMeter meter(sound.view());
    const PartialFit fit = meter.measure({0.1, 0.5}, s.f0_hz * 1.004); // a guess 7 cents off
    EXPECT_NEAR(centsBetween(s.f0_hz, fit.f0_hz), 0.0, 1.0);
    EXPECT_NEAR(fit.stiffness, s.b, 0.15 * s.b + 2e-6);
    EXPECT_GE(fit.partials, 6);
}
INSTANTIATE_TEST_SUITE_P(GuitarStrings,
                         StiffTone,
                         ::testing::Values(Stiff{110.0, 6e-5},
                                           Stiff{196.0, 1.2e-4},
                                           Stiff{246.9, 4e-5},
                                           Stiff{329.6, 2e-5},
                                           Stiff{440.0, 3e-4}));

TEST(PartialMeter, SilenceHasNoPartials) {
    const Sound sound = test::silence(0.5, kRate);
    PartialMeter meter(sound.view());
    EXPECT_LT(meter.measure({0.1, 0.4}, 220.0).partials, 3);
}

TEST(TuningReference, IsFoundAcrossTheSemitoneBorder) {
    for (const double cents : {-45.0, -14.0, 0.0, 7.9, 49.0}) {
        std::vector<WeightedPitch> pitches;
        for (const int midi : {52, 55, 59, 64, 67, 71})
            pitches.push_back({midi + cents / 100.0 + 0.01 * (midi % 3 - 1), 1.0});
        const ReferenceEstimate estimate = estimateReference(pitches);
        EXPECT_NEAR(estimate.cents, cents, 0.5);
        EXPECT_LT(estimate.spread_cents, 2.0);
        EXPECT_GT(estimate.certainty, 0.95);
    }
    EXPECT_EQ(estimateReference({}).certainty, 0.0);
}

} // namespace
} // namespace wirenote
