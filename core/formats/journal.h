// The journal of an open piece: what it was, and every edit since, so that a killed program, a
// power cut or a full disk loses nothing. This is the one place that knows its format
// ("wirenote-journal/1"): lines of "CRC-32 in hexadecimal, a blank, JSON". The first names the
// format and the piece's file, the second holds the whole piece, each further one an edit. A last
// line that is cut or does not fit its sum was being written; what stands before it counts.
#pragma once

#include "base/result.h"
#include "piece/delta.h"

#include <cstdint>
#include <string>
#include <string_view>

namespace wirenote {

constexpr const char* kJournalFormat = "wirenote-journal/1";

// Which piece it is about.
struct JournalHeader {
    std::string piece_file;  // bytes of its path; empty: never saved
    std::string fingerprint; // of that file when it was opened or saved; empty without one
    std::string when;        // ISO 8601, UTC
    bool unsaved = false;    // a fresh transcription: worth keeping before any edit
    bool operator==(const JournalHeader&) const = default;
};

// CRC-32 (ITU-T V.42, 8.1.1.6.2; the one of zip and PNG).
std::uint32_t crc32(std::string_view bytes);

// Lines to append, each with its line end.
std::string journalStart(const JournalHeader& header, const Piece& piece);
// One edit, done (forwards) or undone.
std::string journalStep(const PieceDelta& delta, bool forwards);

struct JournalReading {
    JournalHeader header;
    Piece piece;      // as it was after the last whole step
    int steps = 0;    // whole ones
    bool cut = false; // something after them was not whole
};

// The first line alone, which is quick. Errors: not a journal, a newer version.
Result<JournalHeader> readJournalHeader(std::string_view bytes);
// All of it. Errors: no whole piece in it, or a step that does not fit.
Result<JournalReading> readJournal(std::string_view bytes);
// How many whole steps there are, without building the piece.
int countJournalSteps(std::string_view bytes);

} // namespace wirenote
