// A recording in which somebody talks first and plays then. The voice is synthetic, the instrument
// SIMULATED.
#pragma once

#include "media/decode.h"
#include "media/sound_file.h"
#include "sounding/render.h"
#include "support/pieces.h"
#include "support/shell.h"

#include <filesystem>
#include <gtest/gtest.h>

namespace wirenote::test {

constexpr double kTalkUntil_s = 6.0;
constexpr double kPlayFrom_s = 7.0;

// Talk, then a scale played by the simulated instrument.
inline std::filesystem::path lesson(const std::filesystem::path& folder) {
    std::vector<Row> rows;
    for (int i = 0; i < 24; ++i) {
        const Position at{3 - i % 2, 2 + (i * 3) % 5};
        rows.push_back({kPlayFrom_s + 0.4 * i,
                        kPlayFrom_s + 0.4 * i + 0.35,
                        standardInstrument(InstrumentKind::Guitar).midiAt(at),
                        at});
    }
    auto sound = renderPiece(pieceOf(rows), {}, {});
    EXPECT_TRUE(sound.ok());
    const auto said = folder / "said.wav";
    EXPECT_EQ(shell("espeak-ng -v de -s 150 -w " + said.string() +
                    " 'Wir spielen zuerst den zweiten Takt, und der dritte Finger bleibt "
                    "dabei liegen. Dann kommt der Wechsel in die fünfte Lage.'")
                  .status,
              0);
    const auto talk = decodeSound(said, sound->rate_hz, {}, {});
    EXPECT_TRUE(talk.ok());
    for (std::size_t i = 0; i < talk->mono.samples.size(); ++i)
        if (static_cast<double>(i) < (kTalkUntil_s - 0.2) * sound->rate_hz)
            sound->samples[i + 2000] += 0.5F * talk->mono.samples[i];
    EXPECT_TRUE(writeWav(folder / "lesson.wav", sound->view()).ok());
    return folder / "lesson.wav";
}

} // namespace wirenote::test
