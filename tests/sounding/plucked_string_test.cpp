#include "sounding/render.h"

#include "music/string_physics.h"
#include "signal/partials.h"
#include "signal/yin.h"
#include "support/pieces.h"

#include <cmath>
#include <gtest/gtest.h>

namespace wirenote::standin {
namespace {

constexpr double kRate = 22050.0;

Sound played(const Instrument& instrument, const StringNote& note, double a4_hz = 440.0) {
    Sound sound{std::vector<float>(static_cast<std::size_t>((note.length_s + 0.3) * kRate), 0.0F),
                kRate};
    addStringNote(instrument, note, a4_hz, kRate, sound.samples);
    return sound;
}

double rms(const Sound& sound, double from_s, double to_s) {
    double sum = 0.0;
    const auto from = static_cast<std::size_t>(from_s * kRate);
    const auto to = static_cast<std::size_t>(to_s * kRate);
    for (std::size_t i = from; i < to; ++i)
        sum += static_cast<double>(sound.samples[i]) * sound.samples[i];
    return std::sqrt(sum / static_cast<double>(to - from));
}

// The law of the stiff string (Fletcher 1964), measured on what the simulated instrument plays.
TEST(PluckedString, SoundsWithTheStiffnessOfItsPlace) {
    const Instrument guitar = standardInstrument(InstrumentKind::Acoustic);
    for (const Position place : {Position{3, 4}, Position{4, 9}, Position{2, 5}}) {
        StringNote note;
        note.position = place;
        const Sound sound = played(guitar, note);
        PartialMeter meter(sound.view());
        const PartialFit fit = meter.measure({0.05, 0.35}, hzFromMidi(guitar.midiAt(place)));
        const double expected = stiffnessAt(guitar, place.string, place.fret);
        EXPECT_NEAR(centsBetween(hzFromMidi(guitar.midiAt(place)), fit.f0_hz), 0.0, 1.5);
        EXPECT_NEAR(fit.stiffness, expected, 0.2 * expected) << "string " << place.string;
    }
}

TEST(PluckedString, EveryInstrumentSoundsItsOpenStringsAndIsThenDamped) {
    for (const InstrumentKind kind : {InstrumentKind::Guitar,
                                      InstrumentKind::Acoustic,
                                      InstrumentKind::Nylon,
                                      InstrumentKind::Bass,
                                      InstrumentKind::Bass5}) {
        const Instrument instrument = standardInstrument(kind);
        for (int s = 1; s <= instrument.stringCount(); ++s) {
            StringNote note;
            note.position = {s, 0};
            note.length_s = 0.8;
            const Sound sound = played(instrument, note);
            EXPECT_GT(rms(sound, 0.02, 0.3), 0.005) << instrumentName(kind) << " string " << s;
            EXPECT_LT(rms(sound, 0.85, 1.05), 0.01 * rms(sound, 0.02, 0.3));
            for (const float v : sound.samples)
                ASSERT_LT(std::abs(v), 1.0F);
        }
    }
}

TEST(PluckedString, LouderIsLouderAndFingersAreDullerThanPicks) {
    const Instrument guitar = standardInstrument(InstrumentKind::Guitar);
    StringNote soft;
    soft.velocity = 0.3;
    StringNote loud;
    loud.velocity = 0.9;
    EXPECT_GT(rms(played(guitar, loud), 0.02, 0.3), 1.5 * rms(played(guitar, soft), 0.02, 0.3));
}

TEST(Render, TheCapoAndTheReferenceAreHeard) {
    Piece piece = test::pieceOf({{0.1, 1.0, 52, {4, 0}}});
    piece.instrument.capo = 2;
    RenderOptions options;
    options.rate_hz = kRate;
    options.a4_hz = 436.0;
    const auto sound = renderPiece(piece, options, {});
    ASSERT_TRUE(sound.ok());
    PartialMeter meter(sound->view());
    EXPECT_NEAR(
        centsBetween(hzFromMidi(52, 436.0), meter.measure({0.2, 0.6}, hzFromMidi(52)).f0_hz),
        0.0,
        1.5);
}

TEST(Render, IsTheSameEveryTimeAndStopsWhenCancelled) {
    Piece piece = test::pieceOf({{0.0, 0.4, 64, {1, 0}}, {0.5, 0.9, 59, {2, 0}}});
    EXPECT_EQ(renderPiece(piece, {}, {})->samples, renderPiece(piece, {}, {})->samples);
    const std::atomic<bool> cancel{true};
    JobControl job;
    job.cancel = &cancel;
    EXPECT_FALSE(renderPiece(piece, {}, job).ok());
}

} // namespace
} // namespace wirenote::standin
