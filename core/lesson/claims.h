// What is said against what is played.
#pragma once

#include "lesson/captions.h"
#include "lesson/claim_reading.h"
#include "lesson/lesson_facts.h"

#include <optional>
#include <string>
#include <vector>

namespace wirenote {

enum class ClaimField { String, Fret, Finger, Stroke, Beat, Chord, Note };
enum class ClaimVerdict { Right, Wrong, Unclear };

// One thing that was said of one note, chord or bar.
struct CheckedClaim {
    std::size_t cue = 0;  // which caption, from 0
    double start_s = 0.0; // of the caption
    int bar = 0;          // 0: of no bar that is known
    ClaimField field = ClaimField::String;
    std::string said;
    std::string is; // what it is, the likeliest correction; empty: not known
    ClaimVerdict verdict = ClaimVerdict::Unclear;
    NoteId note = 0;     // it is about; 0: none
    double hear_s = 0.0; // where that is to be heard, seconds of the piece
    std::string text;    // of the caption; of what is played: the name of the take
    // Played in this take, not said: `start_s` is in its time (shown_claims.h).
    std::optional<std::size_t> take = {};
};

// All claims of the captions, tied to notes by the bar and beat they name, by when they are said,
// and by what else is said in one breath: of all notes that may be meant, the one of which most is
// right. What is not right of it contradicts; claims that fit no note are unclear, not wrong. The
// names of notes are right as they sound and, with a capo, as their shapes are called. Times are
// those of the leading take.
std::vector<CheckedClaim>
checkClaims(const LessonFacts& facts, const std::vector<Cue>& cues, const Speaker& speaker);

std::string_view wordFor(ClaimField field);     // "string" …
std::string_view wordFor(ClaimVerdict verdict); // "right" …

} // namespace wirenote
