#include "piece/timeline_map.h"
#include "score/bars.h"
#include "score/marks.h"
#include "support/pieces.h"

#include <cmath>
#include <gtest/gtest.h>

namespace wirenote {
namespace {

std::string shapeOf(const Bar& bar) {
    std::string text;
    static constexpr const char* kNames[] = {"w", "h", "q", "e", "s", "t"};
    for (const Value& v : bar.values) {
        text += text.empty() ? "" : " ";
        text += v.tied_from_before ? "~" : "";
        text += kNames[static_cast<int>(v.type)];
        text += std::string(static_cast<std::size_t>(v.dots), '.');
        text += v.tuplet() ? std::to_string(v.actual) : "";
        text += v.rest() ? "r" : "";
    }
    return text;
}

// Beats every half second: a quarter note is 0.5 s.
Piece rhythm(const std::vector<std::pair<double, double>>& quarters) {
    std::vector<test::Row> rows;
    for (const auto& [start, end] : quarters)
        rows.push_back({0.5 * start, 0.5 * end - 0.02, 60});
    return test::pieceOf(rows);
}

struct RhythmCase {
    const char* name;
    std::vector<std::pair<double, double>> notes;
    const char* written;
};
void PrintTo(const RhythmCase& c, std::ostream* out) {
    *out << c.name;
}

// Usual engraving: beats stay visible, ties where a value crosses one (common practice).
class Rhythms : public ::testing::TestWithParam<RhythmCase> {};
TEST_P(Rhythms, AreWrittenAsUsual) {
    EXPECT_EQ(shapeOf(writeScore(rhythm(GetParam().notes)).bars[0]), GetParam().written);
}
INSTANTIATE_TEST_SUITE_P(
    Bars,
    Rhythms,
    ::testing::Values(RhythmCase{"quarters", {{0, 1}, {1, 2}, {2, 3}, {3, 4}}, "q q q q"},
                      RhythmCase{"eighths", {{0, .5}, {.5, 1}, {1, 2}, {2, 4}}, "e e q h"},
                      RhythmCase{"dotted", {{0, 1.5}, {1.5, 2}, {2, 4}}, "q. e h"},
                      RhythmCase{"syncopation", {{0, .5}, {.5, 1.5}, {1.5, 2}, {2, 4}}, "e q e h"},
                      RhythmCase{"sixteenths",
                                 {{0, .25}, {.25, .5}, {.5, .75}, {.75, 1}, {1, 2}, {2, 4}},
                                 "s s s s q h"},
                      RhythmCase{"triplet",
                                 {{0, 1. / 3}, {1. / 3, 2. / 3}, {2. / 3, 1}, {1, 2}, {2, 4}},
                                 "e3 e3 e3 q h"},
                      RhythmCase{"rest_first", {{1, 2}, {2, 4}}, "qr q h"},
                      RhythmCase{"long_rest", {{0, 1}, {3, 4}}, "q hr q"}),
    [](const auto& row) { return std::string(row.param.name); });

TEST(Bars, ANoteOverTheBarLineIsTied) {
    const Score score = writeScore(rhythm({{0, 1}, {1, 2}, {2, 3}, {3, 5}, {5, 6}, {6, 8}}));
    ASSERT_EQ(score.bars.size(), 2U);
    EXPECT_TRUE(score.bars[0].values.back().tied_to_next);
    EXPECT_TRUE(score.bars[1].values.front().tied_from_before);
    EXPECT_EQ(score.bars[1].values.front().length, Rational(1));
}

TEST(Bars, APickUpHasABarOfItsOwn) {
    Piece piece = rhythm({{0, 1}, {1, 2}, {2, 5}});
    piece.timeline.first_downbeat = 1; // the note on the second beat is one
    const Score score = writeScore(piece);
    EXPECT_EQ(score.bars.front().number, 0);
    EXPECT_EQ(shapeOf(score.bars.front()), "q");
}

// Whatever is played, every bar is full to the last fraction and no note is lost.
TEST(Bars, AlwaysAddUpAndKeepEveryNote) {
    for (const char* metre : {"4/4", "3/4", "6/8", "5/4", "12/8"}) {
        std::vector<test::Row> rows;
        double t = 0.07;
        for (int i = 0; i < 150; ++i) {
            const double gap = 0.06 + 0.55 * std::abs(std::sin(1.7 * i) * std::cos(0.9 * i));
            rows.push_back({t, t + gap * (0.4 + 0.6 * std::abs(std::sin(3.1 * i))), 52 + i % 12});
            t += gap;
        }
        Piece piece = test::pieceOf(rows, 97.0);
        piece.timeline.metre = *parseMetre(metre);
        const Score score = writeScore(piece);
        std::vector<int> written(rows.size(), 0);
        for (const Bar& bar : score.bars) {
            Rational at = 0;
            for (const Value& v : bar.values) {
                ASSERT_EQ(v.start, at) << metre << " bar " << bar.number;
                at += v.length;
                for (const std::size_t n : v.notes)
                    written[n] += v.tied_from_before ? 0 : 1;
            }
            EXPECT_EQ(at, bar.length) << metre << " bar " << bar.number;
        }
        for (std::size_t i = 0; i < written.size(); ++i)
            EXPECT_EQ(written[i], 1) << metre << " note " << i;
    }
}

TEST(Bars, AnEmptyPieceIsOneEmptyBar) {
    const Score score = writeScore(Piece{});
    ASSERT_EQ(score.bars.size(), 1U);
    EXPECT_EQ(shapeOf(score.bars[0]), "wr");
}

TEST(TimelineMap, IsItsOwnInverse) {
    Timeline timeline;
    timeline.beats_s = {0.4, 0.9, 1.45, 1.9, 2.6};
    timeline.first_downbeat = 1;
    const TimelineMap map(timeline);
    for (double t = -1.0; t < 4.0; t += 0.17)
        EXPECT_NEAR(map.timeAt(map.quartersAt(t)), t, 1e-9);
    EXPECT_NEAR(map.quartersAt(0.9), 0.0, 1e-12);
    EXPECT_EQ(map.barBeatAt(0.9).bar, 1);
    EXPECT_EQ(map.barBeatAt(0.5).bar, 0);
    EXPECT_NEAR(map.barBeatAt(1.9).beat, 3.0, 1e-9);
}

} // namespace
} // namespace wirenote
