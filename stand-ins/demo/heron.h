// SIMULATED: the demo piece. "Heron at Low Water" is an invented tune for an invented evening class
// on a harbour street; nobody ever recorded it.
#pragma once

#include "piece/piece.h"

namespace wirenote::standin {

// The performance with its exact truth: sixteen bars, one line, open position then seventh
// position, two hammer-ons and a slide, played a little loosely on a guitar tuned 6 cents flat.
Piece heronAtLowWater();

// The same performer shows it slowly: starts later, at about five sixths of the tempo and not quite
// evenly, on a guitar tuned a whole step down and 14 cents flat.
Piece heronShownSlowly();

} // namespace wirenote::standin
