// The partials of one note out of a recording, as a person asks for them.
#include "media/sound_file.h"
#include "music/pitch.h"
#include "music/string_physics.h"
#include "session/note_partials.h"
#include "sounding/render.h"
#include "support/pieces.h"
#include "support/scratch.h"

#include <cmath>
#include <gtest/gtest.h>

namespace wirenote {
namespace {

class NotePartials : public ::testing::Test {
  protected:
    // A line by the simulated instrument, whose strings are as their gauges say.
    Piece recorded(const std::vector<test::Row>& rows) {
        Piece piece = test::pieceOf(rows);
        const auto sound = renderPiece(piece, {}, {});
        EXPECT_TRUE(writeWav(scratch / "line.wav", sound->view()).ok());
        Take take;
        take.name = "line";
        take.path = (scratch / "line.wav").string();
        take.length_s = sound->length_s();
        piece.takes = {take};
        return piece;
    }
    test::Scratch scratch;
};

TEST_F(NotePartials, FitTheStringTheNoteWasPlayedOn) {
    // E4 on four strings (common practice), far into the take: only that part of it is read.
    std::vector<test::Row> rows;
    for (int string = 1; string <= 4; ++string) {
        const Piece any;
        const int fret = any.instrument.fretFor(string, 64);
        rows.push_back({6.0 + string, 6.8 + string, 64, {string, fret}});
    }
    const Piece piece = recorded(rows);
    for (int string = 1; string <= 4; ++string) {
        const auto fit = partialsOf(piece, string, {});
        ASSERT_TRUE(fit.ok()) << fit.error().sentence();
        ASSERT_TRUE(fit->told()) << string;
        const int fret = piece.instrument.fretFor(string, 64);
        EXPECT_NEAR(fit->log_b, std::log(stiffnessAt(piece.instrument, string, fret)), 0.12)
            << string;
        EXPECT_NEAR(midiFromHz(fit->f0_hz), 64.0, 0.05);
        EXPECT_GE(fit->partials.size(), 6U);
    }
}

TEST_F(NotePartials, OfOneVoiceKeepClearOfTheOther) {
    const Piece piece = recorded({{0.5, 1.6, 45, {5, 0}}, {0.5, 1.6, 64, {2, 5}}});
    const auto fit = partialsOf(piece, 2, {});
    ASSERT_TRUE(fit.ok());
    for (const Partial& p : fit->partials) {
        const double other = p.f_hz / hzFromMidi(45.0);
        if (p.weight > 0.0) {
            EXPECT_GT(std::abs(other - std::round(other)), 0.01) << p.number;
        }
    }
}

TEST_F(NotePartials, WhatHasNoPitchHasNone) {
    Piece piece = recorded({{0.5, 1.2, 64, {2, 5}}});
    piece.notes[0].add(Technique::Dead);
    const auto fit = partialsOf(piece, 1, {});
    ASSERT_TRUE(fit.ok());
    EXPECT_FALSE(fit->told());
    EXPECT_TRUE(fit->partials.empty());
}

TEST_F(NotePartials, CanBeStopped) {
    const Piece piece = recorded({{0.5, 1.2, 64, {2, 5}}});
    std::atomic<bool> stop = true;
    JobControl job;
    job.cancel = &stop;
    const auto fit = partialsOf(piece, 1, job);
    ASSERT_FALSE(fit.ok());
    EXPECT_EQ(fit.error().kind, ErrorKind::Cancelled);
}

} // namespace
} // namespace wirenote
