// A part of a recording, made audible: one note, one string, all but a note.
#pragma once

#include "media/stereo_source.h"
#include "piece/piece.h"

#include <memory>

namespace wirenote {

enum class SoundPart { All, Note, String, AllButNote };

// The part of `whole`, the recording of `take`, that belongs to the chosen note, to what else lies
// on its string, or to everything but it. Computed as it is read, a frame of 93 ms after the other,
// the same wherever the reading starts. Returns `whole` for All, or when there is no such note.
std::shared_ptr<StereoSource> partOf(std::shared_ptr<StereoSource> whole,
                                     const Piece& piece,
                                     const Take& take,
                                     SoundPart part,
                                     NoteId note);

} // namespace wirenote
