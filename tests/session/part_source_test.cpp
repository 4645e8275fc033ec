// One note, one string, all but one, out of a recording.
#include "media/stereo_source.h"
#include "session/masked_source.h"
#include "session/part_source.h"
#include "sounding/render.h"
#include "support/pieces.h"

#include <cmath>
#include <cstdint>
#include <gtest/gtest.h>

namespace wirenote {
namespace {

// A held bass note, a melody over it (its octave among it), and two notes struck together.
Piece duet() {
    return test::pieceOf({{0.30, 2.40, 45, {5, 0}},
                          {0.60, 1.20, 66, {1, 2}},
                          {1.25, 1.80, 57, {3, 2}},
                          {1.85, 2.40, 62, {2, 3}},
                          {1.85, 2.40, 67, {1, 3}}});
}

std::shared_ptr<StereoSource> played(const Piece& piece) {
    RenderOptions options;
    options.tail_s = 1.0;
    auto sound = renderPiece(piece, options, JobControl{});
    EXPECT_TRUE(sound);
    return std::make_shared<MemorySource>(std::make_shared<const Sound>(std::move(*sound)));
}

// The piece with only these notes.
Piece only(Piece piece, const std::vector<std::size_t>& kept) {
    Piece part = piece;
    part.notes.clear();
    part.asPlayed().plans.clear();
    for (const std::size_t i : kept) {
        part.notes.push_back(piece.notes[i]);
        part.asPlayed().plans.push_back(piece.asPlayed().plans[i]);
    }
    return part;
}

std::vector<float> leftOf(StereoSource& source, double from_s, double to_s) {
    const auto first = static_cast<std::int64_t>(from_s * source.rate_hz());
    std::vector<float> stereo(2 * static_cast<std::size_t>((to_s - from_s) * source.rate_hz()));
    source.read(first, stereo);
    std::vector<float> left;
    for (std::size_t i = 0; i < stereo.size(); i += 2)
        left.push_back(stereo[i]);
    return left;
}

// How far the difference lies below the truth.
double likeness_db(const std::vector<float>& truth, const std::vector<float>& made) {
    double signal = 0.0;
    double error = 1e-12;
    for (std::size_t i = 0; i < truth.size(); ++i) {
        signal += static_cast<double>(truth[i]) * truth[i];
        error += std::pow(static_cast<double>(truth[i]) - made[i], 2);
    }
    return 10.0 * std::log10(signal / error);
}

double power_db(const std::vector<float>& sound) {
    double power = 1e-20;
    for (const float v : sound)
        power += static_cast<double>(v) * v;
    return 10.0 * std::log10(power / static_cast<double>(sound.size()));
}

TEST(PartSource, OneNoteComesOutAsIfPlayedAlone) {
    const Piece piece = duet();
    const auto whole = played(piece);
    for (const std::size_t i : {std::size_t{0}, std::size_t{1}, std::size_t{3}}) {
        const auto alone = played(only(piece, {i}));
        const auto part = partOf(whole, piece, Take{}, SoundPart::Note, piece.notes[i].id);
        const double from = piece.notes[i].onset_s();
        const double to = piece.notes[i].offset_s();
        EXPECT_GT(likeness_db(leftOf(*alone, from, to), leftOf(*part, from, to)), 8.0) << i;
        // Untouched, the other notes would be this much in the way.
        EXPECT_LT(likeness_db(leftOf(*alone, from, to), leftOf(*whole, from, to)), 4.0) << i;
    }
}

// All partials of the twelfth lie on the bass note's own.
TEST(PartSource, ANoteHiddenInAnothersPartialsGetsCloserToItself) {
    Piece piece = duet();
    piece.notes[1].pitch.value = 64;
    piece.asPlayed().plans[1].position.value = {1, 0};
    const auto whole = played(piece);
    const auto alone = played(only(piece, {1}));
    const auto part = partOf(whole, piece, Take{}, SoundPart::Note, piece.notes[1].id);
    const double before = likeness_db(leftOf(*alone, 0.6, 1.2), leftOf(*whole, 0.6, 1.2));
    const double after = likeness_db(leftOf(*alone, 0.6, 1.2), leftOf(*part, 0.6, 1.2));
    EXPECT_GT(after, before + 2.0) << before;
}

TEST(PartSource, WhatIsLeftAndThePartMakeTheWholeAgain) {
    const Piece piece = duet();
    const auto whole = played(piece);
    const auto part = partOf(whole, piece, Take{}, SoundPart::Note, 2);
    const auto rest = partOf(whole, piece, Take{}, SoundPart::AllButNote, 2);
    const auto a = leftOf(*part, 0.0, 3.0);
    const auto b = leftOf(*rest, 0.0, 3.0);
    const auto sum = leftOf(*whole, 0.0, 3.0);
    for (std::size_t i = 0; i < sum.size(); ++i)
        ASSERT_NEAR(a[i] + b[i], sum[i], 1e-4) << i;
    EXPECT_LT(power_db(leftOf(*rest, 0.65, 1.2)), power_db(leftOf(*whole, 0.65, 1.2)) - 2.0);
}

TEST(PartSource, OneStringHasWhatLiesOnIt) {
    const Piece piece = duet();
    const auto whole = played(piece);
    const auto part = partOf(whole, piece, Take{}, SoundPart::String, 2); // string 1
    EXPECT_GT(power_db(leftOf(*part, 0.7, 1.1)), power_db(leftOf(*whole, 0.7, 1.1)) - 12.0);
    EXPECT_LT(power_db(leftOf(*part, 1.5, 1.75)), power_db(leftOf(*whole, 1.5, 1.75)) - 15.0);
    EXPECT_GT(power_db(leftOf(*part, 1.95, 2.3)), power_db(leftOf(*whole, 1.95, 2.3)) - 12.0);
}

TEST(PartSource, IsTheSameWhereverReadingStarts) {
    const Piece piece = duet();
    const auto whole = played(piece);
    const auto part = partOf(whole, piece, Take{}, SoundPart::Note, 1);
    const auto in_one_go = leftOf(*part, 0.5, 1.5);
    const auto again = partOf(whole, piece, Take{}, SoundPart::Note, 1);
    const auto late = leftOf(*again, 1.0, 1.5);
    for (std::size_t i = 0; i < late.size(); ++i)
        ASSERT_NEAR(late[i], in_one_go[in_one_go.size() - late.size() + i], 1e-6);
}

TEST(PartSource, FollowsTheClockAndThePitchOfTheTakeThatIsHeard) {
    const Piece piece = duet();
    Piece elsewhere = piece; // the same, half a second later and a tone higher
    for (Note& note : elsewhere.notes) {
        note.time.value.start_s += 0.5;
        note.time.value.end_s += 0.5;
        note.pitch.value += 2;
    }
    for (NotePlan& plan : elsewhere.asPlayed().plans)
        plan.position.value.fret += 2;
    Take take;
    take.alignment.stretches = {{{0.0, 0.5}}};
    take.alignment.semitones = 2;
    const auto whole = played(elsewhere);
    const auto alone = played(only(elsewhere, {1}));
    const auto part = partOf(whole, piece, take, SoundPart::Note, piece.notes[1].id);
    EXPECT_GT(likeness_db(leftOf(*alone, 1.1, 1.7), leftOf(*part, 1.1, 1.7)), 8.0);
}

// Bursts of noise as a drum makes them, four a second.
std::vector<float> drummed(std::vector<float> sound, double rate_hz) {
    std::uint32_t state = 7;
    const auto beat = static_cast<std::size_t>(0.25 * rate_hz);
    for (std::size_t i = 0; i < sound.size(); ++i) {
        state = state * 1664525U + 1013904223U;
        const double noise = static_cast<double>(state >> 8U) / 8388608.0 - 1.0;
        const double age_s = static_cast<double>(i % beat) / rate_hz;
        sound[i] += static_cast<float>(0.4 * std::exp(-age_s / 0.02) * noise);
    }
    return sound;
}

TEST(WithoutDrums, LeavesTheStringsAndTakesTheDrumsAway) {
    const Piece piece = duet();
    const auto clean = played(piece);
    auto sound = std::make_shared<Sound>();
    sound->rate_hz = clean->rate_hz();
    sound->samples = drummed(leftOf(*clean, 0.0, 3.0), sound->rate_hz);
    const auto drums = std::make_shared<MemorySource>(sound);
    const auto without = withoutDrums(drums);
    const auto truth = leftOf(*clean, 0.4, 2.4);
    const double before = likeness_db(truth, leftOf(*drums, 0.4, 2.4));
    EXPECT_GT(likeness_db(truth, leftOf(*without, 0.4, 2.4)), before + 5.0) << before;
    const auto late = leftOf(*withoutDrums(drums), 1.0, 1.2); // wherever reading starts
    const auto whole = leftOf(*without, 0.0, 2.0);
    for (std::size_t i = 0; i < late.size(); ++i)
        ASSERT_NEAR(late[i], whole[static_cast<std::size_t>(sound->rate_hz) + i], 1e-6);
    EXPECT_EQ(withoutDrums(nullptr), nullptr);
}

TEST(PartSource, EverythingIsTheRecordingItself) {
    const Piece piece = duet();
    const auto whole = played(piece);
    EXPECT_EQ(partOf(whole, piece, Take{}, SoundPart::All, 2), whole);
    EXPECT_EQ(partOf(whole, piece, Take{}, SoundPart::Note, 99), whole);
    EXPECT_EQ(partOf(nullptr, piece, Take{}, SoundPart::Note, 1), nullptr);
}

} // namespace
} // namespace wirenote
