// Bars through metre changes, and everything a person can do to the pulse.
#include "piece/timeline_edits.h"
#include "piece/timeline_map.h"

#include "support/pieces.h"

#include <gmock/gmock.h>

namespace wirenote {
namespace {

using ::testing::ElementsAre;

// Beats every half second from 1.0 s on, bar 1 at the third.
Timeline even(int beats = 24) {
    Timeline t;
    t.tempo_bpm = 120.0;
    for (int i = 0; i < beats; ++i)
        t.beats_s.push_back(1.0 + 0.5 * i);
    t.first_downbeat = 2;
    return t;
}

TEST(BarGrid, CountsThroughChangesOfMetre) {
    Timeline t = even();
    t.changes = {{3, {3, 4}}, {5, {6, 8}}};
    const BarGrid grid(t);
    EXPECT_EQ(grid.at(2).bar, 1);
    EXPECT_EQ(grid.at(2).beat, 0);
    EXPECT_EQ(grid.at(1).bar, 0);
    EXPECT_EQ(grid.at(1).beat, 3) << "before bar 1 the bars go on backwards";
    EXPECT_EQ(grid.at(10).bar, 3);
    EXPECT_EQ(grid.at(13).bar, 4);
    EXPECT_EQ(grid.at(16).bar, 5);
    EXPECT_EQ(grid.at(18).bar, 6) << "two felt beats to a bar of 6/8";
    EXPECT_EQ(grid.quartersOf(10), Rational(8));
    EXPECT_EQ(grid.quartersOf(16), Rational(14));
    EXPECT_EQ(grid.quartersOf(17), Rational(31, 2));
    EXPECT_EQ(grid.barAt(Rational(14)).number, 5);
    EXPECT_EQ(grid.barAt(Rational(-1)).number, 0);
    EXPECT_EQ(grid.bar(6).start, Rational(17));
    EXPECT_THAT(t.downbeats_s(), ElementsAre(2.0, 4.0, 6.0, 7.5, 9.0, 10.0, 11.0, 12.0));
}

TEST(TimelineMap, GoesThroughChangesBothWays) {
    Timeline t = even();
    t.changes = {{2, {7, 8}}, {4, {4, 4}}};
    const TimelineMap map(t);
    for (double s = -1.0; s < 16.0; s += 0.13)
        EXPECT_NEAR(map.timeAt(map.quartersAt(s)), s, 1e-9);
    EXPECT_EQ(map.barBeatAt(2.0).bar, 1);
    EXPECT_EQ(map.barBeatAt(4.0).bar, 2);
    EXPECT_NEAR(map.barBeatAt(4.5).beat, 2.0, 1e-9) << "a beat is a quaver in 7/8";
}

TEST(TimelineEdits, MetreChangesKeepQuartersWhereTheyAre) {
    Timeline t = even();
    const TimelineMap before(t);
    ASSERT_TRUE(setMetre(t, 2, {3, 4}).ok());
    EXPECT_EQ(t.beats_s, even().beats_s) << "the felt beat is the same";
    ASSERT_TRUE(setMetre(t, 3, {6, 8}).ok());
    const TimelineMap after(t);
    for (double q = -1.0; q < 18.0; q += 0.5)
        EXPECT_NEAR(after.timeAt(q), before.timeAt(q), 1e-9) << q;
    EXPECT_EQ(BarGrid(t).bar(3).metre, (Metre{6, 8}));
    ASSERT_TRUE(setMetre(t, 3, {3, 4}).ok());
    EXPECT_EQ(t.changes.size(), 1U) << "as in the bar before: no change any more";
    ASSERT_TRUE(setMetre(t, 1, {2, 4}).ok());
    EXPECT_EQ(t.metre, (Metre{2, 4}));
    EXPECT_FALSE(setMetre(t, 0, {4, 4}).ok());
}

TEST(TimelineEdits, APlacedBeatStaysAndItsNeighboursFollow) {
    Timeline t = even();
    ASSERT_TRUE(pinBeat(t, 6, 4.1).ok());
    EXPECT_DOUBLE_EQ(t.beats_s[6], 4.1);
    EXPECT_DOUBLE_EQ(t.beats_s[2], 2.0) << "a bar away nothing moves";
    EXPECT_DOUBLE_EQ(t.beats_s[10], 6.0);
    EXPECT_NEAR(t.beats_s[4], 3.05, 1e-9);
    EXPECT_NEAR(t.beats_s[8], 5.05, 1e-9);
    ASSERT_TRUE(pinBeat(t, 8, 5.2).ok());
    EXPECT_DOUBLE_EQ(t.beats_s[6], 4.1) << "what was placed stays";
    EXPECT_THAT(t.pinned, ElementsAre(6, 8));
    const Timeline kept = t;
    EXPECT_FALSE(pinBeat(t, 7, 4.0).ok()) << "before a placed beat";
    EXPECT_FALSE(pinBeat(t, 99, 4.0).ok());
    EXPECT_TRUE(t == kept);
    EXPECT_EQ(t.basis, Basis::Set);
    EXPECT_TRUE(std::ranges::is_sorted(t.beats_s));
}

TEST(TimelineEdits, TapsBecomeTheBeatsAndGoOn) {
    Timeline t = even();
    const std::vector<double> taps{3.0, 3.6, 4.2, 4.8, 5.4};
    ASSERT_TRUE(tapBeats(t, taps, 9.0).ok());
    for (const double tap : taps)
        EXPECT_THAT(t.beats_s, ::testing::Contains(::testing::DoubleNear(tap, 1e-9)));
    EXPECT_NEAR(t.tempo_bpm, 100.0, 1e-6);
    EXPECT_EQ(t.pinned.size(), taps.size());
    EXPECT_DOUBLE_EQ(t.beats_s[static_cast<std::size_t>(t.first_downbeat)], 3.0) << "tapped on one";
    EXPECT_GE(t.beats_s.back(), 9.0);
    EXPECT_LT(t.beats_s.front(), 0.61);
    EXPECT_FALSE(tapBeats(t, std::vector<double>{1.0, 1.5, 2.0}, 9.0).ok());
    EXPECT_FALSE(tapBeats(t, std::vector<double>{1.0, 1.01, 1.02, 1.03}, 9.0).ok());
}

TEST(TimelineEdits, TwiceAsSlowAndTwiceAsFastUndoEachOther) {
    Timeline t = even();
    ASSERT_TRUE(doubleTempo(t).ok());
    EXPECT_NEAR(t.tempo_bpm, 240.0, 1e-9);
    EXPECT_EQ(t.first_downbeat, 4);
    ASSERT_TRUE(halveTempo(t).ok());
    EXPECT_EQ(t.beats_s, even().beats_s);
    EXPECT_EQ(t.first_downbeat, 2);
    Timeline none;
    EXPECT_FALSE(halveTempo(none).ok());
    EXPECT_FALSE(doubleTempo(none).ok());
}

TEST(TimelineEdits, ThePickUpLeadsToOne) {
    Timeline t = even();
    ASSERT_TRUE(setPickup(t, 1.5, Rational(1)).ok()); // two quavers before "one"
    EXPECT_NEAR(TimelineMap(t).quartersAt(1.5), -1.0, 1e-9);
    ASSERT_TRUE(setPickup(t, 1.5, Rational(0)).ok());
    EXPECT_NEAR(TimelineMap(t).quartersAt(1.5), 0.0, 1e-9);
    ASSERT_TRUE(setPickup(t, 1.5, Rational(1, 2)).ok());
    EXPECT_NEAR(TimelineMap(t).quartersAt(1.5), -0.5, 1e-9) << "the beats move to fit";
    EXPECT_FALSE(setPickup(t, 1.5, Rational(4)).ok()) << "that is a bar";
}

TEST(TimelineEdits, OneIsCountedWhereItIsSaid) {
    Timeline t = even();
    ASSERT_TRUE(setOne(t, 3.51).ok());
    EXPECT_EQ(t.beats_s, even().beats_s) << "a beat is there: only the counting changes";
    EXPECT_TRUE(BarGrid(t).isDownbeat(5));
    ASSERT_TRUE(setOne(t, 3.75).ok());
    EXPECT_THAT(t.beats_s, ::testing::Contains(::testing::DoubleNear(3.75, 1e-9)));
}

TEST(TimelineEdits, BarsAreNumberedFromTheFirstNote) {
    for (const auto& [first_s, bar, beat] :
         {std::tuple{6.0, 1, 1.0}, {6.5, 1, 2.0}, {7.0, 0, 3.0}, {7.5, 0, 4.0}}) {
        Timeline t = even();
        numberFrom(t, first_s);
        const auto at = TimelineMap(t).barBeatAt(first_s);
        EXPECT_EQ(at.bar, bar) << first_s;
        EXPECT_NEAR(at.beat, beat, 1e-9) << first_s;
    }
}

TEST(TimelineEdits, SwingHasItsBounds) {
    Timeline t = even();
    ASSERT_TRUE(setSwing(t, 2.0).ok());
    EXPECT_DOUBLE_EQ(t.swing, 2.0);
    EXPECT_FALSE(setSwing(t, 0.5).ok());
    EXPECT_FALSE(setSwing(t, 9.0).ok());
    EXPECT_DOUBLE_EQ(t.swing, 2.0);
}

TEST(TimelineEdits, TheMiddleTempoIsNotLedAstrayByOneBeat) {
    Timeline t = even();
    t.beats_s[5] += 0.2;
    EXPECT_NEAR(middleTempo(t), 120.0, 1.0);
}

// What a person said of how a beat is divided holds as long as that beat is there.
TEST(TimelineEdits, ADividedBeatOutlivesBeatsLaidAnew) {
    Timeline t = even();
    ASSERT_TRUE(setDivision(t, 4, 3).ok());
    ASSERT_TRUE(setDivision(t, 6, 4).ok());
    ASSERT_TRUE(setDivision(t, 7, 4).ok());
    const double four_s = t.beats_s[4];
    Timeline same = t;
    ASSERT_TRUE(layTempo(same, 120.0, 0.0, same.beats_s.back()).ok());
    ASSERT_EQ(same.divisions.size(), 3U) << "the same tempo, typed";
    EXPECT_NEAR(same.beats_s[static_cast<std::size_t>(same.divisions[0].beat)], four_s, 1e-9);
    EXPECT_EQ(same.divisions[0].parts, 3);
    Timeline other = t;
    ASSERT_TRUE(layTempo(other, 83.0, 0.0, other.beats_s.back()).ok());
    EXPECT_TRUE(other.divisions.empty()) << "none of these beats is there any more";
    Timeline tapped = t;
    ASSERT_TRUE(tapBeats(tapped,
                         std::vector<double>{t.beats_s[3] + 0.01,
                                             t.beats_s[4] - 0.01,
                                             t.beats_s[5],
                                             t.beats_s[6],
                                             t.beats_s[7]},
                         t.beats_s.back())
                    .ok());
    EXPECT_EQ(tapped.divisions.size(), 3U);
    Timeline slow = t;
    ASSERT_TRUE(halveTempo(slow).ok());
    ASSERT_EQ(slow.divisions.size(), 1U) << "two beats of four are one of eight";
    EXPECT_EQ(slow.divisions[0], (SetDivision{3, 8}));
    ASSERT_TRUE(doubleTempo(slow).ok());
    ASSERT_EQ(slow.divisions.size(), 2U);
    EXPECT_EQ(slow.divisions[1], (SetDivision{7, 4}));
    EXPECT_NEAR(slow.beats_s[7], t.beats_s[7], 1e-9);
}

TEST(CheckPiece, RefusesTimelinesThatCannotBeCounted) {
    Piece piece = test::scalePiece(8);
    EXPECT_TRUE(checkPiece(piece).ok());
    piece.timeline.changes = {{4, {3, 4}}, {2, {4, 4}}};
    EXPECT_FALSE(checkPiece(piece).ok());
    piece.timeline.changes = {{1, {3, 4}}};
    EXPECT_FALSE(checkPiece(piece).ok());
    piece.timeline.changes.clear();
    piece.timeline.pinned = {100000};
    EXPECT_FALSE(checkPiece(piece).ok());
    piece.timeline.pinned = {3, 1};
    EXPECT_FALSE(checkPiece(piece).ok());
    piece.timeline.pinned.clear();
    piece.timeline.divisions = {{5, 3}, {2, 4}};
    EXPECT_FALSE(checkPiece(piece).ok()) << "not in order";
    piece.timeline.divisions = {{2, 13}};
    EXPECT_FALSE(checkPiece(piece).ok());
    piece.timeline.divisions = {{2, 4}, {5, 3}};
    EXPECT_TRUE(checkPiece(piece).ok());
    piece.timeline.swing = 7.0;
    EXPECT_FALSE(checkPiece(piece).ok());
}

} // namespace
} // namespace wirenote
