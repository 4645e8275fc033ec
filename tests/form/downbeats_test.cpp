#include "form/downbeats.h"

#include "support/pieces.h"

#include <gtest/gtest.h>

namespace wirenote {
namespace {

// Bass notes and long notes on the first of so many beats, short high ones on the others.
Piece bars(int per_bar, int first, int count) {
    std::vector<test::Row> rows;
    for (int beat = 0; beat < count; ++beat) {
        const bool one = (beat - first + 16 * per_bar) % per_bar == 0;
        rows.push_back({0.5 * beat, 0.5 * beat + (one ? 0.95 : 0.2), one ? 40 : 64});
    }
    return test::pieceOf(rows);
}

TEST(Downbeats, AreWhereBassAndLongNotesFall) {
    for (const int per_bar : {2, 3, 4})
        for (int first = 0; first < per_bar; ++first) {
            if (2 * first > per_bar)
                continue; // most of a bar before "one" is no pick-up
            const Piece piece = bars(per_bar, first, 12 * per_bar);
            EXPECT_EQ(likeliestDownbeat(piece.notes, piece.timeline.beats_s, per_bar), first)
                << per_bar << " beats a bar";
        }
}

TEST(Downbeats, WithNothingToTellThePieceBeginsWithOne) {
    EXPECT_EQ(likeliestDownbeat({}, {0.0, 0.5, 1.0, 1.5}, 4), 0);
    std::vector<test::Row> even;
    for (int beat = 0; beat < 32; ++beat)
        even.push_back({0.5 * beat, 0.5 * beat + 0.4, 64});
    const Piece piece = test::pieceOf(even);
    EXPECT_EQ(likeliestDownbeat(piece.notes, piece.timeline.beats_s, 4), 0);
}

} // namespace
} // namespace wirenote
