#include "fretting/solver.h"
#include "hand/candidates.h"

#include <cmath>
#include <gtest/gtest.h>
#include <limits>

namespace wirenote {
namespace {

Instrument guitar() {
    return standardInstrument(InstrumentKind::Guitar);
}

std::vector<LineNote> lineOf(const std::vector<int>& midi, double gap_s = 0.3) {
    std::vector<LineNote> line;
    for (std::size_t i = 0; i < midi.size(); ++i) {
        LineNote note;
        note.onset_s = gap_s * static_cast<double>(i);
        note.offset_s = note.onset_s + 0.95 * gap_s;
        note.midi = midi[i];
        line.push_back(note);
    }
    return line;
}

TEST(Candidates, AreEveryPlaceAndOnlyThose) {
    const Instrument instrument = guitar();
    for (int midi = 30; midi <= 90; ++midi) {
        std::vector<Position> brute;
        for (int s = 1; s <= 6; ++s)
            for (int f = 0; f <= instrument.highestFret(); ++f)
                if (instrument.midiAt({s, f}) == midi)
                    brute.push_back({s, f});
        EXPECT_EQ(candidatesFor(instrument, midi), brute) << midi;
    }
    EXPECT_EQ(candidatesFor(instrument, 64).size(), 5U); // E4 lies on five strings: common practice
}

// What the cheapest way costs when each note is put at each of its places in turn.
double
cheapestByBruteForce(const Instrument& instrument, std::vector<LineNote> line, std::size_t at = 0) {
    if (at == line.size())
        return solveLine(instrument, line).cost;
    double best = std::numeric_limits<double>::infinity();
    for (const Position& place : candidatesFor(instrument, line[at].midi)) {
        line[at].fixed_position = place;
        best = std::min(best, cheapestByBruteForce(instrument, line, at + 1));
    }
    return best;
}

class ShortLines : public ::testing::TestWithParam<std::vector<int>> {};
TEST_P(ShortLines, CostNoMoreThanTheBestOfAllWays) {
    const Instrument instrument = guitar();
    const auto line = lineOf(GetParam());
    const LineSolution solved = solveLine(instrument, line);
    EXPECT_NEAR(solved.cost, cheapestByBruteForce(instrument, line), 1e-5);
}
INSTANTIATE_TEST_SUITE_P(Lines,
                         ShortLines,
                         ::testing::Values(std::vector<int>{64, 67, 69, 71},
                                           std::vector<int>{76, 74, 71},
                                           std::vector<int>{45, 57, 69},
                                           std::vector<int>{60, 60, 62}));

TEST(Solver, SaysWhetherItLookedAtEverything) {
    EXPECT_TRUE(solveLine(guitar(), lineOf({45, 57, 69})).complete);
    EXPECT_FALSE(solveLine(guitar(), lineOf({64, 67, 69, 71})).complete);
}

TEST(Solver, OpenPositionTuneStaysThere) {
    // A first-position scale of C with open strings: common practice.
    const auto placements = solveLine(guitar(), lineOf({48, 50, 52, 53, 55, 57, 59, 60})).notes;
    const std::vector<Position> expected = {
        {5, 3}, {4, 0}, {4, 2}, {4, 3}, {3, 0}, {3, 2}, {2, 0}, {2, 1}};
    for (std::size_t i = 0; i < expected.size(); ++i)
        EXPECT_EQ(placements[i].position, expected[i]) << i;
}

TEST(Solver, ProbabilitiesAddUpAndTheChosenPlaceIsTheLikeliest) {
    const auto placements = solveLine(guitar(), lineOf({64, 67, 69, 71, 72, 71, 69, 67})).notes;
    for (const LinePlacement& p : placements) {
        double sum = 0.0;
        for (const PlaceProbability& place : p.places)
            sum += place.probability;
        EXPECT_NEAR(sum, 1.0, 1e-9);
        EXPECT_EQ(p.places.front().position, p.position);
    }
}

TEST(Solver, OneFixedNoteTakesItsNeighboursAlong) {
    auto line = lineOf({64, 65, 67, 69, 67, 65, 64});
    const auto free = solveLine(guitar(), line).notes;
    line[3].fixed_position = Position{3, 14};
    const auto bound = solveLine(guitar(), line).notes;
    EXPECT_EQ(bound[3].position, (Position{3, 14}));
    EXPECT_DOUBLE_EQ(bound[3].places.front().probability, 1.0);
    EXPECT_NE(free[2].position, bound[2].position);
    EXPECT_GE(bound[2].hand_fret, 9);
}

TEST(Solver, ASlurStaysOnItsString) {
    auto line = lineOf({59, 61, 59});
    line[1].slur = Slur::Hammer;
    line[2].slur = Slur::Pull;
    const auto placements = solveLine(guitar(), line).notes;
    EXPECT_EQ(placements[0].position.string, placements[1].position.string);
    EXPECT_EQ(placements[1].position.string, placements[2].position.string);
}

TEST(Solver, ASlideKeepsItsFinger) {
    auto line = lineOf({67, 69, 71});
    line[0].fixed_position = Position{2, 8};
    line[1].slur = Slur::Slide;
    const auto placements = solveLine(guitar(), line).notes;
    EXPECT_EQ(placements[0].finger, placements[1].finger);
    EXPECT_EQ(placements[1].position, (Position{2, 10}));
}

// Heard wrongly: a slur over a leap that no string holds must not make the rest unplayable.
TEST(Solver, AnImpossibleSlurIsGotOver) {
    auto line = lineOf({40, 86, 64});
    line[1].slur = Slur::Hammer;
    const auto placements = solveLine(guitar(), line).notes;
    for (const LinePlacement& p : placements)
        EXPECT_TRUE(p.possible);
}

TEST(Solver, APitchOffTheNeckIsSaidSo) {
    const auto placements = solveLine(guitar(), lineOf({64, 20, 67})).notes;
    EXPECT_TRUE(placements[0].possible);
    EXPECT_FALSE(placements[1].possible);
    EXPECT_TRUE(placements[2].possible);
    EXPECT_TRUE(solveLine(guitar(), {}).notes.empty());
}

TEST(Solver, ThumbSetByAPersonIsKept) {
    auto line = lineOf({42, 57});
    line[0].fixed_position = Position{6, 2};
    line[0].fixed_finger = Finger::Thumb;
    EXPECT_EQ(solveLine(guitar(), line).notes[0].finger, Finger::Thumb);
}

// The ranked ways: no two alike, each as cheap as when its places and fingers are given.
TEST(Solver, TheCheapestWaysAreInOrderAndAllDiffer) {
    auto line = lineOf({64, 67, 69, 67});
    const auto ways = cheapestWays(guitar(), line, 5);
    ASSERT_EQ(ways.size(), 5U);
    const LineSolution solved = solveLine(guitar(), line);
    EXPECT_NEAR(ways.front().cost, solved.cost, 1e-5);
    for (std::size_t i = 0; i < line.size(); ++i)
        EXPECT_EQ(ways.front().positions[i], solved.notes[i].position);
    for (std::size_t w = 0; w < ways.size(); ++w) {
        for (std::size_t other = 0; other < w; ++other) {
            EXPECT_LE(ways[other].cost, ways[w].cost);
            EXPECT_FALSE(ways[other].positions == ways[w].positions &&
                         ways[other].fingers == ways[w].fingers);
        }
        for (std::size_t i = 0; i < line.size(); ++i) {
            line[i].fixed_position = ways[w].positions[i];
            line[i].fixed_finger = ways[w].fingers[i];
        }
        EXPECT_NEAR(solveLine(guitar(), line).cost, ways[w].cost, 1e-5) << w;
    }
}

// In a chord the places give way to one another: what no hand holds together is not chosen.
TEST(Solver, AChordIsHeldByOneHand) {
    std::vector<LineNote> line;
    for (const int midi : {43, 50, 59, 67}) {
        LineNote note;
        note.onset_s = 0.002 * static_cast<double>(line.size());
        note.offset_s = 1.0;
        note.midi = midi;
        line.push_back(note);
    }
    line[0].fixed_position = Position{6, 3};
    line[3].fixed_position = Position{1, 3};
    const auto placements = solveLine(guitar(), line).notes;
    EXPECT_EQ(placements[1].position, (Position{4, 0}));
    EXPECT_EQ(placements[2].position, (Position{2, 0}));
}

// An open string that must ring gives the other note of its pitch a fretted place.
TEST(Solver, WhatRingsKeepsItsString) {
    auto line = lineOf({50, 62, 50}, 0.5);
    line[0].fixed_position = Position{4, 0};
    line[0].offset_s = 2.0;
    const auto placements = solveLine(guitar(), line).notes;
    EXPECT_EQ(placements[2].position, (Position{5, 5}));
}

} // namespace
} // namespace wirenote
