// What the stiffness of notes says of their strings, and how the strings are learned from them.
#include "strings/string_traits.h"

#include "fretting/placing.h"
#include "music/string_physics.h"
#include "support/pieces.h"
#include "support/solving.h"

#include <cmath>
#include <gtest/gtest.h>

namespace wirenote {
namespace {

Instrument guitar() {
    return standardInstrument(InstrumentKind::Guitar);
}

double logB(const Instrument& instrument, Position place, double factor = 0.0) {
    return std::log(stiffnessAt(instrument, place.string, instrument.capo + place.fret)) + factor;
}

// Each note as it sounds at its place, on strings that differ from their gauges by these factors.
Piece heardAt(const std::vector<Position>& places,
              const std::vector<double>& factors,
              const Instrument& instrument = guitar()) {
    std::vector<test::Row> rows;
    for (std::size_t i = 0; i < places.size(); ++i)
        rows.push_back({0.3 * static_cast<double>(i),
                        0.3 * static_cast<double>(i) + 0.29,
                        instrument.midiAt(places[i])});
    Piece piece = test::pieceOf(rows);
    piece.instrument = instrument;
    for (std::size_t i = 0; i < places.size(); ++i)
        piece.notes[i].ownSound().stiffness = {
            logB(instrument, places[i], factors[static_cast<std::size_t>(places[i].string - 1)]),
            0.05};
    return piece;
}

std::vector<Position> placesOf(const Piece& piece) {
    std::vector<Position> places;
    for (const NotePlan& plan : piece.asPlayed().plans)
        places.push_back(plan.position.value);
    return places;
}

TEST(StiffnessCosts, TheStringThatFitsCostsNothing) {
    const Instrument instrument = guitar();
    const auto traits = statedTraits(instrument);
    // E4 lies on five strings (common practice); each is told by its stiffness.
    for (int string = 1; string <= 5; ++string) {
        const int fret = instrument.fretFor(string, 64);
        const auto costs =
            stiffnessCosts(instrument, traits, {logB(instrument, {string, fret}), 0.05}, 64);
        ASSERT_EQ(costs.size(), 6U);
        EXPECT_EQ(costs[static_cast<std::size_t>(string - 1)], 0.0) << string;
        for (int other = 1; other <= 5; ++other)
            if (other != string) {
                EXPECT_GT(costs[static_cast<std::size_t>(other - 1)], 0.3) << string << other;
            }
    }
}

TEST(StiffnessCosts, AnUnsureMeasureSaysLittleAndNoMeasureNothing) {
    const Instrument instrument = guitar();
    const auto traits = statedTraits(instrument);
    const double log_b = logB(instrument, {2, 5});
    const auto sharp = stiffnessCosts(instrument, traits, {log_b, 0.05}, 64);
    const auto dull = stiffnessCosts(instrument, traits, {log_b, 1.5}, 64);
    EXPECT_LT(dull[0], 0.35 * sharp[0]);
    EXPECT_TRUE(stiffnessCosts(instrument, traits, {}, 64).empty());
    EXPECT_TRUE(stiffnessCosts(instrument, {}, {log_b, 0.05}, 64).empty()) << "nothing known";
    const TraitModel model;
    for (const double cost : sharp)
        EXPECT_LE(cost, model.most_nepers) << "no single measure is proof";
}

// The same notes, played low on the neck and played in fifth position, come out differently.
// Under other strings a measure may be of one of them: it says the same, but less.
TEST(StiffnessCosts, AmongOtherStringsAMeasureIsBelievedLess) {
    const Instrument instrument = guitar();
    const auto traits = statedTraits(instrument);
    const double log_b = logB(instrument, {2, 5});
    HeardStiffness alone{log_b, 0.05, false, false};
    HeardStiffness among{log_b, 0.05, false, true};
    const auto sure = stiffnessCosts(instrument, traits, alone, 64);
    const auto less = stiffnessCosts(instrument, traits, among, 64);
    ASSERT_EQ(sure.size(), less.size());
    EXPECT_DOUBLE_EQ(less[1], 0.0);
    for (std::size_t s = 0; s < 5; ++s)
        if (s != 1) {
            EXPECT_LT(less[s], sure[s]) << s;
            EXPECT_GT(less[s], 0.5) << s;
        }
}

TEST(Placing, TheSameNotesOnOtherStringsComeOutDifferently) {
    const std::vector<Position> low{{2, 1}, {2, 3}, {1, 0}, {1, 1}, {1, 3}, {1, 1}, {1, 0}, {2, 3}};
    std::vector<Position> high;
    for (const Position& place : low) {
        const int midi = guitar().midiAt(place);
        high.push_back(midi < 64 ? Position{3, guitar().fretFor(3, midi)}
                                 : Position{2, guitar().fretFor(2, midi)});
    }
    const std::vector<double> exact(6, 0.0);
    Piece first = heardAt(low, exact);
    Piece second = heardAt(high, exact);
    test::placeAll(first);
    test::placeAll(second);
    EXPECT_EQ(placesOf(first), low);
    EXPECT_EQ(placesOf(second), high);
    EXPECT_EQ(second.asPlayed().plans[0].position.basis, Basis::Heard);
    EXPECT_EQ(second.asPlayed().plans[0].position.reasons.front().kind, ReasonKind::StiffnessFits);
}

// Wound strings differ from make to make: the factors are found from the notes themselves.
TEST(Traits, AreLearnedFromTheTake) {
    std::vector<Position> places;
    for (int round = 0; round < 3; ++round)
        for (const Position& place : std::vector<Position>{
                 {6, 5}, {6, 7}, {6, 8}, {5, 5}, {5, 7}, {5, 8}, {4, 5}, {4, 7}, {3, 5}, {3, 7}})
            places.push_back(place);
    const std::vector<double> factors{0.0, 0.0, 0.05, -0.4, 0.4, 0.3};
    Piece piece = heardAt(places, factors);
    test::placeAll(piece);
    EXPECT_EQ(placesOf(piece), places);
    ASSERT_EQ(piece.string_traits.size(), 6U);
    for (const int string : {4, 5, 6}) {
        const StringTrait& trait = piece.string_traits[static_cast<std::size_t>(string - 1)];
        EXPECT_NEAR(trait.log_factor, factors[static_cast<std::size_t>(string - 1)], 0.15)
            << string;
        EXPECT_LT(trait.sd, 0.3);
    }
    const double unplayed_sd = piece.string_traits[1].sd;
    EXPECT_GE(unplayed_sd, 0.1) << "a string nobody played is as unsure as before";
}

// A bass line on the two thick strings of a set with thin cores: at the stated gauges it would pass
// for one on thinner strings.
std::vector<Position> lowBassLine() {
    std::vector<Position> places;
    for (int round = 0; round < 3; ++round)
        for (const Position& place : std::vector<Position>{
                 {4, 3}, {4, 5}, {4, 7}, {3, 3}, {3, 5}, {3, 7}, {3, 8}, {3, 6}, {4, 8}})
            places.push_back(place);
    return places;
}

TEST(Traits, OfAWholeSetOfAnotherMakeAreFound) {
    for (const double factor : {-0.8, -0.4, 0.0, 0.4, 0.8}) {
        Piece piece = heardAt(lowBassLine(),
                              std::vector<double>(4, factor),
                              standardInstrument(InstrumentKind::Bass));
        test::placeAll(piece);
        EXPECT_EQ(placesOf(piece), lowBassLine()) << factor;
        EXPECT_NEAR(piece.string_traits[3].log_factor, factor, 0.1);
    }
}

// Where two sets explain a line, what a person says of one note is certain.
TEST(Traits, FollowAPersonsWordOnOneNote) {
    const std::vector<Position> high{{4, 5}, {4, 7}, {3, 5}, {3, 7}, {4, 8}, {3, 8}};
    Piece piece =
        heardAt(high, std::vector<double>(4, -0.4), standardInstrument(InstrumentKind::Bass));
    test::placeAll(piece);
    piece.asPlayed().plans[2].position.set({3, 5});
    piece.string_traits.clear();
    test::placeAll(piece);
    EXPECT_EQ(placesOf(piece), high);
}

TEST(Traits, ThatWereMeasuredByACalibrationStay) {
    Piece piece = heardAt({{6, 3}, {6, 5}, {5, 3}}, {0, 0, 0, 0, 0.4, 0.4});
    piece.string_traits = statedTraits(piece.instrument);
    piece.string_traits[5] = {0.4, 0.04, Basis::Set};
    test::placeAll(piece);
    EXPECT_EQ(piece.string_traits[5].log_factor, 0.4);
    EXPECT_EQ(piece.string_traits[5].basis, Basis::Set);
    EXPECT_EQ(piece.string_traits[4].basis, Basis::Heard);
}

TEST(Traits, WithoutAnyMeasureNothingChanges) {
    Piece piece = test::scalePiece(12);
    Piece same = piece;
    test::placeAll(piece);
    EXPECT_TRUE(piece.string_traits.empty());
    for (NotePlan& plan : same.asPlayed().plans)
        plan.position = {};
    test::placeAll(same);
    EXPECT_EQ(placesOf(piece), placesOf(same));
}

} // namespace
} // namespace wirenote
