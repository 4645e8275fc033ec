// Parts of the hearing that others lean on, each alone with a sound whose answer is known.
#include "hearing/curves.h"
#include "hearing/harmonics.h"
#include "hearing/isolation.h"
#include "hearing/note_ends.h"
#include "hearing/octave_check.h"

#include "hearing/pitch_track.h"
#include "music/pitch.h"
#include "signal/fft.h"
#include "signal/hann.h"
#include "signal/spectral_flux.h"
#include "support/tones.h"

#include <algorithm>
#include <complex>
#include <gtest/gtest.h>

namespace wirenote {
namespace {

constexpr double kRate = 22050.0;

Note noteAt(NoteId id, double from_s, double to_s, double midi) {
    Note note;
    note.id = id;
    note.time.value = {from_s, to_s};
    note.pitch.value = midi;
    return note;
}

// A string whose lower partials a finger on the node of partial `node` stifles soon after the
// attack (Fletcher & Rossing, ch. 9, as the header says); node 1: nobody touches it.
void addTouched(Sound& sound, double at_s, double open_hz, int node) {
    for (int n = 1; n <= 12; ++n) {
        test::Tone partial{at_s, 1.2, n * open_hz, 0.3 / n};
        partial.partials = 1;
        partial.decay_per_s = n % node == 0 ? 1.5 : 25.0;
        test::addTone(sound, partial);
    }
}

TEST(Harmonics, AreTheNotesWhoseLowerPartialsAreStifled) {
    const Instrument guitar = standardInstrument(InstrumentKind::Guitar);
    const double a_hz = hzFromMidi(45);
    Sound sound = test::silence(6.0, kRate);
    addTouched(sound, 0.5, a_hz, 3);            // over fret 7 of the A string: E4
    test::addTone(sound, {2.5, 1.2, 3 * a_hz}); // the same pitch, pressed
    addTouched(sound, 4.2, hzFromMidi(50), 2);  // over fret 12 of the D string: D4
    test::addNoise(sound, 1e-4);
    std::vector<Note> notes = {
        noteAt(1, 0.5, 1.7, 64), noteAt(2, 2.5, 3.7, 64), noteAt(3, 4.2, 5.4, 62)};
    markHarmonics(sound.view(), guitar, 440.0, notes);
    EXPECT_TRUE(notes[0].has(Technique::Harmonic));
    EXPECT_FALSE(notes[1].has(Technique::Harmonic));
    EXPECT_TRUE(notes[2].has(Technique::Harmonic));
}

TEST(Curves, AVibratoBesideAHeldNoteIsFollowedAndTheHeldOneIsNot) {
    Sound sound = test::silence(2.5, kRate);
    test::Tone held{0.3, 2.0, hzFromMidi(40), 0.3};
    test::Tone moved{0.3, 2.0, hzFromMidi(66), 0.3};
    moved.vibrato_cents = 30.0;
    moved.decay_per_s = held.decay_per_s = 0.6;
    test::addTone(sound, held);
    test::addTone(sound, moved);
    test::addNoise(sound, 1e-4);
    std::vector<Note> notes = {noteAt(1, 0.3, 2.2, 40), noteAt(2, 0.3, 2.2, 66)};
    ASSERT_TRUE(followPitches(sound.view(), 440.0, notes, {}).ok());
    const auto swing = [](const Note& note) {
        double most = 0.0;
        for (const PitchPoint& p : note.curve)
            most = std::max(most, std::abs(p.dev_cents));
        return most;
    };
    ASSERT_GT(notes[1].curve.size(), 30U);
    EXPECT_NEAR(swing(notes[1]), 30.0, 8.0);
    EXPECT_TRUE(notes[1].has(Technique::Vibrato));
    EXPECT_LT(swing(notes[0]), 8.0);
    EXPECT_FALSE(notes[0].has(Technique::Vibrato));
}

// Half a second of two tones: the part holds nearly all of its own note and hardly anything of the
// other, and with what is left it adds up to the sound.
TEST(Isolation, ThePartHoldsItsOwnNoteOnly) {
    constexpr int kSize = 4096;
    const auto powerOf = [](const std::vector<test::Tone>& tones) {
        Sound sound = test::silence(1.0, kRate);
        for (const test::Tone& tone : tones)
            test::addTone(sound, tone);
        RealFft fft(kSize);
        putHann(sound.view(), static_cast<std::ptrdiff_t>(0.5 * kRate), kSize, fft.time());
        fft.forward();
        std::vector<float> power;
        for (const auto& bin : fft.spectrum())
            power.push_back(std::norm(bin));
        return power;
    };
    const test::Tone low{0.1, 0.9, hzFromMidi(45), 0.3};
    const test::Tone high{0.1, 0.9, hzFromMidi(54), 0.3};
    const auto both = powerOf({low, high});
    const auto alone = powerOf({low});
    const auto other = powerOf({high});
    const NoteMask mask(
        {noteAt(1, 0.1, 1.0, 45), noteAt(2, 0.1, 1.0, 54)}, {true, false}, 440.0, kRate, kSize);
    std::vector<float> share(both.size());
    mask.shares(0.5 + 0.5 * kSize / kRate, both, share);
    double kept = 0.0;
    double own = 0.0;
    double leaked = 0.0;
    double foreign = 0.0;
    for (std::size_t b = 0; b < share.size(); ++b) {
        ASSERT_GE(share[b], 0.0F);
        ASSERT_LE(share[b], 1.0F);
        kept += share[b] * share[b] * alone[b];
        own += alone[b];
        leaked += share[b] * share[b] * other[b];
        foreign += other[b];
    }
    EXPECT_GT(kept, 0.85 * own);
    EXPECT_LT(leaked, 0.1 * foreign);
}

TEST(OctaveCheck, ANoteAnOctaveUpHasNothingNewAtTheOddPartials) {
    constexpr double kOddShare = 0.05;
    Sound high = test::silence(1.5, kRate);
    test::addTone(high, {0.5, 0.9, hzFromMidi(57)});
    EXPECT_TRUE(OctaveCheck(high.view()).isOctaveUp(45, {0.5, 1.3}, kOddShare));
    Sound low = test::silence(1.5, kRate);
    test::addTone(low, {0.5, 0.9, hzFromMidi(45)});
    EXPECT_FALSE(OctaveCheck(low.view()).isOctaveUp(45, {0.5, 1.3}, kOddShare));
    // A string that was there before is not new.
    Sound over = test::silence(1.5, kRate);
    test::Tone ringing{0.1, 1.4, hzFromMidi(45), 0.2};
    ringing.decay_per_s = 0.1;
    test::addTone(over, ringing);
    test::addTone(over, {0.5, 0.9, hzFromMidi(57)});
    EXPECT_TRUE(OctaveCheck(over.view()).isOctaveUp(45, {0.5, 1.3}, kOddShare));
}

TEST(NoteEnds, ANoteEndsWhereItIsStoppedOrHasDiedAway) {
    Sound sound = test::silence(4.0, kRate);
    test::Tone stopped{0.5, 0.6, hzFromMidi(57)};
    stopped.decay_per_s = 0.5;
    test::addTone(sound, stopped); // stopped by the hand after 0.6 s
    test::addNoise(sound, 1e-4);
    const FluxTrack flux = *spectralFlux(sound.view(), {}, {});
    const PitchTrack track = smoothPitch(*yinCandidates(sound.view(), {}, {}), {});
    EXPECT_NEAR(soundingEnd(flux, track, {0.5, 3.5}, 24.0), 1.1, 0.08);
    EXPECT_DOUBLE_EQ(soundingEnd(flux, track, {0.5, 0.9}, 24.0), 0.9) << "no later than asked";
    const NoteLevel level = levelOf(flux, {0.5, 1.1});
    EXPECT_GT(level.rise_db, 20.0);
    EXPECT_GT(level.peak_db, levelOf(flux, {2.0, 3.0}).peak_db + 20.0);
}

} // namespace
} // namespace wirenote
