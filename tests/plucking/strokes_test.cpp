#include "piece/edits.h"
#include "plucking/attacks.h"
#include "plucking/strokes.h"
#include "support/pieces.h"

#include <gtest/gtest.h>

namespace wirenote {
namespace {

void planStrokes(Piece& piece) {
    Stroking found = strokes(piece.instrument, piece.timeline, piece.rows(), piece.asPlayed().head);
    for (std::size_t i = 0; i < found.strokes.size(); ++i)
        piece.asPlayed().plans[i].stroke = found.strokes[i];
    piece.asPlayed().head.tool = found.tool;
    piece.asPlayed().head.plucking_school = found.school;
    piece.asPlayed().head.motion = found.motion;
}

PluckingTool likelyTool(const Piece& piece) {
    return wirenote::likelyTool({piece.instrument, piece.timeline, piece.rows()}).value;
}

std::vector<Stroke> strokesOf(const Piece& piece) {
    std::vector<Stroke> strokes;
    for (const NotePlan& plan : piece.asPlayed().plans)
        strokes.push_back(plan.stroke.value);
    return strokes;
}

void strokeWith(Piece& piece, PluckingTool tool) {
    piece.asPlayed().head.tool.set(tool);
    planStrokes(piece);
}

constexpr Stroke D = Stroke::Down;
constexpr Stroke U = Stroke::Up;

// Common practice: eighths have numbers down and "and" up; quarters are all down; sixteenths have
// the number and "and" down, e and a up. The beat is 0.5 s.
TEST(Strokes, EighthsGoDownOnTheNumberAndUpOnTheAnd) {
    Piece piece =
        test::pieceOf({{0.0, 0.2, 60}, {0.25, 0.45, 62}, {0.5, 0.7, 64}, {0.75, 0.95, 65}});
    strokeWith(piece, PluckingTool::Pick);
    EXPECT_EQ(strokesOf(piece), (std::vector<Stroke>{D, U, D, U}));
}

TEST(Strokes, QuartersAreAllDown) {
    Piece piece = test::pieceOf({{0.0, 0.4, 60}, {0.5, 0.9, 62}, {1.0, 1.4, 64}});
    strokeWith(piece, PluckingTool::Pick);
    EXPECT_EQ(strokesOf(piece), (std::vector<Stroke>{D, D, D}));
}

TEST(Strokes, SixteenthsGoDownUpDownUp) {
    Piece piece = test::pieceOf(
        {{0.0, 0.1, 60}, {0.125, 0.2, 62}, {0.25, 0.35, 64}, {0.375, 0.45, 65}, {0.5, 0.6, 67}});
    strokeWith(piece, PluckingTool::Pick);
    EXPECT_EQ(strokesOf(piece), (std::vector<Stroke>{D, U, D, U, D}));
}

// A missed eighth leaves the hand moving: the "and" after it is still an up-stroke.
TEST(Strokes, AnOffBeatAfterARestIsUp) {
    Piece piece = test::pieceOf({{0.0, 0.2, 60}, {0.75, 0.95, 62}, {1.0, 1.2, 64}});
    strokeWith(piece, PluckingTool::Pick);
    EXPECT_EQ(strokesOf(piece), (std::vector<Stroke>{D, U, D}));
}

TEST(Strokes, ASlurredNoteIsNotStruckAndASetStrokeStays) {
    Piece piece = test::pieceOf(
        {{0.0, 0.2, 60}, {0.25, 0.45, 62, {0, 0}, {Technique::HammerOn}}, {0.5, 0.7, 64}});
    piece.asPlayed().plans[2].stroke.set(Stroke::Up);
    strokeWith(piece, PluckingTool::Pick);
    EXPECT_EQ(strokesOf(piece), (std::vector<Stroke>{D, Stroke::None, U}));
    EXPECT_EQ(piece.asPlayed().plans[2].stroke.basis, Basis::Set);
    EXPECT_EQ(piece.asPlayed().plans[0].stroke.basis, Basis::Reasoned);
    EXPECT_LT(piece.asPlayed().plans[0].stroke.probability, 0.95)
        << "a rule without evidence is no certainty";
}

TEST(Strokes, FingersTakeTurnsAndTheThumbHasTheBassStrings) {
    Piece piece = test::pieceOf({{0.0, 0.2, 64, {1, 0}},
                                 {0.25, 0.45, 64, {1, 0}},
                                 {0.5, 0.7, 64, {1, 0}},
                                 {0.75, 0.9, 45, {5, 0}}});
    strokeWith(piece, PluckingTool::Fingers);
    EXPECT_EQ(strokesOf(piece), (std::vector<Stroke>{Stroke::I, Stroke::M, Stroke::I, Stroke::P}));
    EXPECT_EQ(usualTool(InstrumentKind::Bass), PluckingTool::Fingers);
    EXPECT_EQ(usualTool(InstrumentKind::Guitar), PluckingTool::Pick);
}

void hear(Piece& piece, std::size_t first, std::size_t count, bool down, double sure) {
    for (std::size_t i = first; i < first + count; ++i)
        piece.notes[i].ownSound().thick_first = down ? sure : 1.0 - sure;
}

TEST(Attacks, NotesOfOneMovementBelongTogether) {
    Piece piece = test::pieceOf({{0.000, 0.4, 48, {5, 3}},
                                 {0.008, 0.4, 52, {4, 2}},
                                 {0.016, 0.4, 55, {3, 0}},
                                 {0.500, 0.9, 60, {2, 1}},
                                 {0.700, 0.9, 62, {2, 3}, {Technique::HammerOn}}});
    hear(piece, 0, 3, false, 0.9);
    const auto attacks = attacksOf(piece.notes);
    ASSERT_EQ(attacks.size(), 2U) << "a slurred note is no attack";
    EXPECT_EQ(attacks[0].notes.size(), 3U);
    EXPECT_TRUE(attacks[0].heard);
    EXPECT_NEAR(attacks[0].down, 0.1, 1e-9);
    EXPECT_FALSE(attacks[1].heard);
}

TEST(Strokes, WhatWasHeardClearlyOutweighsTheRule) {
    Piece piece = test::pieceOf({{0.0, 0.2, 48, {5, 3}},
                                 {0.01, 0.2, 55, {3, 0}},
                                 {0.5, 0.7, 48, {5, 3}},
                                 {0.51, 0.7, 55, {3, 0}}});
    hear(piece, 0, 2, false, 0.95);
    strokeWith(piece, PluckingTool::Pick);
    EXPECT_EQ(strokesOf(piece), (std::vector<Stroke>{U, U, D, D}));
    EXPECT_EQ(piece.asPlayed().plans[0].stroke.basis, Basis::Heard);
    EXPECT_EQ(piece.asPlayed().plans[2].stroke.basis, Basis::Reasoned);
    EXPECT_EQ(piece.asPlayed().plans[0].stroke.reasons.front().kind, ReasonKind::StringsInTurn);
}

TEST(Strokes, AcceptingEveryNoteOfAStrumKeepsWhichWayItWasHeardToGo) {
    Piece piece = test::pieceOf({{0.0, 0.2, 48, {5, 3}}, {0.01, 0.2, 55, {3, 0}}});
    hear(piece, 0, 2, false, 0.95);
    PieceEditor editor(piece, "2026-01-01T00:00:00Z");
    ASSERT_TRUE(editor.accept(1).ok());
    ASSERT_TRUE(editor.accept(2).ok());
    strokeWith(piece, PluckingTool::Pick);
    EXPECT_EQ(strokesOf(piece), (std::vector<Stroke>{U, U}));
    EXPECT_EQ(piece.asPlayed().plans[0].stroke.basis, Basis::Heard);
}

// Down-strokes only (common practice for heavy riffs): once enough are heard, the hand is taken to
// move twice to a beat without coming up, and what is unclear follows.
TEST(Strokes, TheMotionOfTheHandFollowsWhatIsHeard) {
    std::vector<test::Row> notes;
    for (int k = 0; k < 8; ++k)
        for (int s = 0; s < 2; ++s)
            notes.push_back({0.5 * k + 0.004 * s, 0.5 * k + 0.2, 48 + 7 * s, {5 - 2 * s, 3}});
    Piece piece = test::pieceOf(notes);
    for (std::size_t k = 0; k < 8; ++k)
        hear(piece, 2 * k, 2, true, k == 3 ? 0.52 : 0.9);
    strokeWith(piece, PluckingTool::Pick);
    for (const NotePlan& plan : piece.asPlayed().plans)
        EXPECT_EQ(plan.stroke.value, D);
    EXPECT_GT(piece.asPlayed().plans[6].stroke.probability, 0.62)
        << "the others speak for the doubtful one";
}

TEST(Strokes, HeldChordsHaveAFingerForEachThinString) {
    Piece piece = test::pieceOf({{0.0, 2.0, 48, {5, 3}},
                                 {0.25, 2.0, 55, {3, 0}},
                                 {0.5, 2.0, 60, {2, 1}},
                                 {0.75, 2.0, 64, {1, 0}}});
    strokeWith(piece, PluckingTool::Fingers);
    EXPECT_EQ(strokesOf(piece), (std::vector<Stroke>{Stroke::P, Stroke::I, Stroke::M, Stroke::A}));
}

TEST(LikelyTool, StrumsAreAPickAndHeldPatternsOfAnAcousticAreFingers) {
    std::vector<test::Row> strums;
    std::vector<test::Row> pattern;
    for (int k = 0; k < 8; ++k)
        for (int s = 0; s < 4; ++s)
            strums.push_back({0.5 * k + 0.008 * s, 0.5 * k + 2.0, 50 + 4 * s, {4 - s, 2}});
    for (int k = 0; k < 16; ++k)
        pattern.push_back({0.25 * k, 0.25 * k + 1.5, 50 + 4 * (k % 4), {4 - k % 4, 2}});
    Piece strummed = test::pieceOf(strums);
    Piece picked = test::pieceOf(pattern);
    strummed.instrument.kind = picked.instrument.kind = InstrumentKind::Acoustic;
    EXPECT_EQ(likelyTool(strummed), PluckingTool::Pick);
    EXPECT_EQ(likelyTool(picked), PluckingTool::Fingers);
    picked.instrument.kind = InstrumentKind::Guitar;
    EXPECT_EQ(likelyTool(picked), PluckingTool::Pick) << "an electric guitar, no pinches";
    picked.instrument.kind = InstrumentKind::Nylon;
    EXPECT_EQ(likelyTool(picked), PluckingTool::Fingers);
}

// A bass note that leads in does not make the thumb stop alternating; a bass line is none.
TEST(LikelySchool, TheThumbMayLeadIntoItsBeat) {
    const auto schoolOf = [](int every_off_beat) {
        std::vector<test::Row> rows;
        for (int beat = 0; beat < 16; ++beat) {
            const double at_s = 0.5 * beat;
            const Position bass = beat % 2 == 0 ? Position{5, 3} : Position{4, 2};
            rows.push_back({at_s, at_s + 0.9, beat % 2 == 0 ? 48 : 52, bass});
            if (beat % every_off_beat == every_off_beat - 1)
                rows.push_back({at_s + 0.25, at_s + 0.45, 47, {5, 2}});
            else
                rows.push_back({at_s + 0.25, at_s + 0.45, 60, {2, 1}});
        }
        Piece piece = test::pieceOf(rows);
        piece.instrument.kind = InstrumentKind::Acoustic;
        return likelySchool(PluckingTool::Fingers,
                            {piece.instrument, piece.timeline, piece.rows()});
    };
    EXPECT_EQ(schoolOf(99), PluckingSchool::Thumb);
    EXPECT_EQ(schoolOf(16), PluckingSchool::Thumb);
    EXPECT_EQ(schoolOf(2), PluckingSchool::Pima);
}

// A bass that is held under a tune does not make it a broken chord, nor does a line on the bass
// strings alone.
TEST(PluckedLine, RingsAboveTheBassOnly) {
    const auto ringsOf = [](const std::vector<test::Row>& rows) {
        const Piece piece = test::pieceOf(rows);
        const PluckedLine line(piece.instrument, piece.timeline, piece.rows());
        std::vector<bool> rings;
        for (const Pluck& pluck : line.plucks())
            rings.push_back(pluck.rings);
        return rings;
    };
    EXPECT_EQ(ringsOf({{0.0, 2.0, 45, {5, 0}}, {0.5, 0.9, 64, {1, 0}}, {1.0, 1.4, 60, {2, 1}}}),
              (std::vector<bool>{false, false, false}));
    EXPECT_EQ(ringsOf({{0.0, 2.0, 57, {3, 2}}, {0.5, 2.0, 45, {5, 0}}, {1.0, 2.0, 60, {2, 1}}}),
              (std::vector<bool>{true, false, true}));
    EXPECT_EQ(ringsOf({{0.0, 2.0, 40, {6, 0}}, {0.5, 2.0, 45, {5, 0}}, {1.0, 2.0, 50, {4, 0}}}),
              (std::vector<bool>{false, false, false}));
}

TEST(LikelyTool, IsAskedForOnceAndNeverAgainstAPerson) {
    Piece piece = test::scalePiece(16);
    planStrokes(piece);
    EXPECT_EQ(piece.asPlayed().head.tool.value, PluckingTool::Pick);
    EXPECT_EQ(piece.asPlayed().head.tool.basis, Basis::Reasoned);

    PieceEditor editor(piece, "2026-01-01T00:00:00Z");
    ASSERT_TRUE(editor.setTool(PluckingTool::Fingers).ok());
    EXPECT_FALSE(editor.setTool(PluckingTool::Unknown).ok());
    planStrokes(piece);
    EXPECT_EQ(piece.asPlayed().plans[0].stroke.value, Stroke::I);
    EXPECT_TRUE(piece.asPlayed().head.tool.isSet());

    Piece few = test::scalePiece(4);
    planStrokes(few);
    EXPECT_EQ(few.asPlayed().plans[0].stroke.value, Stroke::Down);
    EXPECT_EQ(few.asPlayed().head.tool.value, PluckingTool::Unknown) << "four notes say little";

    // Guessed of another kind of instrument, it is asked for anew.
    piece.asPlayed().head.tool = {PluckingTool::Pick, Basis::Reasoned, 0.7, {}, {}};
    ASSERT_TRUE(editor.setInstrument(standardInstrument(InstrumentKind::Nylon)).ok());
    planStrokes(piece);
    EXPECT_EQ(piece.asPlayed().head.tool.value, PluckingTool::Fingers);
}

// Common practice: the pick keeps the bass, middle and ring finger pluck what lies above it.
TEST(Strokes, WithPickAndFingersAPinchIsSharedAndALineIsPicked) {
    Piece piece = test::pieceOf({{0.0, 0.4, 45, {5, 0}},
                                 {0.0, 0.4, 60, {2, 1}},
                                 {0.001, 0.4, 64, {1, 0}},
                                 {0.5, 0.7, 48, {5, 3}},
                                 {0.75, 0.95, 50, {4, 0}}});
    strokeWith(piece, PluckingTool::Both);
    EXPECT_EQ(strokesOf(piece), (std::vector<Stroke>{D, Stroke::M, Stroke::A, D, U}));
    EXPECT_EQ(likelySchool(PluckingTool::Both, {piece.instrument, piece.timeline, piece.rows()}),
              PluckingSchool::Hybrid);
}

// What an edit asks for: the strokes of a part are those that the whole piece has.
TEST(Strokes, OfAPartAreThoseOfTheWhole) {
    std::vector<test::Row> rows;
    for (int k = 0; k < 120; ++k) // now eighths, now sixteenths, some slurred
        rows.push_back({0.25 * k + (k % 7 == 3 ? 0.125 : 0.0),
                        0.25 * k + 0.2,
                        50 + k % 9,
                        {1 + k % 5, 2},
                        k % 11 == 5 ? std::vector{Technique::HammerOn} : std::vector<Technique>{}});
    for (const PluckingTool tool :
         {PluckingTool::Pick, PluckingTool::Fingers, PluckingTool::Both}) {
        Piece piece = test::pieceOf(rows);
        for (std::size_t i = 0; i < 40; ++i)
            piece.notes[i].ownSound().thick_first = i % 2 == 0 ? 0.9 : 0.2;
        strokeWith(piece, tool);
        for (std::size_t from = 0; from + 9 < rows.size(); from += 13) {
            Piece open = piece;
            for (std::size_t i = from; i < from + 9; ++i)
                open.asPlayed().plans[i].stroke = {};
            const auto part = strokesOfPart(open.instrument,
                                            open.timeline,
                                            open.rows(),
                                            open.asPlayed().head,
                                            {from, from + 9});
            for (std::size_t i = 0; i < 9; ++i)
                EXPECT_EQ(part.strokes[i].value, piece.asPlayed().plans[from + i].stroke.value)
                    << "note " << from + i;
            EXPECT_EQ(part.motion, piece.asPlayed().head.motion);
        }
    }
}

} // namespace
} // namespace wirenote
