// Which fingers hold what: cases that teachers agree on (common practice, every one), and what no
// hand can do.
#include "fretting/let_go.h"
#include "fretting/placing.h"
#include "support/hand_checker.h"
#include "support/pieces.h"
#include "support/solving.h"

#include <gtest/gtest.h>

#include <array>
#include <random>
#include <sstream>

namespace wirenote {
namespace {

char fingerWord(Finger finger) {
    return finger == Finger::Open      ? '0'
           : finger == Finger::Unknown ? '?'
           : finger == Finger::Thumb   ? 'T'
                                       : static_cast<char>('0' + static_cast<int>(finger) -
                                                         static_cast<int>(Finger::Index) + 1);
}

// "x,3,2,0,1,0" from the thickest string on.
std::vector<Position> placesOfGrip(const std::string& frets, int strings = 6) {
    std::vector<Position> places;
    int string = strings;
    std::stringstream in(frets);
    for (std::string fret; std::getline(in, fret, ','); --string)
        if (fret != "x")
            places.push_back({string, std::stoi(fret)});
    return places;
}

// The fingers of notes whose places are given.
std::string fingersOf(const Instrument& instrument, const std::vector<test::Row>& rows) {
    Piece piece = test::pieceOf(rows);
    piece.instrument = instrument;
    for (NotePlan& plan : piece.asPlayed().plans)
        plan.position.set(plan.position.value);
    std::string word;
    for (const NotePlan& plan : place(instrument, piece.rows(), {}, {}).plans)
        word += fingerWord(plan.finger.value);
    return word;
}

struct GripCase {
    const char* frets;
    const char* fingers; // of the played strings, from the thickest on
};
void PrintTo(const GripCase& grip, std::ostream* out) {
    *out << grip.frets;
}
class Grips : public ::testing::TestWithParam<GripCase> {};

TEST_P(Grips, AreHeldAsTaught) {
    const Instrument guitar = standardInstrument(InstrumentKind::Guitar);
    std::vector<test::Row> rows;
    for (const int bar : {0, 1}) // struck twice: the hand has come from nowhere and stays
        for (const Position& place : placesOfGrip(GetParam().frets)) {
            const double at_s = 1.0 * bar + 0.005 * (6 - place.string);
            rows.push_back({at_s, 1.0 * bar + 0.9, guitar.midiAt(place), place});
        }
    const std::string once = GetParam().fingers;
    EXPECT_EQ(fingersOf(guitar, rows), once + once);
}

INSTANTIATE_TEST_SUITE_P(OpenChords,
                         Grips,
                         ::testing::Values(GripCase{"x,3,2,0,1,0", "32010"},
                                           GripCase{"3,2,0,0,0,3", "210003"},
                                           GripCase{"3,2,0,0,3,3", "210034"},
                                           GripCase{"0,2,2,1,0,0", "023100"},
                                           GripCase{"0,2,2,0,0,0", "023000"},
                                           GripCase{"x,0,2,2,2,0", "01230"},
                                           GripCase{"x,0,2,2,1,0", "02310"},
                                           GripCase{"x,x,0,2,3,2", "0132"},
                                           GripCase{"x,x,0,2,3,1", "0231"},
                                           GripCase{"x,x,3,2,1,1", "3211"},
                                           GripCase{"x,x,3,2,1,0", "3210"},
                                           GripCase{"x,x,0,2,1,2", "0213"},
                                           GripCase{"x,3,2,3,1,0", "32410"},
                                           GripCase{"3,2,0,0,0,1", "320001"},
                                           GripCase{"x,0,2,0,2,0", "02030"},
                                           GripCase{"0,2,0,1,0,0", "020100"},
                                           GripCase{"x,2,1,2,0,2", "21304"},
                                           GripCase{"x,0,2,0,1,0", "02010"},
                                           GripCase{"x,3,2,0,0,0", "32000"},
                                           GripCase{"x,3,2,0,3,0", "21030"},
                                           GripCase{"x,x,0,2,3,0", "0130"},
                                           GripCase{"x,x,0,2,3,3", "0134"},
                                           GripCase{"0,2,2,2,0,0", "023400"},
                                           GripCase{"x,x,0,2,2,2", "0111"},
                                           GripCase{"x,x,0,2,1,1", "0211"}));

// Movable shapes at a fret: E, Em, E7, Em7, A, Am, Am7, fifths and octaves.
INSTANTIATE_TEST_SUITE_P(TriadsAndWhatIsPlayedUpTheNeck,
                         Grips,
                         ::testing::Values(GripCase{"x,x,10,9,8,x", "321"},
                                           GripCase{"x,x,9,7,8,x", "312"},
                                           GripCase{"x,x,6,5,5,x", "211"},
                                           GripCase{"x,8,7,5,x,x", "431"},
                                           GripCase{"x,10,9,9,x,x", "211"},
                                           GripCase{"8,7,5,x,x,x", "431"},
                                           GripCase{"x,x,x,9,8,8", "211"},
                                           GripCase{"x,x,x,9,8,7", "321"},
                                           GripCase{"x,x,0,7,8,7", "0132"},
                                           GripCase{"x,3,5,5,5,5", "13333"},
                                           GripCase{"6,x,6,6,5,x", "2341"},
                                           GripCase{"0,2,2,0,3,3", "012034"},
                                           GripCase{"7,6,7,7,x,x", "2134"},
                                           GripCase{"3,x,x,x,3,x", "12"}));

// More of the open chords, sevenths and ninths, and what is played on three strings up the neck.
INSTANTIATE_TEST_SUITE_P(MoreThatTeachersAgreeOn,
                         Grips,
                         ::testing::Values(GripCase{"0,2,2,1,3,0", "023140"},
                                           GripCase{"x,3,2,0,3,3", "21034"},
                                           GripCase{"3,3,2,0,1,0", "342010"},
                                           GripCase{"x,3,2,0,1,3", "32014"},
                                           GripCase{"3,2,0,0,0,2", "320001"},
                                           GripCase{"x,0,2,1,2,0", "02130"},
                                           GripCase{"0,2,1,1,0,0", "031200"},
                                           GripCase{"x,x,0,2,1,0", "0210"},
                                           GripCase{"x,0,0,2,3,2", "00132"},
                                           GripCase{"x,x,2,0,1,0", "2010"},
                                           GripCase{"x,x,0,2,0,1", "0201"},
                                           GripCase{"x,x,1,2,1,2", "1324"},
                                           GripCase{"x,3,4,2,4,x", "2314"},
                                           GripCase{"x,3,4,3,4,x", "1324"},
                                           GripCase{"3,x,4,4,3,x", "1342"},
                                           GripCase{"x,3,2,3,3,3", "21333"},
                                           GripCase{"x,3,2,3,3,x", "2134"},
                                           GripCase{"x,7,6,7,8,x", "2134"},
                                           GripCase{"x,x,2,2,1,2", "2314"},
                                           GripCase{"x,x,5,7,8,x", "134"},
                                           GripCase{"x,x,x,7,8,7", "132"},
                                           GripCase{"x,x,x,7,8,6", "231"},
                                           GripCase{"3,x,5,x,x,x", "13"},
                                           GripCase{"x,3,x,5,x,x", "13"},
                                           GripCase{"x,x,5,x,8,x", "14"},
                                           GripCase{"x,x,x,5,x,8", "14"},
                                           GripCase{"x,5,7,x,x,x", "13"},
                                           GripCase{"x,x,5,7,x,x", "13"},
                                           GripCase{"x,x,x,5,8,x", "14"},
                                           GripCase{"x,x,7,6,x,x", "21"},
                                           GripCase{"x,x,x,7,6,x", "21"},
                                           GripCase{"5,7,7,6,8,5", "133241"},
                                           GripCase{"x,5,7,5,6,x", "1312"},
                                           GripCase{"x,5,4,5,x,x", "213"},
                                           GripCase{"8,x,8,9,8,x", "1121"},
                                           GripCase{"x,x,7,9,8,10", "1324"},
                                           GripCase{"2,0,0,2,3,2", "200143"},
                                           GripCase{"2,x,0,2,3,2", "20143"},
                                           GripCase{"x,3,2,4,3,x", "2143"},
                                           GripCase{"x,3,2,2,3,3", "21134"},
                                           GripCase{"5,x,4,5,4,x", "2131"},
                                           GripCase{"5,x,4,5,5,x", "2134"},
                                           GripCase{"3,5,3,5,3,3", "131411"},
                                           GripCase{"x,3,5,3,6,3", "13141"},
                                           GripCase{"x,5,7,7,5,5", "13411"},
                                           GripCase{"5,7,6,5,5,5", "132111"},
                                           GripCase{"x,x,5,7,8,7", "1243"},
                                           GripCase{"x,x,5,7,8,6", "1342"},
                                           GripCase{"x,x,5,7,6,7", "1324"},
                                           GripCase{"x,5,4,5,3,x", "3241"},
                                           GripCase{"x,10,9,10,8,x", "3241"}));

struct BrokenCase {
    const char* name;
    std::vector<Position> places;
    const char* fingers;
};
void PrintTo(const BrokenCase& chord, std::ostream* out) {
    *out << chord.name;
}
class BrokenChords : public ::testing::TestWithParam<BrokenCase> {};

// One string after the other, each let go in the sound as the next begins, quickly and slowly.
TEST_P(BrokenChords, AreHeldAsTheGripTheyAre) {
    const Instrument guitar = standardInstrument(InstrumentKind::Guitar);
    for (const double step_s : {0.25, 0.5}) {
        std::vector<test::Row> rows;
        for (const Position& place : GetParam().places) {
            const double at_s = step_s * static_cast<double>(rows.size());
            rows.push_back({at_s, at_s + 0.95 * step_s, guitar.midiAt(place), place});
        }
        EXPECT_EQ(fingersOf(guitar, rows), GetParam().fingers) << step_s;
    }
}

INSTANTIATE_TEST_SUITE_P(
    CommonPractice,
    BrokenChords,
    ::testing::Values(BrokenCase{"A", {{5, 0}, {4, 2}, {3, 2}, {2, 2}, {1, 0}}, "01230"},
                      BrokenCase{"Am", {{5, 0}, {4, 2}, {3, 2}, {2, 1}, {1, 0}}, "02310"},
                      BrokenCase{"E", {{6, 0}, {5, 2}, {4, 2}, {3, 1}, {2, 0}, {1, 0}}, "023100"},
                      BrokenCase{"D", {{4, 0}, {3, 2}, {2, 3}, {1, 2}}, "0132"},
                      BrokenCase{"C", {{5, 3}, {4, 2}, {3, 0}, {2, 1}, {1, 0}}, "32010"},
                      BrokenCase{"F", {{6, 1}, {5, 3}, {4, 3}, {3, 2}, {2, 1}, {1, 1}}, "134211"}));

struct ShapeCase {
    const char* name;
    std::vector<int> up; // from the fret of the barre on, thickest first; −1: not played
    const char* fingers;
};
void PrintTo(const ShapeCase& shape, std::ostream* out) {
    *out << shape.name;
}
class Shapes : public ::testing::TestWithParam<std::tuple<ShapeCase, int>> {};

TEST_P(Shapes, KeepTheirFingersUpTheNeck) {
    const auto& [shape, fret] = GetParam();
    const Instrument guitar = standardInstrument(InstrumentKind::Guitar);
    std::vector<test::Row> rows;
    for (std::size_t s = 0; s < shape.up.size(); ++s)
        if (shape.up[s] >= 0) {
            const Position place{6 - static_cast<int>(s), fret + shape.up[s]};
            rows.push_back({0.005 * static_cast<double>(s), 0.9, guitar.midiAt(place), place});
        }
    EXPECT_EQ(fingersOf(guitar, rows), shape.fingers);
}

INSTANTIATE_TEST_SUITE_P(
    Movable,
    Shapes,
    ::testing::Combine(
        ::testing::Values(ShapeCase{"major", {0, 2, 2, 1, 0, 0}, "134211"},
                          ShapeCase{"minor", {0, 2, 2, 0, 0, 0}, "134111"},
                          ShapeCase{"seventh", {0, 2, 0, 1, 0, 0}, "131211"},
                          ShapeCase{"minor_seventh", {0, 2, 0, 0, 0, 0}, "131111"},
                          ShapeCase{"minor_on_a", {-1, 0, 2, 2, 1, 0}, "13421"},
                          ShapeCase{"minor_seventh_on_a", {-1, 0, 2, 0, 1, 0}, "13121"},
                          ShapeCase{"major_seventh_on_a", {-1, 0, 2, 1, 2, 0}, "13241"},
                          ShapeCase{"fifth", {0, 2, -1, -1, -1, -1}, "13"},
                          ShapeCase{"fifth_on_a", {-1, 0, 2, -1, -1, -1}, "13"},
                          ShapeCase{"fifth_and_octave", {0, 2, 2, -1, -1, -1}, "134"},
                          ShapeCase{"on_a", {-1, 0, 2, 2, -1, -1}, "134"},
                          ShapeCase{"triad", {-1, -1, -1, 1, 0, 0}, "211"},
                          ShapeCase{"minor_triad", {-1, -1, -1, 0, 0, 0}, "111"}),
        ::testing::Values(1, 3, 5, 8)));

struct LineCase {
    const char* name;
    std::vector<Position> places;
    const char* fingers;
};
void PrintTo(const LineCase& line, std::ostream* out) {
    *out << line.name;
}
class Lines : public ::testing::TestWithParam<std::tuple<LineCase, int>> {};

TEST_P(Lines, TakeOneFingerAFretInTheirPosition) {
    const auto& [line, up] = GetParam();
    const Instrument guitar = standardInstrument(InstrumentKind::Guitar);
    std::vector<test::Row> rows;
    for (const Position& place : line.places) {
        const double at_s = 0.25 * static_cast<double>(rows.size());
        const Position moved{place.string, place.fret + up};
        rows.push_back({at_s, at_s + 0.24, guitar.midiAt(moved), moved});
    }
    EXPECT_EQ(fingersOf(guitar, rows), line.fingers);
}

INSTANTIATE_TEST_SUITE_P(
    Positions,
    Lines,
    ::testing::Combine(
        ::testing::Values(LineCase{"minor_pentatonic",
                                   {{6, 2},
                                    {6, 5},
                                    {5, 2},
                                    {5, 4},
                                    {4, 2},
                                    {4, 4},
                                    {3, 2},
                                    {3, 4},
                                    {2, 2},
                                    {2, 5},
                                    {1, 2},
                                    {1, 5}},
                                   "141313131414"},
                          LineCase{"major_scale",
                                   {{6, 3},
                                    {6, 5},
                                    {5, 2},
                                    {5, 3},
                                    {5, 5},
                                    {4, 2},
                                    {4, 4},
                                    {4, 5},
                                    {3, 2},
                                    {3, 4},
                                    {3, 5},
                                    {2, 3},
                                    {2, 5},
                                    {1, 2},
                                    {1, 3}},
                                   "241241341342412"},
                          LineCase{"blues",
                                   {{6, 2},
                                    {6, 5},
                                    {5, 2},
                                    {5, 3},
                                    {5, 4},
                                    {4, 2},
                                    {4, 4},
                                    {3, 2},
                                    {3, 4},
                                    {3, 5},
                                    {2, 2},
                                    {2, 5}},
                                   "141231313414"},
                          LineCase{"natural_minor",
                                   {{6, 2},
                                    {6, 4},
                                    {6, 5},
                                    {5, 2},
                                    {5, 4},
                                    {5, 5},
                                    {4, 2},
                                    {4, 4},
                                    {3, 2},
                                    {3, 3},
                                    {3, 4}},
                                   "13413413123"},
                          LineCase{"broken_thirds",
                                   {{5, 3}, {4, 2}, {5, 5}, {4, 3}, {4, 2}, {4, 5}, {4, 3}, {3, 2}},
                                   "21421421"},
                          LineCase{"chromatic_down",
                                   {{1, 5}, {1, 4}, {1, 3}, {1, 2}, {2, 5}, {2, 4}, {2, 3}, {2, 2}},
                                   "43214321"},
                          LineCase{"chromatic_up",
                                   {{6, 2}, {6, 3}, {6, 4}, {6, 5}, {5, 2}, {5, 3}, {5, 4}, {5, 5}},
                                   "12341234"}),
        ::testing::Values(0, 3, 5, 8)));

class Hands : public ::testing::Test {
  protected:
    Instrument guitar = standardInstrument(InstrumentKind::Guitar);
    test::Row
    row(double from_s, double to_s, Position place, std::vector<Technique> how = {}) const {
        return {from_s, to_s, guitar.midiAt(place), place, std::move(how)};
    }
};

// Among open strings, low on the neck, the finger has the number of its fret.
TEST_F(Hands, LinesInOpenPositionTakeTheFingerOfTheFret) {
    const std::vector<std::vector<Position>> lines{
        {{5, 3}, {4, 0}, {4, 2}, {4, 3}, {3, 0}, {3, 2}, {2, 0}, {2, 1}},
        {{6, 3}, {5, 0}, {5, 2}, {5, 3}, {4, 0}, {4, 2}, {4, 4}, {3, 0}},
        {{6, 0},
         {6, 3},
         {5, 0},
         {5, 2},
         {4, 0},
         {4, 2},
         {3, 0},
         {3, 2},
         {2, 0},
         {2, 3},
         {1, 0},
         {1, 3}},
        {{4, 2}, {3, 0}, {3, 2}, {2, 0}, {3, 2}, {3, 0}, {4, 2}, {4, 0}, {4, 2}},
        {{1, 0}, {1, 1}, {1, 3}, {2, 0}, {2, 1}, {2, 3}, {3, 0}, {3, 2}}};
    for (const auto& line : lines) {
        std::vector<test::Row> rows;
        std::string expected;
        for (const Position& place : line) {
            const double at_s = 0.25 * static_cast<double>(rows.size());
            rows.push_back(row(at_s, at_s + 0.24, place));
            expected += static_cast<char>('0' + place.fret);
        }
        EXPECT_EQ(fingersOf(guitar, rows), expected);
    }
}

TEST_F(Hands, AHeldBassKeepsItsFingerUnderATune) {
    // C in the bass under C and D, as in the grip everybody knows.
    EXPECT_EQ(fingersOf(guitar,
                        {row(0.0, 2.0, {5, 3}),
                         row(0.5, 0.9, {2, 1}),
                         row(1.0, 1.4, {2, 3}),
                         row(1.5, 1.9, {2, 1})}),
              "3141");
    // G in the bass: of one fret on two strings, the thicker has the lower finger.
    EXPECT_EQ(fingersOf(guitar,
                        {row(0.0, 1.0, {6, 3}),
                         row(0.25, 0.49, {2, 0}),
                         row(0.5, 0.74, {2, 1}),
                         row(0.75, 0.99, {2, 3})}),
              "3014");
}

TEST_F(Hands, AnOctaveOfABassIsForTheFirstAndTheLittleFinger) {
    const Instrument bass = standardInstrument(InstrumentKind::Bass);
    std::vector<test::Row> rows;
    for (const Position place : {Position{4, 3}, Position{2, 5}, Position{4, 3}, Position{2, 5}}) {
        const double at_s = 0.25 * static_cast<double>(rows.size());
        rows.push_back({at_s, at_s + 0.24, bass.midiAt(place), place});
    }
    EXPECT_EQ(fingersOf(bass, rows), "1414");
}

TEST_F(Hands, ABendOfWhichNobodySaidHowFarIsDrawnByTheRingFinger) {
    EXPECT_EQ(fingersOf(guitar,
                        {row(0.0, 0.2, {3, 5}),
                         row(0.25, 0.9, {3, 7}, {Technique::Bend}),
                         row(1.0, 1.2, {3, 5})}),
              "131");
}

TEST_F(Hands, AFingerThatComesBackToItsPlaceStays) {
    const auto word = fingersOf(guitar,
                                {row(0.0, 0.2, {5, 3}),
                                 row(0.25, 0.45, {4, 2}),
                                 row(0.5, 0.7, {2, 1}),
                                 row(0.75, 0.95, {4, 2}),
                                 row(1.0, 1.2, {5, 3}),
                                 row(1.25, 1.45, {2, 1})});
    EXPECT_EQ(word, "321231");
}

// E minor, then its four thin strings: the hand stays where it is.
TEST_F(Hands, APartOfAGripStruckAgainKeepsItsFingers) {
    std::vector<test::Row> rows;
    for (const Position& place : placesOfGrip("0,2,2,0,0,0"))
        rows.push_back(row(0.0, 0.6, place));
    for (const Position& place : placesOfGrip("x,x,2,0,0,0"))
        rows.push_back(row(0.66, 1.2, place));
    EXPECT_EQ(fingersOf(guitar, rows), "0230003000");
}

TEST_F(Hands, ASlideKeepsItsFinger) {
    const auto word =
        fingersOf(guitar, {row(0.0, 0.5, {2, 5}), row(0.5, 1.0, {2, 7}, {Technique::Slide})});
    EXPECT_EQ(word[0], word[1]);
}

TEST_F(Hands, AHigherFingerHammersAndALowerOnePullsOffTo) {
    const auto word = fingersOf(guitar,
                                {row(0.0, 0.3, {2, 5}),
                                 row(0.3, 0.6, {2, 7}, {Technique::HammerOn}),
                                 row(0.6, 0.9, {2, 5}, {Technique::PullOff})});
    EXPECT_EQ(word, "131");
}

TEST_F(Hands, WhatAPersonPlacedStaysEvenWhereNoHandHoldsIt) {
    Piece piece = test::pieceOf({row(0.0, 0.4, {6, 1}), row(0.0, 0.4, {1, 12})});
    for (NotePlan& plan : piece.asPlayed().plans)
        plan.position.set(plan.position.value);
    test::placeAll(piece);
    EXPECT_EQ(piece.asPlayed().plans[0].position.value, (Position{6, 1}));
    EXPECT_EQ(piece.asPlayed().plans[1].position.value, (Position{1, 12}));
    EXPECT_TRUE(piece.asPlayed().plans[1].position.isSet());
    ASSERT_FALSE(piece.asPlayed().plans[1].finger.reasons.empty()) << "and it is said";
    EXPECT_EQ(piece.asPlayed().plans[1].finger.reasons.front().kind, ReasonKind::OutOfHand);
    EXPECT_TRUE(checkPiece(piece).ok());
}

TEST_F(Hands, MoreNotesThanAHandTakesAtOnceAreLeftOut) {
    std::vector<test::Row> rows;
    for (int i = 0; i < 40; ++i)
        rows.push_back({0.0005 * i, 1.0, 42 + i});
    Piece piece = test::pieceOf(rows);
    test::placeAll(piece);
    int placed = 0;
    for (const NotePlan& plan : piece.asPlayed().plans) {
        placed += plan.placed() ? 1 : 0;
        EXPECT_TRUE(plan.placed() || plan.position.reasons.front().kind == ReasonKind::OutOfHand);
    }
    EXPECT_GE(placed, 3);
    EXPECT_LE(placed, 6);
    EXPECT_EQ(test::firstImpossible(piece, endsOnStrings(piece.instrument, piece.rows())),
              std::nullopt);
}

// Two strings at a time along the neck, each pair held until the next.
struct PairCase {
    const char* name;
    std::vector<std::pair<Position, Position>> pairs; // the thicker string first
    const char* fingers;
};
void PrintTo(const PairCase& pair, std::ostream* out) {
    *out << pair.name;
}
class Pairs : public ::testing::TestWithParam<PairCase> {};
TEST_P(Pairs, AreHeldAsTaught) {
    const Instrument guitar = standardInstrument(InstrumentKind::Guitar);
    std::vector<test::Row> rows;
    double at_s = 0.0;
    for (const auto& [thick, thin] : GetParam().pairs) {
        for (const Position& place : {thick, thin})
            rows.push_back({at_s, at_s + 0.45, guitar.midiAt(place), place});
        at_s += 0.5;
    }
    EXPECT_EQ(fingersOf(guitar, rows), GetParam().fingers);
}
INSTANTIATE_TEST_SUITE_P(
    CommonPractice,
    Pairs,
    ::testing::Values(
        PairCase{"octaves on strings 6 and 4",
                 {{{6, 3}, {4, 5}}, {{6, 5}, {4, 7}}, {{6, 7}, {4, 9}}},
                 "131313"},
        PairCase{"octaves on strings 4 and 2",
                 {{{4, 2}, {2, 5}}, {{4, 4}, {2, 7}}, {{4, 5}, {2, 8}}},
                 "141414"},
        PairCase{"fifths", {{{6, 3}, {5, 5}}, {{6, 5}, {5, 7}}, {{5, 3}, {4, 5}}}, "131313"}));

// An open string gives the hand the time to go.
TEST_F(Hands, ShiftWhileAnOpenStringSounds) {
    const auto line = [this](const std::vector<Position>& places) {
        std::vector<test::Row> rows;
        for (const Position& place : places) {
            const double at_s = 0.25 * static_cast<double>(rows.size());
            rows.push_back(row(at_s, at_s + 0.24, place));
        }
        return fingersOf(guitar, rows);
    };
    EXPECT_EQ(line({{1, 1}, {1, 3}, {1, 0}, {1, 5}, {1, 7}, {1, 8}}), "130134");
    EXPECT_EQ(line({{2, 8}, {2, 6}, {2, 5}, {2, 0}, {2, 1}, {2, 3}}), "421013");
    EXPECT_EQ(line({{6, 0}, {6, 3}, {6, 0}, {6, 7}, {6, 8}, {6, 10}}), "030124");
}

TEST_F(Hands, AGraceNoteHasAFingerOfItsOwn) {
    const auto word =
        fingersOf(guitar, {row(0.0, 0.02, {2, 5}), row(0.02, 0.6, {2, 7}, {Technique::HammerOn})});
    EXPECT_EQ(word, "13");
}

TEST_F(Hands, AFingerThatAPersonSetStaysAndTheOthersGiveWay) {
    Piece piece =
        test::pieceOf({row(0.0, 0.9, {6, 5}), row(0.005, 0.9, {5, 7}), row(0.01, 0.9, {4, 7})});
    auto& plans = piece.asPlayed().plans;
    for (NotePlan& plan : plans)
        plan.position.set(plan.position.value);
    plans[1].finger.set(Finger::Little);
    test::placeAll(piece);
    EXPECT_EQ(plans[1].finger.value, Finger::Little);
    EXPECT_TRUE(plans[0].finger.value == Finger::Index || plans[0].finger.value == Finger::Middle);
    EXPECT_EQ(plans[2].finger.value, Finger::Little) << "it can only be barred";
}

TEST_F(Hands, WhatNoHandHoldsTogetherLeavesOneWithoutAFingerAndTheNextGripIsHeld) {
    const auto word = fingersOf(guitar,
                                {row(0.0, 0.4, {6, 1}),
                                 row(0.0, 0.4, {1, 12}),
                                 row(0.5, 0.9, {6, 3}),
                                 row(0.5, 0.9, {5, 5})});
    EXPECT_EQ(word, "1?13");
}

// Chords, arpeggios and lines of random pitches, which ring on at random.
Piece randomPiece(std::mt19937& chance, InstrumentKind kind) {
    const auto pick = [&chance](int from, int to) {
        return std::uniform_int_distribution<int>(from, to)(chance);
    };
    const Instrument instrument = standardInstrument(kind);
    std::vector<test::Row> rows;
    double at_s = 0.0;
    for (int stroke = 0; stroke < 8; ++stroke) {
        for (int voice = pick(1, 5); voice > 0; --voice)
            rows.push_back({at_s + 0.004 * voice,
                            at_s + 0.1 * pick(1, 20),
                            pick(instrument.lowestMidi(), instrument.lowestMidi() + 36)});
        at_s += 0.08 * pick(1, 6);
    }
    std::ranges::sort(rows, {}, &test::Row::start_s);
    Piece piece = test::pieceOf(rows);
    piece.instrument = instrument;
    return piece;
}

TEST(ImpossibleMoments, AreNeverDecided) {
    std::mt19937 chance(7);
    for (int number = 0; number < 1000; ++number) {
        const InstrumentKind kind =
            std::array{InstrumentKind::Guitar,
                       InstrumentKind::Bass,
                       InstrumentKind::Guitar7}[static_cast<std::size_t>(number % 3)];
        Piece piece = randomPiece(chance, kind);
        test::placeAll(piece);
        const auto why =
            test::firstImpossible(piece, endsOnStrings(piece.instrument, piece.rows()));
        ASSERT_FALSE(why.has_value()) << "piece " << number << ": " << *why;
    }
}

TEST(ImpossibleMoments, AreNeverDecidedInAnySchool) {
    std::mt19937 chance(11);
    for (const FrettingSchool school : {FrettingSchool::Box,
                                        FrettingSchool::Classical,
                                        FrettingSchool::BassOneTwoFour,
                                        FrettingSchool::Open,
                                        FrettingSchool::Closed,
                                        FrettingSchool::ThumbOver,
                                        FrettingSchool::AsPlayed})
        for (int number = 0; number < 40; ++number) {
            Piece piece = randomPiece(
                chance, number % 2 == 0 ? InstrumentKind::Guitar : InstrumentKind::Bass5);
            piece.asPlayed().head.fretting.school = school;
            test::placeAll(piece);
            const auto why =
                test::firstImpossible(piece, endsOnStrings(piece.instrument, piece.rows()));
            ASSERT_FALSE(why.has_value())
                << "school " << static_cast<int>(school) << ", piece " << number << ": " << *why;
        }
}

TEST(ImpossibleMoments, TheCheckerFindsThem) {
    const Instrument guitar = standardInstrument(InstrumentKind::Guitar);
    using test::HeldNote;
    const auto why = [&guitar](std::vector<HeldNote> held) {
        return test::whyNot(guitar, held).value_or("");
    };
    EXPECT_EQ(why({{{6, 3}, Finger::Middle, 1.0}, {{1, 3}, Finger::Ring, 1.0}}), "");
    EXPECT_EQ(why({{{6, 3}, Finger::Middle, 1.0}, {{1, 2}, Finger::Middle, 1.0}}),
              "a finger at two frets");
    EXPECT_EQ(why({{{6, 3}, Finger::Index, 1.0}, {{1, 2}, Finger::Middle, 1.0}}),
              "fingers crossed");
    EXPECT_EQ(why({{{6, 1}, Finger::Index, 1.0}, {{1, 7}, Finger::Little, 1.0}}),
              "wider than a hand");
    EXPECT_EQ(why({{{6, 3}, Finger::Index, 1.0}, {{6, 5}, Finger::Ring, 1.0}}),
              "two notes on a string");
    EXPECT_EQ(why({{{6, 1}, Finger::Index, 1.0},
                   {{1, 1}, Finger::Index, 1.0},
                   {{3, 0}, Finger::Open, 1.0}}),
              "an open string under a barre");
}

} // namespace
} // namespace wirenote
