// Notes on their places in the score.
#include "score/quantise.h"

#include "formats/midi_file.h"
#include "formats/musicxml.h"
#include "piece/timeline_edits.h"
#include "score/bars.h"
#include "support/pieces.h"

#include <ctime>
#include <gmock/gmock.h>

namespace wirenote {
namespace {

using ::testing::ElementsAre;

// Beats every half second; onsets in quarters, each so many seconds late.
Piece played(const std::vector<std::pair<double, double>>& onsets) {
    std::vector<test::Row> rows;
    for (const auto& [quarters, late_s] : onsets)
        rows.push_back({0.5 * quarters + late_s, 0.5 * quarters + late_s + 0.1, 60});
    return test::pieceOf(rows);
}

std::vector<Rational> placesOf(const Piece& piece) {
    std::vector<Rational> places;
    for (const ScoreNote& note : quantise(piece).notes)
        places.push_back(note.start);
    return places;
}

TEST(Quantise, LooseTimingIsReadAsMeantAndTold) {
    const Piece piece =
        played({{0, 0.02}, {0.5, -0.022}, {1, 0.015}, {2, -0.02}, {2.5, 0.02}, {3, 0.0}});
    const auto quantised = quantise(piece);
    std::vector<Rational> places;
    for (const ScoreNote& n : quantised.notes)
        places.push_back(n.start);
    EXPECT_THAT(
        places,
        ElementsAre(
            Rational(0), Rational(1, 2), Rational(1), Rational(2), Rational(5, 2), Rational(3)));
    EXPECT_NEAR(quantised.notes[1].late_s, -0.022, 1e-6) << "rushed";
    EXPECT_NEAR(quantised.notes[4].late_s, 0.02, 1e-6) << "dragged";
}

TEST(Quantise, TripletsAndQuintupletsWhereTheyArePlayed) {
    EXPECT_THAT(placesOf(played({{0, 0}, {1. / 3, 0.004}, {2. / 3, -0.004}, {1, 0}})),
                ElementsAre(Rational(0), Rational(1, 3), Rational(2, 3), Rational(1)));
    EXPECT_THAT(placesOf(played({{0, 0}, {0.2, 0}, {0.4, 0}, {0.6, 0}, {0.8, 0}, {1, 0}})),
                ElementsAre(Rational(0),
                            Rational(1, 5),
                            Rational(2, 5),
                            Rational(3, 5),
                            Rational(4, 5),
                            Rational(1)));
}

TEST(Quantise, ADoubtfulBeatKeepsItsOtherReading) {
    // Between two thirds and three quarters of the beat.
    const auto quantised = quantise(played({{0, 0}, {0.71, 0}, {1, 0}, {2, 0}}));
    const BeatReading& doubtful = quantised.beats.front();
    EXPECT_LT(doubtful.probability, 0.9);
    EXPECT_GT(doubtful.other_probability, 0.05);
    EXPECT_NE(doubtful.other_parts, doubtful.parts);
    EXPECT_GT(quantised.beats.back().probability, 0.5);
}

TEST(Quantise, WhatAPersonSaysOfABeatHolds) {
    Piece piece = played({{0, 0}, {0.71, 0}, {1, 0}, {2, 0}});
    for (const int parts : {3, 4, 2}) {
        ASSERT_TRUE(setDivision(piece.timeline, 0, parts).ok());
        EXPECT_EQ(quantise(piece).beats.front().parts, parts);
    }
    EXPECT_EQ(piece.timeline.divisions.size(), 1U) << "said anew, not twice";
    EXPECT_FALSE(setDivision(piece.timeline, -1, 2).ok());
    EXPECT_FALSE(setDivision(piece.timeline, 0, 0).ok());
    ASSERT_TRUE(doubleTempo(piece.timeline).ok());
    EXPECT_EQ(piece.timeline.divisions, (std::vector<SetDivision>{{0, 1}, {1, 1}}))
        << "of two halves each half is a beat";
}

TEST(Quantise, TheBeatsBesideDecideAnAmbiguousOne) {
    // The same loose beat among triplets and among semiquavers.
    const auto partsOfLast = [](int parts) {
        std::vector<std::pair<double, double>> onsets;
        for (int beat = 0; beat < 3; ++beat)
            for (int p = 0; p < parts; ++p)
                onsets.push_back({beat + static_cast<double>(p) / parts, 0.0});
        onsets.push_back({3, 0.0});
        onsets.push_back({3.705, 0.0});
        return quantise(played(onsets)).beats.back().parts;
    };
    EXPECT_EQ(partsOfLast(3) % 3, 0);
    EXPECT_EQ(partsOfLast(4), 4);
}

TEST(Quantise, SwungHalvesAreEvenAndTheirRatioIsKnown) {
    std::vector<std::pair<double, double>> onsets;
    for (int beat = 0; beat < 8; ++beat) {
        onsets.push_back({static_cast<double>(beat), 0.0});
        onsets.push_back({beat + 2.0 / 3.0, 0.0});
    }
    Piece piece = played(onsets);
    piece.timeline.swing = estimateSwing(piece.notes, piece.timeline.beats_s);
    EXPECT_NEAR(piece.timeline.swing, 2.0, 0.05);
    for (std::size_t i = 0; i < onsets.size(); ++i) {
        EXPECT_EQ(quantise(piece).notes[i].start, Rational(static_cast<int>(i), 2)) << i;
        EXPECT_NEAR(quantise(piece).notes[i].late_s, 0.0, 1e-6) << i;
    }
    EXPECT_EQ(estimateSwing(played({{0, 0}, {0.5, 0}, {1, 0}, {1.5, 0}}).notes, {0, 0.5, 1}), 1.0)
        << "too little to say";
}

TEST(Quantise, GracesTakeNoTime) {
    Piece piece = played({{0, 0}, {0.9, 0.0}, {1, 0}, {2, 0}});
    piece.notes[1].techniques = {Technique::Grace};
    const auto notes = quantise(piece).notes;
    ASSERT_EQ(notes.size(), 4U);
    EXPECT_TRUE(notes[1].grace);
    EXPECT_EQ(notes[1].start, Rational(1));
    EXPECT_EQ(notes[1].length, Rational(0));
    const Score score = writeScore(piece);
    EXPECT_THAT(score.bars[0].values[1].graces, ElementsAre(1U));
    EXPECT_EQ(score.bars[0].values[0].length, Rational(1)) << "the beat before is whole";
}

// A grace with nothing after it was on no page and in no MusicXML file.
TEST(Quantise, AGraceThatLeadsToNothingIsWrittenAsANote) {
    Piece piece = test::pieceOf({{0.0, 0.4, 60, {2, 1}}, {0.5, 0.9, 62, {2, 3}}}, 120);
    piece.notes[1].techniques = {Technique::Grace};
    const auto notes = quantise(piece).notes;
    ASSERT_EQ(notes.size(), 2U);
    EXPECT_FALSE(notes[1].grace);
    EXPECT_EQ(notes[1].start, Rational(1));
    const Score score = writeScore(piece);
    EXPECT_THAT(score.bars[0].values[1].notes, ElementsAre(1U));

    piece.notes[0].techniques = {Technique::Grace};
    EXPECT_EQ(quantise(piece).notes.size(), 2U);
}

TEST(Quantise, AStrummedChordIsOnePlace) {
    std::vector<test::Row> rows;
    for (int string = 0; string < 5; ++string)
        rows.push_back({0.5 + 0.007 * string, 0.95, 48 + 4 * string});
    const auto places = placesOf(test::pieceOf(rows));
    for (const Rational place : places)
        EXPECT_EQ(place, places.front());
}

TEST(Bars, FollowTheMetreThroughChangesAndFormatsKeepThem) {
    std::vector<std::pair<double, double>> onsets;
    for (int q = 0; q < 17; ++q)
        onsets.push_back({static_cast<double>(q), 0.0});
    Piece piece = played(onsets);
    ASSERT_TRUE(setMetre(piece.timeline, 2, {3, 4}).ok());
    ASSERT_TRUE(setMetre(piece.timeline, 4, {5, 4}).ok());
    const Score score = writeScore(piece);
    std::vector<Rational> lengths;
    for (const Bar& bar : score.bars) {
        lengths.push_back(bar.length);
        Rational sum = 0;
        for (const Value& value : bar.values)
            sum += value.length;
        EXPECT_EQ(sum, bar.length) << bar.number;
    }
    EXPECT_THAT(lengths,
                ElementsAre(Rational(4), Rational(3), Rational(3), Rational(5), Rational(5)));
    for (const auto& read : {readMusicXml(writeMusicXml(piece)), readMidi(writeMidi(piece))}) {
        ASSERT_TRUE(read.ok());
        EXPECT_EQ(read->timeline.metre, (Metre{4, 4}));
        ASSERT_EQ(read->timeline.changes.size(), 2U);
        EXPECT_EQ(read->timeline.changes[0], (MetreChange{2, {3, 4}}));
        EXPECT_EQ(read->timeline.changes[1], (MetreChange{4, {5, 4}}));
    }
}

// Twice the notes, about twice the time: dragging a bar line in a long piece stays light.
TEST(Quantise, TimeGrowsWithTheNotes) {
    const auto seconds = [](int notes) {
        const Piece piece = test::scalePiece(notes);
        const std::clock_t began = std::clock();
        std::size_t placed = 0;
        for (int k = 0; k < 5; ++k)
            placed += quantise(piece).notes.size();
        EXPECT_EQ(placed, 5U * static_cast<std::size_t>(notes));
        return static_cast<double>(std::clock() - began) / CLOCKS_PER_SEC;
    };
    const double some = seconds(1000);
    EXPECT_LT(seconds(4000), 12.0 * some + 0.02);
}

} // namespace
} // namespace wirenote
