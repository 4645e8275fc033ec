// Notes that the fretting hand began: hammered on or pulled off without a stroke.
#pragma once

#include "base/sound.h"
#include "piece/piece.h"

#include <vector>

namespace wirenote {

struct SlurParameters {
    double together_s = 0.03;    // from the end of the note before
    int most_semitones = 5;      // further than a hand reaches on one string
    double most_noise_db = 6.5;  // a slurred note begins with less than this …
    double share = 0.4;          // … and less than this share of what is usual in the take …
    double strength_share = 0.9; // … and with no stronger attack than usual …
    double alone_s = 0.06;       // beside it, where several voices sound
    double clear_share = 0.3;   // … and there, this share of the usual noise, to be sure
    double most_dip_db = 1.0; // … and with no gap before it: who strikes a string stops it first
};

// How much louder the sound above 2.5 kHz becomes within 20 ms about an attack: the noise of a pick
// or nail on the string. A finger that falls on the neck or leaves it makes little of it.
double strokeNoise_db(SoundView sound, double onset_s);

// How far the sound dips in the 20 ms before an attack under what it was before, 0 or more: the
// pick or finger that is about to strike a string stops it for a moment (common practice).
double dipBefore_db(SoundView sound, double onset_s);

// Names hammer-ons and pull-offs among notes that follow each other without a gap, within a hand's
// reach, and begin without the noise of a stroke. `notes` is one line in order of time.
void markSlurs(SoundView sound, std::vector<Note>& notes, const SlurParameters& parameters = {});

// The same among notes that have their strings, where others sound: a note alone at its attack,
// within reach of the one that rang on its string until then. Returns how many.
int markSlursOnStrings(SoundView sound, Piece& piece, const SlurParameters& parameters = {});

} // namespace wirenote
