// Pieces with known score time, played by the simulated instrument with a free tempo, a pick-up,
// swing or changes of metre: heard, and written down again.
#include "media/sound_file.h"
#include "piece/timeline_edits.h"
#include "piece/timeline_map.h"
#include "score/quantise.h"
#include "session/resolve.h"
#include "session/transcribe.h"
#include "sounding/render.h"
#include "support/pieces.h"
#include "support/scratch.h"

#include <functional>
#include <gtest/gtest.h>

namespace wirenote {
namespace {

struct Written {
    double quarters; // from bar 1
    double length;
    int midi;
};

// Seconds of a place in score time.
using Clock = std::function<double(double quarters)>;

Piece played(const std::vector<Written>& score, const Clock& clock) {
    std::vector<test::Row> rows;
    for (const Written& w : score)
        rows.push_back({clock(w.quarters), clock(w.quarters + 0.92 * w.length), w.midi});
    Piece piece = test::pieceOf(rows);
    placeAndStroke(piece);
    for (std::size_t i = 0; i < piece.notes.size(); ++i)
        piece.notes[i].velocity = score[i].quarters == std::floor(score[i].quarters) ? 0.75 : 0.6;
    return piece;
}

Piece heard(const Piece& truth, std::optional<Metre> metre = {}) {
    const test::Scratch scratch;
    RenderOptions render;
    render.noise_db = -65.0;
    EXPECT_TRUE(writeWav(scratch / "t.wav", renderPiece(truth, render, {})->view()).ok());
    TranscribeOptions options;
    options.metre = metre;
    const auto piece = transcribe(scratch / "t.wav", options, {});
    EXPECT_TRUE(piece.ok());
    return *piece;
}

// The share of onsets that stand where they were written, to the last fraction.
double rightShare(const std::vector<Written>& score, const Piece& truth, const Piece& piece) {
    const auto written = quantise(piece).notes;
    std::size_t right = 0;
    for (std::size_t i = 0; i < score.size(); ++i)
        for (const ScoreNote& n : written) {
            const Note& note = piece.notes[n.index];
            if (note.midi() == score[i].midi &&
                std::abs(note.onset_s() - truth.notes[i].onset_s()) < 0.06) {
                right += std::abs(n.start.toDouble() - score[i].quarters) < 1e-6;
                break;
            }
        }
    return static_cast<double>(right) / static_cast<double>(score.size());
}

// 16 bars of four: quarters, quavers, semiquavers and a few triplets, low notes on "one".
std::vector<Written> study(int bars, int beats_per_bar) {
    std::vector<Written> score;
    const int tune[] = {60, 62, 64, 67, 69, 67, 64, 62};
    int k = 0;
    for (int bar = 0; bar < bars; ++bar)
        for (int beat = 0; beat < beats_per_bar; ++beat) {
            const double at = bar * beats_per_bar + beat;
            if (beat == 0) {
                score.push_back({at, 1.0, bar % 2 == 0 ? 45 : 43});
                continue;
            }
            const int parts = (bar + beat) % 7 == 0   ? 3
                              : (bar + beat) % 5 == 0 ? 4
                              : beat % 2 == 1         ? 2
                                                      : 1;
            for (int p = 0; p < parts; ++p)
                score.push_back({at + static_cast<double>(p) / parts, 1.0 / parts, tune[k++ % 8]});
        }
    return score;
}

TEST(ScoreTime, SteadyPlaying) {
    const auto score = study(12, 4);
    const Piece truth = played(score, [](double q) { return 0.6 + 0.62 * q; });
    EXPECT_GE(rightShare(score, truth, heard(truth)), 0.97);
}

// The tempo swells by an eighth each way and slows down by a quarter in the last six beats.
TEST(ScoreTime, RubatoAndARitardando) {
    auto score = study(12, 4);
    for (int beat = 0; beat < 4; ++beat) // the last bar is calm
        score.push_back({48.0 + beat, 1.0, beat == 0 ? 45 : 60 - beat});
    const Clock clock = [](double q) {
        const double swell = 0.6 * q + 0.55 * std::sin(q * 2.0 * 3.14159265 / 16.0) * 0.35;
        const double late = std::max(0.0, q - 46.0);
        return 0.6 + swell + 0.012 * late * late;
    };
    const Piece truth = played(score, clock);
    EXPECT_GE(rightShare(score, truth, heard(truth)), 0.97);
}

TEST(ScoreTime, APickUpOfTwoQuavers) {
    auto score = study(12, 4);
    score.insert(score.begin(), {{-1.0, 0.5, 64}, {-0.5, 0.5, 62}});
    const Piece truth = played(score, [](double q) { return 1.4 + 0.62 * q; });
    EXPECT_GE(rightShare(score, truth, heard(truth)), 0.97);
}

TEST(ScoreTime, SwungQuaversAreWrittenEven) {
    std::vector<Written> score;
    const int tune[] = {57, 60, 62, 64, 67, 64, 62, 60};
    for (int i = 0; i < 96; ++i)
        if (i % 8 != 7)
            score.push_back({0.5 * i, 0.5, i % 8 == 0 ? 45 : tune[i % 8]});
    const Clock swung = [](double q) {
        const double beat = std::floor(q + 1e-9);
        const double part = q - beat;
        const double played = part < 0.5 ? part / 0.5 * 0.65 : 0.65 + (part - 0.5) / 0.5 * 0.35;
        return 0.6 + 0.5 * (beat + played);
    };
    const Piece truth = played(score, swung);
    const Piece piece = heard(truth, Metre{4, 4});
    EXPECT_NEAR(piece.timeline.swing, 0.65 / 0.35, 0.25);
    EXPECT_GE(rightShare(score, truth, piece), 0.97);
}

// Four bars of 4/4, four of 3/4, four of 4/4: the changes are a person's word.
TEST(ScoreTime, ChangesOfMetre) {
    std::vector<Written> score = study(4, 4);
    for (const Written& w : study(4, 3))
        score.push_back({w.quarters + 16.0, w.length, w.midi});
    for (const Written& w : study(4, 4))
        score.push_back({w.quarters + 28.0, w.length, w.midi});
    const Piece truth = played(score, [](double q) { return 0.6 + 0.6 * q; });
    Piece piece = heard(truth, Metre{4, 4});
    ASSERT_TRUE(setMetre(piece.timeline, 5, {3, 4}).ok());
    ASSERT_TRUE(setMetre(piece.timeline, 9, {4, 4}).ok());
    EXPECT_GE(rightShare(score, truth, piece), 0.97);
    const TimelineMap map(piece.timeline);
    EXPECT_EQ(map.barBeatAt(0.62 + 0.6 * 16).bar, 5);
    EXPECT_EQ(map.barBeatAt(0.62 + 0.6 * 19).bar, 6);
    EXPECT_EQ(map.barBeatAt(0.62 + 0.6 * 28).bar, 9);
}

} // namespace
} // namespace wirenote
