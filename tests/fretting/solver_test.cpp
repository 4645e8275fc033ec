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

// Every way through a short line, priced one by one.
double cheapestByBruteForce(const Instrument& instrument,
                            const std::vector<LineNote>& line,
                            const HandModel& model,
                            std::vector<HandState>& states,
                            std::size_t at,
                            double so_far) {
    if (at == line.size())
        return so_far;
    double best = std::numeric_limits<double>::infinity();
    for (const Position& place : candidatesFor(instrument, line[at].midi)) {
        const int low = place.fret == 0 ? 1 : std::max(1, place.fret - 4);
        const int high = place.fret == 0 ? 17 : place.fret + 1;
        for (int hand = low; hand <= high; ++hand) {
            const int reach = std::clamp(place.fret - hand, 0, 3);
            const HandState state{
                place,
                hand,
                place.fret == 0 ? Finger::Open
                                : static_cast<Finger>(static_cast<int>(Finger::Index) + reach)};
            double cost = so_far + unaryCost(model, instrument, line[at], state);
            if (at > 0)
                cost += stepCost(model, instrument, line[at - 1], states.back(), line[at], state);
            if (!(cost < best))
                continue;
            states.push_back(state);
            best =
                std::min(best, cheapestByBruteForce(instrument, line, model, states, at + 1, cost));
            states.pop_back();
        }
    }
    return best;
}

double priceOf(const Instrument& instrument,
               const std::vector<LineNote>& line,
               const std::vector<LinePlacement>& placements,
               const HandModel& model) {
    double cost = 0.0;
    for (std::size_t i = 0; i < line.size(); ++i) {
        cost += unaryCost(model, instrument, line[i], placements[i].state);
        if (i > 0)
            cost += stepCost(model,
                             instrument,
                             line[i - 1],
                             placements[i - 1].state,
                             line[i],
                             placements[i].state);
    }
    return cost;
}

class ShortLines : public ::testing::TestWithParam<std::vector<int>> {};
TEST_P(ShortLines, CostNoMoreThanTheBestOfAllWays) {
    const Instrument instrument = guitar();
    const auto line = lineOf(GetParam());
    const HandModel model;
    std::vector<HandState> states;
    const double best = cheapestByBruteForce(instrument, line, model, states, 0, 0.0);
    EXPECT_NEAR(priceOf(instrument, line, solveLine(instrument, line, model), model), best, 1e-9);
}
INSTANTIATE_TEST_SUITE_P(Lines,
                         ShortLines,
                         ::testing::Values(std::vector<int>{64, 67, 69},
                                           std::vector<int>{76, 74, 71},
                                           std::vector<int>{45, 57, 69},
                                           std::vector<int>{60, 60, 62}));

TEST(Solver, OpenPositionTuneStaysThere) {
    // A first-position scale of C with open strings: common practice.
    const auto placements = solveLine(guitar(), lineOf({48, 50, 52, 53, 55, 57, 59, 60}));
    const std::vector<Position> expected = {
        {5, 3}, {4, 0}, {4, 2}, {4, 3}, {3, 0}, {3, 2}, {2, 0}, {2, 1}};
    for (std::size_t i = 0; i < expected.size(); ++i)
        EXPECT_EQ(placements[i].state.position, expected[i]) << i;
}

TEST(Solver, ProbabilitiesAddUpAndTheChosenPlaceIsTheLikeliest) {
    const auto placements = solveLine(guitar(), lineOf({64, 67, 69, 71, 72, 71, 69, 67}));
    for (const LinePlacement& p : placements) {
        double sum = 0.0;
        for (const PlaceProbability& place : p.places)
            sum += place.probability;
        EXPECT_NEAR(sum, 1.0, 1e-9);
        EXPECT_EQ(p.places.front().position, p.state.position);
    }
}

TEST(Solver, OneFixedNoteTakesItsNeighboursAlong) {
    auto line = lineOf({64, 65, 67, 69, 67, 65, 64});
    const auto free = solveLine(guitar(), line);
    line[3].fixed_position = Position{3, 14};
    const auto bound = solveLine(guitar(), line);
    EXPECT_EQ(bound[3].state.position, (Position{3, 14}));
    EXPECT_DOUBLE_EQ(bound[3].places.front().probability, 1.0);
    EXPECT_NE(free[2].state.position, bound[2].state.position);
    EXPECT_GE(bound[2].state.hand_fret, 9);
}

TEST(Solver, ASlurStaysOnItsString) {
    auto line = lineOf({59, 61, 59});
    line[1].slur = Slur::Hammer;
    line[2].slur = Slur::Pull;
    const auto placements = solveLine(guitar(), line);
    EXPECT_EQ(placements[0].state.position.string, placements[1].state.position.string);
    EXPECT_EQ(placements[1].state.position.string, placements[2].state.position.string);
}

TEST(Solver, ASlideKeepsItsFinger) {
    auto line = lineOf({67, 69, 71});
    line[0].fixed_position = Position{2, 8};
    line[1].slur = Slur::Slide;
    const auto placements = solveLine(guitar(), line);
    EXPECT_EQ(placements[0].state.finger, placements[1].state.finger);
    EXPECT_EQ(placements[1].state.position, (Position{2, 10}));
}

// Heard wrongly: a slur over a leap that no string holds must not make the rest unplayable.
TEST(Solver, AnImpossibleSlurIsGotOver) {
    auto line = lineOf({40, 86, 64});
    line[1].slur = Slur::Hammer;
    const auto placements = solveLine(guitar(), line);
    for (const LinePlacement& p : placements)
        EXPECT_TRUE(p.possible);
}

TEST(Solver, APitchOffTheNeckIsSaidSo) {
    const auto placements = solveLine(guitar(), lineOf({64, 20, 67}));
    EXPECT_TRUE(placements[0].possible);
    EXPECT_FALSE(placements[1].possible);
    EXPECT_TRUE(placements[2].possible);
    EXPECT_TRUE(solveLine(guitar(), {}).empty());
}

TEST(Solver, ThumbSetByAPersonIsKept) {
    auto line = lineOf({42, 57});
    line[0].fixed_position = Position{6, 2};
    line[0].fixed_finger = Finger::Thumb;
    EXPECT_EQ(solveLine(guitar(), line)[0].state.finger, Finger::Thumb);
}

} // namespace
} // namespace wirenote
