// Small pieces to work on.
#pragma once

#include "piece/piece.h"

#include <vector>

namespace wirenote::test {

struct Row {
    double start_s;
    double end_s;
    int midi;
    Position position = {0, 0}; // string 0: not placed
    std::vector<Technique> techniques = {};
};

inline Piece pieceOf(const std::vector<Row>& rows, double bpm = 120.0) {
    Piece piece;
    piece.title = "Test";
    for (const Row& row : rows) {
        Note note;
        NotePlan plan;
        note.id = plan.note = piece.next_id++;
        note.time.value = {row.start_s, row.end_s};
        note.time.basis = Basis::Heard;
        note.time.probability = 0.95;
        note.pitch.value = row.midi;
        note.pitch.basis = Basis::Heard;
        note.pitch.probability = 0.95;
        note.techniques = row.techniques;
        plan.position.value = row.position;
        plan.position.probability = row.position.string > 0 ? 0.9 : 0.0;
        piece.notes.push_back(note);
        piece.asPlayed().plans.push_back(plan);
    }
    const double end = rows.empty() ? 4.0 : rows.back().end_s;
    piece.timeline.tempo_bpm = bpm;
    for (double t = 0.0; t <= end + 2.0; t += 60.0 / bpm)
        piece.timeline.beats_s.push_back(t);
    return piece;
}

// A scale in eighths, bar by bar, that needs a choice of strings everywhere.
inline Piece scalePiece(int notes) {
    std::vector<Row> rows;
    static constexpr int kScale[] = {0, 2, 4, 5, 7, 9, 11, 12};
    for (int i = 0; i < notes; ++i)
        rows.push_back({0.25 * i, 0.25 * i + 0.24, 52 + kScale[i % 8]});
    return pieceOf(rows);
}

} // namespace wirenote::test
