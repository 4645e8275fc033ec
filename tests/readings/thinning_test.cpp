// What easier readings leave out: common practice of arrangers for beginners.
#include "readings/thinning.h"

#include "support/pieces.h"

#include <gtest/gtest.h>

namespace wirenote {
namespace {

std::vector<std::size_t> leftOut(const std::vector<Departure>& departures) {
    std::vector<std::size_t> out;
    for (std::size_t i = 0; i < departures.size(); ++i)
        if (departures[i].left_out)
            out.push_back(i);
    return out;
}

// C major over five strings on the first beat, then its tune with a grace.
Piece song() {
    return test::pieceOf({{0.0, 0.9, 48},
                          {0.005, 0.9, 52},
                          {0.01, 0.9, 55},
                          {0.015, 0.9, 60},
                          {0.02, 0.9, 64},
                          {0.95, 0.99, 65, {0, 0}, {Technique::Grace}},
                          {1.0, 1.4, 67, {0, 0}, {Technique::Vibrato}},
                          {1.5, 1.9, 64},
                          {1.505, 1.9, 55}});
}

TEST(Thinning, OrnamentsGoFirst) {
    const auto departures = thinned(song(), 1);
    EXPECT_EQ(leftOut(departures), std::vector<std::size_t>{5});
    ASSERT_TRUE(departures[6].techniques) << "the vibrato";
    EXPECT_TRUE(departures[6].techniques->empty());
    EXPECT_EQ(departures[5].why, DepartureWhy::Ornament);
}

TEST(Thinning, ThenInnerNotesButForTheThird) {
    const auto departures = thinned(song(), 2);
    EXPECT_EQ(leftOut(departures), (std::vector<std::size_t>{2, 3, 5}));
    EXPECT_FALSE(departures[1].left_out) << "E over C is what makes it major";
}

TEST(Thinning, ThenAllButTuneAndBassOnTheBeats) {
    const auto departures = thinned(song(), 3);
    EXPECT_EQ(leftOut(departures), (std::vector<std::size_t>{1, 2, 3, 5})) << "1.5 s is a beat";
    Piece off = song();
    for (std::size_t i = 7; i < 9; ++i)
        off.notes[i].time.value.start_s += 0.25;
    EXPECT_EQ(leftOut(thinned(off, 3)), (std::vector<std::size_t>{1, 2, 3, 5, 8}));
}

TEST(Thinning, WhatMustLandStays) {
    Piece piece = song();
    piece.notes[3].need.kind = Necessity::MustLand;
    piece.notes[5].need.kind = Necessity::MustLand;
    EXPECT_EQ(leftOut(thinned(piece, 2)), std::vector<std::size_t>{2});
}

TEST(Thinning, RunsKeepWhatIsOnTheHalvesOfBeats) {
    std::vector<test::Row> rows;
    for (int i = 0; i < 8; ++i)
        rows.push_back({0.125 * i, 0.125 * i + 0.12, 60 + i});
    const auto departures = thinned(test::pieceOf(rows), 2);
    EXPECT_EQ(leftOut(departures), (std::vector<std::size_t>{1, 3, 5, 7}));
}

TEST(Thinning, WhoIsSlurredFromNothingIsStruck) {
    Piece piece = test::pieceOf({{0.0, 0.1, 60, {2, 1}, {Technique::Grace}},
                                 {0.1, 0.6, 62, {2, 3}, {Technique::HammerOn}}});
    const auto departures = thinned(piece, 1);
    ASSERT_TRUE(departures[0].left_out);
    ASSERT_TRUE(departures[1].techniques);
    EXPECT_TRUE(departures[1].techniques->empty());
    EXPECT_FALSE(departures[1].left_out);
}

TEST(Thinning, WhatMayGoAboveATempoGoesThere) {
    Piece piece = song();
    piece.notes[7].need = {Necessity::MayGo, 96.0, ""};
    EXPECT_TRUE(leftOut(withoutWhatMayGo(piece, 95.0)).empty());
    EXPECT_EQ(leftOut(withoutWhatMayGo(piece, 96.0)), std::vector<std::size_t>{7});
}

} // namespace
} // namespace wirenote
