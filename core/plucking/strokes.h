#pragma once

#include "piece/one_stroke.h"
#include "piece/piece.h"

namespace wirenote {

// What one reading says of the plucking hand.
struct Stroking {
    std::vector<Decision<Stroke>> strokes; // of the rows, or of the part that was asked for
    // What they rest on, as it is to be kept: as it was, or as the notes say when nobody had said.
    Decision<PluckingTool> tool;
    Decision<PluckingSchool> school;
    std::optional<HandMotion> motion;
};

// Picks for guitars, fingers for nylon strings and basses.
PluckingTool usualTool(InstrumentKind kind);

// What the notes themselves say of it, as placed: strings plucked at the same moment with others
// between them left out, or a bass under a tune on strings apart, are fingers; strokes across
// neighbouring strings are a pick. `usualTool` where they say nothing.
PluckingTool likelyTool(const Instrument& instrument, const Rows& rows);

// The school that goes with a tool: alternate with a pick, hybrid with both; with the fingers pima
// where chords are held, index and middle in turn on one line and on a bass.
PluckingSchool likelySchool(PluckingTool tool, const Instrument& instrument, const Rows& rows);

// Gives every note that no person has decided a stroke. All notes of one attack with a pick share
// it. With a pick: the order in which the strings were heard, together with the rule that the hand
// moves down on the beat and on its even parts and up in between (common practice); which parts is
// what agrees best with the strokes that were heard. With fingers: the thumb has the three thickest
// strings of a guitar, index, middle and ring the others when chords are held (the usual p i m a
// of classical playing, common practice); on one line, and on a bass, index and middle take turns.
// With both: the pick has single notes, strums and the thickest string of what is plucked together,
// middle, ring and little finger the others (common practice). Slurred notes get none. Marked
// "heard" or "reasoned", with the probability of what it rests on.
//
// Tool and school are the reading's. Where nobody has said them the notes are asked, and once there
// are enough of them the answer is to be kept (basis "reasoned"). How the hand moves is asked anew.
Stroking strokes(const Instrument& instrument,
                 const Timeline& timeline,
                 const Rows& rows,
                 const ReadingHead& head);

// Notes on either side of a part that its strokes may depend on, and what is left of their strokes.
constexpr std::size_t kStrokeContext = 12;

// The same for a part, by what the reading rests on and what is about it. Where the reading has not
// been asked yet, all rows are: the answer is in `tool`, `school` and `motion`.
Stroking strokesOfPart(const Instrument& instrument,
                       const Timeline& timeline,
                       const Rows& rows,
                       const ReadingHead& head,
                       IndexSpan part);

} // namespace wirenote
