#include "signal/quality_meter.h"

#include "signal/pitch_spectrogram.h"
#include "signal/tuning_reference.h"
#include "support/rooms.h"
#include "support/tones.h"

#include <cmath>
#include <gtest/gtest.h>

namespace wirenote {
namespace {

constexpr double kRate = 44100.0;

// Ten seconds of short plucks with pauses, in a quiet room.
Sound playing(double noise = 0.0002) {
    Sound sound = test::silence(10.0, kRate);
    for (int k = 0; k < 20; ++k)
        test::addTone(sound,
                      {0.3 + 0.45 * k, 0.3, 146.8 * std::exp2((k % 5) / 6.0), 0.3, 0.0, 6.0});
    test::addNoise(sound, noise);
    return sound;
}

SoundQuality measured(const std::vector<std::vector<float>>& channels) {
    QualityMeter meter;
    for (std::size_t at = 0; at < channels[0].size(); at += 4096) {
        std::vector<std::vector<float>> block;
        for (const auto& c : channels)
            block.emplace_back(c.begin() + static_cast<std::ptrdiff_t>(at),
                               c.begin() +
                                   static_cast<std::ptrdiff_t>(std::min(c.size(), at + 4096)));
        meter.add(block, kRate);
    }
    return meter.result();
}

TEST(Quality, ACleanTakeHasNothingAmiss) {
    const auto q = measured({playing().samples});
    EXPECT_EQ(q.clipped_share, 0.0);
    EXPECT_GT(q.signal_to_noise_db, 45.0);
    EXPECT_EQ(q.hum_db, 0.0);
    EXPECT_LT(q.reverberation_s, 0.6);
    EXPECT_GT(q.top_hz, 20000.0);
    EXPECT_NEAR(q.mono_loss_db, 0.0, 0.01);
}

TEST(Quality, ClippingNoiseAndHumAreMeasured) {
    Sound loud = playing();
    for (float& v : loud.samples)
        v = std::clamp(6.0F * v, -1.0F, 1.0F);
    EXPECT_GT(measured({loud.samples}).clipped_share, 0.001);
    const double noisy = measured({playing(0.014).samples}).signal_to_noise_db;
    EXPECT_GT(noisy, 15.0);
    EXPECT_LT(noisy, 30.0);
    for (const double mains : {50.0, 60.0}) {
        Sound humming = playing();
        for (std::size_t i = 0; i < humming.samples.size(); ++i)
            for (int k = 1; k <= 5; ++k)
                humming.samples[i] += static_cast<float>(
                    0.004 / k *
                    std::sin(2.0 * std::numbers::pi * mains * k * static_cast<double>(i) / kRate));
        const auto q = measured({humming.samples});
        EXPECT_GT(q.hum_db, 10.0);
        EXPECT_EQ(q.hum_hz, mains);
    }
}

// Rooms of known reverberation time: exponentially decaying noise with a gap before it, and as much
// energy as the direct sound (a listener at the critical distance).
TEST(Quality, ARoomIsToldByItsReverberationTime) {
    const Sound dry = playing();
    EXPECT_LT(measured({dry.samples}).reverberation_s, 0.6);
    double last = measured({dry.samples}).reverberation_s;
    for (const double room_s : {0.9, 1.8, 3.0}) {
        SCOPED_TRACE(room_s);
        const double heard = measured({test::inRoom(dry, room_s, 0.0).samples}).reverberation_s;
        EXPECT_GT(heard, 0.6 * room_s);
        EXPECT_LT(heard, 1.4 * room_s);
        EXPECT_GT(heard, last + 0.2);
        last = heard;
    }
}

TEST(Quality, StringsThatRingOnAreNoRoom) {
    Sound ringing = test::silence(6.0, kRate);
    test::addTone(ringing, {0.2, 6.8, 196.0, 0.3, 0.0, 0.5});
    EXPECT_LT(measured({ringing.samples}).reverberation_s, 0.6);
    EXPECT_LT(measured({test::silence(3.0, kRate).samples}).reverberation_s, 0.0) << "not told";
}

TEST(Quality, AMissingTopAndCancellingChannelsAreMeasured) {
    const Sound dry = playing(0.0);
    // The telephone: a steep low pass at about 4 kHz, by taking means.
    Sound dull = playing(0.003);
    for (int pass = 0; pass < 6; ++pass)
        for (std::size_t i = dull.samples.size() - 1; i >= 6; --i) {
            float sum = 0.0F;
            for (std::size_t k = 0; k < 6; ++k)
                sum += dull.samples[i - k] / 6.0F;
            dull.samples[i] = sum;
        }
    EXPECT_LT(measured({dull.samples}).top_hz, 9000.0);
    Sound other = dry;
    for (float& v : other.samples)
        v *= -0.8F;
    EXPECT_GT(measured({dry.samples, other.samples}).mono_loss_db, 15.0);
}

TEST(PitchSpectrogram, ATonesRowIsTheDarkestAndInTuneWithTheReference) {
    for (const double a4 : {440.0, 436.0})
        for (const int midi : {40, 52, 64, 76}) {
            Sound sound = test::silence(2.0, 22050.0);
            const double hz = a4 * std::exp2((midi - 69) / 12.0);
            for (std::size_t i = 0; i < sound.samples.size(); ++i)
                sound.samples[i] =
                    static_cast<float>(0.25 * std::sin(2.0 * std::numbers::pi * hz *
                                                       static_cast<double>(i) / 22050.0));
            PitchAxis axis;
            axis.a4_hz = a4;
            PitchSpectrogram spectrogram(22050.0, axis);
            const auto column = spectrogram.columns(sound.view(), 1.0, 0.01, 1);
            ASSERT_EQ(column.size(), static_cast<std::size_t>(axis.rows()));
            const auto darkest = std::max_element(column.begin(), column.end()) - column.begin();
            EXPECT_NEAR(axis.midiOf(static_cast<int>(darkest)), midi, 0.34) << midi;
            // −12 dB re full scale is the sine of amplitude 0.25: shown at the top of the scale.
            EXPECT_NEAR(column[static_cast<std::size_t>(darkest)], 255, 12);
        }
}

TEST(SpectralReference, ChordsTellTheReferenceWithinThreeCents) {
    for (const double cents : {-14.0, 0.0, 9.0, 31.0}) {
        Sound sound = test::silence(6.0, 22050.0);
        for (int chord = 0; chord < 6; ++chord)
            for (const int midi : {45, 52, 57, 60, 64})
                test::addTone(sound,
                              {1.0 * chord,
                               0.95,
                               440.0 * std::exp2((midi + chord - 69) / 12.0 + cents / 1200.0),
                               0.1,
                               6e-5});
        EXPECT_NEAR(spectralReference(sound.view()).cents, cents, 3.0);
    }
}

} // namespace
} // namespace wirenote
