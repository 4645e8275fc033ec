#include "piece/edits.h"

#include "piece/delta.h"
#include "support/pieces.h"

#include <gmock/gmock.h>

namespace wirenote {
namespace {

using ::testing::HasSubstr;

TakeAlignment bent() {
    TakeAlignment a;
    a.stretches = {{{0.0, 2.0}, {10.0, 14.0}, {20.0, 24.0}}};
    return a;
}

struct Case {
    const char* name;
    double piece_s;
    double take_s;
};
TEST(TakeAlignment, MapsBothWaysAndGoesOnAtTheEnds) {
    const TakeAlignment a = bent();
    for (const Case& row : {Case{"on a moment", 10.0, 14.0},
                            Case{"between", 5.0, 8.0},
                            Case{"after the bend", 15.0, 19.0},
                            Case{"before the first", -5.0, -4.0},
                            Case{"after the last", 30.0, 34.0}}) {
        EXPECT_NEAR(a.toTake({row.piece_s}).s, row.take_s, 1e-9) << row.name;
        EXPECT_NEAR(a.toPiece({row.take_s}).s, row.piece_s, 1e-9) << row.name;
    }
    EXPECT_NEAR(a.rateAt({3.0}), 1.2, 1e-6);
    EXPECT_DOUBLE_EQ(TakeAlignment{}.toTake({7.5}).s, 7.5);
    TakeAlignment shifted;
    shifted.shift(2.0);
    EXPECT_DOUBLE_EQ(shifted.toTake({5.0}).s, 3.0);
}

TEST(TakeAlignment, TimeMustGoForward) {
    TakeAlignment a = bent();
    EXPECT_TRUE(a.valid());
    a.stretches[0][1].take_s = 30.0;
    EXPECT_FALSE(a.valid());
}

// A lesson: bars 1 to 2 twice, then on from 3 at half speed.
TEST(TakeAlignment, ATakeMayVisitAPlaceSeveralTimes) {
    TakeAlignment a;
    a.stretches = {
        {{0.0, 1.0}, {4.0, 5.0}}, {{0.0, 10.0}, {4.0, 14.0}}, {{4.0, 20.0}, {8.0, 28.0}}};
    ASSERT_TRUE(a.valid());
    EXPECT_EQ(a.everyVisit({2.0}), (std::vector<TakeTime>{{3.0}, {12.0}}));
    EXPECT_EQ(a.everyVisit({6.0}), (std::vector<TakeTime>{{24.0}}));
    EXPECT_TRUE(a.everyVisit({9.0}).empty());
    EXPECT_EQ(a.toTake({2.0}), TakeTime{3.0}) << "the first visit";
    EXPECT_EQ(a.toPiece({12.0}), PieceTime{2.0});
    EXPECT_EQ(a.toPiece({24.0}), PieceTime{6.0});
    a.stretches[1][0].take_s = 4.0;
    EXPECT_FALSE(a.valid()) << "begins before the stretch in front of it ends";
}

Piece withTakes() {
    Piece piece = test::scalePiece(8);
    Take first;
    first.name = "first";
    first.path = "first.wav";
    first.length_s = 30.0;
    Take second = first;
    second.name = "second";
    second.path = "second.wav";
    piece.takes = {first, second};
    return piece;
}

TEST(TakeEdits, RefuseWhatMakesNoSense) {
    Piece piece = withTakes();
    const Piece before = piece;
    PieceEditor editor(piece, "2026-01-01T00:00:00Z");
    const auto says = [](const Status& status) {
        return status ? std::string("done") : status.error().message;
    };
    EXPECT_THAT(says(editor.addTake(before.takes[1])), HasSubstr("among the takes"));
    EXPECT_THAT(says(editor.removeTake(0)), HasSubstr("keeps the time"));
    EXPECT_THAT(says(editor.removeTake(5)), HasSubstr("no such take"));
    EXPECT_THAT(says(editor.changeTake(0, [](Take& t) { t.alignment.shift(1.0); })),
                HasSubstr("keeps the time"));
    EXPECT_THAT(says(editor.changeTake(1,
                                       [](Take& t) {
                                           t.trim = {5.0, 99.0};
                                       })),
                HasSubstr("within the take"));
    EXPECT_THAT(says(editor.changeTake(1, [](Take& t) { t.gain_db = 90.0; })), HasSubstr("24 dB"));
    EXPECT_THAT(says(editor.changeTake(1,
                                       [](Take& t) {
                                           t.alignment.stretches = {{{1, 2}, {2, 1}}};
                                       })),
                HasSubstr("follow each other"));
    EXPECT_TRUE(piece == before);
}

TEST(TakeEdits, AreUndoneByTheirDifference) {
    const Piece before = withTakes();
    Piece after = before;
    PieceEditor editor(after, "2026-01-01T00:00:00Z");
    ASSERT_TRUE(editor.changeTake(1, [](Take& t) { t.rights = TakeRights::StudyOnly; }).ok());
    ASSERT_TRUE(editor.removeTake(1).ok());
    const PieceDelta delta = difference(before, after);
    Piece piece = after;
    revert(delta, piece);
    EXPECT_TRUE(piece == before);
    apply(delta, piece);
    EXPECT_TRUE(piece == after);
}

TEST(AdoptHearing, WhatAPersonDecidedSurvivesAndIsNotHeardTwice) {
    Piece piece = withTakes();
    PieceEditor editor(piece, "2026-01-01T00:00:00Z");
    const NoteId kept = piece.notes[3].id;
    ASSERT_TRUE(editor.accept(kept).ok());
    Piece heard = test::scalePiece(8); // the same notes again
    heard.takes = {piece.takes.front()};
    heard.takes.front().reference = {438.0, 2.0, Basis::Heard};
    heard.notes.erase(heard.notes.begin());
    heard.asPlayed().plans.erase(heard.asPlayed().plans.begin());
    ASSERT_TRUE(editor.adoptHearing(heard, {0.0, 1.6}).ok());
    // Of the old notes the set one stays and the one after the span; five of the heard ones are
    // new.
    EXPECT_EQ(piece.notes.size(), 2U + 5U);
    ASSERT_NE(piece.note(kept), nullptr);
    EXPECT_TRUE(piece.plan(kept)->position.isSet() || piece.note(kept)->pitch.isSet());
    EXPECT_DOUBLE_EQ(piece.lead()->reference.a4_hz, 438.0);
    EXPECT_TRUE(checkPiece(piece).ok()) << checkPiece(piece).error().message;
    // A reference that was set stays.
    ASSERT_TRUE(editor.setReference(441.0).ok());
    ASSERT_TRUE(editor.adoptHearing(heard, {0.0, 30.0}).ok());
    EXPECT_DOUBLE_EQ(piece.lead()->reference.a4_hz, 441.0);
}

TEST(AdoptHearing, TheToolOfAWholeHearingIsTakenUnlessAPersonSaidIt) {
    Piece piece = withTakes();
    PieceEditor editor(piece, "2026-01-01T00:00:00Z");
    Piece heard = test::scalePiece(8);
    heard.asPlayed().head.tool = {PluckingTool::Fingers, Basis::Reasoned, 0.7, {}, {}};
    piece.asPlayed().head.tool = {PluckingTool::Pick, Basis::Reasoned, 0.7, {}, {}};
    Piece part = heard;
    part.notes.resize(1);
    part.asPlayed().plans.resize(1);
    ASSERT_TRUE(editor.adoptHearing(part, {0.0, 0.2}).ok());
    EXPECT_EQ(piece.asPlayed().head.tool.value, PluckingTool::Pick) << "a part turns nothing over";
    ASSERT_TRUE(editor.adoptHearing(heard, {0.0, 30.0}).ok());
    EXPECT_EQ(piece.asPlayed().head.tool.value, PluckingTool::Fingers);
    ASSERT_TRUE(editor.setTool(PluckingTool::Pick).ok());
    ASSERT_TRUE(editor.adoptHearing(heard, {0.0, 30.0}).ok());
    EXPECT_EQ(piece.asPlayed().head.tool.value, PluckingTool::Pick);
}

// A bar written down as another take plays it.
struct Followed : public ::testing::Test {
    Followed() {
        piece = test::pieceOf(
            {{0.0, 0.4, 64}, {0.5, 0.9, 59}, {1.0, 1.4, 67}, {1.5, 1.9, 62}, {2.0, 2.4, 64}});
        piece.takes.resize(3);
        piece.notes[2].pitch.set(67);
    }
    std::vector<int> pitches() const {
        std::vector<int> all;
        for (const Note& note : piece.notes)
            all.push_back(note.midi());
        return all;
    }
    Piece piece;
    // Half a second on: one the same, one other, two more; what the third note is, a person said.
    std::vector<TakeNote> played{{{0.52, 0.9}, 59, 0.9, {}},
                                 {{1.25, 1.4}, 65, 0.9, {Technique::HammerOn}},
                                 {{1.51, 1.9}, 60, 0.9, {}},
                                 {{2.2, 2.4}, 40, 0.9, {}}};
};

TEST_F(Followed, HasTheNotesOfTheTakeAndKeepsWhatAPersonDecided) {
    ASSERT_TRUE(PieceEditor(piece, "").follow({0.45, 1.95}, 1, played).ok());
    ASSERT_TRUE(checkPiece(piece).ok());
    EXPECT_EQ(pitches(), (std::vector<int>{64, 59, 67, 65, 60, 64}));
    EXPECT_TRUE(piece.notes[1].existence.isSet());
    EXPECT_DOUBLE_EQ(piece.notes[1].onset_s(), 0.5) << "where the leading take has it";
    EXPECT_TRUE(piece.notes[3].has(Technique::HammerOn));
    EXPECT_EQ(piece.followed, (std::vector<FollowedTake>{{{0.45, 1.95}, 1}}));
}

TEST_F(Followed, IsForgottenInPartsAndWithTheTake) {
    ASSERT_TRUE(PieceEditor(piece, "").follow({0.0, 4.0}, 2, played).ok());
    ASSERT_TRUE(PieceEditor(piece, "").follow({1.0, 2.0}, 1, {}).ok());
    ASSERT_TRUE(PieceEditor(piece, "").follow({3.0, 3.5}, {}, {}).ok());
    ASSERT_TRUE(checkPiece(piece).ok());
    EXPECT_EQ(piece.followed,
              (std::vector<FollowedTake>{
                  {{0.0, 1.0}, 2}, {{1.0, 2.0}, 1}, {{2.0, 3.0}, 2}, {{3.5, 4.0}, 2}}));
    ASSERT_TRUE(PieceEditor(piece, "").removeTake(1).ok());
    EXPECT_EQ(piece.followed,
              (std::vector<FollowedTake>{{{0.0, 1.0}, 1}, {{2.0, 3.0}, 1}, {{3.5, 4.0}, 1}}));
    EXPECT_FALSE(PieceEditor(piece, "").follow({0.0, 1.0}, 7, {}).ok());
    EXPECT_FALSE(PieceEditor(piece, "").follow({1.0, 1.0}, 1, {}).ok());
}

// Several films of one note: the one that is trusted is believed, what a person showed before all.
TEST(Films, TheOneThatIsTrustedTellsANote) {
    Note note;
    EXPECT_EQ(note.seen(), nullptr);
    SeenFacts& first = note.seenIn(0, {});
    first.tips = {{1, 4.6, 2.0}};
    first.trust = 0.2;
    EXPECT_EQ(note.factsOf(1), nullptr);
    SeenFacts& other = note.seenIn(1, {3.0, 3.5});
    other.tips = {{2, 6.6, 3.0}};
    other.trust = 0.9;
    ASSERT_TRUE(note.seen());
    EXPECT_EQ(note.seen()->tips.front().finger, 2);
    ASSERT_TRUE(note.factsOf(1));
    EXPECT_EQ(note.factsOf(1)->span, (TimeRange{3.0, 3.5}));
    note.seenIn(1, {9.0, 9.5}).trust = 0.1;
    EXPECT_EQ(note.facts.size(), 2U) << "what is known of that take is written over";
    EXPECT_EQ(note.seen()->tips.front().finger, 1);
    note.seenIn(1, {}).shown = ShownIn{3.1, 200.0, 100.0};
    EXPECT_EQ(note.seen()->tips.front().finger, 2) << "a person showed something in it";
    // The way of a pick alone says less than fingertips do.
    note.seenIn(1, {}) = {};
    note.seenIn(1, {}).down = 0.9;
    note.seenIn(1, {}).trust = 0.3;
    EXPECT_EQ(note.seen()->tips.size(), 1U);
}

// The partials of a note that turned out to have another pitch are forgotten, its film is not.
TEST(Films, StayWithANoteThatGetsAnotherPitch) {
    Note note;
    note.ownSound().stiffness = {-9.0, 0.1, false, false};
    SeenFacts& seen = note.seenIn(1, {3.0, 3.5});
    seen.tips = {{2, 6.6, 3.0}};
    seen.trust = 0.9;
    note.forgetString();
    EXPECT_EQ(note.factsOf(0), nullptr) << "nothing is left of it";
    ASSERT_TRUE(note.seen());
    EXPECT_EQ(note.seen()->tips.size(), 1U);
}

} // namespace
} // namespace wirenote
