#pragma once

#include "base/result.h"
#include "piece/piece.h"

#include <string>
#include <vector>

namespace wirenote {

// MusicXML 3.0 (score-partwise): one part with a notation staff (beams, strokes, slurs) above a tab
// staff (string, fret, fingers, hammer-on, pull-off, slide, bend), in two voices where the sheet
// has two, with repeat signs where it has them, names of chords, sections and tempi.
std::string writeMusicXml(const Piece& piece);

// The first part that has notes: pitches, times, both voices, fingers and strokes, string and fret
// where a tab staff gives them; repeats and endings are played out. Nothing outside the file is
// read. `unread`: what the file has and the piece has not, with the bar where it stands.
Result<Piece> readMusicXml(const std::string& text, std::vector<std::string>* unread = nullptr);

} // namespace wirenote
