// One open piece: what the window works on. No interface code; one thread at a time.
#pragma once

#include "base/job.h"
#include "base/result.h"
#include "piece/delta.h"
#include "piece/edits.h"
#include "piece/piece.h"
#include "signal/overview.h"

#include <filesystem>
#include <functional>
#include <memory>
#include <string>

namespace wirenote {

// What a take brings besides its notes: the sound to play and to draw.
struct TakeSound {
    std::shared_ptr<const Sound> sound; // at the playing rate
    Overview overview;
};

struct OpenedPiece {
    Piece piece;
    std::filesystem::path file; // empty: never saved
    TakeSound take;             // empty when the recording is missing
    std::string caution;        // one sentence for the banner, or empty
};

constexpr double kPlayingRateHz = 44100.0;

// Opens a recording (transcribes it), a piece, or a file of notes.
struct OpenOptions {
    Instrument instrument = standardInstrument(InstrumentKind::Guitar);
};
Result<OpenedPiece>
openAny(const std::filesystem::path& path, const OpenOptions& options, const JobControl& job);
Result<TakeSound> loadTake(const std::filesystem::path& media, const JobControl& job);

// The moved recording of a piece was found again by a person. Refused when it is another recording
// (checksum), unless `accept_other`.
Status relocateMedia(Piece& piece, const std::filesystem::path& media, bool accept_other);

// An edit, the re-solved neighbourhood, and what changed, as one undoable difference. The piece
// itself is not touched. `edit` gets an editor on a copy.
struct EditOutcome {
    PieceDelta delta;
    std::vector<NoteId> followed; // other notes whose placement changed with it
};
Result<EditOutcome> tryEdit(const Piece& piece,
                            double around_s,
                            const std::function<Status(PieceEditor&)>& edit,
                            bool whole_piece = false);

} // namespace wirenote
