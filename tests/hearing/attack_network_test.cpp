// What the network is shown of an attack, and what it makes of it.
#include "hearing/attack_network.h"

#include "hearing/chords.h"
#include "hearing/melody.h"
#include "music/pitch.h"
#include "support/tones.h"

#include <algorithm>
#include <gmock/gmock.h>
#include <numbers>

namespace wirenote {
namespace {

constexpr double kRate = kAnalysisRateHz;

void pluck(Sound& sound, double at_s, int midi, double level = 0.12, double length_s = 2.5) {
    test::addTone(sound, {at_s, length_s, hzFromMidi(midi), level, 6e-5, 1.5, 0.0, 12});
}

AttackPicture seenAt(const Sound& sound, double at_s) {
    return AttackPictures(sound.view()).at({at_s, at_s, -9.0, sound.length_s(), 1.0}, 440.0);
}

PitchBelief of(const std::array<PitchBelief, kNetworkPitches>& beliefs, int midi) {
    return beliefs[static_cast<std::size_t>(midi - kNetworkLowestMidi)];
}

TEST(MomentSpectra, ASineOfAmplitudeAGivesAboutA) {
    Sound sound = test::silence(1.0, kRate);
    for (std::size_t i = 0; i < sound.samples.size(); ++i)
        sound.samples[i] = static_cast<float>(
            0.3 * std::sin(2.0 * std::numbers::pi * 440.0 * static_cast<double>(i) / kRate));
    MomentSpectra spectra(sound.view());
    const auto at = spectra.at(0.3, 0.5);
    EXPECT_NEAR(*std::ranges::max_element(at), 0.3, 0.02);
    const auto beyond = spectra.at(5.0, 5.2);
    EXPECT_EQ(*std::ranges::max_element(beyond), 0.0F) << "outside there is nothing";
}

TEST(AttackPicture, AStrikeStandsAtItsPitchAfterTheAttackOnly) {
    Sound sound = test::silence(3.0, kRate);
    pluck(sound, 1.0, 57);
    const AttackPicture picture = seenAt(sound, 1.0);
    const std::size_t own = (57 - kPictureLowestMidi) * kRowsPerSemitone + 1;
    EXPECT_EQ(picture.levels[1][own], 0.0F);
    EXPECT_GT(picture.levels[2][own], 0.9F);
    EXPECT_LT(picture.levels[2][own + 2 * kRowsPerSemitone], picture.levels[2][own] - 0.2F);
    EXPECT_GT(picture.levels[2][own + 36], 0.7F) << "its octave, three rows a semitone";
}

// Halving the level of a sound changes nothing that the network sees.
TEST(AttackPicture, LoudnessDoesNotMatter) {
    Sound loud = test::silence(3.0, kRate);
    pluck(loud, 1.0, 52, 0.2);
    pluck(loud, 1.0, 59, 0.1);
    Sound quiet = loud;
    for (float& v : quiet.samples)
        v *= 0.5F;
    const auto a = believe(seenAt(loud, 1.0));
    const auto b = believe(seenAt(quiet, 1.0));
    for (std::size_t i = 0; i < a.size(); ++i)
        EXPECT_NEAR(a[i].begins, b[i].begins, 0.01) << i;
}

TEST(AttackNetwork, ANewNoteIsBelievedAndARingingOneSoundsOn) {
    Sound sound = test::silence(3.0, kRate);
    pluck(sound, 0.4, 48);
    pluck(sound, 1.2, 62);
    const auto beliefs = believe(seenAt(sound, 1.2));
    EXPECT_GT(of(beliefs, 62).begins, 0.8);
    EXPECT_GT(of(beliefs, 62).sounds, 0.6);
    EXPECT_GT(of(beliefs, 48).sounds, 0.6);
    for (int midi = kNetworkLowestMidi; midi < kNetworkLowestMidi + kNetworkPitches; ++midi)
        if (midi != 62) {
            EXPECT_LT(of(beliefs, midi).begins, 0.5) << midi;
        }
}

TEST(AttackNetwork, TheHarmonicsOfALowNoteAreNotBelieved) {
    for (const int midi : {40, 43, 45, 50, 55}) {
        Sound sound = test::silence(3.0, kRate);
        pluck(sound, 1.0, midi);
        const auto beliefs = believe(seenAt(sound, 1.0));
        for (const int above : {0, 12, 19, 24, 28}) {
            EXPECT_EQ(of(beliefs, midi + above).begins > 0.5, above == 0) << midi << " " << above;
        }
    }
}

TEST(AttackNetwork, OfSilenceNothingIsBelieved) {
    for (const PitchBelief& belief : believe(seenAt(test::silence(2.0, kRate), 1.0)))
        EXPECT_LT(belief.begins, 0.5);
}

TEST(AttackMoments, CloseAttacksAreOneAndKnowTheirNeighbours) {
    const auto moments =
        attackMoments({{1.0, 0.5}, {1.02, 0.9}, {1.5, 0.4}}, ChordParameters{}.event_s, 4.0);
    ASSERT_EQ(moments.size(), 2U);
    EXPECT_DOUBLE_EQ(moments[0].last_s, 1.02);
    EXPECT_DOUBLE_EQ(moments[0].strength, 0.9);
    EXPECT_DOUBLE_EQ(moments[0].next_s, 1.5);
    EXPECT_DOUBLE_EQ(moments[1].previous_s, 1.0);
    EXPECT_DOUBLE_EQ(moments[1].next_s, 4.0);
}

// What was not believed is kept, likeliest first, to be offered.
TEST(Chords, NearMissesAreKeptInOrder) {
    Sound sound = test::silence(4.0, kRate);
    for (int k = 0; k < 6; ++k)
        for (const int midi : {40, 47, 52, 56, 59, 64})
            pluck(sound, 0.4 + 0.5 * k, midi, 0.05);
    const FluxTrack flux = *spectralFlux(sound.view(), {}, {});
    const auto events = *hearChords(sound.view(),
                                    standardInstrument(InstrumentKind::Guitar),
                                    440.0,
                                    pickOnsets(flux, PeakParameters{}),
                                    {},
                                    {});
    ASSERT_GE(events.size(), 5U);
    const ChordParameters p;
    for (const ChordEvent& event : events) {
        double last = 1.0;
        for (const ChordNote& miss : event.misses) {
            EXPECT_LE(miss.probability, last);
            EXPECT_GE(miss.probability, p.least_miss);
            last = miss.probability;
        }
        for (const ChordNote& note : event.notes)
            EXPECT_GE(note.probability, p.least_of_all);
    }
}

} // namespace
} // namespace wirenote
