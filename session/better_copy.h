// Another copy of a take's recording put in its place.
#pragma once

#include "base/job.h"
#include "base/result.h"
#include "piece/clock_change.h"
#include "piece/piece.h"
#include "session/take_media.h"
#include "signal/same_performance.h"

#include <filesystem>

namespace wirenote {

struct BetterCopy {
    Take take; // as it is now, with path, length, quality and picture of the copy
    TakeMedia media;
    ClockChange clock; // from the take's seconds to the copy's
    double louder_db = 0.0;
    CopyFit fit;
};

// Compares a recording with a take of the piece: with its sound, or with its notes where its
// recording cannot be read any more. Of each the first `longest_s` seconds. Nothing is changed;
// give it to PieceEditor::useCopy. Errors: it is among the takes already, it is not the same
// performance, it cannot be used, cancelled.
Result<BetterCopy> studyCopy(const Piece& piece,
                             std::size_t take,
                             const std::filesystem::path& media,
                             const JobControl& job,
                             double longest_s = 1200.0);

} // namespace wirenote
