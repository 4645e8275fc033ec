// What a person can do to the pulse. Each function changes the timeline it is given or refuses with
// one sentence. What a person placed stays where it is.
#pragma once

#include "base/result.h"
#include "piece/timeline.h"

#include <span>

namespace wirenote {

// Even beats at this tempo from the first beat of bar 1 (or from origin_s when there are none) to
// end_s. 20 to 400 beats a minute.
Status layTempo(Timeline& timeline, double bpm, double origin_s, double end_s);

// Another metre from a bar on, until the next change. Quarter notes stay where they are: where the
// felt beat is another, the beats are laid anew along them.
Status setMetre(Timeline& timeline, int bar, Metre metre);

// This beat stands here. Its neighbours follow to the next beat a person placed, or a bar away.
Status pinBeat(Timeline& timeline, int beat, double time_s);

// Beats as somebody tapped them, at least four, the first of them "one". Before and after, the
// tempo of the nearest taps goes on.
Status tapBeats(Timeline& timeline, std::span<const double> taps_s, double end_s);

Status halveTempo(Timeline& timeline);  // every other beat
Status doubleTempo(Timeline& timeline); // a beat between every two

// The first note, at first_s, begins so many quarter notes before bar 1; 0: it is "one".
Status setPickup(Timeline& timeline, double first_s, Rational quarters);

// All beats move so that one of them falls on time_s; it is the "one" of its bar. With a beat there
// already, only the counting changes.
Status setOne(Timeline& timeline, double time_s);

Status setSwing(Timeline& timeline, double ratio); // 1 to kMostSwing

// Bar 1 is the bar the first note begins in; where it begins in the second half, that is a pick-up
// (bar 0). Timelines with metre changes stay as they are counted.
void numberFrom(Timeline& timeline, double first_s);

// This beat is divided into so many parts (1 to 12), whatever the timing says.
Status setDivision(Timeline& timeline, int beat, int parts);

// The tempo in the middle: of the median distance between beats. 0 without beats.
double middleTempo(const Timeline& timeline);

} // namespace wirenote
