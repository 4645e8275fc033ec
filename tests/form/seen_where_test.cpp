// Which bars a film shows, hand by hand, and what is still to be filmed.
#include "form/seen_where.h"
#include "support/pieces.h"

#include <gtest/gtest.h>

namespace wirenote {
namespace {

// Bars of four quarters on string 2, frets 1 to 4 in each, an octave of bars further up each time.
Piece played(int bars) {
    std::vector<test::Row> rows;
    for (int k = 0; k < 4 * bars; ++k)
        rows.push_back({0.5 * k, 0.5 * k + 0.45, 60 + k % 4, {2, 1 + k % 4}});
    Piece piece = test::pieceOf(rows);
    Take take;
    take.length_s = 2.0 * bars;
    take.has_picture = true;
    piece.takes = {take};
    return piece;
}

SeenFacts tips() {
    SeenFacts seen;
    seen.tips = {{1, 1.6, 2.0}};
    seen.trust = 1.0;
    return seen;
}

void show(Piece& piece, std::size_t note, std::size_t take, const SeenFacts& seen) {
    piece.notes[note].facts.push_back({take, piece.notes[note].time.value, {}, seen});
}

std::vector<SeenBar> barsOf(const Piece& piece) {
    return seenWhere(piece, contentsOf(piece, quantise(piece)), {});
}

TEST(SeenWhere, EachHandIsToldBySoManyOfItsNotes) {
    Piece piece = played(3);
    for (std::size_t n = 0; n < 4; ++n)
        show(piece, n, 0, tips());
    show(piece, 4, 0, tips());
    SeenFacts down;
    down.down = 0.9;
    for (std::size_t n = 4; n < 8; ++n)
        show(piece, n, 0, down);
    const auto bars = barsOf(piece);
    ASSERT_EQ(bars.size(), 3U);
    EXPECT_EQ(bars[0].fretting.visible(), HandVisible::Seen);
    EXPECT_EQ(bars[0].plucking.visible(), HandVisible::Hidden);
    EXPECT_EQ(bars[1].fretting.seen, 1);
    EXPECT_EQ(bars[1].fretting.visible(), HandVisible::Half);
    EXPECT_EQ(bars[1].plucking.visible(), HandVisible::Seen);
    EXPECT_EQ(bars[2].fretting.visible(), HandVisible::Hidden);
    EXPECT_EQ(bars[0].lowest_fret, 1);
    EXPECT_EQ(bars[0].highest_fret, 4);
    EXPECT_EQ(bars[0].thickest, 2);
    EXPECT_EQ(bars[0].films, std::vector<std::size_t>{0});
}

TEST(SeenWhere, AnOpenStringNeedsNoFingerAndASlurNoStroke) {
    Piece piece = played(1);
    for (std::size_t n = 0; n < 4; ++n) {
        piece.notes[n].pitch.value = 59;
        piece.asPlayed().plans[n].position.value = {2, 0};
        if (n > 0)
            piece.notes[n].add(Technique::PullOff);
    }
    const auto bars = barsOf(piece);
    EXPECT_EQ(bars[0].fretting.notes, 0);
    EXPECT_EQ(bars[0].fretting.visible(), HandVisible::Seen) << "nothing of it is to be shown";
    EXPECT_EQ(bars[0].plucking.notes, 1);
    EXPECT_EQ(bars[0].lowest_fret, 0);
}

// Two cameras of one performance: one on each hand.
TEST(SeenWhere, TwoCamerasShowWhatEitherShows) {
    Piece piece = played(1);
    Take second = piece.takes.front();
    piece.takes.push_back(second); // the same clock
    SeenFacts finger;
    finger.plucked = {0.1, 0.8, 0.1, 0.0, 0.0};
    for (std::size_t n = 0; n < 4; ++n) {
        show(piece, n, 0, tips());
        show(piece, n, 1, finger);
    }
    const auto bars = barsOf(piece);
    EXPECT_FALSE(bars[0].lacks());
    EXPECT_EQ(bars[0].films, (std::vector<std::size_t>{0, 1}));
    EXPECT_TRUE(wantedShots(bars).empty());
}

TEST(SeenWhere, BarsOnEndThatLackTheSameAreOneShot) {
    Piece piece = played(6);
    SeenFacts both = tips();
    both.down = 0.2;
    for (std::size_t n = 8; n < 12; ++n) // bar 3 is all there
        show(piece, n, 0, both);
    SeenFacts stroke;
    stroke.down = 0.9;
    for (std::size_t n = 20; n < 24; ++n) // of bar 6 the plucking hand
        show(piece, n, 0, stroke);
    piece.asPlayed().plans[5].position.value.fret = 9;
    const auto shots = wantedShots(barsOf(piece));
    ASSERT_EQ(shots.size(), 3U);
    EXPECT_EQ(shots[0].first_bar, 1);
    EXPECT_EQ(shots[0].last_bar, 2);
    EXPECT_TRUE(shots[0].fretting && shots[0].plucking);
    EXPECT_EQ(shots[0].lowest_fret, 1);
    EXPECT_EQ(shots[0].highest_fret, 9);
    EXPECT_EQ(shots[0].film, std::optional<std::size_t>(0));
    EXPECT_EQ(shots[1].first_bar, 4);
    EXPECT_EQ(shots[1].last_bar, 5);
    EXPECT_EQ(shots[2].first_bar, 6);
    EXPECT_TRUE(shots[2].fretting && !shots[2].plucking);
}

TEST(SeenWhere, WithoutAFilmEverythingIsToBeFilmed) {
    Piece piece = played(2);
    piece.takes.front().has_picture = false;
    const auto shots = wantedShots(barsOf(piece));
    ASSERT_EQ(shots.size(), 1U);
    EXPECT_EQ(shots[0].last_bar, 2);
    EXPECT_FALSE(shots[0].film);
}

} // namespace
} // namespace wirenote
