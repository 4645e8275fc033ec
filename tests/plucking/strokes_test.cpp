#include "plucking/strokes.h"
#include "support/pieces.h"

#include <gtest/gtest.h>

namespace wirenote {
namespace {

std::vector<Stroke> strokesOf(const Piece& piece) {
    std::vector<Stroke> strokes;
    for (const NotePlan& plan : piece.reading.plans)
        strokes.push_back(plan.stroke.value);
    return strokes;
}

constexpr Stroke D = Stroke::Down;
constexpr Stroke U = Stroke::Up;

// Common practice: eighths have numbers down and "and" up; quarters are all down; sixteenths have
// the number and "and" down, e and a up. The beat is 0.5 s.
TEST(Strokes, EighthsGoDownOnTheNumberAndUpOnTheAnd) {
    Piece piece =
        test::pieceOf({{0.0, 0.2, 60}, {0.25, 0.45, 62}, {0.5, 0.7, 64}, {0.75, 0.95, 65}});
    planStrokes(piece, PluckingTool::Pick);
    EXPECT_EQ(strokesOf(piece), (std::vector<Stroke>{D, U, D, U}));
}

TEST(Strokes, QuartersAreAllDown) {
    Piece piece = test::pieceOf({{0.0, 0.4, 60}, {0.5, 0.9, 62}, {1.0, 1.4, 64}});
    planStrokes(piece, PluckingTool::Pick);
    EXPECT_EQ(strokesOf(piece), (std::vector<Stroke>{D, D, D}));
}

TEST(Strokes, SixteenthsGoDownUpDownUp) {
    Piece piece = test::pieceOf(
        {{0.0, 0.1, 60}, {0.125, 0.2, 62}, {0.25, 0.35, 64}, {0.375, 0.45, 65}, {0.5, 0.6, 67}});
    planStrokes(piece, PluckingTool::Pick);
    EXPECT_EQ(strokesOf(piece), (std::vector<Stroke>{D, U, D, U, D}));
}

// A missed eighth leaves the hand moving: the "and" after it is still an up-stroke.
TEST(Strokes, AnOffBeatAfterARestIsUp) {
    Piece piece = test::pieceOf({{0.0, 0.2, 60}, {0.75, 0.95, 62}, {1.0, 1.2, 64}});
    planStrokes(piece, PluckingTool::Pick);
    EXPECT_EQ(strokesOf(piece), (std::vector<Stroke>{D, U, D}));
}

TEST(Strokes, ASlurredNoteIsNotStruckAndASetStrokeStays) {
    Piece piece = test::pieceOf(
        {{0.0, 0.2, 60}, {0.25, 0.45, 62, {0, 0}, {Technique::HammerOn}}, {0.5, 0.7, 64}});
    piece.reading.plans[2].stroke.set(Stroke::Up);
    planStrokes(piece, PluckingTool::Pick);
    EXPECT_EQ(strokesOf(piece), (std::vector<Stroke>{D, Stroke::None, U}));
    EXPECT_EQ(piece.reading.plans[2].stroke.basis, Basis::Set);
    EXPECT_EQ(piece.reading.plans[0].stroke.basis, Basis::Reasoned);
    EXPECT_LT(piece.reading.plans[0].stroke.probability, 0.7)
        << "a rule without evidence is no certainty";
}

TEST(Strokes, FingersTakeTurnsAndTheThumbHasTheBassStrings) {
    Piece piece = test::pieceOf({{0.0, 0.2, 64, {1, 0}},
                                 {0.25, 0.45, 64, {1, 0}},
                                 {0.5, 0.7, 64, {1, 0}},
                                 {0.75, 0.9, 45, {5, 0}}});
    planStrokes(piece, PluckingTool::Fingers);
    EXPECT_EQ(strokesOf(piece), (std::vector<Stroke>{Stroke::I, Stroke::M, Stroke::I, Stroke::P}));
    EXPECT_EQ(usualTool(InstrumentKind::Bass), PluckingTool::Fingers);
    EXPECT_EQ(usualTool(InstrumentKind::Guitar), PluckingTool::Pick);
}

} // namespace
} // namespace wirenote
