// A reading: one complete set of placements and strokes over the heard notes, and what it rests on.
#pragma once

#include "piece/note.h"

#include <string>
#include <vector>

namespace wirenote {

// The rules that the fretting hand is taken to follow.
enum class FrettingSchool { FingerPerFret };

// What the strings are struck with. Unknown: nobody has said, and the notes were not asked yet.
enum class PluckingTool { Unknown, Pick, Fingers };

struct ReadingHead {
    std::string name = "as played";
    FrettingSchool fretting_school = FrettingSchool::FingerPerFret;
    // Asked of the notes once (plucking/strokes.h) and then kept, so that no edit turns every
    // stroke of the piece over. Heard, reasoned or set.
    Decision<PluckingTool> tool;
    bool operator==(const ReadingHead&) const = default;
};

struct Reading {
    ReadingHead head;
    std::vector<NotePlan> plans; // same order as Piece::notes
    bool operator==(const Reading&) const = default;
};

} // namespace wirenote
