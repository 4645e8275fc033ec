// One note as the fretting hand sees it.
#pragma once

#include "music/instrument.h"
#include "piece/note.h"
#include "piece/string_evidence.h"

#include <array>
#include <optional>
#include <vector>

namespace wirenote {

enum class Slur { None, Hammer, Pull, Slide };

struct LineNote {
    double onset_s = 0.0;
    double offset_s = 0.0;
    int midi = 60;
    double belief = 1.0;    // that it was played at all, 0..1
    bool harmonic = false;  // natural: taken over a node, nothing is pressed
    bool dead = false;      // touched, not pressed
    Slur slur = Slur::None; // how it is reached from the note before
    bool grace = false;     // leads to the next note, on its string
    std::optional<Position> fixed_position;
    std::optional<Finger> fixed_finger;
    bool squeak_before = false;   // a hand was heard to slide along a wound string
    bool alone = false;           // in its stroke
    bool travels = false;         // in a fifth that goes along the neck as one shape, as riffs do
    bool crossed = false;         // by a pick that goes from string to string: a strum
    std::optional<int> near_fret; // where a person says that the hand is nearest in time
    double drawn_semitones = 0.0; // how far the string is bent
    bool vibrato = false;
    std::vector<StringEvidence> evidence; // everything that speaks of the string, one of a kind

    double against(int string) const; // all evidence together, in nepers
    // What was seen against each finger where the note lies on a string: [string − 1][index …
    // little finger], in nepers; empty where nothing was.
    std::vector<std::array<double, 4>> seen_fingers;
    double againstFinger(int string, Finger finger) const;
};

} // namespace wirenote
