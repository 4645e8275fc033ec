// A piece cut into phrases that can be taught, and the order of teaching them.
#pragma once

#include "lesson/layers.h"

#include <optional>
#include <string>
#include <vector>

namespace wirenote {

// One phrase. The first bar of it that is not taught again is the one that it is compared with.
struct TeachPhrase {
    std::string letter; // "A", "B" … "Z", "AA" …
    std::string title;  // a person's, or of the section that begins here; may be empty
    Rational from, to;  // quarter notes from bar 1
    TimeRange span;     // seconds, as played
    int first_bar = 1;
    int last_bar = 1;
    std::optional<std::size_t> same_as;  // an earlier phrase with (nearly) the same notes …
    int transposed = 0;                  // … so many semitones lower than this
    std::vector<Difference> differences; // against it; note_a: of the earlier, note_b: of this
    double hardness = 0.0;               // how near to what hands can do at tempo: 1: at the edge
    std::vector<PluckingLayer> layers;   // of the plucking hand; the last is all of it
    bool left_out = false;               // not discussed
    bool free = false;
    bool set = false; // a person cut it
    // Taught for itself: not left out, and not heard before without a difference.
    bool taught() const {
        return !left_out && !(same_as && differences.empty() && transposed == 0);
    }
};

// One step of a lesson: something said and played of some phrases.
struct TeachStep {
    StepKind kind = StepKind::Whole;
    std::vector<std::size_t> phrases; // one after the other
    double tempo = 1.0;               // share of the tempo at which it is played; 0: freely
    int layer = 0;                    // of StepKind::Layer, from 1; after the last of the phrase's
                                      // layers: the fretting hand joins
    bool relief = false;              // something easy after something hard
    double minutes = 0.0;             // how long it takes to be taught, estimated
};

struct Breakdown {
    std::vector<TeachPhrase> phrases; // by time
    std::vector<TeachStep> steps;     // in the order of teaching
    std::vector<std::size_t> left_out() const;
};

// What is usual: phrases of some seconds. Working figures, common practice.
struct BreakdownParameters {
    double usual_s = 5.0;
    double longest_s = 12.0;
    double shortest_s = 1.5;
};

// Cut where a section, a repeat or a position begins, after a rest, at bar lines rather than within
// a bar, never where a note is held if there is another way; the cheapest cuts over the whole
// piece. As a person has it (LessonPlan::phrases) where a person cut it; only what is taught
// (LessonPlan::taught). Then ordered in the way of teaching that the lesson has. Empty for a piece
// without notes.
Breakdown breakdownOf(const LessonFacts& facts, const BreakdownParameters& parameters = {});

} // namespace wirenote
