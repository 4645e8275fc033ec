#include "hearing/melody.h"
#include "music/pitch.h"
#include "support/tones.h"

#include <gtest/gtest.h>

namespace wirenote {
namespace {

Instrument guitar() {
    return standardInstrument(InstrumentKind::Guitar);
}

Sound lineOf(const std::vector<int>& midi, double gap_s, double length_s, double a4_hz = 440.0) {
    Sound sound =
        test::silence(0.3 + gap_s * static_cast<double>(midi.size()) + length_s, kAnalysisRateHz);
    for (std::size_t i = 0; i < midi.size(); ++i)
        test::addTone(
            sound,
            {0.2 + gap_s * static_cast<double>(i), length_s, hzFromMidi(midi[i], a4_hz), 0.35});
    test::addNoise(sound, 0.0004);
    return sound;
}

std::vector<int> pitchesOf(const Hearing& hearing) {
    std::vector<int> midi;
    for (const Note& note : hearing.notes)
        midi.push_back(note.midi());
    return midi;
}

Result<Hearing> hear(const Sound& sound,
                     const Instrument& instrument = guitar(),
                     std::optional<double> a4_hz = {}) {
    return hearMelody(sound.view(), instrument, a4_hz, {}, {});
}

TEST(Melody, ALineIsHeardNoteForNote) {
    const std::vector<int> line = {52, 55, 57, 59, 64, 62, 59, 57, 40, 76};
    const auto hearing = hear(lineOf(line, 0.3, 0.28));
    ASSERT_TRUE(hearing.ok());
    EXPECT_EQ(pitchesOf(*hearing), line);
    for (std::size_t i = 0; i < hearing->notes.size(); ++i) {
        const Note& note = hearing->notes[i];
        EXPECT_NEAR(note.onset_s(), 0.2 + 0.3 * static_cast<double>(i), 0.012);
        EXPECT_EQ(note.pitch.basis, Basis::Heard);
        EXPECT_GT(note.pitch.probability, 0.7);
        EXPECT_GT(note.time.probability, 0.8);
    }
}

TEST(Melody, RepeatedNotesAreSeparate) {
    const std::vector<int> line(7, 57);
    EXPECT_EQ(pitchesOf(*hear(lineOf(line, 0.2, 0.21))), line);
}

TEST(Melody, VibratoDoesNotSplitANote) {
    Sound sound = test::silence(2.6, kAnalysisRateHz);
    test::addTone(sound, {0.3, 2.0, hzFromMidi(67), 0.4, 0.0, 0.4, 45.0, 8});
    test::addNoise(sound, 0.0004);
    const auto hearing = hear(sound);
    ASSERT_EQ(hearing->notes.size(), 1U);
    EXPECT_EQ(hearing->notes[0].midi(), 67);
    EXPECT_NEAR(hearing->notes[0].offset_s(), 2.3, 0.12);
}

TEST(Melody, ReferenceIsFoundAndNotesAreNamedAgainstIt) {
    const std::vector<int> line = {52, 55, 57, 59, 64, 62, 59, 57};
    const auto flat = hear(lineOf(line, 0.3, 0.28, 436.0));
    EXPECT_EQ(pitchesOf(*flat), line);
    EXPECT_NEAR(flat->reference.a4_hz, 436.0, 0.5);
    EXPECT_EQ(flat->reference.basis, Basis::Heard);
    // A person's word goes before what was found.
    const auto set = hear(lineOf(line, 0.3, 0.28, 436.0), guitar(), 440.0);
    EXPECT_DOUBLE_EQ(set->reference.a4_hz, 440.0);
    EXPECT_EQ(set->reference.basis, Basis::Set);
}

TEST(Melody, ABassIsHeardInItsOctave) {
    const std::vector<int> line = {28, 33, 38, 40, 43, 35, 31};
    EXPECT_EQ(pitchesOf(*hear(lineOf(line, 0.4, 0.38), standardInstrument(InstrumentKind::Bass))),
              line);
}

TEST(Melody, SilenceAndNoiseHoldNoNotes) {
    Sound sound = test::silence(2.0, kAnalysisRateHz);
    EXPECT_TRUE(hear(sound)->notes.empty());
    test::addNoise(sound, 0.05);
    EXPECT_LE(hear(sound)->notes.size(), 1U);
}

TEST(Melody, ANoteThatSoundsWhenTheRecordingStartsIsKept) {
    Sound sound = test::silence(1.5, kAnalysisRateHz);
    test::addTone(sound, {0.0, 0.8, hzFromMidi(57), 0.4});
    Sound cut{{sound.samples.begin() + 3000, sound.samples.end()}, kAnalysisRateHz};
    const auto hearing = hear(cut);
    ASSERT_EQ(hearing->notes.size(), 1U);
    EXPECT_EQ(hearing->notes[0].midi(), 57);
    EXPECT_LT(hearing->notes[0].onset_s(), 0.02);
}

TEST(Melody, APitchThatGlidesOnWithoutAnAttackIsASlide) {
    Sound sound = test::silence(1.6, kAnalysisRateHz);
    double phase[9] = {};
    for (std::size_t i = 0; i < static_cast<std::size_t>(1.2 * kAnalysisRateHz); ++i) {
        const double t = static_cast<double>(i) / kAnalysisRateHz;
        const double glide = std::clamp((t - 0.5) / 0.12, 0.0, 1.0);
        const double f0 = hzFromMidi(57.0 + 4.0 * glide);
        for (int n = 1; n <= 8; ++n) {
            phase[n] += 2.0 * std::numbers::pi * n * f0 / kAnalysisRateHz;
            sound.samples[i + 4000] += static_cast<float>(
                0.3 / n * std::exp(-1.2 * t) * std::min(1.0, t / 0.002) * std::sin(phase[n]));
        }
    }
    const auto hearing = hear(sound);
    ASSERT_EQ(pitchesOf(*hearing), (std::vector<int>{57, 61}));
    EXPECT_TRUE(hearing->notes[1].has(Technique::Slide));
}

TEST(Melody, CancellingReturnsNothing) {
    const std::atomic<bool> cancel{true};
    JobControl job;
    job.cancel = &cancel;
    const auto hearing =
        hearMelody(test::silence(1.0, kAnalysisRateHz).view(), guitar(), {}, {}, job);
    ASSERT_FALSE(hearing.ok());
    EXPECT_EQ(hearing.error().kind, ErrorKind::Cancelled);
}

} // namespace
} // namespace wirenote
