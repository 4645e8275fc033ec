// Small pictures of a lesson as SVG: grips, the neck, counts and strokes. Always as the tab has
// them.
#pragma once

#include "lesson/layers.h"
#include "piece/grip.h"

#include <string>
#include <vector>

namespace wirenote {

// A place with the finger that presses it.
struct PressedPlace {
    Position place;
    Finger finger = Finger::Unknown;
    bool operator==(const PressedPlace&) const = default;
};

// A grip with its fingers: strings downwards, the thickest to the left (for the left-handed: to the
// right), a cross over what is silent and a ring over what is open. `name`: what it is called.
// `described`: what a screen reader says instead; empty: the name.
std::string gripSvg(const Instrument& instrument,
                    const std::vector<PressedPlace>& places,
                    const std::string& name,
                    const std::string& described = {});
// The part of the neck that a stretch needs, frets as wide as they are, the thinnest string on top;
// every place with its finger; the box of the position where there is one.
std::string neckSvg(const Instrument& instrument,
                    const std::vector<PressedPlace>& places,
                    const std::string& name);
// The count of a stretch with what the plucking hand does on it and on which strings: what sounds
// is bold, silent strokes are in brackets. Of a layer: what it leaves out stays blank.
std::string strokesSvg(const LessonFacts& facts,
                       Rational from,
                       Rational to,
                       const std::string& name,
                       const PluckingLayer& layer = {});

// All places of a stretch, each once.
std::vector<PressedPlace> placesIn(const LessonFacts& facts, Rational from, Rational to);
// What is held where a chord begins, first places first.
std::vector<PressedPlace> placesOf(const LessonFacts& facts, TimeRange span);

// A text as it stands in XML and HTML.
std::string escapedXml(const std::string& text);

} // namespace wirenote
