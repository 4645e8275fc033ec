// What differs between two readings of a piece, or between a reading and a score.
#pragma once

#include "piece/piece.h"
#include "readings/gains.h"

#include <string>
#include <string_view>
#include <vector>

namespace wirenote {

enum class ReadingDifferenceKind {
    Missing,   // b lacks the note
    Added,     // b has one more
    Pitch,     // another pitch at the same moment
    Start,     // the same pitch a little earlier or later
    Length,    // written longer or shorter; only where neither is heard from a recording
    Place,     // another string and fret
    Finger,    // another finger of the fretting hand
    Stroke,    // another stroke
    Technique, // another technique
};
std::string_view differenceWord(ReadingDifferenceKind kind); // "missing", "place"

struct ReadingDifference {
    ReadingDifferenceKind kind = ReadingDifferenceKind::Missing;
    int bar = 1;
    double beat = 1.0;
    NoteId a = 0; // the note in a; of Added: 0
    NoteId b = 0; // … in b; of Missing: 0
    std::string a_text;
    std::string b_text;
    std::size_t group = 0; // into ReadingComparison::groups
};

// Differences that hang together: one hand goes another way from the first to the last of them, and
// no note between them is held alike. They are taken together, or not.
struct DifferenceGroup {
    TimeRange span;         // seconds in a, up to where both hold the same again
    GainsAndLosses weighed; // what b gains and loses by them
};

struct ReadingComparison {
    std::vector<ReadingDifference> differences; // by time
    std::vector<DifferenceGroup> groups;        // by time
    int semitones = 0;                          // by how much all of b sounds higher
};

// Two pieces in one reading each (inReading). Notes of one piece are compared by their numbers;
// others by where in their bars they are written: bar 1 of both is the same. What one of them does
// not say (no finger, no stroke, no place) is no difference; nor is that an open string needs no
// finger. Where all of b sounds higher or lower by the same, that is said once.
ReadingComparison compareReadings(const Piece& a, const Piece& b);

} // namespace wirenote
