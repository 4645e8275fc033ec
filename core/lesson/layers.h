// The plucking hand built up layer by layer.
#pragma once

#include "lesson/lesson_facts.h"

#include <vector>

namespace wirenote {

// What is played of a phrase while the plucking hand is built up.
struct PluckingLayer {
    std::vector<Stroke> strokes; // only these; empty: all
    bool on_beats = false;       // only what falls on a felt beat
    bool operator==(const PluckingLayer&) const = default;
};

// With the fingers: the thumb alone, then one finger more each, the last with all of them; a pick
// beside fingers counts as the first. With a pick, or with one finger: what falls on the beats,
// then everything. Common practice. From `from` on and before `to`; quarter notes from bar 1.
std::vector<PluckingLayer> layersOf(const LessonFacts& facts, Rational from, Rational to);

// Whether a layer has this note of a moment.
bool inLayer(const LessonFacts& facts,
             const PluckingLayer& layer,
             const LessonMoment& moment,
             std::size_t note);

} // namespace wirenote
