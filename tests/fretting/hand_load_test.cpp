// What a passage asks of the hand, and what is silent under it.
#include "fretting/hand_load.h"
#include "fretting/mute_map.h"
#include "support/pieces.h"
#include "support/solving.h"

#include <gtest/gtest.h>

namespace wirenote {
namespace {

Piece placed(const std::vector<test::Row>& rows) {
    Piece piece = test::pieceOf(rows);
    for (NotePlan& plan : piece.asPlayed().plans)
        plan.position.set(plan.position.value);
    test::placeAll(piece);
    return piece;
}

// Two fifths, ten frets apart, a quarter of a second from one to the other.
TEST(HandLoad, AShiftIsMeasuredAlongTheNeck) {
    const Piece piece = placed({{0.0, 0.2, 43, {6, 3}}, {0.25, 0.45, 53, {6, 13}}});
    const HandLoad load = handLoad(piece.instrument, piece.rows(), {0.0, 1.0});
    EXPECT_DOUBLE_EQ(load.shifts_per_s, 1.0);
    const auto& plans = piece.asPlayed().plans;
    EXPECT_NEAR(load.shifted_mm,
                fretPlace_mm(648.0, plans[1].hand_fret) - fretPlace_mm(648.0, plans[0].hand_fret),
                1e-9);
    EXPECT_EQ(load.hardest.hurdle, Hurdle::Shift);
    EXPECT_EQ(load.hardest.note, piece.notes[1].id);
    EXPECT_GT(load.top_tempo, 0.0);
    EXPECT_NEAR(load.top_tempo, 0.25 / load.hardest.needs_s, 1e-9);
    EXPECT_FALSE(load.strains);
}

TEST(HandLoad, NothingLimitsALineThatStaysInItsPosition) {
    const Piece piece =
        placed({{0.0, 0.2, 57, {4, 7}}, {0.25, 0.45, 59, {4, 9}}, {0.5, 0.7, 62, {3, 7}}});
    const HandLoad load = handLoad(piece.instrument, piece.rows(), {0.0, 1.0});
    EXPECT_EQ(load.hardest.note, 0U);
    EXPECT_DOUBLE_EQ(load.top_tempo, 0.0);
    EXPECT_DOUBLE_EQ(load.shifts_per_s, 0.0);
}

TEST(HandLoad, ABarreIsHeldAsLongAsItIsStruckAgain) {
    std::vector<test::Row> rows;
    for (int stroke = 0; stroke < 12; ++stroke)
        for (int string = 6; string >= 1; --string) {
            static constexpr int kFrets[] = {0, 3, 3, 4, 5, 5, 3}; // by string: G
            const Position place{string, kFrets[string]};
            const Instrument guitar = standardInstrument(InstrumentKind::Guitar);
            const double at_s = 1.0 * stroke + 0.005 * (6 - string);
            rows.push_back({at_s, at_s + 0.98, guitar.midiAt(place), place});
        }
    const Piece piece = placed(rows);
    const HandLoad load = handLoad(piece.instrument, piece.rows(), {0.0, 12.0});
    EXPECT_NEAR(load.longest_barre_s, 12.0, 0.1);
    EXPECT_TRUE(load.strains) << "the usual caution is due";
}

TEST(HandLoad, AWideStretchIsMeasured) {
    const Piece piece = placed({{0.0, 0.9, 41, {6, 1}}, {0.0, 0.9, 50, {5, 5}}});
    const HandLoad load = handLoad(piece.instrument, piece.rows(), {0.0, 1.0});
    EXPECT_NEAR(load.widest_mm, fretPlace_mm(648.0, 5) - fretPlace_mm(648.0, 1), 1e-9);
    EXPECT_TRUE(load.strains);
}

const MutedString& string(const std::vector<MutedString>& map, int number) {
    return *std::ranges::find(map, number, &MutedString::string);
}

// A open chord of C: the tip of the third finger keeps the thickest string silent. Common practice.
TEST(MuteMap, AFingertipTouchesTheThickerString) {
    const Piece piece = placed({{0.0, 0.9, 48, {5, 3}},
                                {0.005, 0.9, 52, {4, 2}},
                                {0.01, 0.9, 55, {3, 0}},
                                {0.015, 0.9, 60, {2, 1}},
                                {0.02, 0.9, 64, {1, 0}}});
    const auto map = muteMap(piece.instrument, piece.rows(), 0.02);
    ASSERT_EQ(map.size(), 6U);
    EXPECT_EQ(string(map, 6).state, StringState::Damped);
    EXPECT_EQ(string(map, 6).damper, Damper::Fingertip);
    EXPECT_EQ(string(map, 6).finger, Finger::Ring);
    for (int sounding = 1; sounding <= 5; ++sounding)
        EXPECT_EQ(string(map, sounding).state, StringState::Sounds) << sounding;
}

// A fifth on the thick strings: the flat of the index finger lies over the thin ones. Common
// practice.
TEST(MuteMap, TheFlatOfTheIndexFingerLiesOverThinnerStrings) {
    const Piece piece =
        placed({{0.0, 0.9, 45, {6, 5}}, {0.005, 0.9, 52, {5, 7}}, {0.01, 0.9, 57, {4, 7}}});
    const auto map = muteMap(piece.instrument, piece.rows(), 0.01);
    for (int silent = 1; silent <= 3; ++silent) {
        EXPECT_EQ(string(map, silent).damper, Damper::FlatOfFinger) << silent;
        EXPECT_EQ(string(map, silent).finger, Finger::Index) << silent;
    }
}

// An open string between two others that a strum takes, and no finger near: it would sound.
TEST(MuteMap, WhatNobodySilencesIsSaid) {
    const Piece piece =
        placed({{0.0, 0.9, 40, {6, 0}}, {0.005, 0.9, 45, {5, 0}}, {0.01, 0.9, 59, {2, 0}}});
    const auto map = muteMap(piece.instrument, piece.rows(), 0.01);
    for (const int between : {3, 4}) {
        EXPECT_EQ(string(map, between).state, StringState::Free) << between;
        EXPECT_TRUE(string(map, between).must) << between;
    }
    EXPECT_FALSE(string(map, 1).must);
    EXPECT_TRUE(muteMap(piece.instrument, piece.rows(), 5.0).empty());
}

} // namespace
} // namespace wirenote
