// What kind of guitar a recording is of, by the simulated instrument.
#include "hearing/kind_guess.h"

#include "hearing/chords.h"
#include "hearing/melody.h"
#include "sounding/render.h"
#include "support/pieces.h"

#include <atomic>
#include <gtest/gtest.h>

namespace wirenote {
namespace {

// A broken chord again and again.
Piece brokenChord(InstrumentKind kind) {
    std::vector<test::Row> rows;
    const std::vector<std::pair<int, Position>> chord{
        {48, {5, 3}}, {52, {4, 2}}, {55, {3, 0}}, {60, {2, 1}}, {64, {1, 0}}};
    for (int k = 0; k < 40; ++k) {
        const auto& [midi, place] = chord[static_cast<std::size_t>(k % 5)];
        rows.push_back({0.3 + 0.3 * k, 1.2 + 0.3 * k, midi, place});
    }
    Piece piece = test::pieceOf(rows);
    piece.instrument = standardInstrument(kind);
    return piece;
}

std::vector<KindGuess> guessed(const Piece& piece, const JobControl& job = {}) {
    RenderOptions options;
    options.rate_hz = kAnalysisRateHz;
    const auto sound = renderPiece(piece, options, {});
    EXPECT_TRUE(sound.ok());
    const auto flux = spectralFlux(sound->view(), {}, {});
    PeakParameters peaks;
    peaks.threshold = ChordParameters{}.least_attack;
    const auto guess = guessKind(
        sound->view(), piece.instrument, kStandardA4Hz, pickOnsets(*flux, peaks), piece.notes, job);
    return guess.ok() ? *guess : std::vector<KindGuess>{};
}

double shareOf(const std::vector<KindGuess>& guesses, InstrumentKind kind) {
    for (const KindGuess& one : guesses)
        if (one.kind == kind)
            return one.probability;
    return 0.0;
}

TEST(KindGuess, NylonSoundsMoreLikeNylonThanSteelDoes) {
    const auto nylon = guessed(brokenChord(InstrumentKind::Nylon));
    const auto electric = guessed(brokenChord(InstrumentKind::Guitar));
    ASSERT_EQ(nylon.size(), 3U);
    ASSERT_EQ(electric.size(), 3U);
    EXPECT_GT(shareOf(nylon, InstrumentKind::Nylon),
              shareOf(electric, InstrumentKind::Nylon) + 0.2);
    EXPECT_EQ(nylon.front().kind, InstrumentKind::Nylon);
    double sum = 0.0;
    for (const KindGuess& one : nylon)
        sum += one.probability;
    EXPECT_NEAR(sum, 1.0, 1e-9);
}

TEST(KindGuess, NothingIsSaidOfFewStrokesOrABass) {
    Piece few = brokenChord(InstrumentKind::Nylon);
    few.notes.resize(4);
    few.asPlayed().plans.resize(4);
    EXPECT_TRUE(guessed(few).empty());
    Piece bass = brokenChord(InstrumentKind::Nylon);
    for (NotePlan& plan : bass.asPlayed().plans)
        plan.position.value = {4, 5};
    bass.instrument = standardInstrument(InstrumentKind::Bass);
    EXPECT_TRUE(guessed(bass).empty());
}

TEST(KindGuess, CanBeCancelled) {
    const std::atomic<bool> stop = true;
    JobControl job;
    job.cancel = &stop;
    EXPECT_TRUE(guessed(brokenChord(InstrumentKind::Nylon), job).empty());
}

} // namespace
} // namespace wirenote
