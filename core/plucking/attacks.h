#pragma once

#include "piece/note.h"

#include <array>
#include <span>
#include <vector>

namespace wirenote {

// Notes that one movement of the plucking hand begins: a strum, a pinch, or a single note. Slurred
// notes belong to none.
struct Attack {
    std::vector<std::size_t> notes; // indices into the notes
    double onset_s = 0.0;
    double down = 0.5; // probability, from sound and film, that the thick strings came first
    bool heard = false;
    bool seen = false; // a film says it, and more clearly than the sound
    // What a film shows against thumb, index, middle, ring and little finger, in nepers.
    std::array<double, 5> against{};
};

// All attacks of notes by onset, in time.
std::vector<Attack> attacksOf(std::span<const Note> notes);

} // namespace wirenote
