// How exact a reading is, said from the facts.
#pragma once

#include "piece/piece.h"

#include <cstddef>
#include <string>
#include <vector>

namespace wirenote {

// What stands in the way of "note for note".
enum class Against {
    NoNotes,
    OtherNeck,  // another instrument, tuning or capo than it was played on
    OtherKey,   // it sounds higher or lower
    Wish,       // made to be played otherwise: easier, in one position …
    LeftOut,    // notes that were played
    Added,      // notes that were not
    OtherPitch, // notes that sound otherwise than they were played
    OtherTechnique,
    OtherSource, // bars taken from another reading or score
    Taste,       // set because somebody likes it so
    FromScore,   // set because a score has it
    FromMemory,
    OpenDoubt,
    LeftOpen, // a doubt left open on purpose
    Guess,    // pitch or place that is not sure, though nobody was asked
};

struct ExactnessPoint {
    Against what = Against::NoNotes;
    std::size_t count = 1; // of notes; of OtherKey: semitones; of OtherSource: stretches
    NoteId first = 0;      // the first note it is about; 0: none
};

struct ExactnessStatement {
    Exactness exactness = Exactness::Essence; // what can be said of it
    std::vector<ExactnessPoint> against;      // note for note; empty where it is
    // Told beside it: what stands against nothing.
    std::size_t reasoned_fingers = 0; // nobody saw or set them
    std::size_t reasoned_strokes = 0; // nobody heard, saw or set them
    std::size_t asked = 0;            // notes of which somebody was asked
};

// A pitch, a place or a note that is believed less is a guess.
constexpr double kGuess = 0.8;

// Of one of the piece's readings. NoteForNote: nothing stands against it. Adapted: something was
// changed on purpose, or is not what was played. Essence: all of it is meant as it was played, and
// not all of it is known.
ExactnessStatement exactnessOf(const Piece& piece, std::size_t reading = 0);

// Whether the reading may be said to be this: never more exact than the facts.
bool mayClaim(const ExactnessStatement& statement, Exactness claim);

std::string againstText(const ExactnessPoint& point); // "3 open doubts"
// In one line, for the head of a sheet and for files: "Note for note." "The essence: 3 open doubts,
// 5 guesses." What a person claims is said as far as it may be.
std::string exactnessLine(const Piece& piece, std::size_t reading = 0);

} // namespace wirenote
