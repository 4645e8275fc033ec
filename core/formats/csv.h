#pragma once

#include "piece/piece.h"

#include <string>

namespace wirenote {

// A row for each note, by time, with the names of its columns first (RFC 4180): bar, beat, onset_s,
// offset_s, pitch, midi, string, fret, finger, stroke, techniques, probability and basis of its
// place.
std::string writeCsv(const Piece& piece);

} // namespace wirenote
