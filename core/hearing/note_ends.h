#pragma once

#include "base/time_range.h"
#include "hearing/pitch_track.h"
#include "signal/spectral_flux.h"

namespace wirenote {

struct NoteLevel {
    double peak_db = -120.0;
    double rise_db = 0.0; // loudest after the onset against just before it
};

// Level of a note within `span`, on the flux track's level curve.
NoteLevel levelOf(const FluxTrack& flux, TimeRange span);

// When the note that starts at span.start_s stops sounding, at the latest span.end_s: the level has
// dropped by `drop_db` from its peak, or by a third of that and the pitch has gone for 60 ms (a
// bright bass has no clear pitch for long while it rings).
double soundingEnd(const FluxTrack& flux, const PitchTrack& track, TimeRange span, double drop_db);

} // namespace wirenote
