#pragma once

#include "base/job.h"
#include "base/result.h"

#include <filesystem>

namespace wirenote {

struct DemoFiles {
    std::filesystem::path take;  // the SIMULATED recording
    std::filesystem::path truth; // what was played, notes JSON
    std::filesystem::path slow;  // a second SIMULATED take: slower, lower, later, with a film
    std::filesystem::path slow_truth;
    std::filesystem::path piece; // both takes as heard and lined up by Wirenote, ready to open
};

// What the demo in a folder consists of.
DemoFiles demoIn(const std::filesystem::path& folder);

// Makes the demo freshly in `folder` (created when missing): the simulated instrument plays the
// demo tune, and the result is transcribed like any other recording.
Result<DemoFiles> makeDemo(const std::filesystem::path& folder, const JobControl& job);

} // namespace wirenote
