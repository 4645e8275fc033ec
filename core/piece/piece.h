// The document.
#pragma once

#include "base/result.h"
#include "piece/lesson_plan.h"
#include "piece/reading.h"
#include "piece/sheet_marks.h"
#include "piece/sheet_style.h"
#include "piece/take.h"
#include "piece/timeline.h"

#include <optional>
#include <string>
#include <vector>

namespace wirenote {

constexpr std::size_t kMaxNotes = 200000;
constexpr std::size_t kMaxTakes = 64;
constexpr std::size_t kMaxReadings = 32;
constexpr std::size_t kMaxLogEntries = 1000000;
constexpr std::size_t kLongestPath = 4096;   // bytes
constexpr double kLongestPiece_s = 86400.0;  // a day: no time in a piece lies further off
constexpr double kMostBend_cents = 100000.0; // of a pitch curve

// Who decided what, when and why; texts as they were to be read then.
struct LogEntry {
    std::string when; // ISO 8601, UTC
    std::string what;
    NoteId note = 0;
    std::string who = {};      // empty: nobody said
    std::string from = {};     // what it was before …
    std::string to = {};       // … and after; both empty: not of one note
    std::string evidence = {}; // what had been found, and how sure: "heard, 62 %"
    std::string rejected = {}; // the runners-up of then
    SetWhy why = SetWhy::Unsaid;
    std::string remark = {};  // why, in this person's words
    std::string reading = {}; // in which, when it is not "as played"
    bool operator==(const LogEntry&) const = default;
};

// A file that was written from the piece, and what it was written from then.
struct Exported {
    std::string path;
    std::string when; // ISO 8601, UTC
    std::string reading;
    std::string content; // a checksum of what the reading said
    bool operator==(const Exported&) const = default;
};
constexpr std::size_t kMaxExported = 200;

// Where a bar begins on a page of a score, as shares of its width and height from the top left.
struct PagePin {
    int bar = 1;
    int page = 0;
    double x = 0.0;
    double y = 0.0;
    bool operator==(const PagePin&) const = default;
};

// A score on paper, as pages of a PDF or as one picture, pinned to bars: shown at the musical place
// like a take.
struct PaperScore {
    std::string name;
    std::string path; // as of a take
    TakeRights rights = TakeRights::Unknown;
    std::vector<PagePin> pins; // by bar, one a bar
    bool operator==(const PaperScore&) const = default;
};
constexpr std::size_t kMaxPapers = 16;
constexpr std::size_t kMaxPins = 5000;
constexpr int kMaxPages = 2000;

// What one figure of the tone is on one string: value = at_open + per_octave · (octaves above the
// open string), `stopped` more when a finger presses it, and `per_db` more for each decibel above
// kToneLoudness_db, give or take sd. A negative deviation: nothing is known, or it does not help.
constexpr double kToneLoudness_db = -20.0; // re full scale
struct ToneTrait {
    double at_open = 0.0;
    double per_octave = 0.0;
    double sd = -1.0;
    double stopped = 0.0;
    double per_db = 0.0;
    bool operator==(const ToneTrait&) const = default;
    bool told() const { return sd >= 0.0; }
    double at(double octaves, bool open, double loudness_db) const {
        return at_open + per_octave * octaves + (open ? 0.0 : stopped) +
               per_db * (loudness_db - kToneLoudness_db);
    }
};

// What is known of one string of this very instrument: how much stiffer it is than its gauge and
// material say, as a natural logarithm, with its standard deviation. Learned from the notes, or
// measured by a calibration take (basis "set": it stays).
struct StringTrait {
    double log_factor = 0.0;
    double sd = 0.0;
    Basis basis = Basis::Reasoned;
    std::array<ToneTrait, kToneFigures> tone{};
    bool operator==(const StringTrait&) const = default;
};

// What might have been played too, but was not believed: offered to the person.
struct NearMiss {
    TimeRange time; // seconds in the leading take
    int midi = 60;
    double probability = 0.0;
    Position place; // where it would lie best; string 0: nowhere
    bool operator==(const NearMiss&) const = default;
};
constexpr std::size_t kMaxMisses = 20000;

// What stands at the head of a sheet; empty where nobody said.
struct About {
    std::string composer;
    std::string player;      // of the leading take
    std::string transcriber; // who wrote it down
    std::string subtitle = {};
    std::string source = {}; // what it was written down from
    std::string date = {};   // of the source or of the sheet, in a person's words
    bool operator==(const About&) const = default;
};

// What a person has said of the piece as a whole. The rest is guessed, and asked about where the
// guess is in doubt.
struct Settled {
    bool instrument = false; // and its tuning
    bool tempo = false;      // and at which level the beat is felt
    bool metre = false;
    bool one = false; // where bars begin
    bool operator==(const Settled&) const = default;
};

// What a person calls what sounds from a moment on.
struct NamedChord {
    double at_s = 0.0;
    std::string name;
    bool operator==(const NamedChord&) const = default;
};
constexpr std::size_t kMaxNamedChords = 20000;

// A stretch of the piece that is written down as another take plays it, as a person chose.
struct FollowedTake {
    TimeRange span;       // seconds
    std::size_t take = 0; // index into Piece::takes
    bool operator==(const FollowedTake&) const = default;
};
constexpr std::size_t kMaxFollowed = 20000;

struct Piece {
    std::string title;
    bool title_guessed = false; // from a file's name: nobody said that it is called so
    About about;
    Settled settled;
    Instrument instrument = standardInstrument(InstrumentKind::Guitar);
    std::vector<Take> takes; // the first leads: its clock is the clock of the piece
    Timeline timeline;
    KeySignature key;
    SheetStyle sheet;
    std::vector<StringTrait> string_traits; // one a string, the thinnest first; empty: not known
    std::vector<NearMiss> misses;           // by onset
    std::vector<NamedChord> chord_names;    // by time
    std::vector<SheetMark> marks;           // by time
    std::vector<FollowedTake> followed;     // by time, apart
    std::vector<PaperScore> papers;
    LessonPlan lesson;
    std::vector<Exported> exported;              // one a path, the newest last
    std::vector<Note> notes;                     // by onset, then by id
    std::vector<Reading> readings = {Reading{}}; // "as played" first; never none
    std::vector<LogEntry> log;
    NoteId next_id = 1;
    bool operator==(const Piece&) const = default;

    Reading& asPlayed() { return readings.front(); }
    const Reading& asPlayed() const { return readings.front(); }
    // The notes with what that reading says of each.
    Rows rows(std::size_t reading = 0) const { return {notes, readings[reading].plans}; }
    // The leading take; null for a tab without a recording.
    Take* lead() { return takes.empty() ? nullptr : &takes.front(); }
    const Take* lead() const { return takes.empty() ? nullptr : &takes.front(); }
    std::optional<std::size_t> indexOf(NoteId id) const;
    const Note* note(NoteId id) const;
    const NotePlan* plan(NoteId id) const; // of "as played"
};

// What must hold of every piece; the message names the first thing that does not. Every reader's
// result and every edit is held against it, and nothing is written that does not pass.
Status checkPiece(const Piece& piece);

// The signature with the fewest notes outside its scale, nearest to C among equals.
KeySignature guessKey(const std::vector<Note>& notes);

} // namespace wirenote
