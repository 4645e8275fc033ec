// What a stretch of playing in a take shows: the piece, a part of it, something else.
#pragma once

#include "base/clocks.h"
#include "base/time_range.h"
#include "piece/note.h"

#include <vector>

namespace wirenote {

// The same place of the music in the piece and in a take.
struct SharedMoment {
    double piece_s = 0.0;
    double take_s = 0.0;
    bool operator==(const SharedMoment&) const = default;
};

enum class DemonstrationKind {
    Piece,    // all of it
    Part,     // of the piece
    Again,    // an earlier stretch of the take that is not of the piece
    Exercise, // a figure over and over that is not of the piece
    Other,
};

// A stretch of playing, and where it lies in the piece.
struct Demonstration {
    TimeRange span; // seconds in the take
    DemonstrationKind kind = DemonstrationKind::Other;
    std::vector<SharedMoment> moments; // rising in both; empty: it is nowhere in the piece
    int semitones = 0;                 // how much higher it sounds than the piece there
    double probability = 0.0;          // that it is what and where it is said to be
    // Whether what it shows counts for the piece. False and heard: it differs in what the others
    // agree on, and a person is asked.
    Decision<bool> learn = {true, Basis::Reasoned, 1.0, {}, {}};
    bool operator==(const Demonstration&) const = default;

    bool inPiece() const { return moments.size() >= 2; }
    // Of the leading take: the piece as it is written down, not shown once more.
    bool isItself() const {
        return inPiece() && moments.front().piece_s == moments.front().take_s &&
               moments.back().piece_s == moments.back().take_s;
    }
    TimeRange ofPiece() const {
        return inPiece() ? TimeRange{moments.front().piece_s, moments.back().piece_s} : TimeRange{};
    }
    // Its tempo against the piece: 0.5 is half as fast. 1 where it is nowhere in the piece.
    double tempoRatio() const {
        return inPiece() ? ofPiece().length_s() / (moments.back().take_s - moments.front().take_s)
                         : 1.0;
    }
};
constexpr std::size_t kMaxDemonstrations = 5000;

// A note of a take that does not lead.
struct TakeNote {
    TimeRange time; // seconds in that take
    int midi = 60;  // against its reference
    double probability = 0.0;
    std::vector<Technique> techniques;
    bool operator==(const TakeNote&) const = default;
    bool slurred() const; // begun without a stroke
};

} // namespace wirenote
