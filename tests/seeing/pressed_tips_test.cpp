// Which fingertips press: made up moments, and what is common practice of a hand.
#include "seeing/pressed_tips.h"

#include <gtest/gtest.h>

namespace wirenote {
namespace {

class PressedTips : public ::testing::Test {
  protected:
    Instrument guitar = standardInstrument(InstrumentKind::Guitar);
    NeckPlane plane{guitar};
    static SeenFacts facts(std::vector<SeenTip> tips) {
        SeenFacts seen;
        seen.tips = std::move(tips);
        return seen;
    }
};

TEST_F(PressedTips, WhatSoundsIsPressed) {
    // A3 on string 4, fret 7; the others lie near the edge and elsewhere the stroke before.
    SeenFacts before = facts({{1, 9.7, 1.0}, {2, 10.7, 1.0}});
    SeenFacts now = facts({{1, 5.7, 1.0}, {3, 6.7, 4.0}});
    const std::vector<SeenMoment> moments = {{&before, 1.0, -1}, {&now, 1.5, 57}};
    tellPressed(guitar, plane, moments);
    EXPECT_GT(*now.tips[1].pressed, 0.9);
    EXPECT_LT(*now.tips[0].pressed, 0.3);
}

TEST_F(PressedTips, AFingerThatStaysDownHoldsMoreLikelyThanOneThatMoves) {
    SeenFacts first = facts({{1, 4.7, 5.0}, {4, 7.7, 3.0}});
    SeenFacts second = facts({{1, 4.7, 5.0}, {4, 8.4, 2.0}});
    const std::vector<SeenMoment> moments = {{&first, 1.0, -1}, {&second, 1.4, -1}};
    tellPressed(guitar, plane, moments);
    for (const SeenFacts* seen : {&first, &second}) {
        EXPECT_GT(*seen->tips[0].pressed, 0.6);
        EXPECT_LT(*seen->tips[1].pressed, *seen->tips[0].pressed - 0.3);
    }
}

TEST_F(PressedTips, NotesOfOneStrokeAreOneMoment) {
    // The same picture twice says nothing of a finger that lies still.
    SeenFacts first = facts({{1, 4.7, 1.5}});
    SeenFacts same = facts({{1, 4.7, 1.5}});
    const std::vector<SeenMoment> moments = {{&first, 1.0, -1}, {&same, 1.02, -1}};
    tellPressed(guitar, plane, moments);
    EXPECT_LT(*same.tips[0].pressed, 0.3);
}

TEST_F(PressedTips, NoPitchNoSoundingFinger) {
    SeenFacts now = facts({{3, 6.7, 4.0}});
    const std::vector<SeenMoment> moments = {{&now, 1.5, -1}};
    tellPressed(guitar, plane, moments);
    EXPECT_LT(*now.tips[0].pressed, 0.9);
}

} // namespace
} // namespace wirenote
