// What it costs a hand to play: one place for every figure.
#pragma once

#include <array>
#include <optional>

namespace wirenote {

// Where the fingers play: how many frets up from the index finger's each has its place, from the
// index to the little finger, and what each costs beside the others.
struct FingerPattern {
    std::array<int, 4> frets_up{0, 1, 2, 3}; // one finger a fret
    std::array<double, 4> dislike{0.0, 0.0, 0.0, 0.2};
    bool operator==(const FingerPattern&) const = default;
};

// What a hand can and likes to do at one moment, in nepers (differences of 1: e times less likely)
// and millimetres along the neck. Working figures of an ordinary hand, from common practice.
struct HandReach {
    // The furthest two fingers stand apart, by how many fingers they are from each other; the index
    // finger stretches further from the middle one than the others do from their neighbours.
    double neighbours_mm = 62.0;
    double index_to_middle_mm = 80.0;
    double two_apart_mm = 112.0;
    double index_to_little_mm = 150.0;
    double comfortable_mm = 95.0; // from the index to the little finger; beyond it each costs …
    double per_mm_over = 0.04;
    double index_back = 1.6;  // a fret below its place, one finger a fret
    double ahead = 0.6;       // any finger a fret above its place …
    double close = 0.35;      // … and a fret below it, where frets have to share fingers
    double crossed = 1.2;     // of neighbours on one fret, the lower one on the thinner string
    double index_barre = 0.4; // two strings under one finger, and each further string
    double each_barred = 0.1;
    double other_barre = 1.5; // … under another finger than the index
    double beside_open = 0.8; // … whose tip must leave the next thinner string open
    double rolled = 0.25;     // strings under one finger of which one alone sounds
    int most_frets = 24;      // from the lowest to the highest that are down; each more costs …
    double per_fret_over = 30.0;
    FingerPattern fingers;
    FingerPattern low_fingers; // where the index finger plays at low_upto or below
    int low_upto = 0;
    // The thumb over the neck, on the thickest string; none without a price.
    std::optional<double> thumb;

    const FingerPattern& pattern(int hand_fret) const {
        return hand_fret <= low_upto ? low_fingers : fingers;
    }
};

// The same for its way through a piece. Costs are negative log-probabilities up to a constant: they
// add. Working figures from common practice, not from measurement.
struct HandModel {
    HandReach reach;

    // Where on the neck.
    double per_fret = 0.06;        // the low part of the neck is preferred
    double per_fret_alone = 0.015; // … less so note by note in a line, which stays where it began
    double per_fret_from_given = 0.1;   // … and where a person's word says that it is
    double press = 0.1;                 // pressing a string at all, against leaving it open
    double open = 0.0;                  // an open string at all
    double open_in_high_position = 2.2; // an open string while the hand is above fret 5
    double open_alone = 0.7; // … in a line, for each fret above the second, to the fifth
    double open_in_travelling_fifth = 2.0; // … but for its root on the thickest string
    double open_habit = 0.0; // an open string in a line, by what this player is known to do
    double strings_out_of_order =
        8.0;                       // of two notes together, the higher not on the thinner string
    double string_between = 0.075; // two notes together with a string between them …
    double skipped_in_strum = 1.0; // … that a pick passes over: it must be damped
    double per_string_crossed = 0.10;
    double string_skipped = 0.15;
    double same_pitch_elsewhere = 2.5; // a repeated pitch taken at another place
    double rings_on_same_string = 1.2; // the note before is heard ringing past this onset
    double dead_out_of_reach = 0.5;    // a dead note away from the hand, each fret
    double left_out = 7.0;             // a note has no place rather than the others unlikely ones

    // Where the hand goes.
    double shift = 1.1; // it moves at all, …
    double per_fret_shifted = 0.15;
    double at_fret = 0.0; // the index finger elsewhere than there, each fret …
    int home_fret = 1;
    double hurry_s = 0.08;    // twice as dear in so short a time
    double open_eases = 0.55; // factor, when an open string gives time
    double shape_moves = 0.5; // factor, when a grip keeps its shape and its strings
    double guided = 0.0;      // what a finger that stays on its string saves the hand that moves
    double slide_per_fret = 0.05;
    double open_position = 0.5;   // a line among open strings, low on the neck, elsewhere
    double squeak_unmoved = 2.0;  // a squeak was heard and the hand did not move
    double squeak_on_plain = 1.0; // … or moved with no finger on a wound string

    // What the fingers do.
    double usual_grip = 3.0;        // the fingers that teachers show for a grip, against others
    double known_grip = 0.7;        // two stops and more that belong to such a grip, against others
    double hop = 1.0;               // a finger goes to another place at once, …
    double roll = 0.25;             // … or to the next string on its fret
    double octave = 0.8;            // two strings over, not from the index finger by the little one
    double refingered = 1.0;        // another finger on what the last one held or just left
    double slur_wrong_finger = 1.5; // a hammer-on not by a higher finger, a pull-off not from one
    double slur_broken = 6.0;       // a slur from another string
    double cut_off = 3.0;           // a note that rings is let go
    double let_go = 0.3;            // a finger leaves a place that comes again
    double let_go_chord = 2.5;      // … or belongs to the broken chord that is being played
    // A string is drawn with the ring finger, others behind it; near the nut it yields less.
    double bend_open = 8.0;
    double bend_by_index = 1.2; // for each semitone
    double bend_by_other = 0.4; // middle or little
    double bend_low = 0.35;     // for each semitone and each fret below …
    int bend_easy_fret = 6;
    double bend_wound = 0.5; // for each semitone
    double vibrato_open = 6.0;
    double vibrato_low = 0.25; // for each fret below the third

    // How far the costs are believed.
    double place_temperature = 1.0; // > 1 trusts them less
    double finger_temperature = 0.35;
    // How often a finger so chosen is right, as the log odds of what the costs say: chosen with
    // all thirteen takes in sight that have fingers, as are most figures above.
    double finger_log_odds = 1.4;
    double finger_per_log_odds = 0.45;
};

} // namespace wirenote
