#pragma once

#include "base/result.h"
#include "piece/piece.h"

#include <string>
#include <vector>

namespace wirenote {

// What a calibration take told of one instrument ("wirenote-calibration/1"): its strings, and how
// each differs from what its gauge says.
struct Calibration {
    Instrument instrument;
    std::vector<StringTrait> traits;  // one a string, the thinnest first; basis "set"
    std::vector<double> octave_cents; // how sharp fret 12 sounds against the open string's octave
};

std::string writeCalibrationJson(const Calibration& calibration);
// Errors: what is wrong, and where.
Result<Calibration> readCalibrationJson(const std::string& text);

} // namespace wirenote
