// Which strings sound at a moment, which the hand keeps silent and with what, and which nobody
// keeps silent.
#pragma once

#include "hand/hand_model.h"
#include "music/instrument.h"
#include "piece/reading.h"

#include <vector>

namespace wirenote {

enum class StringState { Sounds, Damped, Free };

// Who damps a string.
enum class Damper {
    Nobody,
    Fingertip,    // of the finger on the next thinner string: it touches this one
    FlatOfFinger, // of a finger on a thicker string, which lies over this one
    SpareFinger,  // one that holds nothing
    Thumb,        // over the edge of the neck
    OtherHand     // the heel or the thumb of the plucking hand
};

struct MutedString {
    int string = 1;
    StringState state = StringState::Free;
    Damper damper = Damper::Nobody;
    Finger finger = Finger::Unknown; // that damps, where one does
    bool must = false; // it would be heard: a strum passes over it, or it rang just now
};

// What each string does at a moment (seconds of the piece), the thickest first; empty where nothing
// sounds. Common practice.
std::vector<MutedString> muteMap(const Instrument& instrument, const Rows& rows, double at_s);

} // namespace wirenote
