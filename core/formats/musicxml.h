#pragma once

#include "base/result.h"
#include "piece/piece.h"

#include <string>

namespace wirenote {

// MusicXML 3.0 (score-partwise): one part with a notation staff (fingering, strokes, slurs) above a
// tab staff (string, fret, hammer-on, pull-off, slide).
std::string writeMusicXml(const Piece& piece);

// The first part that has notes: pitches, times, and string and fret where a tab staff gives them.
// Nothing outside the file is read. Compressed .mxl files are not read.
Result<Piece> readMusicXml(const std::string& text);

} // namespace wirenote
