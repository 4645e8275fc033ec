// A stretch of a recording made slower at its own pitch, with its picture, for learners.
#pragma once

#include "base/job.h"
#include "base/result.h"
#include "base/time_range.h"
#include "media/film_file.h"

#include <filesystem>
#include <string>
#include <vector>

namespace wirenote {

struct SlowFilm {
    TimeRange span;        // seconds of the recording
    double speed = 1.0;    // kSlowest … kFastest
    double offset_s = 0.0; // time seen minus time heard
    int sound_stream = -1; // −1: the file's own choice
    int max_width = 640;   // of the picture
    std::string title;
    // In seconds of the recording; what lies outside the span is left out.
    std::vector<FilmChapter> chapters;
};
constexpr double kLongestSlowFilm_s = 1800.0; // of the result

// The stretch as a WebM file (VP8 and Opus), with its chapters; without a picture where the
// recording has none. Every sound and picture stands where its own time is divided by the speed.
// `job` is told seconds of the result. Errors: a recording that cannot be used, one that would be
// too long, Cancelled.
Result<std::string>
encodeSlowFilm(const std::filesystem::path& recording, const SlowFilm& film, const JobControl& job);

} // namespace wirenote
