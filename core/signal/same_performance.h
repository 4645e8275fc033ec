// Whether two recordings hold one and the same performance, and how their clocks go together.
#pragma once

#include "base/job.h"
#include "signal/spectral_flux.h"

#include <optional>
#include <vector>

namespace wirenote {

// The copy's second of a second of the other recording is at_zero_s + rate · it.
struct CopyFit {
    double at_zero_s = 0.0;
    double rate = 1.0;
    double share = 0.0;    // 0..1 of the attacks that both could hold, that both hold
    double spread_s = 0.0; // how far those lie off the line, as a standard deviation
    int attacks = 0;       // those that both hold
};

// Copies of one performance agree to a few milliseconds over their whole length, whatever was done
// to their level, coding or ends; no player plays so alike twice. `loosest_s`: how far the attacks
// may lie off the line, as a standard deviation. Nothing: it is another performance, or too little
// of it (fewer than eight attacks in common) to tell. Speeds that differ by more than 6 % are no
// copies. Cancelled: nothing.
constexpr double kCopyOfSound_s = 0.0045; // `loosest_s`, both from sound
constexpr double kCopyOfNotes_s = 0.009;  // … the first by the onsets of notes
std::optional<CopyFit> fitCopy(const std::vector<OnsetPeak>& recording,
                               const std::vector<OnsetPeak>& copy,
                               double loosest_s = kCopyOfSound_s,
                               const JobControl& job = {});

} // namespace wirenote
