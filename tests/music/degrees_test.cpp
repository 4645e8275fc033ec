// Degrees and functions as players name them (common practice).
#include "music/degrees.h"

#include <gtest/gtest.h>

namespace wirenote {
namespace {

TEST(Degrees, AreCountedAgainstTheMajorScale) {
    const char* expected[] = {"1", "♭2", "2", "♭3", "3", "4", "♭5", "5", "♭6", "6", "♭7", "7"};
    for (int semitones = 0; semitones < 12; ++semitones) {
        EXPECT_EQ(degreeName(semitones), expected[semitones]);
        EXPECT_EQ(degreeName(semitones + 12), expected[semitones]);
        EXPECT_EQ(degreeName(semitones - 24), expected[semitones]);
    }
}

struct Function {
    const char* chord;
    const char* in_c_major;
    const char* in_a_minor;
};

class Functions : public ::testing::TestWithParam<Function> {};

TEST_P(Functions, StandInRomanNumerals) {
    EXPECT_EQ(functionName(GetParam().chord, {0, false, 1.0}), GetParam().in_c_major);
    EXPECT_EQ(functionName(GetParam().chord, {9, true, 1.0}), GetParam().in_a_minor);
}

INSTANTIATE_TEST_SUITE_P(Usual,
                         Functions,
                         ::testing::Values(Function{"C", "I", "♭III"},
                                           Function{"Dm", "ii", "iv"},
                                           Function{"Em", "iii", "v"},
                                           Function{"F", "IV", "♭VI"},
                                           Function{"G", "V", "♭VII"},
                                           Function{"G7", "V7", "♭VII7"},
                                           Function{"Am", "vi", "i"},
                                           Function{"Am7", "vi7", "i7"},
                                           Function{"E7", "III7", "V7"},
                                           Function{"B♭", "♭VII", "♭II"},
                                           Function{"Fmaj7", "IVmaj7", "♭VImaj7"},
                                           Function{"Bdim", "vii°", "ii°"},
                                           Function{"G/B", "V", "♭VII"},
                                           Function{"nonsense", "", ""}));

} // namespace
} // namespace wirenote
