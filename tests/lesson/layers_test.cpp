// The plucking hand built up layer by layer (common practice).
#include "lesson/breakdown.h"
#include "lesson/pictures.h"
#include "lesson/wording.h"
#include "support/pieces.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

namespace wirenote {
namespace {

using testing::ElementsAre;
using testing::HasSubstr;
using testing::Not;

// Eighths in two bars of four, struck by these in turn.
Piece struckBy(const std::vector<Stroke>& turn) {
    std::vector<test::Row> rows;
    for (int i = 0; i < 16; ++i)
        rows.push_back({0.25 * i, 0.25 * i + 0.2, 60 + i % 5, {2, 1 + i % 5}});
    Piece piece = test::pieceOf(rows);
    for (std::size_t i = 0; i < rows.size(); ++i) {
        piece.asPlayed().plans[i].stroke.value = turn[i % turn.size()];
        piece.asPlayed().plans[i].finger.value = Finger::Index;
    }
    piece.lesson.manner.order = TeachingOrder::Layers;
    return piece;
}

std::vector<PluckingLayer> layersOf(const Piece& piece) {
    const LessonFacts facts(piece);
    return layersOf(facts, Rational(0), Rational(8));
}

TEST(Layers, TheThumbAloneThenOneFingerMoreEach) {
    EXPECT_THAT(layersOf(struckBy({Stroke::P, Stroke::I, Stroke::M, Stroke::I})),
                ElementsAre(PluckingLayer{{Stroke::P}, false},
                            PluckingLayer{{Stroke::P, Stroke::I}, false},
                            PluckingLayer{}));
}

TEST(Layers, APickIsFirstOnItsBeats) {
    EXPECT_THAT(layersOf(struckBy({Stroke::Down, Stroke::Up})),
                ElementsAre(PluckingLayer{{}, true}, PluckingLayer{}));
}

TEST(Layers, APickBesideFingersComesBeforeThem) {
    EXPECT_THAT(layersOf(struckBy({Stroke::Down, Stroke::M, Stroke::A})),
                ElementsAre(PluckingLayer{{Stroke::Down}, false},
                            PluckingLayer{{Stroke::Down, Stroke::M}, false},
                            PluckingLayer{}));
}

TEST(Layers, OneFingerAloneHasNothingToBeBuiltUpFrom) {
    EXPECT_THAT(layersOf(struckBy({Stroke::I})),
                ElementsAre(PluckingLayer{{}, true}, PluckingLayer{}));
}

TEST(Layers, WhatIsNotStruckIsInTheLastOnly) {
    const Piece piece = struckBy({Stroke::P, Stroke::None});
    const LessonFacts facts(piece);
    const PluckingLayer thumb{{Stroke::P}, false};
    EXPECT_TRUE(inLayer(facts, thumb, facts.moments()[0], facts.moments()[0].notes[0]));
    EXPECT_FALSE(inLayer(facts, thumb, facts.moments()[1], facts.moments()[1].notes[0]));
    EXPECT_TRUE(inLayer(facts, {}, facts.moments()[1], facts.moments()[1].notes[0]));
}

TEST(Layers, AreStepsOfTheirOwnWithTheirWords) {
    const Piece piece = struckBy({Stroke::P, Stroke::I, Stroke::M, Stroke::I});
    const LessonFacts facts(piece);
    const Breakdown breakdown = breakdownOf(facts);
    const Speaker speaker(Vocabulary::english(), piece.lesson.manner, piece.instrument, piece.key);
    const LessonWriter writer(facts, breakdown, speaker);
    std::vector<std::string> said;
    for (std::size_t s = 0; s < breakdown.steps.size(); ++s)
        if (breakdown.steps[s].kind == StepKind::Layer &&
            breakdown.steps[s].phrases == std::vector<std::size_t>{0})
            said.push_back(writer.step(s).text);
    ASSERT_EQ(said.size(), 4U);
    EXPECT_THAT(said[0], HasSubstr("only thumb (p)"));
    EXPECT_THAT(said[1], HasSubstr("thumb (p) and index (i)"));
    EXPECT_THAT(said[2], HasSubstr("all strokes"));
    EXPECT_THAT(said[3], HasSubstr("press what the fretting hand holds"));
}

TEST(Layers, APictureShowsWhatALayerPlays) {
    const Piece piece = struckBy({Stroke::P, Stroke::I});
    const LessonFacts facts(piece);
    const std::string thumb =
        strokesSvg(facts, Rational(0), Rational(4), "thumb", {{Stroke::P}, false});
    EXPECT_THAT(thumb, HasSubstr(">p<"));
    EXPECT_THAT(thumb, Not(HasSubstr(">i<")));
    const std::string all = strokesSvg(facts, Rational(0), Rational(4), "all");
    EXPECT_THAT(all, HasSubstr(">i<"));
}

} // namespace
} // namespace wirenote
