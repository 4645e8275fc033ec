// Playing to a click, and playing that breathes.
#include "form/steady_beats.h"

#include "support/pieces.h"

#include <cmath>
#include <gtest/gtest.h>
#include <random>

namespace wirenote {
namespace {

// Eighths and some sixteenths for `length_s`, unevenly by `uneven_s`; the tempo drifts to and fro
// by `drift`.
std::vector<Note> played(double bpm, double length_s, double uneven_s, double drift) {
    std::mt19937 chance(7);
    std::normal_distribution<double> off(0.0, uneven_s);
    std::vector<test::Row> rows;
    double beat = 0.0;
    for (double t = 0.5; t < length_s; beat += 0.25) {
        const double sixteenth_s = 15.0 / bpm * (1.0 + drift * std::sin(0.05 * t));
        const int place = static_cast<int>(std::lround(4.0 * beat)) % 4;
        if (place % 2 == 0 || chance() % 5 == 0)
            rows.push_back({t + off(chance), t + 0.9 * sixteenth_s, place == 0 ? 40 : 52});
        t += sixteenth_s;
    }
    return test::pieceOf(rows).notes;
}

std::vector<double> roughBeats(double bpm, double length_s) {
    std::vector<double> beats;
    for (double t = 0.45; t < length_s; t += 60.0 / bpm)
        beats.push_back(t);
    return beats;
}

TEST(SteadyBeats, AClickIsFoundToAThousandthOverMinutes) {
    const auto beats = steadyBeats(played(170.0, 150.0, 0.015, 0.0), roughBeats(168.5, 150.0));
    ASSERT_GT(beats.size(), 400U);
    const double period_s = (beats.back() - beats.front()) / static_cast<double>(beats.size() - 1);
    EXPECT_NEAR(60.0 / period_s, 170.0, 0.05);
    double worst_s = 0.0;
    for (const double beat_s : beats)
        worst_s = std::max(worst_s, std::abs(std::remainder(beat_s - 0.5, 30.0 / 170.0)));
    EXPECT_LT(worst_s, 0.03) << "on the attacks to the end";
}

TEST(SteadyBeats, PlayingThatBreathesHasNone) {
    EXPECT_TRUE(steadyBeats(played(120.0, 150.0, 0.015, 0.06), roughBeats(119.0, 150.0)).empty());
}

// Another tempo after a while: what one part keeps is not the whole's.
TEST(SteadyBeats, TakesThatWereJoinedHaveNone) {
    auto notes = played(120.0, 90.0, 0.01, 0.0);
    for (Note note : played(97.0, 70.0, 0.01, 0.0)) {
        note.time.value.start_s += 91.0;
        note.time.value.end_s += 91.0;
        notes.push_back(note);
    }
    EXPECT_TRUE(steadyBeats(notes, roughBeats(120.0, 160.0)).empty());
}

// The search grows with the square of the length: an hour is not searched.
TEST(SteadyBeats, AVeryLongTakeSaysNothing) {
    EXPECT_TRUE(steadyBeats(played(120.0, 500.0, 0.01, 0.0), roughBeats(120.0, 500.0)).empty());
    EXPECT_TRUE(steadyBeats(played(120.0, 150.0, 0.01, 0.0), {1.0, 1.0, 1.0, 1.0, 1.0}).empty())
        << "beats that are none";
}

TEST(SteadyBeats, AShortTakeAndNothingSayNothing) {
    EXPECT_TRUE(steadyBeats(played(120.0, 80.0, 0.01, 0.0), roughBeats(120.0, 80.0)).empty());
    EXPECT_TRUE(steadyBeats({}, {}).empty());
}

} // namespace
} // namespace wirenote
