#pragma once

#include "piece/piece.h"

#include <optional>
#include <string>
#include <vector>

namespace wirenote {

// The difference between two states of a piece: what one edit did. Applied forwards it redoes the
// edit, backwards it undoes it; everything else stays as it is.
struct PieceDelta {
    struct NoteState {
        Note note;
        std::vector<NotePlan> plans; // one a reading
    };
    // What is not a note. The notes, their plans and the log are carried apart; what was written
    // from the piece is no edit of it.
    struct Frame {
        std::string title;
        bool title_guessed = false;
        About about;
        Settled settled;
        Instrument instrument;
        std::vector<Take> takes;
        Timeline timeline;
        KeySignature key;
        SheetStyle sheet;
        std::vector<StringTrait> string_traits;
        std::vector<NearMiss> misses;
        std::vector<NamedChord> chord_names;
        std::vector<SheetMark> marks;
        std::vector<FollowedTake> followed;
        std::vector<PaperScore> papers;
        LessonPlan lesson;
        std::vector<ReadingHead> readings;
        NoteId next_id = 1;
        bool operator==(const Frame&) const = default;
    };
    std::vector<NoteState> gone; // notes as they were before
    std::vector<NoteState> come; // notes as they are after
    std::optional<Frame> before; // both or neither
    std::optional<Frame> after;
    std::vector<LogEntry> logged; // entries added at the end of the log

    bool empty() const { return gone.empty() && come.empty() && !before && logged.empty(); }
    // Notes present both before and after whose decisions differ.
    std::vector<NoteId> changedNotes() const;
};

// What a change is about, for those who show a part of the piece.
struct Changes {
    bool notes = false;    // their times, pitches, techniques, facts; some came or went
    bool plans = false;    // places, fingers, strokes
    bool timeline = false; // beats, bars, sections, key, names of chords, marks
    bool takes = false;
    bool instrument = false; // and what is known of its strings
    bool misses = false;
    bool readings = false; // their names, schools and tools
    bool title = false;    // or who made it, or what stands on its sheet
    bool papers = false;   // scores on paper
    bool lesson = false;
    TimeRange span;        // seconds over which notes changed; empty: none did
    bool operator==(const Changes&) const = default;
};
Changes changesOf(const PieceDelta& delta);

// What of a piece is not a note.
PieceDelta::Frame frameOf(const Piece& piece);
void setFrame(const PieceDelta::Frame& frame, Piece& piece);

bool sameFrame(const Piece& a, const Piece& b);

PieceDelta difference(const Piece& before, const Piece& after);
// The piece must be in the state the delta starts from (apply) or leads to (revert).
void apply(const PieceDelta& delta, Piece& piece);
void revert(const PieceDelta& delta, Piece& piece);

} // namespace wirenote
