// How notes begin, move and die away: slurs, bends, palm mutes, lines against voices.
#include "hearing/bends.h"
#include "hearing/hearing.h"
#include "hearing/palm_mutes.h"
#include "hearing/ring_ends.h"
#include "hearing/slurs.h"
#include "hearing/unpitched.h"
#include "hearing/voices.h"

#include "music/pitch.h"
#include "support/tones.h"

#include <gmock/gmock.h>

namespace wirenote {
namespace {

using ::testing::ElementsAre;

constexpr double kRate = kAnalysisRateHz;

// A note with a curve, in cents against its pitch, that a function of the time gives.
template <class Course>
Note curved(
    double from_s, double to_s, double midi, Course cents, std::vector<Technique> how = {}) {
    Note note;
    note.time.value = {from_s, to_s};
    note.pitch.value = midi;
    note.techniques = std::move(how);
    for (double t = from_s; t < to_s; t += 0.01)
        note.curve.push_back({t, cents(t)});
    return note;
}

// Half a cosine from 0 to 1 over `length_s` about `middle_s`.
double drawn(double t, double middle_s, double length_s) {
    const double x = std::clamp((t - middle_s) / length_s + 0.5, 0.0, 1.0);
    return 0.5 - 0.5 * std::cos(std::numbers::pi * x);
}

struct Way {
    const char* name;
    double semitones;
    double length_s;
    bool back;
    std::vector<Technique> expected;
};
void PrintTo(const Way& way, std::ostream* out) {
    *out << way.name;
}
class Ways : public ::testing::TestWithParam<Way> {};
INSTANTIATE_TEST_SUITE_P(
    Drawn,
    Ways,
    ::testing::Values(
        Way{"a_tone", 2.0, 0.14, false, {Technique::Bend}},
        Way{"a_tone_and_back", 2.0, 0.14, true, {Technique::Bend, Technique::Release}},
        Way{"half_a_tone", 1.0, 0.12, false, {Technique::Bend}},
        Way{"a_tone_and_a_half", 3.0, 0.16, true, {Technique::Bend, Technique::Release}}),
    [](const auto& row) { return std::string(row.param.name); });

TEST_P(Ways, BecomeOneNoteThatKeepsThePitchItWasStruckAt) {
    const Way& way = GetParam();
    const auto up = [&](double t) { return 100.0 * way.semitones * drawn(t, 1.2, way.length_s); };
    const auto down = [&](double t) {
        return 100.0 * way.semitones * (1.0 - drawn(t, 1.6, way.length_s));
    };
    std::vector<Note> notes{curved(1.0, 1.2, 62, up)};
    notes.push_back(curved(1.2,
                           1.6,
                           62 + way.semitones,
                           [&](double t) {
                               return (t < 1.4    ? up(t)
                                       : way.back ? down(t)
                                                  : 100.0 * way.semitones) -
                                      100.0 * way.semitones;
                           },
                           {Technique::Slide}));
    if (way.back)
        notes.push_back(curved(1.6, 2.0, 62, down, {Technique::Slide}));
    joinBends(notes);
    ASSERT_EQ(notes.size(), 1U);
    EXPECT_EQ(notes[0].techniques, way.expected);
    EXPECT_EQ(notes[0].pitch.value, 62.0);
    EXPECT_EQ(notes[0].bendSemitones(), way.semitones);
    EXPECT_NEAR(notes[0].offset_s(), way.back ? 2.0 : 1.6, 1e-9);
}

TEST(Bends, ASlideOverFretsAndAHammerOnStayWhatTheyAre) {
    const auto quick = [](double t) { return 200.0 * drawn(t, 1.2, 0.05); };
    std::vector<Note> notes{
        curved(1.0, 1.2, 62, quick),
        curved(1.2, 1.6, 64, [&](double t) { return quick(t) - 200.0; }, {Technique::Slide})};
    joinBends(notes);
    EXPECT_EQ(notes.size(), 2U);
    std::vector<Note> hammered{
        curved(1.0, 1.2, 62, [](double) { return 0.0; }),
        curved(1.2, 1.6, 64, [](double) { return 0.0; }, {Technique::HammerOn})};
    joinBends(hammered);
    EXPECT_EQ(hammered.size(), 2U);
    EXPECT_EQ(glide_s(hammered[0], hammered[1]), 0.0);
}

TEST(Bends, AreToldToTheNearestQuarterTone) {
    Note note = curved(0.0, 1.0, 60, [](double t) { return t < 0.5 ? 0.0 : 143.0; });
    EXPECT_EQ(note.bendSemitones(), 0.0) << "not bent, only out of tune";
    note.techniques = {Technique::Bend};
    EXPECT_EQ(note.bendSemitones(), 1.5);
}

// Strokes with the noise of a pick, and between them a note that begins without.
struct Struck {
    Sound sound = test::silence(4.0, kRate);
    std::vector<Note> notes;
    // Who strikes the next note stops the string shortly before.
    void add(double at_s, int midi, bool stroke, double next_s, bool next_stroke) {
        // What the fretting hand begins, begins softly and dull.
        for (int n = 1; n <= (stroke ? 10 : 5); ++n)
            for (std::size_t i = 0; i < static_cast<std::size_t>((next_s - at_s) * kRate); ++i) {
                const double t = static_cast<double>(i) / kRate;
                const double attack =
                    stroke ? std::min(1.0, t / 0.002)
                           : 0.5 - 0.5 * std::cos(std::numbers::pi * std::min(1.0, t / 0.015));
                const double left_s = next_s - at_s - t;
                const double release =
                    next_stroke
                        ? 0.5 - 0.5 * std::cos(std::numbers::pi * std::min(1.0, left_s / 0.015))
                        : std::min(1.0, left_s / 0.001);
                sound.samples[static_cast<std::size_t>(at_s * kRate) + i] +=
                    static_cast<float>(0.15 / n * attack * release * std::exp(-2.0 * t) *
                                       std::sin(2.0 * std::numbers::pi * n * hzFromMidi(midi) * t));
            }
        std::uint32_t state = 77;
        for (int i = 0; stroke && i < static_cast<int>(0.006 * kRate); ++i) {
            state = state * 1664525U + 1013904223U;
            sound.samples[static_cast<std::size_t>(at_s * kRate) + static_cast<std::size_t>(i)] +=
                static_cast<float>(0.05 * (static_cast<double>(state >> 8U) / 8388608.0 - 1.0));
        }
        Note note;
        note.time.value = {at_s, next_s};
        note.pitch.value = midi;
        note.ownSound().attack.strength = stroke ? 1.0 : 0.6;
        note.ownSound().attack.slurred = stroke ? 0.05 : 0.9; // as the network would
        notes.push_back(note);
    }
};

TEST(Slurs, ANoteWithoutTheNoiseOfAStrokeIsHammeredOrPulled) {
    Struck line;
    test::addNoise(line.sound, 0.0005);
    const int midis[] = {60, 62, 64, 62, 60, 67, 60};
    for (int k = 0; k < 7; ++k)
        line.add(0.5 + 0.4 * k,
                 midis[k],
                 k != 1 && k != 4 && k != 6,
                 0.9 + 0.4 * k,
                 k != 0 && k != 3 && k != 5);
    EXPECT_GT(strokeNoise_db(line.sound.view(), line.notes[2].onset_s()),
              strokeNoise_db(line.sound.view(), line.notes[1].onset_s()) + 5.0);
    markSlurs(line.sound.view(), line.notes, false);
    EXPECT_THAT(line.notes[1].techniques, ElementsAre(Technique::HammerOn));
    EXPECT_THAT(line.notes[4].techniques, ElementsAre(Technique::PullOff));
    for (const std::size_t k : {0U, 2U, 3U, 5U})
        EXPECT_TRUE(line.notes[k].techniques.empty()) << k;
    EXPECT_TRUE(line.notes[6].techniques.empty()) << "seven frets are no slur";
    EXPECT_TRUE(line.notes[1].heard().attack.soft);
    EXPECT_FALSE(line.notes[2].heard().attack.soft);
}

TEST(Slurs, TheNetworkIsHeldAgainstWhatItSaysThereabouts) {
    const SlurFigures clear{3.0, -2.0, 0.1, 0.5, 0.0, 1.0};
    EXPECT_GT(slurProbability(clear, false), 0.6);
    SlurFigures usual = clear;
    usual[1] = 3.0; // it says so everywhere
    EXPECT_LT(slurProbability(usual, false), slurProbability(clear, false));
    SlurFigures struck = clear;
    struck[0] = -3.0;
    struck[2] = 1.0; // with the noise of a stroke
    EXPECT_LT(slurProbability(struck, false), 0.1);
    SlurFigures stopped = clear;
    stopped[4] = 6.0; // the string was stopped before it
    EXPECT_LT(slurProbability(stopped, false), slurProbability(clear, false) - 0.2);
}

// Common practice: the finger that is about to strike a string lies on it for a moment; a hammered
// note begins without that. Only where this player's strings are usually stopped so does it tell.
TEST(Slurs, OfABassBeginWithoutTheStringBeingStopped) {
    const SlurFigures stopped{-5.0, -5.0, 0.9, 1.0, 0.5, 1.0};
    EXPECT_LT(slurProbability(stopped, true), 0.5);
    SlurFigures unstopped = stopped;
    unstopped[5] = 0.3;
    EXPECT_GT(slurProbability(unstopped, true), 0.5);
    EXPECT_LT(slurProbability(unstopped, false), 0.5) << "a pick hardly touches it";
    for (const auto& [figure, value] :
         {std::pair{0U, -5.5}, {2U, 1.4}, {3U, 2.5}, {4U, 5.0}}) { // each speaks for a stroke
        SlurFigures struck = unstopped;
        struck[figure] = value;
        EXPECT_LT(slurProbability(struck, true), 0.5) << figure;
    }
}

TEST(Slurs, TheDipOfABassIsTheSilenceBeforeAStroke) {
    constexpr double kRate_hz = 22050.0;
    constexpr double kTone_hz = 110.0;
    const auto tone = [&](double stop_from_s, double stop_to_s) {
        Sound sound = test::silence(1.0, kRate_hz);
        for (int k = 1; k <= 40; ++k)
            test::addTone(sound, {0.0, 1.0, kTone_hz * k, 0.2 / k});
        for (std::size_t i = 0; i < sound.samples.size(); ++i) {
            const double t_s = static_cast<double>(i) / kRate_hz;
            if (t_s > stop_from_s && t_s < stop_to_s)
                sound.samples[i] *= 0.1F;
        }
        return sound;
    };
    // The pulses of a string make a dip of their own.
    EXPECT_GT(bandDip_db(tone(0.475, 0.500).view(), 0.5),
              bandDip_db(tone(2.0, 2.0).view(), 0.5) + 6.0);
}

TEST(Slurs, OnlyWhatFollowsWithinReachMayBeOne) {
    Note before;
    before.time.value = {0.0, 0.5};
    before.pitch.value = 60;
    Note note = before;
    note.time.value = {0.5, 1.0};
    note.pitch.value = 62;
    EXPECT_FALSE(mayBeSlurred(note, before)) << "nobody listened";
    note.ownSound().attack.slurred = 0.5;
    EXPECT_TRUE(mayBeSlurred(note, before));
    note.time.value = {0.6, 1.0};
    EXPECT_FALSE(mayBeSlurred(note, before)) << "a gap";
    note.time.value = {0.5, 1.0};
    note.pitch.value = 67;
    EXPECT_FALSE(mayBeSlurred(note, before)) << "too far";
    note.pitch.value = 60;
    EXPECT_FALSE(mayBeSlurred(note, before)) << "the same fret";
}

// A damped string between two notes: a click of noise in a line.
TEST(DeadNotes, TakeThePitchOfTheNoteBefore) {
    Struck line;
    test::addNoise(line.sound, 0.0003);
    line.add(0.5, 45, true, 1.0, true);
    line.add(2.0, 48, true, 2.5, true);
    std::uint32_t state = 7;
    for (int i = 0; i < static_cast<int>(0.05 * kRate); ++i) {
        state = state * 1664525U + 1013904223U;
        line.sound.samples[static_cast<std::size_t>(1.5 * kRate) + static_cast<std::size_t>(i)] +=
            static_cast<float>(0.3 * std::exp(-i / (0.012 * kRate)) *
                               (static_cast<double>(state >> 8U) / 8388608.0 - 1.0));
    }
    const auto flux = spectralFlux(line.sound.view(), {}, {});
    const std::vector<OnsetPeak> onsets{{0.5, 1.0}, {1.5, 1.0}, {2.0, 1.0}};
    addDeadNotes(line.sound.view(), kStandardA4Hz, *flux, onsets, line.notes);
    ASSERT_EQ(line.notes.size(), 3U);
    EXPECT_THAT(line.notes[1].techniques, ElementsAre(Technique::Dead));
    EXPECT_EQ(line.notes[1].midi(), 45) << "the hand rests where it played last";
    EXPECT_NEAR(line.notes[1].onset_s(), 1.5, 1e-9);
    EXPECT_LT(line.notes[1].time.value.length_s(), 0.12);
    EXPECT_TRUE(line.notes[0].techniques.empty());
    EXPECT_TRUE(line.notes[2].techniques.empty());
}

// Low notes of three kinds: free, stopped short, and with the palm on the string: upper partials
// gone at once, the lowest dying within a quarter of a second.
void addLow(Sound& sound, double at_s, bool muted, double length_s) {
    for (int n = 1; n <= 14; ++n) {
        const double f = 82.4 * n;
        const double decay = muted ? 11.0 + 30.0 * std::max(0, n - 3) : 0.8 + 0.2 * n;
        for (std::size_t i = 0; i < static_cast<std::size_t>(length_s * kRate); ++i) {
            const double t = static_cast<double>(i) / kRate;
            const double release = std::min(1.0, (length_s - t) / 0.02);
            sound.samples[static_cast<std::size_t>(at_s * kRate) + i] += static_cast<float>(
                0.12 / std::sqrt(n) * std::min(1.0, t / 0.002) * release * std::exp(-decay * t) *
                std::sin(2.0 * std::numbers::pi * f * t + n));
        }
    }
}

TEST(PalmMutes, AreTheNotesThatLoseTheirUpperPartialsAtOnce) {
    Sound sound = test::silence(4.0, kRate);
    std::vector<Note> notes;
    for (int k = 0; k < 6; ++k) {
        const double at_s = 0.4 + 0.5 * k;
        addLow(sound, at_s, k % 3 == 1, k % 3 == 2 ? 0.12 : 0.48);
        Note note;
        note.time.value = {at_s, at_s + (k % 3 == 0 ? 0.48 : 0.12)};
        note.pitch.value = 40;
        notes.push_back(note);
    }
    EXPECT_GT(earlyDecay(sound.view(), 0.9).upper_db, 10.0);
    EXPECT_LT(earlyDecay(sound.view(), 0.4).upper_db, 2.0);
    markPalmMutes(sound.view(), notes);
    for (std::size_t k = 0; k < notes.size(); ++k)
        EXPECT_EQ(notes[k].has(Technique::PalmMute), k % 3 == 1) << k;
    EXPECT_GT(notes[1].offset_s(), 1.05) << "a muted note sounds on quietly";
    EXPECT_NEAR(notes[2].offset_s(), 1.52, 1e-9) << "others keep their end";
}

ChordEvent event(double at_s, std::vector<int> midis, double length_s = 0.2) {
    ChordEvent e;
    e.onset_s = at_s;
    for (const int midi : midis)
        e.notes.push_back({at_s, at_s + length_s, midi, 1.0, -20.0, 0.9});
    return e;
}

struct Fading {
    const char* name;
    double decay_per_s; // of the fundamental
    double stopped_s;   // after the attack
};
void PrintTo(const Fading& row, std::ostream* out) {
    *out << row.name;
}
class RingEnds : public ::testing::TestWithParam<Fading> {};
INSTANTIATE_TEST_SUITE_P(Notes,
                         RingEnds,
                         ::testing::Values(Fading{"sustained", 1.0, 1.2},
                                           Fading{"dying_away", 3.0, 1.1},
                                           Fading{"short", 1.5, 0.3}),
                         [](const auto& row) { return std::string(row.param.name); });

TEST_P(RingEnds, AreWhereTheStringIsStoppedNotWhereItGrowsQuiet) {
    Sound sound = test::silence(3.0, kRate);
    test::addTone(sound,
                  {0.5, GetParam().stopped_s, hzFromMidi(57), 0.3, 6e-5, GetParam().decay_per_s});
    std::vector<ChordEvent> events{event(0.5, {57})};
    ASSERT_TRUE(findRingEnds(sound.view(),
                             standardInstrument(InstrumentKind::Guitar),
                             440.0,
                             ChordParameters{}.end_drop_db,
                             events,
                             {})
                    .ok());
    EXPECT_NEAR(events[0].notes[0].offset_s, 0.5 + GetParam().stopped_s, 0.08);
}

TEST(Hearing, ProgressRisesToTheWholeWhereSeveralVoicesSound) {
    Sound sound = test::silence(6.0, kRate);
    for (int k = 0; k < 40; ++k)
        for (const int midi : {48, 55, 60, 64})
            test::addTone(sound, {0.3 + 0.14 * k, 0.13, hzFromMidi(midi), 0.1, 6e-5, 1.5});
    std::vector<double> reported;
    JobControl job;
    job.progress = [&](double done_s, double total_s) {
        EXPECT_NEAR(total_s, 6.0, 1e-6);
        reported.push_back(done_s);
    };
    const auto heard = hearTake(
        sound.view(), standardInstrument(InstrumentKind::Guitar), 440.0, HearingParameters{}, job);
    ASSERT_TRUE(heard.ok());
    EXPECT_TRUE(std::ranges::is_sorted(reported));
    EXPECT_NEAR(reported.back(), 6.0, 1e-6);
    EXPECT_GT(std::ranges::count_if(reported, [](double d) { return d > 2.2 && d < 5.9; }), 1)
        << "the slow part is reported too";
}

TEST(RingEnds, ANoteStruckAgainEndsThereAndSilenceHasNone) {
    Sound sound = test::silence(3.0, kRate);
    for (const double at_s : {0.5, 1.25})
        test::addTone(sound, {at_s, 1.5, hzFromMidi(57), 0.3, 6e-5, 1.0});
    std::vector<ChordEvent> events{event(0.5, {57}), event(1.25, {57})};
    const Instrument guitar = standardInstrument(InstrumentKind::Guitar);
    ASSERT_TRUE(
        findRingEnds(sound.view(), guitar, 440.0, ChordParameters{}.end_drop_db, events, {}).ok());
    EXPECT_EQ(events[0].notes[0].offset_s, 1.25);
    std::vector<ChordEvent> none;
    EXPECT_TRUE(findRingEnds(sound.view(), guitar, 440.0, 14.0, none, {}).ok());
    EXPECT_TRUE(none.empty());
    const std::atomic<bool> yes{true};
    JobControl stop;
    stop.cancel = &yes;
    EXPECT_EQ(findRingEnds(sound.view(), guitar, 440.0, 14.0, events, stop).error().kind,
              ErrorKind::Cancelled);
}

std::size_t pitchAt(int midi) {
    return static_cast<std::size_t>(midi - kNetworkLowestMidi);
}

// What an attack on another string says of one that rings decides where that ends.
TEST(RingEnds, AnAttackSaysWhatStopsThereAndWhatRingsOn) {
    Sound sound = test::silence(3.0, kRate);
    test::addTone(sound, {0.5, 2.0, hzFromMidi(57), 0.3, 6e-5, 1.0});
    test::addTone(sound, {1.5, 1.0, hzFromMidi(64), 0.3, 6e-5, 1.0});
    const Instrument guitar = standardInstrument(InstrumentKind::Guitar);
    std::vector<ChordEvent> stopped{event(0.5, {57}), event(1.5, {64})};
    stopped[1].sounds[pitchAt(57)] = 0.1F;
    std::vector<ChordEvent> on = stopped;
    on[1].sounds[pitchAt(57)] = 0.9F;
    for (auto* events : {&stopped, &on})
        ASSERT_TRUE(
            findRingEnds(sound.view(), guitar, 440.0, ChordParameters{}.end_drop_db, *events, {})
                .ok());
    EXPECT_EQ(stopped[0].notes[0].offset_s, 1.5);
    EXPECT_GT(on[0].notes[0].offset_s, 2.3);
}

// An arpeggio whose second pluck seems, perhaps, to strike the first string again.
std::vector<ChordEvent> arpeggioWithADoubt(double doubtful) {
    std::vector<ChordEvent> events;
    for (int k = 0; k < 12; ++k) {
        events.push_back(event(0.2 * k, {48 + 4 * (k % 4)}));
        events.back().notes[0].probability = 0.99;
        events.back().sounds.fill(0.5F);
    }
    events[6].notes.push_back(events[5].notes[0]);
    events[6].notes.back().onset_s = events[6].onset_s;
    events[6].notes.back().probability = doubtful;
    return events;
}

TEST(LetRingOn, ADoubtfulNoteBesideASureOneRingsOnWhereStringsArePluckedOneAtATime) {
    auto events = arpeggioWithADoubt(0.75);
    letRingOn(events);
    EXPECT_EQ(events[6].notes.size(), 1U);
    ASSERT_EQ(events[6].misses.size(), 1U) << "it stays to be offered";
    EXPECT_EQ(events[6].misses[0].midi, 52);
}

TEST(LetRingOn, WhatIsSureOrStoppedOrAmongChordsIsStruckAgain) {
    auto sure = arpeggioWithADoubt(0.97);
    letRingOn(sure);
    EXPECT_EQ(sure[6].notes.size(), 2U);

    auto stopped = arpeggioWithADoubt(0.75);
    stopped[6].notes[1].midi = 48; // struck at 4, and gone at 5
    stopped[5].sounds[pitchAt(48)] = 0.05F;
    letRingOn(stopped);
    EXPECT_EQ(stopped[6].notes.size(), 2U);

    auto chords = arpeggioWithADoubt(0.75);
    for (ChordEvent& e : chords)
        for (const int above : {7, 12}) {
            e.notes.push_back(e.notes.front());
            e.notes.back().midi += above;
            e.notes.back().probability = 0.99;
        }
    const std::size_t before = chords[6].notes.size();
    letRingOn(chords);
    EXPECT_EQ(chords[6].notes.size(), before);
}

// One note for each attack, as a line would be heard.
std::vector<Note> lineOf(const std::vector<ChordEvent>& events) {
    std::vector<Note> line;
    for (const ChordEvent& e : events) {
        line.emplace_back();
        line.back().time.value = {e.onset_s, e.onset_s + 0.2};
    }
    return line;
}

TEST(VoiceSpans, WhereALineHearsNothingThereAreVoices) {
    std::vector<ChordEvent> events;
    for (int k = 0; k < 20; ++k)
        events.push_back(event(0.25 * k, {40}));
    const Instrument guitar = standardInstrument(InstrumentKind::Guitar);
    EXPECT_EQ(voiceSpans(events, lineOf(events), guitar)[0].voices, Voices::Line);
    EXPECT_EQ(voiceSpans(events, {}, guitar)[0].voices, Voices::Several);
}

TEST(VoiceSpans, ARiffOfChordsAndALineAreToldApart) {
    std::vector<ChordEvent> events;
    for (int k = 0; k < 12; ++k)
        events.push_back(event(0.25 * k, k % 3 == 0 ? std::vector{40, 47, 52} : std::vector{40}));
    for (int k = 12; k < 32; ++k)
        events.push_back(event(0.25 * k, {60 + k % 5}));
    const auto spans =
        voiceSpans(events, lineOf(events), standardInstrument(InstrumentKind::Guitar));
    ASSERT_EQ(spans.size(), 2U);
    EXPECT_EQ(spans[0].voices, Voices::Several);
    EXPECT_EQ(spans[0].span.start_s, 0.0);
    EXPECT_EQ(spans[1].voices, Voices::Line);
    EXPECT_EQ(spans[0].span.end_s, spans[1].span.start_s);
    EXPECT_GT(spans[1].span.start_s, 2.2);
    EXPECT_LT(spans[1].span.start_s, 3.1);
}

TEST(VoiceSpans, OneDoubtfulChordMakesNoVoicesAndABassPlaysALine) {
    std::vector<ChordEvent> events;
    for (int k = 0; k < 30; ++k)
        events.push_back(event(0.25 * k, k == 14 ? std::vector{60, 64} : std::vector{60 + k % 4}));
    EXPECT_EQ(voiceSpans(events, lineOf(events), standardInstrument(InstrumentKind::Guitar)).size(),
              1U);
    std::vector<ChordEvent> chords(8, event(0.0, {33, 38}));
    const auto bass = voiceSpans(chords, lineOf(chords), standardInstrument(InstrumentKind::Bass));
    ASSERT_EQ(bass.size(), 1U);
    EXPECT_EQ(bass[0].voices, Voices::Line);
    EXPECT_EQ(
        voiceSpans(chords, lineOf(chords), standardInstrument(InstrumentKind::Guitar))[0].voices,
        Voices::Several);
    EXPECT_EQ(voiceSpans({}, {}, standardInstrument(InstrumentKind::Guitar)).size(), 1U);
}

// Six somewhat likely slurs beside two sure ones speak for each other; alone, one does not.
TEST(SlurProbabilities, WhoSlursALotIsBelievedToSlur) {
    std::vector<double> much(10, 0.35);
    much[0] = much[1] = 0.95;
    for (const double probability : slurProbabilities(much))
        EXPECT_GT(probability, 0.5);
    std::vector<double> little(30, 0.01);
    little[0] = 0.35;
    EXPECT_LT(slurProbabilities(little)[0], 0.35);
    EXPECT_TRUE(slurProbabilities({}).empty());
}

} // namespace
} // namespace wirenote
