// The pack of a lesson: a folder with everything that goes to learners.
#pragma once

#include "base/job.h"
#include "engraving/ink.h"
#include "lesson/vocabulary.h"
#include "media/sound_file.h"
#include "piece/piece.h"

#include <filesystem>
#include <functional>
#include <optional>
#include <string>
#include <vector>

namespace wirenote {

// Who can draw pages gives them as files; the use case knows no painter.
struct PackDrawer {
    std::function<std::string(const std::vector<SheetPage>&, const std::string& title)> pdf;
    // Pages of a sheet, then a text in simple HTML.
    std::function<std::string(
        const std::vector<SheetPage>&, const std::string& html, const std::string& title)>
        handout;
    // The inked part of a page as an <svg> element.
    std::function<std::string(const SheetPage&)> svg;
};

struct PackOptions {
    std::optional<Vocabulary> language; // else the one that the lesson names
    SoundFormat sound = SoundFormat::Ogg;
    std::filesystem::path piece_file; // beside which its recordings lie
    bool all = false;                 // write what has not changed too
};

struct PackReport {
    std::vector<std::string> written;  // file names within the folder
    std::vector<std::string> kept;     // as they were: what they are made of has not changed
    std::vector<std::string> removed;  // of an earlier pack, not of this one any more
    std::vector<std::string> left_out; // what is not in it, and why
    int version = 1;
};

// Makes the pack of "as played" of a piece, or renews one that lies in the folder: only what is
// made of something that changed is written again, and the version counts on. All of it is made
// ready first, then put in place. Scores on paper stay out, and so do recordings, but for the
// leading take made slower where a person has said that it may be given on (Take::rights). Errors:
// a piece without notes; a folder with other things in it; an unknown language; Cancelled.
Result<PackReport> makeLessonPack(const Piece& piece,
                                  const std::filesystem::path& folder,
                                  const PackOptions& options,
                                  const PackDrawer& drawer,
                                  const JobControl& job);

// Which files of a pack in a folder say something else than the piece does now; nothing is written.
// Errors: no pack there.
Result<std::vector<std::string>>
outOfDatePack(const Piece& piece, const std::filesystem::path& folder, const PackOptions& options);

} // namespace wirenote
