// Keys and scales against textbook facts.
#include "music/scales.h"

#include <gtest/gtest.h>

namespace wirenote {
namespace {

PitchClasses weightsOf(const std::vector<int>& midis, int tonic_twice = -1) {
    PitchClasses weights{};
    for (const int midi : midis)
        weights[static_cast<std::size_t>(midi % 12)] += 1.0;
    if (tonic_twice >= 0)
        weights[static_cast<std::size_t>(tonic_twice % 12)] += 2.0;
    return weights;
}

struct Named {
    const char* name;
    std::vector<int> midis;
    int tonic;
    bool minor;
    ScaleKind kind;
};
void PrintTo(const Named& row, std::ostream* out) {
    *out << row.name;
}

// Scales as any theory book prints them (common practice).
class Scales : public ::testing::TestWithParam<Named> {};
INSTANTIATE_TEST_SUITE_P(
    Textbook,
    Scales,
    ::testing::Values(
        Named{"c_major", {60, 62, 64, 65, 67, 69, 71}, 0, false, ScaleKind::Major},
        Named{"e_flat_major", {63, 65, 67, 68, 70, 72, 74}, 3, false, ScaleKind::Major},
        Named{"a_natural_minor", {57, 59, 60, 62, 64, 65, 67}, 9, true, ScaleKind::NaturalMinor},
        Named{"a_harmonic_minor", {57, 59, 60, 62, 64, 65, 68}, 9, true, ScaleKind::HarmonicMinor},
        Named{"d_dorian", {62, 64, 65, 67, 69, 71, 72}, 2, true, ScaleKind::Dorian},
        Named{"e_phrygian", {64, 65, 67, 69, 71, 72, 74}, 4, true, ScaleKind::Phrygian},
        Named{"g_mixolydian", {67, 69, 71, 72, 74, 76, 77}, 7, false, ScaleKind::Mixolydian},
        Named{"f_lydian", {65, 67, 69, 71, 72, 74, 76}, 5, false, ScaleKind::Lydian},
        Named{"g_major_pentatonic", {67, 69, 71, 74, 76}, 7, false, ScaleKind::MajorPentatonic},
        Named{"e_minor_pentatonic", {64, 67, 69, 71, 74}, 4, true, ScaleKind::MinorPentatonic},
        Named{"a_blues", {57, 60, 62, 63, 64, 67}, 9, true, ScaleKind::Blues},
        Named{"a_triad_is_no_pentatonic", {60, 64, 67}, 0, false, ScaleKind::Major}),
    [](const auto& row) { return std::string(row.param.name); });

TEST_P(Scales, AreNamedOnTheirTonic) {
    const Named& row = GetParam();
    const Scale scale = scaleOf(weightsOf(row.midis), {row.tonic, row.minor, 1.0});
    EXPECT_EQ(scale, (Scale{row.tonic, row.kind}));
    for (const int midi : row.midis)
        EXPECT_TRUE(scale.has(midi)) << midi;
}

TEST(Keys, AreFoundFromWhatSounds) {
    // Cadences: the chords I–IV–V–I and i–iv–V–i, note by note.
    const auto major = keysOf(weightsOf({60, 64, 67, 65, 69, 72, 67, 71, 74, 60, 64, 67}));
    ASSERT_EQ(major.size(), 24U);
    EXPECT_EQ(major[0].tonic, 0);
    EXPECT_FALSE(major[0].minor);
    const auto minor = keysOf(weightsOf({57, 60, 64, 62, 65, 69, 64, 68, 71, 57, 60, 64}));
    EXPECT_EQ(minor[0].tonic, 9);
    EXPECT_TRUE(minor[0].minor);
    for (std::size_t i = 1; i < major.size(); ++i)
        EXPECT_LE(major[i].fit, major[i - 1].fit);
}

TEST(Keys, EveryTranspositionIsTheSameKeyElsewhere) {
    for (int by = 0; by < 12; ++by) {
        std::vector<int> midis;
        for (const int midi : {60, 64, 67, 65, 69, 72, 67, 71, 74, 60})
            midis.push_back(midi + by);
        EXPECT_EQ(keysOf(weightsOf(midis))[0].tonic, by) << by;
    }
}

TEST(Keys, SilenceHasNone) {
    EXPECT_TRUE(keysOf({}).empty());
}

TEST(Keys, PitchClassesAreSpelled) {
    EXPECT_EQ(pitchClassName(10, Spelling::Flats), "B♭");
    EXPECT_EQ(pitchClassName(6, Spelling::Sharps), "F♯");
    EXPECT_EQ(pitchClassName(0, Spelling::Flats), "C");
}

} // namespace
} // namespace wirenote
