// The string one would like to hear by itself: the one most doubtful places hang on.
#include "strings/string_wish.h"

#include "support/pieces.h"

#include <gtest/gtest.h>

namespace wirenote {
namespace {

// Six notes that are as likely on string 4 as on another one, one of them perhaps open.
Piece doubtful() {
    std::vector<test::Row> rows;
    for (int i = 0; i < 6; ++i)
        rows.push_back({0.5 * i, 0.5 * i + 0.4, 50 + i, {4, i}});
    Piece piece = test::pieceOf(rows);
    for (int i = 0; i < 6; ++i) {
        NotePlan& plan = piece.asPlayed().plans[static_cast<std::size_t>(i)];
        plan.position.basis = Basis::Reasoned;
        plan.position.probability = 0.55;
        plan.position.runners_up = {{{i % 2 == 0 ? 5 : 6, i % 2 == 0 ? 5 + i : 10 + i}, 0.45}};
    }
    return piece;
}

TEST(StringWish, IsTheStringMostDoubtLiesOn) {
    const Piece piece = doubtful();
    const auto wish = stringWish(piece);
    ASSERT_TRUE(wish);
    EXPECT_EQ(wish->string, 4);
    EXPECT_EQ(wish->places, 6);
    EXPECT_EQ(wish->note, piece.notes[0].id) << "the one that may be open";
}

TEST(StringWish, WithoutAnOpenNoteItIsToBePlucked) {
    Piece piece = doubtful();
    piece.asPlayed().plans[0].position.set({4, 0});
    const auto wish = stringWish(piece);
    ASSERT_TRUE(wish);
    EXPECT_EQ(wish->string, 4);
    EXPECT_EQ(wish->note, 0);
}

TEST(StringWish, NothingIsWishedWhereLittleIsInDoubtOrStringsAreKnown) {
    Piece piece = doubtful();
    for (NotePlan& plan : piece.asPlayed().plans)
        plan.position.probability = 0.95;
    EXPECT_FALSE(stringWish(piece));
    piece = doubtful();
    piece.string_traits.assign(6, {});
    for (StringTrait& trait : piece.string_traits)
        trait.basis = Basis::Set;
    EXPECT_FALSE(stringWish(piece)) << "calibrated";
    EXPECT_FALSE(stringWish(Piece{}));
}

} // namespace
} // namespace wirenote
