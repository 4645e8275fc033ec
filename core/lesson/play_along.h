// SIMULATED: a phrase or the whole piece to be played along with.
#pragma once

#include "base/job.h"
#include "base/sound.h"
#include "lesson/lesson_facts.h"

#include <vector>

namespace wirenote {

struct PlayAlongOptions {
    Rational from, to;      // quarter notes from bar 1
    double tempo = 1.0;     // share of the piece's tempo
    int count_in = 1;       // bars of clicks before
    int times = 1;          // how often it is played
    bool instrument = true; // what is written, played by the simulated instrument
    bool click = true;
    bool drums = false;
    bool bass = false; // roots of the chords, as they are named or found
    double rate_hz = 44100.0;
};

struct PlayAlong {
    Sound sound;
    std::vector<double> beats_s;  // felt beats, the count-in too
    std::vector<double> clicks_s; // of them and between them, as the note values ask for
    double begins_s = 0.0;        // after the count-in
    double bpm = 0.0;
};

// Into how many parts of a felt beat the click falls: on the beats; on halves or thirds of it where
// the music has them and beats are slower than people keep steady (common practice).
int clicksPerBeat(const LessonFacts& facts, Rational from, Rational to, double bpm);

// At one steady tempo, every note and click at its written place, to the sample; swung where the
// piece is. A higher click where a bar begins, another sound where the phrase begins again. Errors:
// Cancelled; a stretch without length.
Result<PlayAlong>
playAlong(const LessonFacts& facts, const PlayAlongOptions& options, const JobControl& job);

} // namespace wirenote
