// Scales and chords on the neck: places that everybody learns (common practice).
#include "form/scale_places.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <algorithm>

namespace wirenote {
namespace {

using testing::Contains;
using testing::Not;

std::vector<Position> inTheBox(const std::vector<ScalePlace>& marks, int hand_fret) {
    std::vector<Position> places;
    for (const ScalePlace& mark : marks)
        if (mark.place.fret >= hand_fret && mark.place.fret < hand_fret + 4)
            places.push_back(mark.place);
    return places;
}

// The first box of the minor pentatonic that is learned, on A at fret 5.
TEST(ScalePlaces, TheMinorPentatonicOnAInFifthPosition) {
    const auto marks = scalePlaces(standardInstrument(InstrumentKind::Guitar),
                                   Scale{9, ScaleKind::MinorPentatonic});
    std::vector<Position> expected;
    for (const auto& [string, frets] : std::vector<std::pair<int, std::vector<int>>>{
             {1, {5, 8}}, {2, {5, 8}}, {3, {5, 7}}, {4, {5, 7}}, {5, {5, 7}}, {6, {5, 8}}})
        for (const int fret : frets)
            expected.push_back({string, fret});
    EXPECT_EQ(inTheBox(marks, 5), expected);
}

TEST(ScalePlaces, RootsAreNought) {
    const auto marks =
        scalePlaces(standardInstrument(InstrumentKind::Guitar), Scale{9, ScaleKind::Major});
    EXPECT_THAT(marks, Contains(ScalePlace{{6, 5}, 0}));      // A
    EXPECT_THAT(marks, Contains(ScalePlace{{5, 0}, 0}));      // A
    EXPECT_THAT(marks, Contains(ScalePlace{{6, 0}, 7}));      // E, its fifth
    EXPECT_THAT(marks, Contains(ScalePlace{{5, 4}, 4}));      // C♯, its third
    EXPECT_THAT(marks, Not(Contains(ScalePlace{{5, 3}, 3}))); // C is not of it
}

TEST(ScalePlaces, AChordEverywhere) {
    const auto marks = scalePlaces(standardInstrument(InstrumentKind::Guitar), *parseChord("C"));
    for (const Position place : {Position{5, 3}, {4, 2}, {3, 0}, {2, 1}, {1, 0}, {6, 8}})
        EXPECT_TRUE(std::ranges::any_of(
            marks, [place](const ScalePlace& mark) { return mark.place == place; }))
            << place.string << "/" << place.fret;
    for (const ScalePlace& mark : marks)
        EXPECT_TRUE(mark.semitones == 0 || mark.semitones == 4 || mark.semitones == 7);
}

TEST(ScalePlaces, CountFretsFromTheCapoAndEndWithTheNeck) {
    Instrument guitar = standardInstrument(InstrumentKind::Guitar);
    guitar.capo = 3;
    const auto marks = scalePlaces(guitar, Scale{0, ScaleKind::Major});
    EXPECT_THAT(marks, Contains(ScalePlace{{6, 0}, 7})); // G sounds
    for (const ScalePlace& mark : marks)
        EXPECT_LE(mark.place.fret, guitar.frets - 3);
}

TEST(ScalePlaces, ABoxIsWhatAHandReachesAndOpenStrings) {
    EXPECT_TRUE(inBox({3, 0}, 9));
    EXPECT_TRUE(inBox({3, 4}, 5));
    EXPECT_TRUE(inBox({3, 9}, 5));
    EXPECT_FALSE(inBox({3, 3}, 5));
    EXPECT_FALSE(inBox({3, 10}, 5));
}

} // namespace
} // namespace wirenote
