// SIMULATED: a tab played by the simulated instrument.
#pragma once

#include "base/job.h"
#include "base/result.h"
#include "base/sound.h"
#include "piece/piece.h"
#include "sounding/plucked_string.h"

namespace wirenote {

struct RenderOptions {
    double rate_hz = 44100.0;
    double a4_hz = kStandardA4Hz;
    double tail_s = 0.5;      // after the last note
    double noise_db = -200.0; // RMS of background noise re full scale; below −150 none
    double pluck_share = 0.0; // of the scale from the bridge where strings are plucked; 0: as usual
};

// Every placed note of the piece at its own time. Unplaced notes are silent. Errors: Cancelled.
Result<Sound> renderPiece(const Piece& piece, const RenderOptions& options, const JobControl& job);

} // namespace wirenote
