#pragma once

#include "base/result.h"
#include "piece/piece.h"

#include <string>

namespace wirenote {

// Standard MIDI file, format 1 ("Standard MIDI Files 1.0", MIDI Manufacturers Association): a tempo
// track, then one track and one channel for each string, thinnest first (channel 10, the drums', is
// left out), strings that are bent by the pitch wheel. Bar 1 (or the pick-up bar) starts at tick 0; a tempo event at every beat keeps the
// performed time.
std::string writeMidi(const Piece& piece);

// Notes of a format 0 or 1 file with ticks per quarter, without places. Errors: not a MIDI file,
// SMPTE time, damaged.
Result<Piece> readMidi(const std::string& bytes);

} // namespace wirenote
