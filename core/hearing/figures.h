// Figures that several notes make together: graces, trills, tremolos, rakes, rolls, accents,
// strings left to ring.
#pragma once

#include "piece/note.h"

#include <vector>

namespace wirenote {

// Common practice throughout; nothing published says how short a grace is.
struct FigureParameters {
    double longest_grace_s = 0.09; // struck, and left by a slur after no more than this …
    double grace_share = 0.4;      // … and than this share of the note it decorates
    int trill_notes = 4;           // slurred to and fro between two pitches, at least …
    double trill_note_s = 0.16;    // … each no longer than this
    int tremolo_strokes = 6;       // of one pitch, at least …
    double tremolo_s = 0.13;       // … no further apart than this …
    double tremolo_even = 0.3;     // … and none further from the usual distance than this share
    double rake_gap_s = 0.07;      // damped strokes this close to each other and to the note
    int rake_strokes = 2;
    double roll_gap_s = 0.018; // from this mean distance on a chord is rolled …
    double roll_s = 0.05;      // … and at least so long altogether
    double roll_most_gap_s = 0.14;
    int accent_around = 8; // strokes each way that tell what is usual …
    int accent_far = 24;   // … and so many of them those that lie about as high: strings and
    int accent_near_semitones = 4; // bodies make some pitches louder
    std::size_t accent_alike = 4;  // at least so many of those
    double accent_db = 4.5;        // louder than the usual stroke, and …
    double accent_spread = 2.2;    // … than it by so many median deviations
    int ring_strokes = 6;          // plucked one after the other, at least …
    int ring_notes = 2;            // … of no more notes each than this …
    double ring_share = 0.66;      // … most of which sound on …
    int ring_past = 2;             // … past so many later strokes
    double ring_pause_s = 1.0;     // a longer wait ends the passage
};

// Each marks what it finds; notes are in order of onset.
void markGraces(std::vector<Note>& notes, const FigureParameters& parameters = {});
void markTrills(std::vector<Note>& notes, const FigureParameters& parameters = {});
void markTremolos(std::vector<Note>& notes, const FigureParameters& parameters = {});
void markRakes(std::vector<Note>& notes, const FigureParameters& parameters = {});
void markRolls(std::vector<Note>& notes, const FigureParameters& parameters = {});
void markAccents(std::vector<Note>& notes, const FigureParameters& parameters = {});
void markLetRing(std::vector<Note>& notes, const FigureParameters& parameters = {});
void markFigures(std::vector<Note>& notes, const FigureParameters& parameters = {});

} // namespace wirenote
