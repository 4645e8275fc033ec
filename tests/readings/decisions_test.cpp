// What new evidence would change is shown, and taken or refused one by one.
#include "readings/decisions.h"

#include "support/pieces.h"

#include <gtest/gtest.h>

#include <algorithm>

namespace wirenote {
namespace {

constexpr const char* kNow = "2026-01-01T00:00:00Z";

Piece before() {
    return test::pieceOf({{0.0, 0.4, 60, {2, 1}},
                          {0.5, 0.9, 62, {2, 3}},
                          {1.0, 1.4, 64, {1, 0}},
                          {1.5, 1.9, 65, {1, 1}}});
}

// One moved, one fingered, one gone, one come.
Piece after() {
    Piece piece = before();
    piece.asPlayed().plans[0].position.value = {3, 5};
    piece.asPlayed().plans[0].position.basis = Basis::Seen;
    piece.asPlayed().plans[1].finger = {Finger::Ring, Basis::Seen, 0.9, {}, {}};
    piece.notes.erase(piece.notes.begin() + 3);
    piece.asPlayed().plans.erase(piece.asPlayed().plans.begin() + 3);
    Note more = piece.notes[2];
    more.id = piece.next_id++;
    more.time.value = {2.0, 2.4};
    piece.notes.push_back(more);
    piece.asPlayed().plans.push_back(piece.asPlayed().plans[2]);
    piece.asPlayed().plans.back().note = more.id;
    return piece;
}

TEST(Decisions, OnlyWhatIsDecidedOtherwiseIsShown) {
    const auto changes = decisionChanges(before(), after());
    ASSERT_EQ(changes.size(), 4U);
    EXPECT_EQ(changes[0].what, ChangedWhat::Place);
    EXPECT_EQ(changes[0].before, "string 2, fret 1");
    EXPECT_EQ(changes[0].after, "string 3, fret 5");
    EXPECT_EQ(changes[0].basis_after, Basis::Seen);
    EXPECT_EQ(changes[1].what, ChangedWhat::Finger);
    EXPECT_EQ(changes[2].what, ChangedWhat::Goes);
    EXPECT_EQ(changes[3].what, ChangedWhat::Comes);
    Piece surer = before();
    surer.asPlayed().plans[0].position.probability = 0.99;
    EXPECT_TRUE(decisionChanges(before(), surer).empty()) << "only more sure of the same";
}

TEST(Decisions, WhatIsRefusedIsSetAsItWas) {
    const Piece was = before();
    const Piece is = after();
    const Piece none = withoutChanges(was, is, {}, kNow, "N. N.");
    EXPECT_EQ(none, is);
    std::vector<NoteId> all;
    for (const DecisionChange& change : decisionChanges(was, is))
        all.push_back(change.note);
    const Piece kept = withoutChanges(was, is, all, kNow, "N. N.");
    EXPECT_TRUE(checkPiece(kept).ok());
    ASSERT_EQ(kept.notes.size(), was.notes.size());
    for (std::size_t i = 0; i < was.notes.size(); ++i) {
        EXPECT_EQ(kept.notes[i].id, was.notes[i].id);
        EXPECT_EQ(kept.asPlayed().plans[i].position.value, was.asPlayed().plans[i].position.value);
    }
    EXPECT_TRUE(kept.asPlayed().plans[0].position.isSet()) << "and is not asked again";
    EXPECT_TRUE(kept.notes[3].existence.isSet());
    EXPECT_EQ(kept.log.size(), was.log.size() + 4);
    // One alone.
    const Piece one = withoutChanges(was, is, {was.notes[0].id}, kNow, "");
    EXPECT_EQ(one.asPlayed().plans[0].position.value, (Position{2, 1}));
    EXPECT_EQ(one.asPlayed().plans[1].finger.value, Finger::Ring);
    EXPECT_EQ(one.notes.size(), 4U);
}

} // namespace
} // namespace wirenote
