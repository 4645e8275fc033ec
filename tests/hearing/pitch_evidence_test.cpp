// Combs, what speaks for a pitch, and how far it is believed.
#include "hearing/note_belief.h"
#include "hearing/pitch_evidence.h"

#include "hearing/chords.h"
#include "hearing/melody.h"
#include "music/pitch.h"
#include "support/tones.h"

#include <algorithm>
#include <gmock/gmock.h>

namespace wirenote {
namespace {

constexpr double kRate = kAnalysisRateHz;

const Instrument& guitar() {
    static const Instrument instrument = standardInstrument(InstrumentKind::Guitar);
    return instrument;
}

void pluck(Sound& sound, double at_s, int midi, double level = 0.12) {
    test::addTone(sound, {at_s, 2.5, hzFromMidi(midi), level, 6e-5, 1.5, 0.0, 12});
}

AttackSpectra about(const Sound& sound, double at_s) {
    MomentSpectra spectra(sound.view());
    AttackSpectra attack;
    attack.before = spectra.at(at_s - 0.158, at_s - 0.008);
    attack.after = spectra.at(at_s + 0.012, at_s + 0.162);
    attack.earlier = spectra.at(at_s - 0.278, at_s - 0.128);
    attack.just_before = spectra.at(at_s - 0.049, at_s - 0.004);
    attack.just_after = spectra.at(at_s + 0.004, at_s + 0.049);
    attack.later = spectra.at(at_s + 0.162, at_s + 0.312);
    return attack;
}

std::vector<AttackPitch> candidatesIn(const Sound& sound, double at_s) {
    MomentSpectra spectra(sound.view());
    const Combs combs(guitar(), 440.0, 0.15, spectra.bins(), spectra.binHz());
    return pitchCandidates(about(sound, at_s), combs, guitar(), 440.0, spectra.binHz());
}

const AttackPitch* of(const std::vector<AttackPitch>& all, int midi) {
    const auto at = std::ranges::find(all, midi, &AttackPitch::midi);
    return at == all.end() ? nullptr : &*at;
}

double valueOf(const AttackPitch& c, std::string_view name) {
    const auto at = std::ranges::find(kPitchEvidenceNames, name);
    EXPECT_NE(at, kPitchEvidenceNames.end()) << name;
    return c.evidence[static_cast<std::size_t>(at - kPitchEvidenceNames.begin())];
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

TEST(Combs, ExplainASpectrumByThePitchesInIt) {
    Sound sound = test::silence(2.0, kRate);
    pluck(sound, 0.5, 45, 0.2);
    pluck(sound, 0.5, 52, 0.1);
    MomentSpectra spectra(sound.view());
    const Combs combs(guitar(), 440.0, 0.15, spectra.bins(), spectra.binHz());
    const auto activation = combs.explain(spectra.at(0.52, 0.67));
    const auto at = [&](int midi) {
        return activation[static_cast<std::size_t>(midi - combs.lowestMidi())];
    };
    EXPECT_EQ(std::ranges::max_element(activation) - activation.begin(), 45 - combs.lowestMidi());
    for (const int other : {43, 47, 50, 55, 59})
        EXPECT_LT(at(other), 0.3 * at(52)) << other;
    EXPECT_GT(at(45), 1.3 * at(52));
}

TEST(PitchEvidence, ANewNoteIsBelievedAndARingingOneIsNot) {
    Sound sound = test::silence(3.0, kRate);
    pluck(sound, 0.4, 48);
    pluck(sound, 1.2, 62);
    const auto all = candidatesIn(sound, 1.2);
    ASSERT_NE(of(all, 62), nullptr);
    EXPECT_GT(beliefIn(*of(all, 62)), 0.9);
    EXPECT_GT(valueOf(*of(all, 62), "fundamental grew"), 1.5);
    for (const AttackPitch& c : all)
        if (c.midi != 62) {
            EXPECT_LT(beliefIn(c), 0.5) << c.midi;
        }
}

TEST(PitchEvidence, TheOctaveAboveALowNoteIsNamedAsItsGuestNotBelieved) {
    for (const int midi : {40, 43, 45, 50, 55}) {
        Sound sound = test::silence(3.0, kRate);
        pluck(sound, 1.0, midi);
        for (const AttackPitch& c : candidatesIn(sound, 1.0)) {
            EXPECT_EQ(beliefIn(c) > 0.5, c.midi == midi) << midi << " " << c.midi;
            if (c.midi == midi + 12) {
                EXPECT_EQ(valueOf(c, "host an octave"), 1.0);
            }
        }
    }
}

TEST(PitchEvidence, SilenceHasNoCandidates) {
    EXPECT_TRUE(candidatesIn(test::silence(2.0, kRate), 1.0).empty());
}

TEST(PitchEvidence, PartialsAreSharedAtTheHarmonicIntervals) {
    // Harmonics 2, 3, 4, 5, 6, 7, 8 of a string, to the nearest semitone (any acoustics handbook).
    for (int n = 2; n <= 8; ++n)
        EXPECT_TRUE(sharesPartials(40, 40 + static_cast<int>(std::lround(12.0 * std::log2(n)))))
            << n;
    for (const int other : {0, 3, 4, 5, 7, 10, 16, 21})
        EXPECT_FALSE(sharesPartials(40, 40 + other)) << other;
    EXPECT_FALSE(sharesPartials(52, 40)) << "the lower note first";
}

// What was not believed is kept, likeliest first, to be offered.
TEST(PitchEvidence, NearMissesAreKeptInOrder) {
    Sound sound = test::silence(4.0, kRate);
    for (int k = 0; k < 6; ++k)
        for (const int midi : {40, 47, 52, 56, 59, 64})
            pluck(sound, 0.4 + 0.5 * k, midi, 0.05);
    const FluxTrack flux = *spectralFlux(sound.view(), {}, {});
    const auto events =
        *hearChords(sound.view(), guitar(), 440.0, pickOnsets(flux, PeakParameters{}), {}, {});
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
