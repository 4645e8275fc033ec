// The same music in two lists of notes, however fast each was played.
#pragma once

#include "base/job.h"
#include "base/time_range.h"

#include <cstddef>
#include <vector>

namespace wirenote {

// A note as matching sees it.
struct PlayedNote {
    double at_s = 0.0;
    double end_s = 0.0;
    int midi = 60;
    double belief = 1.0;   // 0..1
    bool slurred = false;  // begun without a stroke
    std::size_t index = 0; // the caller's
};

// Notes that begin together.
struct PlayedMoment {
    double at_s = 0.0;
    std::vector<PlayedNote> notes; // by pitch
};
// `notes` by onset. What begins within a strum belongs to one moment.
std::vector<PlayedMoment> momentsOf(const std::vector<PlayedNote>& notes);

// 0: no pitch in common; 1: the same pitches, believed alike. `semitones`: how much higher b is.
double likenessOf(const PlayedMoment& a, const PlayedMoment& b, int semitones = 0);

// Moments of b that are moments of a, one after the other in both.
struct NoteStretch {
    struct Pair {
        std::size_t a = 0;
        std::size_t b = 0;
    };
    std::vector<Pair> pairs;
    double score = 0.0; // summed likeness above chance, less what is left out and unsteady
    int semitones = 0;  // how much higher b sounds
};

struct MatchParameters {
    int semitones = 0;        // how much higher b sounds
    double slowest = 0.2;     // of b's tempo against a's
    double fastest = 3.0;     //
    double least_score = 1.6; // of a stretch
};

// Stretches of b, in order of time and apart, each with the place of a that it fits best: local
// alignment (Smith & Waterman, J. Mol. Biol. 1981) of moments, where a step may leave moments of
// either out and keeps the tempo of those before it. A stretch that goes on where the one before
// ended, at its tempo, is one with it. Cancelled: nothing.
std::vector<NoteStretch> matchNotes(const std::vector<PlayedMoment>& a,
                                    const std::vector<PlayedMoment>& b,
                                    const MatchParameters& parameters,
                                    const JobControl& job = {});

// Passages that fit poorly where their stretch has them, and much better elsewhere, are put there:
// a path that is good before and after a verse more goes through it as if it were the next one.
void putWhereTheyFit(const std::vector<PlayedMoment>& a,
                     const std::vector<PlayedMoment>& b,
                     std::vector<NoteStretch>& stretches,
                     const JobControl& job = {});

// Moves the border between neighbouring stretches to where the moments of both fit best: what is
// found first goes on into what the next one has better.
void moveBorders(const std::vector<PlayedMoment>& a,
                 const std::vector<PlayedMoment>& b,
                 std::vector<NoteStretch>& stretches);

// Passages that are nearly nothing like what their stretch has there are taken out of it: it is
// two.
void leaveOutStrangers(const std::vector<PlayedMoment>& a,
                       const std::vector<PlayedMoment>& b,
                       std::vector<NoteStretch>& stretches);

// The score of the best stretch elsewhere: of all b against what `fit` leaves of a.
double nextBestScore(const std::vector<PlayedMoment>& a,
                     const std::vector<PlayedMoment>& b,
                     const NoteStretch& fit,
                     const MatchParameters& parameters);

} // namespace wirenote
