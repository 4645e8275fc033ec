// SIMULATED: a strumming hand that never stops, played by the simulated instrument, with strokes
// over damped strings: that they are found, which way they go and on which strings they are
// written. The takes with known truth do not say the strings.
#include "media/sound_file.h"
#include "session/transcribe.h"
#include "sounding/render.h"
#include "support/pieces.h"
#include "support/scratch.h"

#include <gtest/gtest.h>

namespace wirenote {
namespace {

struct Played {
    Piece piece;
    std::vector<double> ghosts_s;
    std::vector<bool> down;
};

// Four bars of sixteenths at 80: the hand goes down and up without a stop, sounds a chord of four
// strings, scratches over the same four, or passes.
Played strummed(const std::vector<int>& frets) {
    static constexpr const char* kBar = "D.dUD.xuDuxUD.du"; // D U sound, x and small u, d scratch
    constexpr double kSlot_s = 60.0 / 80.0 / 4.0;
    const Instrument guitar = standardInstrument(InstrumentKind::Acoustic);
    Played played;
    std::vector<test::Row> rows;
    for (int slot = 0; slot < 64; ++slot) {
        const char what = kBar[slot % 16];
        if (what == '.')
            continue;
        const bool sounds = what == 'D' || what == 'U';
        const bool down = slot % 2 == 0;
        const double at_s = 0.3 + kSlot_s * slot;
        if (!sounds) {
            played.ghosts_s.push_back(at_s);
            played.down.push_back(down);
        }
        for (int k = 0; k < 4; ++k) {
            const int string = down ? 4 - k : 1 + k;
            const Position place{string, sounds ? frets[static_cast<std::size_t>(string - 1)] : 0};
            const double from_s = at_s + (sounds ? 0.009 : 0.004) * k;
            rows.push_back({from_s,
                            sounds ? from_s + 1.8 * kSlot_s : from_s + 0.05,
                            guitar.midiAt(place),
                            place,
                            sounds ? std::vector<Technique>{} : std::vector{Technique::Dead}});
        }
    }
    played.piece = test::pieceOf(rows, 80.0);
    played.piece.instrument = guitar;
    for (NotePlan& plan : played.piece.asPlayed().plans)
        plan.stroke.set(Stroke::Down); // with a pick
    return played;
}

TEST(GhostStrokes, AreWrittenOnTheStringsThatTheHandSweeps) {
    const Played played = strummed({2, 3, 2, 0});
    RenderOptions render;
    render.noise_db = -70.0;
    const auto sound = renderPiece(played.piece, render, {});
    ASSERT_TRUE(sound.ok());
    const test::Scratch scratch;
    ASSERT_TRUE(writeWav(scratch / "strum.wav", sound->view()).ok());
    TranscribeOptions options;
    options.instrument = played.piece.instrument;
    const auto heard = transcribe(scratch / "strum.wav", options, {});
    ASSERT_TRUE(heard.ok());
    std::size_t found = 0;
    std::size_t right_way = 0;
    std::size_t right_string = 0;
    std::size_t invented = 0;
    for (const auto& [note, plan] : heard->rows()) {
        if (!note.has(Technique::GhostStroke))
            continue;
        std::size_t like = played.ghosts_s.size();
        for (std::size_t g = 0; g < played.ghosts_s.size(); ++g)
            if (std::abs(played.ghosts_s[g] - note.onset_s()) < 0.05)
                like = g;
        if (like == played.ghosts_s.size()) {
            ++invented;
            continue;
        }
        ++found;
        const bool down = played.down[like];
        right_way += plan.stroke.value == (down ? Stroke::Down : Stroke::Up) ? 1 : 0;
        right_string += plan.position.value.string == (down ? 4 : 1) ? 1 : 0;
    }
    const auto ghosts = played.ghosts_s.size();
    RecordProperty("found", static_cast<int>(found));
    EXPECT_GE(2.0 * static_cast<double>(found),
              0.8 * static_cast<double>(ghosts + found + invented))
        << found << " of " << ghosts << ", invented " << invented;
    EXPECT_GE(right_way, found * 9 / 10) << "of " << found;
    EXPECT_GE(right_string, found * 9 / 10) << "of " << found;
}

} // namespace
} // namespace wirenote
