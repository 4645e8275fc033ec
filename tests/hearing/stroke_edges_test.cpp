// How bright a stroke is.
#include "hearing/stroke_edges.h"

#include "support/pieces.h"
#include "support/tones.h"

#include <gtest/gtest.h>
#include <numbers>

namespace wirenote {
namespace {

constexpr double kRate = 22050.0;

// Two tones that begin at a moment: one low, one in the band, `db` below it.
Sound twoTones(double start_s, double high_hz, double db) {
    Sound sound = test::silence(1.0, kRate);
    const double level = std::pow(10.0, db / 20.0);
    for (auto i = static_cast<std::size_t>(start_s * kRate); i < sound.samples.size(); ++i) {
        const double t = static_cast<double>(i) / kRate;
        sound.samples[i] =
            static_cast<float>(0.3 * (std::sin(2.0 * std::numbers::pi * 220.0 * t) +
                                      level * std::sin(2.0 * std::numbers::pi * high_hz * t)));
    }
    return sound;
}

std::optional<double> edgeOf(const Sound& sound, bool bass, const std::vector<Technique>& as = {}) {
    Piece piece = test::pieceOf({{0.4, 0.9, 57, {4, 7}, as}});
    EXPECT_TRUE(measureEdges(sound.view(), bass, piece.notes, {}).ok());
    return piece.notes.front().heard().attack.edge_db;
}

TEST(StrokeEdges, MeasuresTheBandOfTheInstrument) {
    const auto guitar = edgeOf(twoTones(0.4, 4000.0, -20.0), false);
    ASSERT_TRUE(guitar);
    EXPECT_NEAR(*guitar, -20.0, 0.5);
    EXPECT_LT(*edgeOf(twoTones(0.4, 4000.0, -20.0), true), -40.0)
        << "4 kHz are no matter on a bass";
    EXPECT_NEAR(*edgeOf(twoTones(0.4, 1700.0, -25.0), true), -25.0, 0.5);
}

TEST(StrokeEdges, SaysNothingOfSilenceSlursAndSoundsThatEndTooLow) {
    EXPECT_FALSE(edgeOf(test::silence(1.0, kRate), false));
    EXPECT_FALSE(edgeOf(twoTones(0.4, 4000.0, -20.0), false, {Technique::HammerOn}));
    Sound dull = twoTones(0.4, 4000.0, -20.0);
    dull.rate_hz = 8000.0;
    EXPECT_FALSE(edgeOf(dull, false));
}

} // namespace
} // namespace wirenote
