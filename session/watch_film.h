// What the film of a take shows of its notes.
#pragma once

#include "base/job.h"
#include "formats/neck_json.h"
#include "piece/piece.h"
#include "session/film_way.h"

#include <filesystem>
#include <optional>

namespace wirenote {

struct FilmOptions {
    std::optional<NeckMarks> neck = std::nullopt;  // in one picture; looked for when not given
    std::optional<double> offset_s = std::nullopt; // time seen minus time heard; else measured
};

// To look at this take's film again: as its neck was given, and its offset.
FilmOptions asBefore(const FilmFacts& film);

// Follows the neck through the film, finds the fingertips at each note, and writes them to the
// note's own facts (Note::seen), with the trust that the whole film earns. `start_s`: media time at
// which the notes' own time begins. Two passes over the film; memory does not grow with its length.
// Errors: the film cannot be read, shows no neck, the marks are no neck, the neck cannot be
// followed, or cancelled; the notes are then as they were.
Result<FilmFacts> watchFilm(const std::filesystem::path& film,
                            const FilmOptions& options,
                            double start_s,
                            Piece& piece,
                            const JobControl& job);

// The same for any take of a piece, at the places where it plays the piece's notes: what is seen
// goes to the facts of that take. `film`: the take's file. Errors: also a take that is not lined
// up, or plays none of the notes.
Result<FilmFacts> watchTake(std::size_t take,
                            const std::filesystem::path& film,
                            const FilmOptions& options,
                            Piece& piece,
                            const JobControl& job);

// By how much the film is late against the notes: where most moves in the place in which strings
// are plucked, summed over all notes. A pick goes both ways at its notes; fingers go up at them and
// come back down later, so that the one way counts that is clearer. Nothing where no moment stands
// out.
std::optional<double> offsetByMotion(const PluckTrack& moved, const std::vector<double>& onsets_s);

} // namespace wirenote
