#include "music/metre.h"
#include "music/pitch.h"

#include <gtest/gtest.h>

namespace wirenote {
namespace {

struct NamedPitch {
    const char* name;
    int midi;
    double hz;
};

void PrintTo(const NamedPitch& p, std::ostream* out) {
    *out << p.name;
}

// Open strings at A = 440: common practice; the frequencies are equal temperament,
// 440·2^((m−69)/12).
class OpenStrings : public ::testing::TestWithParam<NamedPitch> {};
TEST_P(OpenStrings, HaveTheirUsualFrequency) {
    const NamedPitch p = GetParam();
    ASSERT_EQ(parsePitchName(p.name), p.midi);
    EXPECT_NEAR(hzFromMidi(p.midi), p.hz, 0.05);
    EXPECT_NEAR(midiFromHz(p.hz), p.midi, 0.02);
    EXPECT_EQ(pitchName(p.midi), p.name);
}
INSTANTIATE_TEST_SUITE_P(Strings,
                         OpenStrings,
                         ::testing::Values(NamedPitch{"E1", 28, 41.2},
                                           NamedPitch{"E2", 40, 82.4},
                                           NamedPitch{"A2", 45, 110.0},
                                           NamedPitch{"D3", 50, 146.8},
                                           NamedPitch{"G3", 55, 196.0},
                                           NamedPitch{"B3", 59, 246.9},
                                           NamedPitch{"E4", 64, 329.6}));

TEST(Pitch, ReadsAccidentalsBothWays) {
    EXPECT_EQ(parsePitchName("F#3"), 54);
    EXPECT_EQ(parsePitchName("G♭3"), 54);
    EXPECT_EQ(parsePitchName("bb1"), 34);
    EXPECT_EQ(pitchName(54, Spelling::Flats), "G♭3");
    for (const char* wrong : {"", "H2", "E", "E22", "E#b2", "2E"})
        EXPECT_FALSE(parsePitchName(wrong)) << wrong;
}

TEST(Pitch, ReferenceMovesEverythingByItsCents) {
    EXPECT_NEAR(centsBetween(440.0, 442.0), 7.85, 0.01);
    EXPECT_NEAR(midiFromHz(442.0, 442.0), 69.0, 1e-9);
}

TEST(Metre, CountsFeltBeats) {
    EXPECT_EQ(parseMetre("4/4")->feltBeats(), 4);
    EXPECT_EQ(parseMetre("6/8")->feltBeats(), 2);
    EXPECT_EQ(parseMetre("6/8")->beatLength(), Rational(3, 2));
    EXPECT_EQ(parseMetre("3/4")->barLength(), Rational(3));
    EXPECT_EQ(parseMetre("3/8")->feltBeats(), 3);
    for (const char* wrong : {"", "4", "4/", "/4", "4/5", "0/4", "99/4", "4/4x", "-3/4"})
        EXPECT_FALSE(parseMetre(wrong).ok()) << wrong;
}

} // namespace
} // namespace wirenote
