// One open piece: what the window works on. No interface code; one thread at a time.
#pragma once

#include "base/job.h"
#include "base/result.h"
#include "hearing/melody.h"
#include "piece/delta.h"
#include "piece/edits.h"
#include "piece/piece.h"
#include "session/take_media.h"
#include "session/transcribe.h"

#include <filesystem>
#include <functional>
#include <string>
#include <vector>

namespace wirenote {

struct OpenedPiece {
    Piece piece;
    std::filesystem::path file;   // empty: never saved
    std::vector<TakeMedia> media; // by take; without sound where the recording is missing
    std::string caution;          // one sentence for the banner, or empty
    bool unheard = false;         // a new recording: nobody has listened to it yet
    std::string file_state; // of the piece's file as it was read (fileState); empty without one
    bool unsaved = false;   // kept by a journal: the file does not hold it
};

// Opens a recording, a piece, or a file of notes. Of a recording only the index is read: it can be
// played and looked at, and has no notes yet.
struct OpenOptions {
    Instrument instrument = standardInstrument(InstrumentKind::Guitar);
};
Result<OpenedPiece>
openAny(const std::filesystem::path& path, const OpenOptions& options, const JobControl& job);

// What a journal kept, with the recordings it names. The piece's file, where it has one, stays what
// it is until it is saved.
Result<OpenedPiece> openKept(const std::filesystem::path& journal);

bool isRecording(const std::filesystem::path& path); // by its ending: not one of our own formats

// Hears a span of the leading take (empty: its trim, or all of it) with the piece's instrument, the
// take's channels and what is set of its reference and pulse. Gives a piece of its own for
// PieceEditor::adoptHearing; nothing is changed.
Result<Piece> hearLead(const Piece& piece,
                       TimeRange span,
                       const JobControl& job,
                       const HeardSoFar& so_far = {},
                       Talk talk = Talk::Skip);

// An edit, the re-solved neighbourhood, and what changed, as one undoable difference. The piece
// itself is not touched. `edit` gets an editor on a copy.
struct EditOutcome {
    PieceDelta delta;
    std::vector<NoteId> followed;   // other notes whose place changed with it
    std::vector<NoteId> refingered; // other notes that stay, and get another finger
};
// AroundWhatIsSure: the whole piece, but no note whose place was sure moves. Strokes: the edit
// moves beats only. Versions: other playings of a place count otherwise now. Nothing: it touches no
// note.
enum class Resolve { Neighbourhood, WholePiece, AroundWhatIsSure, Versions, Strokes, Nothing };
constexpr double kSurePlace = 0.9; // probability of a place that is sure
// What is decided of hands is decided in `reading`; notes are those that were heard.
Result<EditOutcome> tryEdit(const Piece& piece,
                            double around_s,
                            const std::function<Status(PieceEditor&)>& edit,
                            Resolve resolve = Resolve::Neighbourhood,
                            std::size_t reading = 0);

// The same on the piece as one of its readings has it (inReading): what is changed of notes is
// changed in this reading alone (foldReading), and only its hands are solved again.
Result<EditOutcome> tryEditIn(const Piece& piece,
                              std::size_t reading,
                              double around_s,
                              const std::function<Status(PieceEditor&)>& edit,
                              Resolve resolve = Resolve::Neighbourhood);

} // namespace wirenote
