// Chords by their names, as harmony books and every player give them (common practice).
#include "music/chord_names.h"

#include <gtest/gtest.h>

namespace wirenote {
namespace {

struct Named {
    std::vector<int> midis;
    const char* name;
};

class Chords : public ::testing::TestWithParam<Named> {};
INSTANTIATE_TEST_SUITE_P(OnTheGuitar,
                         Chords,
                         ::testing::Values(Named{{48, 52, 55, 60, 64}, "C"}, // open grips
                                           Named{{45, 52, 57, 60, 64}, "Am"},
                                           Named{{43, 47, 50, 55, 59, 67}, "G"},
                                           Named{{50, 57, 62, 66}, "D"},
                                           Named{{50, 57, 62, 65}, "Dm"},
                                           Named{{40, 47, 52, 56, 59, 64}, "E"},
                                           Named{{40, 47, 52, 55, 59, 64}, "Em"},
                                           Named{{47, 51, 57, 59, 66}, "B7"},
                                           Named{{43, 47, 50, 55, 59, 65}, "G7"},
                                           Named{{48, 52, 55, 59, 64}, "Cmaj7"},
                                           Named{{45, 52, 55, 60, 64}, "Am7"},
                                           Named{{50, 57, 62, 67}, "Dsus4"},
                                           Named{{50, 57, 62, 64}, "Dsus2"},
                                           Named{{40, 47, 52}, "E5"},      // the fifth alone
                                           Named{{43, 48, 52, 60}, "C/G"}, // inversions
                                           Named{{52, 55, 60, 64}, "C/E"},
                                           Named{{54, 57, 62, 69}, "D/F♯"},
                                           Named{{48, 52, 55, 62, 64},
                                                 "Cadd9"}, // not a ninth: it has no seventh
                                           Named{{48, 52, 58, 62, 67}, "C9"},
                                           Named{{48, 52, 60}, "C"}, // without its fifth
                                           Named{{47, 50, 53}, "Bdim"},
                                           Named{{47, 50, 53, 57}, "Bm7♭5"},
                                           Named{{47, 50, 53, 56}, "Bdim7"}));
TEST_P(Chords, HaveTheirUsualName) {
    EXPECT_EQ(chordText(nameChord(GetParam().midis)), GetParam().name);
}

TEST(ChordNames, WhatIsAbsentIsKnown) {
    const auto chord = nameChord(std::vector<int>{48, 52, 60});
    EXPECT_EQ(chord.absent, std::vector<int>{7});
    EXPECT_TRUE(nameChord(std::vector<int>{48, 52, 55}).absent.empty());
}

TEST(ChordNames, NothingOrAClusterHasNoName) {
    EXPECT_FALSE(nameChord({}).named());
    EXPECT_FALSE(nameChord(std::vector<int>{60, 72}).named()) << "one pitch class";
    EXPECT_FALSE(nameChord(std::vector<int>{60, 61, 62, 63}).named());
    EXPECT_EQ(chordText({}), "");
}

TEST(ChordNames, AreSpelledByTheKey) {
    const std::vector<int> chord{46, 53, 58, 62};
    EXPECT_EQ(chordText(nameChord(chord), Spelling::Flats), "B♭");
    EXPECT_EQ(chordText(nameChord(chord), Spelling::Sharps), "A♯");
}

TEST(ChordNames, DoNotDependOnTheOctave) {
    const std::vector<int> low{36, 40, 43};
    const std::vector<int> wide{48, 64, 79};
    EXPECT_EQ(nameChord(low), nameChord(wide));
}

} // namespace
} // namespace wirenote
