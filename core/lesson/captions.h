// Captions: what is said, and when.
#pragma once

#include "base/result.h"
#include "base/time_range.h"

#include <string>
#include <vector>

namespace wirenote {

struct Cue {
    TimeRange span;   // seconds of the take; empty: nobody says when
    std::string text; // lines joined by a blank, without mark-up
};
constexpr std::size_t kMaxCues = 50000;
constexpr std::size_t kMaxCaptionsBytes = 20U << 20U;

// SubRip, WebVTT (W3C, "WebVTT: The Web Video Text Tracks Format") or plain text, a cue a line,
// told by what stands in it. Blocks that are damaged are passed over as browsers do; notes, styles
// and regions are no cues. Errors: nothing readable in it.
Result<std::vector<Cue>> readCaptions(const std::string& text);

// A WebVTT file: "WEBVTT", then cues in order of time; what WebVTT would take for mark-up is
// escaped, empty cues are left out.
std::string writeWebVtt(const std::vector<Cue>& cues);

} // namespace wirenote
