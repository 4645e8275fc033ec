// Chords and voices on signals with known answers.
#include "hearing/hearing.h"
#include "hearing/techniques.h"

#include "music/pitch.h"
#include "support/tones.h"

#include <algorithm>
#include <gmock/gmock.h>

namespace wirenote {
namespace {

using ::testing::ElementsAre;
using ::testing::ElementsAreArray;

constexpr double kRate = kAnalysisRateHz;
const Instrument& guitar() {
    static const Instrument instrument = standardInstrument(InstrumentKind::Guitar);
    return instrument;
}

void pluck(Sound& sound, double at_s, int midi, double length_s, double level = 0.12) {
    test::addTone(sound, {at_s, length_s, hzFromMidi(midi), level, 6e-5, 1.5, 0.0, 12});
}

Note noteWith(double start_s, double end_s) {
    Note note;
    note.id = 1;
    note.time.value = {start_s, end_s};
    return note;
}

std::vector<ChordEvent> heardIn(const Sound& sound) {
    const FluxTrack flux = *spectralFlux(sound.view(), {}, {});
    return *hearChords(sound.view(), guitar(), 440.0, pickOnsets(flux, PeakParameters{}), {}, {});
}

std::vector<int> midisOf(const ChordEvent& event) {
    std::vector<int> midis;
    for (const ChordNote& note : event.notes)
        midis.push_back(note.midi);
    return midis;
}

struct Grip {
    const char* name;
    std::vector<int> midis;
};
void PrintTo(const Grip& grip, std::ostream* out) {
    *out << grip.name;
}
class Grips : public ::testing::TestWithParam<Grip> {};
// Open chords as every player knows them: common practice.
INSTANTIATE_TEST_SUITE_P(Open,
                         Grips,
                         ::testing::Values(Grip{"fifth", {45, 52}},
                                           Grip{"third", {60, 64}},
                                           Grip{"e_minor", {40, 47, 52, 55, 59, 64}},
                                           Grip{"c_major_of_four", {48, 52, 55, 60}},
                                           Grip{"d_major", {50, 57, 62, 66}},
                                           Grip{"a_minor_above", {57, 60, 64}}),
                         [](const auto& row) { return std::string(row.param.name); });

TEST_P(Grips, AreHeardWholeWithoutGhosts) {
    Sound sound = test::silence(3.0, kRate);
    for (const int midi : GetParam().midis)
        pluck(sound, 0.5, midi, 2.0);
    const auto events = heardIn(sound);
    ASSERT_EQ(events.size(), 1U);
    EXPECT_NEAR(events[0].onset_s, 0.5, 0.03);
    EXPECT_THAT(midisOf(events[0]), ElementsAreArray(GetParam().midis));
}

TEST(Chords, ANoteThatRingsOnIsNotStruckAgain) {
    Sound sound = test::silence(4.0, kRate);
    const int arpeggio[] = {48, 55, 60, 64, 67};
    for (int k = 0; k < 5; ++k)
        pluck(sound, 0.5 + 0.35 * k, arpeggio[k], 3.0 - 0.35 * k);
    const auto events = heardIn(sound);
    ASSERT_EQ(events.size(), 5U);
    for (std::size_t k = 0; k < 5; ++k)
        EXPECT_THAT(midisOf(events[k]), ElementsAre(arpeggio[k])) << k;
    EXPECT_GT(events[0].notes[0].offset_s, 1.5) << "and it does ring on";
    EXPECT_EQ(voiceSpans(events, {}, guitar()).front().voices, Voices::Several);
}

TEST(Chords, ALineIsALine) {
    Sound sound = test::silence(4.0, kRate);
    for (int k = 0; k < 8; ++k)
        pluck(sound, 0.4 + 0.4 * k, 52 + 2 * k, 0.36);
    const auto events = heardIn(sound);
    std::vector<Note> line;
    for (const ChordEvent& event : events)
        line.push_back(noteWith(event.onset_s, event.onset_s + 0.3));
    const auto spans = voiceSpans(events, line, guitar());
    ASSERT_EQ(spans.size(), 1U);
    EXPECT_EQ(spans.front().voices, Voices::Line);
}

TEST(Chords, AStrokeOverDampedStringsIsAGhost) {
    Sound sound = test::silence(5.0, kRate);
    std::uint32_t state = 5;
    for (int k = 0; k < 8; ++k) {
        const double at_s = 0.5 + 0.5 * k;
        if (k % 2 == 0) {
            for (const int midi : {52, 57, 60})
                pluck(sound, at_s, midi, 0.3);
            continue;
        }
        for (std::size_t i = 0; i < static_cast<std::size_t>(0.06 * kRate); ++i) {
            state = state * 1664525U + 1013904223U;
            sound.samples[static_cast<std::size_t>(at_s * kRate) + i] +=
                static_cast<float>(0.25 * (static_cast<double>(state >> 8U) / 8388608.0 - 1.0) *
                                   std::exp(-static_cast<double>(i) / (0.012 * kRate)));
        }
    }
    const auto hearing = hearTake(sound.view(), guitar(), 440.0, HearingParameters{}, {});
    ASSERT_TRUE(hearing.ok());
    const auto ghosts = std::count_if(hearing->notes.begin(),
                                      hearing->notes.end(),
                                      [](const Note& n) { return n.has(Technique::GhostStroke); });
    EXPECT_EQ(ghosts, 4);
    EXPECT_EQ(hearing->notes.size(), 4U * 3U + 4U);
}

TEST(Techniques, VibratoIsMeasuredAndASteadyNoteHasNone) {
    Note note = noteWith(1.0, 2.0);
    for (double t = 1.0; t < 2.0; t += 0.01)
        note.curve.push_back(
            {t, 20.0 * std::sin(2.0 * std::numbers::pi * 5.4 * t) - 8.0 * (t - 1.0)});
    const auto vibrato = vibratoOf(note);
    ASSERT_TRUE(vibrato);
    EXPECT_NEAR(vibrato->rate_hz, 5.4, 0.25);
    EXPECT_NEAR(vibrato->width_cents, 20.0, 2.0);
    for (PitchPoint& p : note.curve)
        p.dev_cents = std::fmod(p.time_s * 7919.0, 3.0); // the measuring's own unrest
    EXPECT_FALSE(vibratoOf(note));
}

TEST(Techniques, CutShortIsStaccatoUnlessTheNextNoteComesAtOnce) {
    std::vector<Note> notes = {noteWith(0.0, 0.11),
                               noteWith(0.5, 0.98),
                               noteWith(1.0, 1.11),
                               noteWith(1.12, 1.23),
                               noteWith(1.24, 2.0)};
    markStaccato(notes);
    std::vector<bool> short_ones;
    for (const Note& note : notes)
        short_ones.push_back(note.has(Technique::Staccato));
    EXPECT_THAT(short_ones, ElementsAre(true, false, false, false, false));
}

// Common practice: sixteenths of a bass, half as long as they are apart; a string takes a moment to
// be silent. A dead note is short by itself.
TEST(Techniques, ShortSixteenthsAreStaccatoAndDeadNotesAreNot) {
    std::vector<Note> notes = {
        noteWith(0.0, 0.10), noteWith(0.155, 0.30), noteWith(0.31, 0.41), noteWith(0.465, 1.0)};
    notes[2].add(Technique::Dead);
    markStaccato(notes);
    EXPECT_TRUE(notes[0].has(Technique::Staccato));
    EXPECT_FALSE(notes[1].has(Technique::Staccato));
    EXPECT_FALSE(notes[2].has(Technique::Staccato));
}

} // namespace
} // namespace wirenote
