// Where strokes come from: made up measures, and rules that teachers tell (common practice).
#include "seeing/stroke_source.h"

#include <gtest/gtest.h>

namespace wirenote {
namespace {

SeenFacts moved(double swing_mm, double heel_mm, double forearm_mm) {
    SeenFacts seen;
    seen.plucked_mm = 100.0;
    seen.swing_mm = swing_mm;
    seen.heel_mm = heel_mm;
    seen.forearm_mm = forearm_mm;
    return seen;
}

TEST(StrokeSource, WhatStaysTellsWhatMoves) {
    EXPECT_EQ(strokeSource(moved(9.0, 0.6, 0.2)), StrokeSource::Resting);
    EXPECT_EQ(strokeSource(moved(9.0, 4.0, 1.5)), StrokeSource::Wrist);
    EXPECT_EQ(strokeSource(moved(30.0, 12.0, 9.0)), StrokeSource::Arm);
}

TEST(StrokeSource, NothingIsToldOfWhatIsOutOfSightOrStill) {
    SeenFacts hidden = moved(9.0, 4.0, 1.5);
    hidden.forearm_mm.reset();
    EXPECT_FALSE(strokeSource(hidden));
    EXPECT_FALSE(strokeSource(moved(0.5, 2.0, 0.1)));
    EXPECT_FALSE(strokeSource(moved(9.0, 5.0, 3.0))) << "neither stays nor goes along";
    SeenFacts idle = moved(0.5, 0.1, 0.1);
    EXPECT_EQ(strokeSource(idle), StrokeSource::Resting) << "fingers";
    idle.unplucked = 0.9;
    EXPECT_FALSE(strokeSource(idle));
    idle.plucked_mm.reset();
    EXPECT_FALSE(strokeSource(idle));
    EXPECT_FALSE(strokeSource({}));
}

void add(std::vector<SourcedStroke>& to, int count, SourcedStroke stroke) {
    to.insert(to.end(), static_cast<std::size_t>(count), stroke);
}

TEST(StrokeHabit, OneRuleForAll) {
    std::vector<SourcedStroke> strokes;
    add(strokes, 9, {StrokeSource::Wrist, false, 0.3});
    add(strokes, 1, {StrokeSource::Arm, false, 0.6});
    const auto habit = strokeHabit(strokes);
    ASSERT_TRUE(habit);
    EXPECT_EQ(habit->by, StrokeHabit::By::All);
    EXPECT_EQ(habit->first.source, StrokeSource::Wrist);
    EXPECT_EQ(habit->first.agree, 9);
    EXPECT_EQ(habit->first.of, 10);
}

// Common practice: "float for strums, rest for lines".
TEST(StrokeHabit, StrumsFromTheArmLinesFromARestingHand) {
    std::vector<SourcedStroke> strokes;
    add(strokes, 10, {StrokeSource::Resting, false, 0.25});
    add(strokes, 6, {StrokeSource::Arm, true, 0.25});
    add(strokes, 1, {StrokeSource::Wrist, true, 0.25});
    const auto habit = strokeHabit(strokes);
    ASSERT_TRUE(habit);
    EXPECT_EQ(habit->by, StrokeHabit::By::Strums);
    EXPECT_EQ(habit->first.source, StrokeSource::Resting);
    EXPECT_EQ(habit->second.source, StrokeSource::Arm);
    EXPECT_EQ(habit->second.agree, 6);
    EXPECT_EQ(habit->second.of, 7);
}

// Common practice: eighths rest, quarters float.
TEST(StrokeHabit, QuickOnesRestSlowOnesFloat) {
    std::vector<SourcedStroke> strokes;
    for (int i = 0; i < 8; ++i) {
        strokes.push_back({StrokeSource::Resting, false, 0.25 + 0.002 * i});
        strokes.push_back({StrokeSource::Arm, i % 2 == 0, 0.5 + 0.004 * i});
    }
    const auto habit = strokeHabit(strokes);
    ASSERT_TRUE(habit);
    EXPECT_EQ(habit->by, StrokeHabit::By::Gap);
    EXPECT_GT(habit->gap_s, 0.27);
    EXPECT_LT(habit->gap_s, 0.5);
    EXPECT_EQ(habit->first.source, StrokeSource::Resting);
    EXPECT_EQ(habit->second.source, StrokeSource::Arm);
}

TEST(StrokeHabit, NoRuleIsMadeOfChanceOrOfTooLittle) {
    std::vector<SourcedStroke> strokes;
    for (int i = 0; i < 12; ++i)
        strokes.push_back({static_cast<StrokeSource>(i % 3), i % 2 == 0, 0.3});
    EXPECT_FALSE(strokeHabit(strokes));
    strokes.assign(7, {StrokeSource::Wrist, false, 0.3});
    EXPECT_FALSE(strokeHabit(strokes));
}

TEST(SourcedStrokes, NotesOfOneStrumAreOneStroke) {
    Piece piece;
    piece.takes.emplace_back();
    for (const double onset_s : {1.0, 1.02, 1.04, 1.5, 2.25}) {
        Note note;
        note.time.value = {onset_s, onset_s + 0.2};
        note.ownSound();
        note.facts.front().seen = moved(12.0, 6.0, onset_s < 1.2 ? 8.0 : 1.0);
        piece.notes.push_back(note);
    }
    piece.notes.back().facts.front().seen.forearm_mm.reset();
    const auto strokes = sourcedStrokes(piece, 0);
    ASSERT_EQ(strokes.size(), 2U);
    EXPECT_TRUE(strokes[0].strum);
    EXPECT_EQ(strokes[0].source, StrokeSource::Arm);
    EXPECT_NEAR(strokes[0].gap_s, 0.5, 1e-9);
    EXPECT_FALSE(strokes[1].strum);
    EXPECT_NEAR(strokes[1].gap_s, 0.75, 1e-9) << "to a stroke that is out of sight";
    EXPECT_TRUE(sourcedStrokes(piece, 1).empty());
}

} // namespace
} // namespace wirenote
