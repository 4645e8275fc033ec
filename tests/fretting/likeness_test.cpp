// Grips that come again or move, and strings that are drawn.
#include "fretting/likeness.h"

#include "fretting/placing.h"
#include "support/pieces.h"
#include "support/solving.h"

#include <gtest/gtest.h>

namespace wirenote {
namespace {

// Strokes of several notes each, `gap_s` apart.
Piece strokesOf(const std::vector<std::vector<int>>& strokes, double gap_s = 0.5) {
    std::vector<test::Row> rows;
    for (std::size_t k = 0; k < strokes.size(); ++k)
        for (std::size_t v = 0; v < strokes[k].size(); ++v) {
            const double start = gap_s * static_cast<double>(k) + 0.005 * static_cast<double>(v);
            rows.push_back({start, start + 0.8 * gap_s, strokes[k][v]});
        }
    return test::pieceOf(rows);
}

const StringEvidence* of(ReasonKind kind, const std::vector<StringEvidence>& evidence) {
    const auto it = std::ranges::find(evidence, kind, &StringEvidence::kind);
    return it == evidence.end() ? nullptr : &*it;
}

void put(Piece& piece, std::size_t note, Position place, double probability) {
    auto& position = piece.asPlayed().plans[note].position;
    position.value = place;
    position.probability = probability;
}

// Power chords on the three thick strings move up and down the neck in one shape: common practice.
TEST(Likeness, APowerChordKeepsItsShapeAsItMoves) {
    const std::vector<int> e = {40, 47, 52};
    const std::vector<int> g = {43, 50, 55};
    Piece piece = strokesOf({e, e, g, e, g, e});
    test::placeAll(piece);
    for (std::size_t i = 0; i < piece.notes.size(); i += 3) {
        const int fret = piece.notes[i].midi() - 40;
        EXPECT_EQ(piece.asPlayed().plans[i].position.value, (Position{6, fret})) << i;
        EXPECT_EQ(piece.asPlayed().plans[i + 1].position.value, (Position{5, fret + 2})) << i;
        EXPECT_EQ(piece.asPlayed().plans[i + 2].position.value, (Position{4, fret + 2})) << i;
    }
    // On its own the same chord is nearly as good with its open strings.
    Piece alone = strokesOf({g});
    test::placeAll(alone);
    EXPECT_GT(piece.asPlayed().plans[7].position.probability,
              alone.asPlayed().plans[1].position.probability + 0.1);
    // The reason is given.
    const auto& reasons = piece.asPlayed().plans[7].position.reasons;
    EXPECT_TRUE(std::ranges::any_of(
        reasons, [](const Reason& r) { return r.kind == ReasonKind::ShapeMoves && r.a == 5; }));
}

// A riff in fifths is one shape that travels; its roots may be open strings now and then, the shape
// is stopped all the same, but for the thickest string (common practice).
TEST(Likeness, FifthsThatTravelAreStopped) {
    const auto fretsOf = [](const std::vector<std::vector<int>>& fifths) {
        Piece piece = strokesOf(fifths);
        test::placeAll(piece);
        std::vector<int> frets;
        for (std::size_t i = 0; i < piece.notes.size(); i += 3)
            frets.push_back(piece.asPlayed().plans[i].position.value.fret);
        return frets;
    };
    const std::vector<int> e = {40, 47, 52};
    const std::vector<int> f = {41, 48, 53};
    const std::vector<int> g = {43, 50, 55};
    const std::vector<int> a = {45, 52, 57};
    const std::vector<int> d = {50, 57, 62};
    EXPECT_EQ(fretsOf({e, f, g, a, g, f}), (std::vector<int>{0, 1, 3, 5, 3, 1}));
    EXPECT_EQ(fretsOf({a, a, d, d, e, e}), (std::vector<int>{0, 0, 0, 0, 0, 0})); // nothing travels
}

TEST(Likeness, AGripStruckAgainSpeaksForTheDoubtfulStroke) {
    Piece piece = strokesOf({{50, 55, 59}, {50, 55, 59}, {50, 55, 59}});
    for (std::size_t k = 0; k < 3; ++k) {
        put(piece, 3 * k, {4, 0}, k == 1 ? 0.4 : 0.98);
        put(piece, 3 * k + 1, {3, 0}, k == 1 ? 0.4 : 0.98);
        put(piece, 3 * k + 2, {2, 0}, k == 1 ? 0.4 : 0.98);
    }
    piece.asPlayed().plans[3].position.runners_up = {{{5, 5}, 0.6}};
    const auto evidence = likenessEvidence(6, piece.rows(), {3, 6});
    ASSERT_EQ(evidence.size(), 3U);
    for (int v = 0; v < 3; ++v) {
        const auto* again = of(ReasonKind::StruckAgain, evidence[static_cast<std::size_t>(v)]);
        ASSERT_NE(again, nullptr);
        EXPECT_EQ(again->basis, Basis::Reasoned);
        const int string = 4 - v;
        for (int other = 1; other <= 6; ++other)
            if (other != string) {
                EXPECT_GT(again->against(other), again->against(string) + 1.0);
            }
        // Two neighbours can be outvoted: nothing here is beyond doubt.
        EXPECT_LT(again->against(6) - again->against(string), 5.0);
    }
    // What is doubtful itself says little to its neighbours.
    const auto first = likenessEvidence(6, piece.rows(), {0, 1});
    const auto* weak = of(ReasonKind::StruckAgain, first[0]);
    EXPECT_LT(std::abs(weak->against(4) - weak->against(5)), 0.5);
}

TEST(Likeness, SingleNotesAndFarStrokesSayNothing) {
    Piece line = test::scalePiece(16);
    test::placeAll(line);
    for (const auto& evidence : likenessEvidence(6, line.rows(), {0, 16}))
        EXPECT_TRUE(evidence.empty());
    Piece far = strokesOf({{50, 55, 59}, {50, 55, 59}}, 4.0);
    test::placeAll(far);
    for (const auto& evidence : likenessEvidence(6, far.rows(), {0, 6}))
        EXPECT_TRUE(evidence.empty());
    EXPECT_TRUE(likenessEvidence(6, far.rows(), {2, 2}).empty());
    // One shared pitch is no grip.
    Piece other = strokesOf({{50, 55, 59}, {50, 57, 62}});
    test::placeAll(other);
    EXPECT_EQ(of(ReasonKind::StruckAgain, likenessEvidence(6, other.rows(), {0, 1})[0]), nullptr);
}

TEST(Likeness, WhatAPersonSetSpeaksForItsLike) {
    Piece piece = strokesOf({{43, 50, 55}, {43, 50, 55}, {43, 50, 55}, {43, 50, 55}});
    test::placeAll(piece);
    ASSERT_EQ(piece.asPlayed().plans[5].position.value, (Position{4, 5}));
    piece.asPlayed().plans[0].position.set({6, 3});
    piece.asPlayed().plans[1].position.set({4, 0});
    piece.asPlayed().plans[2].position.set({3, 0});
    test::placeAll(piece);
    EXPECT_EQ(piece.asPlayed().plans[4].position.value, (Position{4, 0}));
    EXPECT_EQ(piece.asPlayed().plans[5].position.value, (Position{3, 0}));
}

// A whole tone on the second string at the eighth fret, not on the first at the third, where it
// hardly yields; with the ring finger, others behind it: common practice.
TEST(DrawnStrings, AreTakenWhereTheyYield) {
    Piece piece = test::pieceOf({{0.0, 0.4, 64}, {0.5, 0.9, 67}, {1.0, 1.4, 69}, {1.5, 1.9, 67}});
    const auto draw = [&piece](std::size_t i, double cents) {
        Note& note = piece.notes[i];
        note.add(Technique::Bend);
        for (int k = 0; k < 20; ++k)
            note.curve.push_back({note.onset_s() + 0.02 * k, std::min(cents, 20.0 * k)});
    };
    test::placeAll(piece);
    const Position before = piece.asPlayed().plans[1].position.value;
    EXPECT_EQ(before, (Position{1, 3}));
    draw(1, 200.0);
    test::placeAll(piece);
    EXPECT_EQ(piece.asPlayed().plans[1].position.value, (Position{2, 8}));
    EXPECT_EQ(piece.asPlayed().plans[1].finger.value, Finger::Ring);
}

TEST(DrawnStrings, AnOpenStringDoesNotShake) {
    Piece still = test::pieceOf({{0.0, 0.9, 64}});
    test::placeAll(still);
    EXPECT_EQ(still.asPlayed().plans[0].position.value, (Position{1, 0}));
    Piece shaken = test::pieceOf({{0.0, 0.9, 64, {0, 0}, {Technique::Vibrato}}});
    test::placeAll(shaken);
    EXPECT_NE(shaken.asPlayed().plans[0].position.value.fret, 0);
}

} // namespace
} // namespace wirenote
