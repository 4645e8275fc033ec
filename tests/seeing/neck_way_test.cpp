// The neck of a film from picture to picture, and what a point on it shows.
#include "seeing/neck_way.h"

#include <gtest/gtest.h>

namespace wirenote {
namespace {

const Instrument kGuitar = standardInstrument(InstrumentKind::Guitar);
const NeckPlane kPlane(kGuitar);

// Two pixels a millimetre, the thin strings below, moved to the right.
Homography moved(double by) {
    return {2.0, 0.0, 100.0 + by, 0.0, 2.0, 300.0, 0.0, 0.0, 1.0};
}

FilmFacts filmed(const std::vector<std::pair<double, double>>& moments) {
    FilmFacts film;
    for (const auto& [time_s, by] : moments)
        film.frames.push_back(neckFrame(kPlane, moved(by), time_s));
    return film;
}

double nutX(const FilmFacts& film, double time_s) {
    const auto neck = neckAt(kPlane, film, time_s);
    return neck ? project(*neck, {0.0, 0.0}).x : -1.0;
}

TEST(NeckWay, MovesEvenlyBetweenFrames) {
    const FilmFacts film = filmed({{1.0, 0.0}, {2.0, 10.0}});
    EXPECT_NEAR(nutX(film, 1.0), 100.0, 1e-6);
    EXPECT_NEAR(nutX(film, 1.3), 103.0, 1e-6);
    EXPECT_NEAR(nutX(film, 2.2), 110.0, 1e-6) << "shortly after the last";
}

TEST(NeckWay, IsLostWhereFramesLieFarApart) {
    const FilmFacts film = filmed({{1.0, 0.0}, {6.0, 10.0}});
    EXPECT_NEAR(nutX(film, 1.05), 100.0, 1e-6);
    EXPECT_LT(nutX(film, 3.0), 0.0);
    EXPECT_NEAR(nutX(film, 5.95), 110.0, 1e-6);
    EXPECT_LT(nutX(film, 8.0), 0.0);
    EXPECT_FALSE(neckAt(kPlane, {}, 1.0)) << "never found";
}

TEST(NeckWay, KeepsWhatOtherFramesDoNotTell) {
    std::vector<std::pair<double, double>> still;
    std::vector<std::pair<double, double>> jump;
    for (int k = 0; k <= 30; ++k) {
        still.emplace_back(0.1 * k, 0.2 * k);
        jump.emplace_back(0.1 * k, k < 15 ? 0.0 : 40.0);
    }
    const auto few = thinned(filmed(still).frames);
    EXPECT_LE(few.size(), 5U);
    EXPECT_GE(few.size(), 3U) << "one a second";
    FilmFacts film;
    film.frames = thinned(filmed(jump).frames);
    EXPECT_NEAR(nutX(film, 1.4), 100.0, 1.0);
    EXPECT_NEAR(nutX(film, 1.5), 140.0, 1.0);
    auto gap = filmed(still).frames;
    gap.erase(gap.begin() + 10, gap.begin() + 25);
    film.frames = thinned(gap);
    EXPECT_LT(nutX(film, 1.7), 0.0) << "what was lost stays lost";
}

TEST(NeckWay, APointShowsThePlaceOfItsPitch) {
    // E4 is on string 2 at fret 5, on string 3 at fret 9, on string 4 at fret 14.
    const auto point = [](int string, double fret) {
        const double along_mm = kPlane.wire_mm(fret);
        return PlanePoint{along_mm, kPlane.string_mm(string, along_mm) + 2.0};
    };
    EXPECT_EQ(placeShown(kGuitar, kPlane, point(3, 8.6), 64), (Position{3, 9}));
    EXPECT_EQ(placeShown(kGuitar, kPlane, point(2, 4.7), 64), (Position{2, 5}));
    EXPECT_FALSE(placeShown(kGuitar, kPlane, point(3, 3.0), 64)) << "no E4 there";
}

// A pick over a string, well past the twelfth fret, says which string it is.
TEST(NeckWay, APointWhereItIsPluckedShowsTheString) {
    const auto struck = [](double string, double along_mm, int midi) {
        return pluckedShown(kGuitar, kPlane, {along_mm, kPlane.string_mm(string, along_mm)}, midi);
    };
    EXPECT_EQ(struck(3.2, 520.0, 64), (Position{3, 9}));
    EXPECT_EQ(struck(2.0, 520.0, 64), (Position{2, 5}));
    EXPECT_EQ(struck(1.0, 560.0, 64), (Position{1, 0})) << "an open string is plucked too";
    EXPECT_EQ(struck(6.3, 520.0, 40), (Position{6, 0}));
    EXPECT_FALSE(struck(1.0, 520.0, 60)) << "string 1 has no C4";
    EXPECT_FALSE(struck(3.0, 200.0, 64)) << "nobody plucks at fret 6";
    EXPECT_FALSE(struck(7.0, 520.0, 40)) << "beside the strings";
    EXPECT_FALSE(struck(0.2, 520.0, 64));
}

} // namespace
} // namespace wirenote
