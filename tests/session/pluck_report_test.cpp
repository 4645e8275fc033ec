// What is said of the plucking hand in a bar.
#include "session/pluck_report.h"

#include "session/resolve.h"
#include "support/pieces.h"

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
    EXPECT_EQ(told.departure, Departure::LinesUp) << "two downs, and the next beat comes out down";
    EXPECT_EQ(pluckReport(piece, 9999).bar, 0);
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
