// Where people stumble, predicted from what hands have to do.
#pragma once

#include "lesson/breakdown.h"

#include <vector>

namespace wirenote {

struct Stumble {
    StumbleKind kind = StumbleKind::Seen;
    double at_s = 0.0;
    Rational at; // quarter notes from bar 1
    NoteId note = 0;
    double score = 0.0; // how likely people fall over it, 0..1: a working figure
    // What the sentence speaks of, as far as its kind does.
    Finger finger = Finger::Unknown;
    Stroke stroke = Stroke::Unknown;
    Position place, from;
    int pupils = 0;     // who were seen to, as a teacher noted
    std::string remark; // the teacher's own
};

// All of them, the likeliest first: what the hands' hazards predict, and what a teacher has seen
// (LessonPlan::observations); an observation at the place of a prediction confirms it. Common
// practice; thresholds are working figures.
std::vector<Stumble> stumblesOf(const LessonFacts& facts);

// How often each kind was seen over several pieces, by StumbleKind.
std::vector<int> pupilsByKind(const std::vector<const LessonPlan*>& plans);

} // namespace wirenote
