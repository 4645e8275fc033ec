// Which fingertip is which finger's, by how a hand lies along the neck.
#pragma once

#include "piece/seen.h"

#include <span>

namespace wirenote {

// Numbers the tips of moments one after the other. Hands lie with a finger to each fret, or, mostly
// on basses, with four fingers over three frets: whichever fits the film better. Where the index
// finger is follows from all tips of a moment and from where it was before (Viterbi over places a
// quarter of a fret apart, Rabiner 1989); tips that fit no finger stay without one.
void numberTips(std::span<SeenFacts* const> moments);

} // namespace wirenote
