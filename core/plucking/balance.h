// How loud the hands and voices of a performance are against one another, and what stands out.
#pragma once

#include "piece/piece.h"

#include <optional>
#include <vector>

namespace wirenote {

// A place of the bar that is struck louder than the others.
struct LoudCount {
    int beat = 0; // of the bar, from 0
    int half = 0; // 1: half-way to the next
    int times = 0;
    double above_db = 0.0; // the middle of its bars
};

// A bar that says softly what an earlier one said.
struct Echo {
    int bar = 1;
    int of = 1;
    double softer_db = 0.0;
};

// All differences are of middles, in decibels; empty where one side has too few notes.
struct Balance {
    std::optional<double> fingers_over_thumb_db;
    std::optional<double> fingers_over_pick_db;
    // What is highest when it begins, against what sounds below it.
    std::optional<double> tune_over_rest_db;
    std::vector<LoudCount> counts; // the loudest first
    std::vector<Echo> echoes;      // by bar
    // Strokes at least kStandsOut_db louder than those like them about them (as many strings), and
    // not marked as accents: first notes, in time.
    std::vector<NoteId> accents;
    // What an echo would be written as (common practice): p, what it echoes mf, or f from
    // kMuchSofter_db on, and that again after it. None of a bar that has a dynamic already.
    std::vector<SheetMark> dynamics; // by time
};
constexpr double kMuchSofter_db = 6.0;
constexpr double kStandsOut_db = 4.0;

Balance balanceOf(const Piece& piece, std::size_t reading = 0);

} // namespace wirenote
