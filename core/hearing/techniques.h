// Techniques that show in what was heard of a note: its length, and the course of its pitch.
#pragma once

#include "piece/note.h"

#include <optional>
#include <vector>

namespace wirenote {

struct VibratoParameters {
    double settle_s = 0.10; // after the attack the pitch is not yet the finger's
    double slowest_hz = 3.0;
    double fastest_hz = 9.0;
    double least_cents = 7.0; // amplitude each way
    double least_cycles = 1.5;
    double regular = 0.45; // share of the pitch's movement that one sine must explain
};

struct Vibrato {
    double rate_hz = 0.0;
    double width_cents = 0.0; // amplitude each way
};

// The sine that explains the course of a note's pitch, if one does.
std::optional<Vibrato> vibratoOf(const Note& note, const VibratoParameters& parameters = {});

struct StaccatoParameters {
    double longest_s = 0.25;
    double share = 0.68; // of the time to the next attack (common practice: the dot halves the
                         // value; a string takes some 30 ms to be silent)
    double least_room_s =
        0.12; // the next attack is at least this far away, or nothing was cut short
};

// Marks the notes that are cut short. Notes must be in order of time.
void markStaccato(std::vector<Note>& notes, const StaccatoParameters& parameters = {});
void markVibrato(Note& note, const VibratoParameters& parameters = {});
void markVibrato(std::vector<Note>& notes, const VibratoParameters& parameters = {});

} // namespace wirenote
