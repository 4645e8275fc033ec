// Which of two voices a note belongs to: a tune, and the bass under it.
#pragma once

#include "piece/piece.h"
#include "score/quantise.h"

#include <vector>

namespace wirenote {

struct VoiceOfNote {
    Voice voice = Voice::Upper;
    double probability = 1.0; // that it is this one
};

// One for each of Piece::notes: as a person said; else by what plucks it (the thumb plays the bass:
// common practice), by the string where no finger tells, and by the note it is slurred from.
std::vector<VoiceOfNote> voicesOf(const Piece& piece);

// Whether the piece is to be written in two voices: a person said so of a note, or notes of the
// lower voice go on sounding under the upper one in a good part of the bars that have both. Never
// for a bass.
bool needsTwoVoices(const Piece& piece,
                    const Quantised& quantised,
                    const std::vector<VoiceOfNote>& voices);

} // namespace wirenote
