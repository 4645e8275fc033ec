// Made up movement of a plucking hand: what passes in silence, and what only goes back.
#include "session/silent_passes.h"

#include "session/hand_picture.h"
#include "support/pieces.h"

#include <cmath>
#include <gtest/gtest.h>

namespace wirenote {
namespace {

constexpr double kRate = 30.0; // pictures a second

// Movement of a height at a moment, over some pictures.
struct Way {
    double time_s = 0.0;
    bool down = true;
    double much = 1.0;
};

PluckTrack trackOf(const std::vector<Way>& ways, double length_s) {
    PluckTrack track;
    for (int k = 0; k < static_cast<int>(length_s * kRate); ++k) {
        const double time_s = (k + 0.5) / kRate;
        double down = 0.01;
        double up = 0.01;
        for (const Way& way : ways)
            (way.down ? down : up) +=
                way.much * std::exp(-0.5 * std::pow((time_s - way.time_s) / 0.025, 2));
        track.times_s.push_back(time_s);
        track.down.push_back(down);
        track.up.push_back(up);
    }
    return track;
}

// Down on each beat of half a second.
std::pair<std::vector<Way>, std::vector<double>> downs(int count) {
    std::vector<Way> ways;
    std::vector<double> onsets_s;
    for (int k = 1; k <= count; ++k) {
        ways.push_back({0.5 * k, true, 1.0});
        onsets_s.push_back(0.5 * k);
    }
    return {ways, onsets_s};
}

TEST(SilentPasses, AStrokeOverNothingIsSeen) {
    auto [ways, onsets_s] = downs(12);
    ways.push_back({2.75, false, 1.1});
    const auto passes = silentPasses(trackOf(ways, 7.0), onsets_s);
    ASSERT_EQ(passes.size(), 1U);
    EXPECT_NEAR(passes[0].time_s, 2.75, 0.03);
    EXPECT_FALSE(passes[0].down);
    EXPECT_GT(passes[0].probability, 0.5);
}

TEST(SilentPasses, ACutIsNoStroke) {
    auto [ways, onsets_s] = downs(12);
    ways.push_back({2.75, false, 40.0});
    EXPECT_TRUE(silentPasses(trackOf(ways, 7.0), onsets_s).empty());
}

TEST(SilentPasses, AHandThatGoesBackSlowlyIsNone) {
    auto [ways, onsets_s] = downs(12);
    for (int k = 1; k < 12; ++k)
        ways.push_back({0.5 * k + 0.25, false, 0.5});
    EXPECT_TRUE(silentPasses(trackOf(ways, 7.0), onsets_s).empty());
}

TEST(SilentPasses, TheWayToAStrokeIsNone) {
    auto [ways, onsets_s] = downs(12);
    ways.push_back({2.88, false, 1.5}); // just before the stroke at 3.0
    EXPECT_TRUE(silentPasses(trackOf(ways, 7.0), onsets_s).empty());
}

TEST(SilentPasses, TooFewStrokesSayNothing) {
    auto [ways, onsets_s] = downs(5);
    ways.push_back({1.25, false, 2.0});
    EXPECT_TRUE(silentPasses(trackOf(ways, 4.0), onsets_s).empty());
    EXPECT_TRUE(silentPasses({}, {}).empty());
}

// In the hand's motion the strokes that a film shows are marked, or added.
TEST(SilentPasses, AreSeenInTheHandsMotion) {
    std::vector<test::Row> rows;
    for (int k = 0; k < 8; ++k)
        rows.push_back({0.5 * k, 0.5 * k + 0.4, 64, {1, 0}});
    Piece piece = test::pieceOf(rows);
    for (int beat = 0; beat <= 8; ++beat)
        piece.timeline.beats_s.push_back(0.5 * beat);
    for (NotePlan& plan : piece.asPlayed().plans)
        plan.stroke.set(Stroke::Down);
    piece.takes = {Take{}};
    const auto seenIn = [](const HandPicture& picture) {
        return std::ranges::count_if(picture.turns, &HandTurn::seen);
    };
    const HandPicture inferred = handPicture(piece);
    EXPECT_EQ(seenIn(inferred), 0);
    FilmFacts& film = piece.takes.front().film;
    film.trust = 1.0;
    film.passes = {{0.76, false, 0.9}, {1.25, false, 0.3}, {3.9, false, 0.9}};
    const HandPicture seen = handPicture(piece);
    EXPECT_EQ(seenIn(seen), 2) << "one was unlikely";
    EXPECT_EQ(seen.turns.size(), inferred.turns.size() + 1) << "after the last note there was none";
    EXPECT_TRUE(std::ranges::is_sorted(seen.turns, {}, &HandTurn::time_s));
    film.trust = 0.2;
    EXPECT_EQ(seenIn(handPicture(piece)), 0) << "a film that is hardly trusted";
}

} // namespace
} // namespace wirenote
