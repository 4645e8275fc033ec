// In which order a stroke crosses the strings, on plucks whose moments are known.
#include "hearing/strum_order.h"

#include "hearing/melody.h"
#include "music/pitch.h"
#include "support/tones.h"

#include <cmath>
#include <gtest/gtest.h>

namespace wirenote {
namespace {

constexpr double kRate = kAnalysisRateHz;

struct Crossing {
    const char* name;
    std::vector<int> midis; // lowest first
    double step_s;          // from string to string; negative: the thin strings first
};
void PrintTo(const Crossing& crossing, std::ostream* out) {
    *out << crossing.name;
}
class Crossings : public ::testing::TestWithParam<Crossing> {
  protected:
    Sound sound = test::silence(2.0, kRate);
    std::vector<StrokeNote> notes;
    std::vector<double> onsets_s;
    void strum(bool over_ringing) {
        const auto& row = GetParam();
        const auto count = static_cast<double>(row.midis.size());
        for (std::size_t i = 0; i < row.midis.size(); ++i) {
            const double rank =
                row.step_s > 0 ? static_cast<double>(i) : count - 1.0 - static_cast<double>(i);
            onsets_s.push_back(1.0 + std::abs(row.step_s) * rank);
            const double f0_hz = hzFromMidi(row.midis[i]);
            notes.push_back({f0_hz, 6e-5});
            test::addTone(sound, {onsets_s.back(), 0.9, f0_hz, 0.1, 6e-5, 1.5, 0.0, 14});
            if (over_ringing) // the same string, damped by the pick as it is struck again
                test::addTone(
                    sound,
                    {0.3, onsets_s.back() - 0.305, f0_hz * 1.0003, 0.05, 6e-5, 0.5, 0.0, 14});
        }
    }
    void expectOrder(double tolerance_s) {
        const auto order = strokeOrder(sound.view(), notes, 1.0, 1.0, 1.09);
        EXPECT_EQ(order.upward, GetParam().step_s < 0);
        EXPECT_GT(order.probability, 0.7);
        ASSERT_EQ(order.onsets_s.size(), notes.size());
        for (std::size_t i = 0; i < notes.size(); ++i)
            EXPECT_NEAR(order.onsets_s[i], onsets_s[i], tolerance_s) << i;
    }
};
INSTANTIATE_TEST_SUITE_P(Strokes,
                         Crossings,
                         ::testing::Values(Crossing{"quick_down", {50, 57, 62, 66}, 0.005},
                                           Crossing{"quick_up", {50, 57, 62, 66}, -0.005},
                                           Crossing{"slow_down", {48, 52, 55, 60, 64}, 0.011},
                                           Crossing{"slow_up", {48, 52, 55, 60, 64}, -0.011},
                                           Crossing{"six_down", {43, 47, 50, 55, 59, 67}, 0.009}),
                         [](const auto& row) { return std::string(row.param.name); });

TEST_P(Crossings, OfSilentStringsAreHeardToAFewMilliseconds) {
    strum(false);
    expectOrder(0.008);
}

TEST_P(Crossings, OfRingingStringsAreHeardToo) {
    strum(true);
    expectOrder(0.008);
}

TEST(StrumOrder, AllAtOnceIsNeitherUpNorDown) {
    Sound sound = test::silence(2.0, kRate);
    std::vector<StrokeNote> notes;
    for (const int midi : {50, 57, 62, 66}) {
        notes.push_back({hzFromMidi(midi), 6e-5});
        test::addTone(sound, {1.0, 0.9, hzFromMidi(midi), 0.1, 6e-5, 1.5, 0.0, 14});
    }
    EXPECT_LT(strokeOrder(sound.view(), notes, 1.0, 1.0, 1.09).probability, 0.75);
}

TEST(StrumOrder, ARolledChordIsFollowedToItsLastString) {
    Sound sound = test::silence(2.5, kRate);
    std::vector<StrokeNote> notes;
    const int midis[] = {48, 55, 60, 64};
    for (int i = 0; i < 4; ++i) {
        notes.push_back({hzFromMidi(midis[i]), 6e-5});
        test::addTone(sound, {1.0 + 0.02 * i, 1.2, hzFromMidi(midis[i]), 0.1, 6e-5, 1.5, 0.0, 14});
    }
    const auto order = strokeOrder(sound.view(), notes, 1.0, 1.06, 1.14);
    EXPECT_FALSE(order.upward);
    for (int i = 0; i < 4; ++i)
        EXPECT_NEAR(order.onsets_s[static_cast<std::size_t>(i)], 1.0 + 0.02 * i, 0.008);
}

} // namespace
} // namespace wirenote
