// What it costs a hand to play a line: one place for every figure and every rule.
#pragma once

#include "music/instrument.h"
#include "piece/note.h"
#include "piece/string_evidence.h"

#include <optional>
#include <vector>

namespace wirenote {

enum class Slur { None, Hammer, Pull, Slide };

// One note of a line as the fretting hand sees it.
struct LineNote {
    double onset_s = 0.0;
    double offset_s = 0.0;
    int midi = 60;
    double belief = 1.0;    // that it was played at all, 0..1
    bool harmonic = false;  // natural: taken over a node
    Slur slur = Slur::None; // how it is reached from the note before
    std::optional<Position> fixed_position;
    std::optional<Finger> fixed_finger;
    bool squeak_before = false;   // a hand was heard to slide along a wound string
    bool alone = false;           // in its stroke
    bool crossed = false;         // by a pick that goes from string to string: a strum
    double drawn_semitones = 0.0; // how far the string is bent
    bool vibrato = false;
    std::vector<StringEvidence> evidence; // everything that speaks of the string, one of a kind
    std::optional<int> fixed_hand_fret;   // only for notes outside the span being solved
    double against(int string) const;     // all evidence together, in nepers
};

// The hand at one note: where the note is taken and where the index finger plays.
struct HandState {
    Position position;
    int hand_fret = 1;
    Finger finger = Finger::Open;
    bool open() const { return position.fret == 0; }
};

// Costs are negative log-probabilities up to a constant: they add, and a difference of 1 makes the
// dearer one e times less likely. The figures are working figures from common practice, not from
// measurement.
struct HandModel {
    double per_fret = 0.03;        // the low part of the neck is preferred
    double per_fret_alone = 0.015; // … less so note by note in a line, which stays where it began
    double press = 0.1;            // pressing a string at all, against leaving it open
    double open_in_high_position = 2.2; // an open string while the hand is above fret 5
    double little_finger = 0.20;
    double index_back = 1.3;           // index one fret below its place
    double little_ahead = 1.0;         // little finger one fret above its place …
    double comfortable_span_mm = 95.0; // … dearer where the frets are wide
    double per_mm_over = 0.06;
    double shift = 1.6; // leaving a position at all
    double per_fret_shifted = 0.25;
    double hurry = 0.10;            // seconds; a shift in less time than this doubles its cost
    double open_eases_shift = 0.55; // factor when an open string gives time
    double squeak_unmoved = 2.0;    // a squeak was heard and the hand did not move
    double squeak_on_plain = 1.0;   // … or moved with no finger on a wound string
    double per_string_crossed = 0.10;
    double string_skipped = 0.15;
    double same_pitch_elsewhere = 2.5; // a repeated pitch taken at another place
    double rings_on_same_string = 1.2; // the note before is heard ringing past this onset
    double same_finger_hop = 0.5;      // same finger, next string, other fret
    double slur_wrong_finger = 1.5; // a hammer-on not by a higher finger, a pull-off not from one
    double slide_per_fret = 0.05;
    // A string is drawn with the ring finger, others behind it; near the nut it yields less.
    double bend_open = 8.0;
    double bend_by_index = 1.2; // for each semitone
    double bend_by_other = 0.4; // middle or little
    double bend_low = 0.35;     // for each semitone and each fret below …
    int bend_easy_fret = 6;
    double bend_wound = 0.5; // for each semitone
    double vibrato_open = 6.0;
    double vibrato_low = 0.25; // for each fret below the third
    double strings_out_of_order =
        8.0;                          // of two notes together, the higher not on the thinner string
    double skipped_in_strum = 1.0;    // a string that a pick passes over must be damped
    double finger_used_twice = 2.5;   // one finger on two frets at the same moment
    double together_moves_hand = 4.0; // a hand cannot be at two places at once
    double temperature = 1.0;         // > 1 trusts the costs less
};

double unaryCost(const HandModel& model,
                 const Instrument& instrument,
                 const LineNote& note,
                 const HandState& state);
// Infinite where the step cannot be played (a slur that changes the string).
double stepCost(const HandModel& model,
                const Instrument& instrument,
                const LineNote& from_note,
                const HandState& from,
                const LineNote& to_note,
                const HandState& to);

} // namespace wirenote
