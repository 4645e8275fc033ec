#pragma once

#include "piece/one_stroke.h"
#include "piece/piece.h"
#include "plucking/plucking_tool.h"

namespace wirenote {

// What one reading says of the plucking hand.
struct Stroking {
    std::vector<Decision<Stroke>> strokes; // of the rows, or of the part that was asked for
    // What they rest on, as it is to be kept: as it was, or as the notes say when nobody had said.
    Decision<PluckingTool> tool;
    Decision<PluckingSchool> school;
    std::optional<HandMotion> motion;
};

// Gives every note that no person has decided a stroke. All notes of one attack with a pick share
// it: by the order in which the strings sound, by the beat and by the school (pick_strokes.h). With
// fingers each note has its own (finger_strokes.h). With both, the pick has single notes, strums
// and the thickest string of what is plucked together, middle, ring and little finger the others
// (common practice). Slurred notes get none. Marked "heard" or "reasoned", with the probability of
// what it rests on.
//
// Tool and school are the reading's. Where nobody has said them the notes are asked, and once there
// are enough of them the answer is to be kept (basis "reasoned"); a school that nobody has said
// follows what is played from place to place. How the hand moves is asked anew.
Stroking strokes(const Instrument& instrument,
                 const Timeline& timeline,
                 const Rows& rows,
                 const ReadingHead& head);

// Notes on either side of a part that its strokes may depend on, and what is left of their strokes.
constexpr std::size_t kStrokeContext = 12;

// The same for a part, by what the reading rests on; the strokes about it are kept, and those of
// the part fitted between them. Where the reading has not been asked yet, all rows are: the answer
// is in `tool`, `school` and `motion`.
Stroking strokesOfPart(const Instrument& instrument,
                       const Timeline& timeline,
                       const Rows& rows,
                       const ReadingHead& head,
                       IndexSpan part);

// The `count` best ways to strike a part as a whole, best first: the strokes of its notes, in
// order; the strokes about it are kept. With a pick and fingers together only the ways of the pick
// differ.
std::vector<std::vector<Stroke>> strokeWays(const Instrument& instrument,
                                            const Timeline& timeline,
                                            const Rows& rows,
                                            const ReadingHead& head,
                                            IndexSpan part,
                                            std::size_t count);

} // namespace wirenote
