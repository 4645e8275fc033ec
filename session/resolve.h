// Puts what the solvers of both hands find into a piece: all of it, or the neighbourhood of an
// edit.
#pragma once

#include "piece/one_stroke.h"
#include "piece/piece.h"

#include <optional>
#include <span>
#include <utility>
#include <vector>

namespace wirenote {

// Places of one reading, over the whole piece, and what they tell of the strings.
void placeAll(Piece& piece, std::size_t reading = 0);
// Strokes of one reading, over the whole piece.
void strokeAll(Piece& piece, std::size_t reading = 0);

// Places and strokes what is not set, over the whole piece and in every reading (after reading bare
// notes, or another tuning).
void placeAndStroke(Piece& piece, std::optional<PluckingTool> plucking = {});

// After an edit at this time: both hands in the neighbourhood, in every reading; nothing set is
// changed, and nothing further away.
void resolveAround(Piece& piece, double time_s);

// What the strokes of these notes would be, were they played with this: for a passage that is
// played otherwise than the rest. Notes by id; those that are not there are passed over.
std::vector<std::pair<NoteId, Stroke>>
strokesWith(const Piece& piece, const std::vector<NoteId>& notes, PluckingTool tool);

// The notes that the decisions in a part depend on.
IndexSpan whatMattersTo(std::span<const Note> notes, IndexSpan part);
// Whether the reading says what its strokes rest on; else all notes are asked.
bool wasAsked(const Reading& reading);

// The piece as the performer meant it: slips put right, and what is about them placed anew; what is
// set stays. "As played" is not touched.
Piece asMeant(const Piece& as_played);

// Ends what is heard to ring on where its string or its finger is needed (fretting/let_go.h).
void endOnStrings(Piece& piece);

} // namespace wirenote
