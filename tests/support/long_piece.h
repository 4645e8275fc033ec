// A long piece as if it had been heard: the demo tune again and again, with chords.
#pragma once

#include "demo/heron.h"
#include "session/resolve.h"

namespace wirenote::test {

inline Piece longPiece(std::size_t notes) {
    constexpr double kAgain_s = 43.0;
    const Piece tune = standin::heronAtLowWater();
    Piece piece = tune;
    piece.notes.clear();
    piece.asPlayed().plans.clear();
    piece.timeline.beats_s.clear();
    const auto add = [&](Note note, double shift_s) {
        note.id = piece.next_id++;
        note.time.value.start_s += shift_s;
        note.time.value.end_s += shift_s;
        piece.asPlayed().plans.push_back({note.id, {}, {}, {}, 0});
        piece.notes.push_back(std::move(note));
    };
    for (int again = 0; piece.notes.size() < notes; ++again) {
        for (const double beat_s : tune.timeline.beats_s)
            if (beat_s < kAgain_s)
                piece.timeline.beats_s.push_back(beat_s + kAgain_s * again);
        for (std::size_t i = 0; i < tune.notes.size() && piece.notes.size() < notes; ++i) {
            add(tune.notes[i], kAgain_s * again);
            if (i % 7 == 3 && tune.notes[i].midi() + 3 <= piece.instrument.highestMidi()) {
                Note third = tune.notes[i]; // a strike of two strings
                third.techniques.clear();
                third.curve.clear();
                third.pitch.value += 3;
                add(third, kAgain_s * again);
            }
        }
    }
    placeAndStroke(piece);
    return piece;
}

} // namespace wirenote::test
