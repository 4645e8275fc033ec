#include "hearing/local_tuning.h"
#include "hearing/melody.h"
#include "music/pitch.h"
#include "support/tones.h"

#include <gtest/gtest.h>

namespace wirenote {
namespace {

// A scale twice: the first at A4 = 440 Hz, the second after half a minute by so many cents higher,
// the notes spread evenly about it.
std::vector<TimedValue> twoPassages(double cents, double spread_cents) {
    std::vector<TimedValue> pitches;
    for (int passage = 0; passage < 2; ++passage)
        for (int i = 0; i < 20; ++i)
            pitches.push_back(
                {40.0 * passage + 0.5 * i,
                 55.0 + i % 8 + (passage * cents + (i % 2 == 0 ? 1 : -1) * spread_cents) / 100});
    return pitches;
}

TEST(LocalTuning, IsTheOneOfTheWholeUnlessNotesThereaboutsAgreeOnAnother) {
    const LocalTuning tuning(440.0, twoPassages(8.0, 4.0));
    EXPECT_DOUBLE_EQ(tuning.a4At(2.0), 440.0);
    EXPECT_NEAR(centsBetween(440.0, tuning.a4At(45.0)), 8.0, 1e-6);
    EXPECT_NEAR(centsBetween(440.0, tuning.a4At(1000.0)), 8.0, 1e-6);
    // Within the error of either, notes that do not agree, another note: nothing to go by.
    for (const LocalTuning& other : {LocalTuning(440.0, twoPassages(2.0, 1.0)),
                                     LocalTuning(440.0, twoPassages(8.0, 25.0)),
                                     LocalTuning(440.0, twoPassages(45.0, 1.0)),
                                     LocalTuning(440.0)})
        EXPECT_DOUBLE_EQ(other.a4At(45.0), 440.0);
}

TEST(LocalTuning, IsHeardPassageByPassage) {
    constexpr double kSharp_cents = 12.0;
    Sound sound = test::silence(48.0, kAnalysisRateHz);
    for (int passage = 0; passage < 2; ++passage)
        for (int i = 0; i < 32; ++i)
            test::addTone(sound,
                          {24.5 * passage + 0.5 + 0.5 * i,
                           0.45,
                           hzFromMidi(52.0 + i % 8 + passage * kSharp_cents / 100.0)});
    const auto hearing = hearMelody(
        sound.view(), standardInstrument(InstrumentKind::Guitar), {}, HearingParameters{}, {});
    ASSERT_TRUE(hearing.ok());
    EXPECT_NEAR(
        centsBetween(hearing->tuning.a4At(6.0), hearing->tuning.a4At(35.0)), kSharp_cents, 3.0);
}

} // namespace
} // namespace wirenote
