// What the film of a take shows of its notes.
#pragma once

#include "base/job.h"
#include "formats/neck_json.h"
#include "piece/piece.h"

#include <filesystem>
#include <optional>

namespace wirenote {

struct FilmOptions {
    NeckMarks neck;                 // in one picture; followed from there
    std::optional<double> offset_s; // time seen minus time heard; measured when not given
};

struct FilmSeen {
    double offset_s = 0.0;
    bool offset_measured = false; // else given, or not to be told: 0
    double followed = 0.0;        // share of the pictures looked at in which the neck was found
    double trust = 0.0;           // how far fingertips fit what was heard
};

// Follows the neck through the film, finds the fingertips at each note, and writes them to the
// note's own facts (Note::seen), with the trust that the whole film earns. `start_s`: media time at
// which the notes' own time begins. Two passes over the film; memory does not grow with its length.
// Errors: the film cannot be read, the marks are no neck, the neck cannot be followed, or
// cancelled.
Result<FilmSeen> watchFilm(const std::filesystem::path& film,
                           const FilmOptions& options,
                           double start_s,
                           Piece& piece,
                           const JobControl& job);

// By how much the film is late against the notes: where pictures change most in the place in which
// strings are plucked, summed over all notes. `times_s` rising, of the changes `moved`. Nothing
// where no moment stands out.
std::optional<double> offsetByMotion(const std::vector<double>& times_s,
                                     const std::vector<double>& moved,
                                     const std::vector<double>& onsets_s);

} // namespace wirenote
