// How techniques are written in a tab: signs that belong to everyone.
#pragma once

#include "piece/piece.h"
#include "piece/reading.h"

#include <optional>
#include <string>
#include <vector>

namespace wirenote {

// What stands on the string's line: "7", "<12>" for a harmonic over fret 12, "x" for a damped
// string, "(2)" where the sounding pitch was drawn before the stroke.
std::string fretMark(const Note& note, Position place);

// How far a string is drawn, in tones as players say it: "1", "½", "1¼".
std::string tonesText(double semitones);

// How the fretting hand begins the note: "h", "p", "sl", or nothing.
std::string slurMark(const Note& note);

// What stands above: "↑1" a bend of a tone (½, ¼ …), "↓" let back, "~~" vibrato, "P.M." palm mute,
// ">" accent, "·" staccato, "tr", "trem.", "rake", "roll", "let ring", "T" tapped.
std::vector<std::string> techniqueMarks(const Note& note);

// The note before this one on its string, from which a slur can come.
std::optional<std::size_t> noteBeforeOnString(const Piece& piece, std::size_t index);

// The letters of the fingers that pluck what begins together, each once, the thickest string first:
// "pim". Empty where none does (a pick's stroke has a mark of its own). `together`: indices.
std::string pluckedLetters(const Rows& rows, const std::vector<std::size_t>& together);

// Who made it, in one line under the title: "Ann Other · played by N. N. · written down by …";
// empty where nobody said.
std::string namesLine(const About& about);

} // namespace wirenote
