// What the marks of a MusicXML note say of how it is played.
#pragma once

#include "piece/note.h"

#include <pugixml.hpp>
#include <vector>

namespace wirenote::musicxml {

struct ReadMarks {
    int string = 0; // 0: not said
    int fret = 0;
    Finger finger = Finger::Unknown;
    Stroke stroke = Stroke::Unknown;
    std::vector<Technique> techniques;
    double bend = 0.0;     // semitones up after the stroke
    double pre_bend = 0.0; // … before it
};

ReadMarks marksOfNote(const pugi::xml_node& note);
// What the other staff says of the same note.
void addMarks(const ReadMarks& from, ReadMarks& to);
// The pitch of a note that is bent so, and how it goes on over `length_s`.
std::vector<PitchPoint> curveOf(const ReadMarks& marks, double length_s);

} // namespace wirenote::musicxml
