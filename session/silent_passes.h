// Strokes of the plucking hand that a film shows and nobody hears.
#pragma once

#include "piece/film_facts.h"
#include "session/film_way.h"

#include <vector>

namespace wirenote {

// Where the hand moves as much as it does when it strikes, and no note begins: a stroke that passes
// the strings in silence. A hand that only goes back for its next stroke moves less (working
// figures, chosen with ten such strokes of four films in sight). `onsets_s` in the time of the
// film; so are the passes.
std::vector<SilentPass> silentPasses(const PluckTrack& moved, const std::vector<double>& onsets_s);

} // namespace wirenote
