// What sounds lower than the neck reaches.
#include "hearing/below_neck.h"

#include "hearing/melody.h"
#include "hearing/tuning_guess.h"
#include "music/pitch.h"
#include "support/tones.h"

#include <functional>
#include <gtest/gtest.h>

namespace wirenote {
namespace {

// Partials as strong as `strength(k)`, from at_s on.
Sound played(const std::vector<double>& f0_hz, const std::function<double(int)>& strength) {
    Sound sound;
    sound.rate_hz = kAnalysisRateHz;
    sound.samples.assign(static_cast<std::size_t>(sound.rate_hz), 0.0F);
    for (std::size_t i = 4000; i < sound.samples.size(); ++i)
        for (const double f0 : f0_hz)
            for (int k = 1; k <= 12; ++k) {
                const double t = static_cast<double>(i - 4000) / sound.rate_hz;
                sound.samples[i] +=
                    static_cast<float>(0.05 * strength(k) * std::exp(-2.0 * t) *
                                       std::sin(2.0 * std::numbers::pi * k * f0 * t + 0.3 * k));
            }
    return sound;
}

std::vector<NearMiss> below(const Sound& sound) {
    const JobControl job;
    const auto found = heardBelow(sound.view(),
                                  standardInstrument(InstrumentKind::Guitar),
                                  440.0,
                                  {4000 / kAnalysisRateHz},
                                  job);
    return found.ok() ? *found : std::vector<NearMiss>{};
}

double even(int k) {
    return 1.0 / std::sqrt(k);
}

TEST(BelowNeck, ABassNoteUnderAGuitarsNeckIsHeard) {
    for (const int midi : {26, 28, 31, 33, 36, 38}) {
        const auto found = below(played({hzFromMidi(midi)}, even));
        ASSERT_EQ(found.size(), 1U) << midi;
        EXPECT_EQ(found.front().midi, midi);
        EXPECT_EQ(found.front().place.string, 0) << "it has no place on this neck";
    }
}

TEST(BelowNeck, WhatIsOnTheNeckIsNot) {
    for (const int midi : {40, 43, 45, 52, 64})
        EXPECT_TRUE(below(played({hzFromMidi(midi)}, even)).empty()) << midi;
}

// A fifth and a fourth share a period below the neck; no string sounds there.
TEST(BelowNeck, TwoStringsThatShareALowerPeriodAreNot) {
    EXPECT_TRUE(below(played({hzFromMidi(40), 1.5 * hzFromMidi(40)}, even)).empty());
    EXPECT_TRUE(below(played({hzFromMidi(45), 4.0 / 3.0 * hzFromMidi(45)}, even)).empty());
}

// What an amplifier adds to a fifth: its differences and sums, far weaker than the fifth.
TEST(BelowNeck, WhatAnAmplifierAddsIsNot) {
    const auto fifth = [](int k) {
        return k % 2 == 0 || k % 3 == 0 ? 1.0 / std::sqrt(k) : 0.12 / std::sqrt(k);
    };
    EXPECT_TRUE(below(played({0.5 * hzFromMidi(40)}, fifth)).empty());
}

std::vector<Note> line(const std::vector<int>& midis) {
    std::vector<Note> notes;
    for (const int midi : midis) {
        Note note;
        note.id = static_cast<NoteId>(notes.size() + 1);
        note.pitch.value = midi;
        const double at_s = 0.5 * static_cast<double>(notes.size());
        note.time.value = {at_s, at_s + 0.4};
        notes.push_back(note);
    }
    return notes;
}

TEST(BelowNeck, ManyLowStrokesSpeakForABass) {
    const auto notes = line({40, 43, 45, 40, 52, 43, 45, 47, 40, 43});
    std::vector<NearMiss> misses;
    for (const int midi : {28, 31, 33, 28, 35, 31, 28})
        misses.push_back({{1.0, 1.2}, midi, 0.5, {0, 0}});
    const Instrument guitar = standardInstrument(InstrumentKind::Guitar);
    const auto guesses = guessTuning(guitar, notes, misses);
    ASSERT_FALSE(guesses.empty());
    EXPECT_EQ(guesses.front().instrument.kind, InstrumentKind::Bass);
    EXPECT_EQ(guesses.front().lowest_midi, 28);
    // One of many is a slip of the ear; other kinds are not thought of.
    misses.resize(1);
    for (const TuningGuess& guess : guessTuning(guitar, notes, misses))
        EXPECT_EQ(guess.instrument.kind, InstrumentKind::Guitar);
}

TEST(BelowNeck, ALittleBelowIsALoweredTuning) {
    const auto notes = line({45, 50, 57, 50, 45, 52, 57, 62, 50, 45, 57, 50, 62, 45, 50,
                             57, 50, 45, 52, 57, 62, 50, 45, 57, 50, 62, 45, 50, 57});
    const std::vector<NearMiss> misses = {{{1.0, 1.2}, 38, 0.5, {0, 0}},
                                          {{2.0, 2.2}, 38, 0.5, {0, 0}},
                                          {{3.0, 3.2}, 38, 0.5, {0, 0}}};
    const auto guesses = guessTuning(standardInstrument(InstrumentKind::Guitar), notes, misses);
    EXPECT_EQ(guesses.front().instrument.kind, InstrumentKind::Guitar);
    EXPECT_EQ(guesses.front().instrument.lowestMidi(), 38);
}

} // namespace
} // namespace wirenote
