// Notes of a line that no string began.
#include "hearing/line_beliefs.h"

#include <gmock/gmock.h>

namespace wirenote {
namespace {

using ::testing::ElementsAre;
using ::testing::IsEmpty;
using ::testing::SizeIs;

Note struck(double from_s, double to_s, double midi) {
    Note note;
    note.time.value = {from_s, to_s};
    note.pitch.value = midi;
    note.ownSound().attack.strength = 1.0;
    return note;
}

std::vector<int> pitchesOf(const std::vector<Note>& notes) {
    std::vector<int> pitches;
    for (const Note& note : notes)
        pitches.push_back(note.midi());
    return pitches;
}

// Eight notes of half a second, each cut in its middle by a sound in which no pitch begins.
struct UnderDrums {
    std::vector<Note> line;
    std::vector<LineBelief> beliefs;

    explicit UnderDrums(double belief_in_cuts) {
        for (int i = 0; i < 8; ++i) {
            line.push_back(struck(0.5 * i, 0.5 * i + 0.25, 50.0 + i));
            line.push_back(struck(0.5 * i + 0.25, 0.5 * i + 0.5, 50.0 + i));
            beliefs.push_back({0.9, 0.0, 0.95});
            beliefs.push_back({belief_in_cuts, 0.0, belief_in_cuts});
        }
    }
};

TEST(LineBeliefs, ANoteRingsOnThroughADrum) {
    UnderDrums take(0.08);
    const auto dropped = dropUnstruck(take.beliefs, take.line);
    EXPECT_THAT(pitchesOf(take.line), ElementsAre(50, 51, 52, 53, 54, 55, 56, 57));
    EXPECT_DOUBLE_EQ(take.line[3].offset_s(), 2.0);
    ASSERT_THAT(dropped, SizeIs(8));
    EXPECT_EQ(dropped[2].midi, 52);
    EXPECT_DOUBLE_EQ(dropped[2].time.start_s, 1.25);
    EXPECT_DOUBLE_EQ(dropped[2].probability, 0.08);
}

TEST(LineBeliefs, AStrokeThatIsHalfBelievedStaysUnderDrums) {
    UnderDrums take(0.29);
    EXPECT_THAT(dropUnstruck(take.beliefs, take.line), IsEmpty());
    EXPECT_THAT(take.line, SizeIs(16));
}

// Where nothing else sounds alone, the network's doubt says more of the string than of a drum.
TEST(LineBeliefs, OneDoubtfulNoteOfACleanLineStays) {
    std::vector<Note> line;
    std::vector<LineBelief> beliefs;
    for (int i = 0; i < 16; ++i) {
        line.push_back(struck(0.25 * i, 0.25 * i + 0.25, 50.0 + i / 2));
        beliefs.push_back({i == 5 ? 0.08 : 0.9, 0.0, i == 5 ? 0.08 : 0.95});
    }
    EXPECT_THAT(dropUnstruck(beliefs, line), IsEmpty());
    beliefs[5].begins = beliefs[5].any = 0.001;
    EXPECT_THAT(dropUnstruck(beliefs, line), SizeIs(1));
}

TEST(LineBeliefs, WhatTheFrettingHandBeginsIsNotAskedForAStroke) {
    UnderDrums take(0.0);
    take.line[1].pitch.value = 52.0;
    take.line[1].add(Technique::HammerOn);
    EXPECT_THAT(dropUnstruck(take.beliefs, take.line), SizeIs(7));
    EXPECT_TRUE(take.line[1].has(Technique::HammerOn));
}

TEST(LineBeliefs, ASilentTakeHasNothingToTakeOut) {
    std::vector<Note> none;
    EXPECT_THAT(dropUnstruck({}, none), IsEmpty());
    EXPECT_THAT(believeLine({}, kStandardA4Hz, {}, none), IsEmpty());
}

} // namespace
} // namespace wirenote
