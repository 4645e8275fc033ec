// What is said of the plucking hand in a bar.
#include "session/pluck_report.h"

#include "session/hand_picture.h"
#include "session/resolve.h"
#include "support/pieces.h"

#include <algorithm>
#include <gtest/gtest.h>

namespace wirenote {
namespace {

Piece stroked(std::vector<test::Row> rows, PluckingSchool school) {
    Piece piece = test::pieceOf(rows);
    piece.asPlayed().head.plucking_school.set(school);
    piece.asPlayed().head.tool.set(toolOf(school));
    strokeAll(piece);
    return piece;
}

// Seven strokes to a bar in turn: the next one begins on the other stroke, and a down is offered.
TEST(PluckReport, TellsHowABarJoinsTheNext) {
    std::vector<test::Row> rows;
    for (int k = 0; k < 24; ++k)
        if (k % 8 != 7)
            rows.push_back({0.25 * k, 0.25 * k + 0.2, 57, {4, 7}});
    const Piece piece = stroked(rows, PluckingSchool::Sequence);
    const PluckReport first = pluckReport(piece, piece.notes[2].id);
    EXPECT_EQ(first.bar, 1);
    ASSERT_TRUE(first.join);
    EXPECT_EQ(first.join->last, Stroke::Down);
    EXPECT_EQ(first.join->next, Stroke::Up);
    EXPECT_TRUE(first.join->begins_up);
    EXPECT_EQ(first.join->next_note, piece.notes[7].id);
    const PluckReport second = pluckReport(piece, piece.notes[9].id);
    ASSERT_TRUE(second.join);
    EXPECT_FALSE(second.join->begins_up);
    EXPECT_FALSE(pluckReport(piece, piece.notes.back().id).join) << "nothing comes after";
}

TEST(PluckReport, SaysWhatTheSchoolWouldHaveInsteadOfASetStroke) {
    std::vector<test::Row> rows;
    for (int k = 0; k < 8; ++k)
        rows.push_back({0.25 * k, 0.25 * k + 0.2, 57, {4, 7}});
    Piece piece = stroked(rows, PluckingSchool::Alternate);
    EXPECT_EQ(pluckReport(piece, piece.notes[3].id).otherwise, Stroke::Unknown);
    piece.asPlayed().plans[3].stroke.set(Stroke::Down);
    const PluckReport told = pluckReport(piece, piece.notes[3].id);
    EXPECT_EQ(told.otherwise, Stroke::Up);
    EXPECT_EQ(told.departure, StrokeDeparture::LinesUp)
        << "two downs, and the next beat comes out down";
    EXPECT_EQ(pluckReport(piece, 9999).bar, 0);
}

// Three strokes of a loop in turn: the next time it would begin on the other stroke, but it does
// not.
TEST(PluckReport, TellsHowALoopComesRound) {
    std::vector<test::Row> rows;
    for (int k = 0; k < 16; ++k)
        rows.push_back({0.25 * k, 0.25 * k + 0.2, 57, {4, 7}});
    const Piece piece = stroked(rows, PluckingSchool::Sequence);
    EXPECT_FALSE(pluckReport(piece, piece.notes[0].id).round) << "nothing is looped";
    const auto odd = pluckReport(piece, piece.notes[0].id, TimeRange{-0.01, 0.7}).round;
    ASSERT_TRUE(odd);
    EXPECT_EQ(odd->last, Stroke::Down);
    EXPECT_EQ(odd->next, Stroke::Down);
    EXPECT_EQ(odd->next_note, piece.notes[0].id);
    const auto even = pluckReport(piece, piece.notes[0].id, TimeRange{-0.01, 0.95}).round;
    ASSERT_TRUE(even);
    EXPECT_EQ(even->last, Stroke::Up);
}

TEST(PluckReport, HasTheBestOtherWayThroughABar) {
    std::vector<test::Row> rows;
    for (int k = 0; k < 8; ++k)
        rows.push_back({0.25 * k, 0.25 * k + 0.2, 57, {4, 7}});
    Piece piece = stroked(rows, PluckingSchool::Alternate);
    const auto other = pluckReport(piece, piece.notes[0].id).next_best;
    ASSERT_EQ(other.size(), 8U);
    const auto differ = std::ranges::count_if(other, &BarStroke::differs);
    EXPECT_GE(differ, 1);
    EXPECT_LE(differ, 2) << "the next best is near the best";
    for (NotePlan& plan : piece.asPlayed().plans)
        plan.stroke.set(plan.stroke.value);
    EXPECT_TRUE(pluckReport(piece, piece.notes[0].id).next_best.empty()) << "all is decided";
}

// Eighths with the second of each beat scratched in every bar, and one more scratch here and there.
TEST(SilentStrokes, ToldAsATextureWithItsDensity) {
    std::vector<test::Row> rows;
    for (int k = 0; k < 32; ++k) {
        const bool steady = k % 8 == 3;
        const bool now_and_then = k == 13 || k == 29;
        if (k % 2 == 0 || steady || now_and_then)
            rows.push_back({0.25 * k,
                            0.25 * k + 0.2,
                            57,
                            {4, 7},
                            steady || now_and_then ? std::vector{Technique::GhostStroke}
                                                   : std::vector<Technique>{}});
    }
    const Piece piece = stroked(rows, PluckingSchool::Strum);
    const SilentStrokes silent = silentStrokes(piece, 2);
    EXPECT_EQ(silent.scratched, 6);
    EXPECT_NEAR(silent.density(), 6.0 / 15.0, 0.03);
    EXPECT_EQ(silent.steady, (std::vector{CountPlace{1, 6}}));
    EXPECT_TRUE(silentStrokes(Piece{}, 1).steady.empty());
}

// A tune that leaves out the second and the fourth beat: there the hand passes down in silence.
TEST(SilentStrokes, HaveRoomForAStrumRoundATune) {
    std::vector<test::Row> rows;
    for (int bar = 0; bar < 3; ++bar)
        for (const double at : {0.0, 0.25, 0.75, 1.0, 1.25, 1.75})
            rows.push_back({2.0 * bar + at, 2.0 * bar + at + 0.2, 64, {1, 0}});
    const Piece piece = stroked(rows, PluckingSchool::Alternate);
    EXPECT_EQ(silentStrokes(piece, 2).room, (std::vector{CountPlace{1, 0}, CountPlace{3, 0}}));
}

TEST(HandPicture, PutsTheSilentStrokeBetweenTwoLikeOnes) {
    const Piece piece = stroked({{0.0, 0.2, 57, {4, 7}},
                                 {0.5, 0.7, 57, {4, 7}},
                                 {0.75, 0.9, 57, {4, 7}},
                                 {4.0, 4.2, 57, {4, 7}}},
                                PluckingSchool::Alternate);
    const HandPicture picture = handPicture(piece);
    ASSERT_EQ(picture.turns.size(), 5U) << "one passes in silence; the hand rests before the last";
    EXPECT_NEAR(picture.turns[1].time_s, 0.25, 1e-9);
    EXPECT_EQ(picture.turns[1].note, 0U);
    EXPECT_FALSE(picture.turns[1].down);
    EXPECT_TRUE(picture.fingers.empty());
    EXPECT_EQ(picture.pick.size(), 4U);
    EXPECT_FALSE(picture.pick[3].joined);
}

TEST(HandPicture, HasARowForEachFinger) {
    const Piece piece = stroked({{0.0, 2.0, 48, {5, 3}},
                                 {0.25, 2.0, 55, {3, 0}},
                                 {0.5, 2.0, 60, {2, 1}},
                                 {0.75, 2.0, 64, {1, 0}}},
                                PluckingSchool::Pima);
    const HandPicture picture = handPicture(piece);
    ASSERT_EQ(picture.fingers.size(), 4U);
    EXPECT_EQ(picture.fingers[0].finger, Stroke::P);
    EXPECT_EQ(picture.fingers[3].finger, Stroke::A);
    EXPECT_TRUE(picture.turns.empty());
    EXPECT_TRUE(handPicture(Piece{}).cells.empty());
}

} // namespace
} // namespace wirenote
