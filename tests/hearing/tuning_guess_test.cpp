// How an instrument is tuned, from its notes. Common practice throughout.
#include "hearing/tuning_guess.h"

#include <gtest/gtest.h>

namespace wirenote {
namespace {

std::vector<Note> notesOf(const std::vector<int>& midis) {
    std::vector<Note> notes;
    for (const int midi : midis) {
        Note note;
        note.id = static_cast<NoteId>(notes.size()) + 1;
        note.pitch.value = midi;
        note.time.value = {0.5 * static_cast<double>(notes.size()),
                           0.5 * static_cast<double>(notes.size()) + 0.4};
        notes.push_back(note);
    }
    return notes;
}

TuningGuess best(InstrumentKind kind, const std::vector<int>& midis) {
    return guessTuning(standardInstrument(kind), notesOf(midis)).front();
}

TEST(TuningGuess, OpenStringsOfTheUsualTuningAreStandard) {
    const auto guess =
        best(InstrumentKind::Guitar, {40, 45, 50, 55, 59, 64, 43, 48, 52, 57, 60, 62, 67});
    EXPECT_EQ(guess.name, "standard");
    EXPECT_GT(guess.probability, 0.5);
    EXPECT_EQ(guess.lowest_midi, 40);
    EXPECT_EQ(guess.open_notes, 6);
}

TEST(TuningGuess, ALowDUnderUsualStringsIsADroppedString) {
    EXPECT_EQ(best(InstrumentKind::Guitar, {38, 45, 50, 55, 59, 64, 38, 50, 57, 62, 45, 59}).name,
              "dropped-low-string");
}

TEST(TuningGuess, EverythingTwoSemitonesLowerIsAWholeStepDown) {
    EXPECT_EQ(
        best(InstrumentKind::Guitar, {38, 43, 48, 53, 57, 62, 41, 46, 50, 38, 43, 53, 57, 65}).name,
        "whole-step-down");
}

TEST(TuningGuess, NothingBelowTheCapoAndItsOpenStringsIsACapo) {
    // A C shape that sounds E flat: capo at fret 3 (a shape keeps its name, its sound moves).
    const auto guesses = guessTuning(
        standardInstrument(InstrumentKind::Acoustic),
        notesOf({43, 48, 53, 58, 62, 67, 43, 48, 53, 58, 62, 67, 51, 55, 60, 43, 46, 50}));
    EXPECT_EQ(guesses.front().name, "capo");
    EXPECT_EQ(guesses.front().instrument.capo, 3);
}

TEST(TuningGuess, ABassHasItsOwnAndProbabilitiesAddUp) {
    EXPECT_EQ(best(InstrumentKind::Bass, {26, 33, 38, 43, 26, 33}).name, "dropped-low-string");
    double sum = 0.0;
    for (const auto& guess :
         guessTuning(standardInstrument(InstrumentKind::Guitar), notesOf({40, 52, 60})))
        sum += guess.probability;
    EXPECT_NEAR(sum, 1.0, 1e-9);
    EXPECT_TRUE(guessTuning(standardInstrument(InstrumentKind::Guitar), {}).empty());
}

TEST(TuningGuess, StringsThatRingOnSpeakForATuningInWhichTheyAreOpen) {
    // The open strings of D A D G A D, the other notes on low frets; first damped, then ringing on.
    auto notes = notesOf({38, 45, 50, 55, 57, 62, 52, 54, 59, 38, 50, 57, 62});
    const auto share = [&notes] {
        for (const auto& guess : guessTuning(standardInstrument(InstrumentKind::Acoustic), notes))
            if (guess.name == "d-a-d-g-a-d")
                return guess.probability;
        return 0.0;
    };
    const double damped = share();
    for (Note& note : notes)
        if (note.midi() == 38 || note.midi() == 57 || note.midi() == 62)
            note.time.value.end_s += 0.5;
    EXPECT_GT(share(), damped);
}

} // namespace
} // namespace wirenote
