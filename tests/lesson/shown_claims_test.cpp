// What is played otherwise than the tab has it, where a take shows the piece once more.
#include "lesson/shown_claims.h"

#include "lesson/claims_json.h"
#include "support/pieces.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <nlohmann/json.hpp>

namespace wirenote {
namespace {

using testing::IsEmpty;
using testing::SizeIs;

// Eight notes, two a second, and a take that shows them at half the tempo from its second 10 on.
Piece shownOnce() {
    std::vector<test::Row> rows;
    for (int i = 0; i < 8; ++i)
        rows.push_back({0.5 * i, 0.5 * i + 0.45, 60 + i, {2, 1 + i}});
    Piece piece = test::pieceOf(rows);
    piece.takes.resize(2);
    Take& slow = piece.takes[1];
    slow.name = "slowly";
    slow.length_s = 30.0;
    for (int i = 0; i < 8; ++i)
        slow.notes.push_back({{10.0 + i, 10.9 + i}, 60 + i, 0.95, {}});
    Demonstration shown;
    shown.span = {9.9, 18.0};
    shown.kind = DemonstrationKind::Piece;
    shown.moments = {{0.0, 10.0}, {4.0, 18.0}};
    shown.probability = 0.9;
    slow.demonstrations = {shown};
    return piece;
}

std::vector<CheckedClaim> claimsOf(const Piece& piece) {
    const LessonFacts facts(piece);
    const Speaker speaker(Vocabulary::english(), piece.lesson.manner, piece.instrument, piece.key);
    return checkDemonstrations(facts, speaker);
}

TEST(ShownClaims, WhatIsPlayedAsTheTabHasItSaysNothing) {
    EXPECT_THAT(claimsOf(shownOnce()), IsEmpty());
}

TEST(ShownClaims, AnotherPitchContradictsWhereItIsPlayed) {
    Piece piece = shownOnce();
    piece.takes[1].notes[5].midi = 67; // G instead of F
    const auto claims = claimsOf(piece);
    ASSERT_THAT(claims, SizeIs(1));
    EXPECT_EQ(claims[0].field, ClaimField::Note);
    EXPECT_EQ(claims[0].verdict, ClaimVerdict::Wrong);
    EXPECT_EQ(claims[0].said, "G");
    EXPECT_EQ(claims[0].is, "F");
    EXPECT_EQ(claims[0].take, 1U);
    EXPECT_NEAR(claims[0].start_s, 15.0, 0.01); // in the take
    EXPECT_NEAR(claims[0].hear_s, 2.5, 0.01);   // in the piece
    EXPECT_EQ(claims[0].bar, 2);
    EXPECT_EQ(claims[0].note, piece.notes[5].id);
    EXPECT_EQ(claims[0].text, "slowly");
}

TEST(ShownClaims, WhatIsLeftOutAndWhatIsAddedAreTold) {
    Piece piece = shownOnce();
    piece.takes[1].notes.erase(piece.takes[1].notes.begin() + 2);
    piece.takes[1].notes.insert(piece.takes[1].notes.begin() + 2, {{11.5, 11.9}, 76, 0.95, {}});
    const auto claims = claimsOf(piece);
    ASSERT_THAT(claims, SizeIs(2));
    EXPECT_EQ(claims[0].said, "E");
    EXPECT_EQ(claims[0].is, "");
    EXPECT_EQ(claims[1].said, "");
    EXPECT_EQ(claims[1].is, "D");
}

TEST(ShownClaims, WhatWasHardToHearIsUnclear) {
    Piece piece = shownOnce();
    piece.takes[1].notes[5].midi = 67;
    piece.takes[1].notes[5].probability = 0.5;
    const auto claims = claimsOf(piece);
    ASSERT_THAT(claims, SizeIs(1));
    EXPECT_EQ(claims[0].verdict, ClaimVerdict::Unclear);
}

TEST(ShownClaims, ASlurInsteadOfAStroke) {
    Piece piece = shownOnce();
    piece.takes[1].notes[3].techniques = {Technique::HammerOn};
    const auto claims = claimsOf(piece);
    ASSERT_THAT(claims, SizeIs(1));
    EXPECT_EQ(claims[0].field, ClaimField::Stroke);
    EXPECT_EQ(claims[0].said, "slurred");
    EXPECT_EQ(claims[0].is, "struck");
}

TEST(ShownClaims, WhatAPersonHasRefusedCountsForNothing) {
    Piece piece = shownOnce();
    piece.takes[1].notes[5].midi = 67;
    piece.takes[1].demonstrations[0].learn = {false, Basis::Set, 1.0, {}, {}};
    EXPECT_THAT(claimsOf(piece), IsEmpty());
}

TEST(ShownClaims, AHigherTakeIsHeldAgainstItsOwnKey) {
    Piece piece = shownOnce();
    for (TakeNote& note : piece.takes[1].notes)
        note.midi += 2;
    piece.takes[1].demonstrations[0].semitones = 2;
    EXPECT_THAT(claimsOf(piece), IsEmpty());
}

// A file may say anything within its bounds: names are never looked for outside the octave.
TEST(ShownClaims, WhatWouldLieBelowEverythingHasItsNameToo) {
    Piece piece = shownOnce();
    piece.takes[1].notes[5].midi = 3;
    piece.takes[1].demonstrations[0].semitones = 24;
    for (const CheckedClaim& claim : claimsOf(piece))
        EXPECT_FALSE(claim.said.empty() && claim.is.empty());
}

TEST(ShownClaims, StandInTheListWithoutACue) {
    Piece piece = shownOnce();
    piece.takes[1].notes[5].midi = 67;
    const auto list = nlohmann::json::parse(writeClaimsJson(claimsOf(piece)));
    ASSERT_EQ(list.size(), 1U);
    EXPECT_FALSE(list[0].contains("cue"));
    EXPECT_EQ(list[0]["take"], 1);
    EXPECT_EQ(list[0]["verdict"], "wrong");
}

} // namespace
} // namespace wirenote
