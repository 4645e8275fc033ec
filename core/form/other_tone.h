// Playings that sound otherwise than the piece: plucked elsewhere, for the lens or for effect.
#pragma once

#include "form/versions.h"
#include "piece/piece.h"

#include <cstddef>
#include <map>
#include <vector>

namespace wirenote {

// Demonstrations whose strings are plucked elsewhere along their length, or sound much duller or
// brighter, than the same notes of the piece are not to be learned from: sets `learn` of those that
// nobody has said anything of. Eight notes that are plucked alone must tell. `heard`: the pitched
// notes of takes, as Take::notes has them; without them only the leading take is asked.
void doubtOtherTone(Piece& piece,
                    const std::map<std::size_t, std::vector<Note>>& heard,
                    const std::vector<Version>& versions);

} // namespace wirenote
