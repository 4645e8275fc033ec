// The document.
#pragma once

#include "base/result.h"
#include "music/metre.h"
#include "music/pitch.h"
#include "piece/note.h"

#include <optional>
#include <string>
#include <vector>

namespace wirenote {

constexpr std::size_t kMaxNotes = 200000;

// Where a take's A4 stands.
struct TuningReference {
    double a4_hz = kStandardA4Hz;
    double spread_cents = 0.0;
    Basis basis = Basis::Reasoned;
    bool operator==(const TuningReference&) const = default;
    double cents() const { return centsBetween(kStandardA4Hz, a4_hz); }
};

// One recording.
struct Take {
    std::string name;
    std::string path;   // relative to the piece file when it lies beside or below it
    std::string sha256; // of the media file, lower-case hex; empty when not yet known
    double length_s = 0.0;
    TuningReference reference;
    std::vector<std::string>
        cautions; // what to trust less in it ("clipped", "one_silent_channel", …)
    bool operator==(const Take&) const = default;
};

struct Section {
    std::string label;
    TimeRange span;
    bool operator==(const Section&) const = default;
};

// Tempo, metre and bars. beats_s are felt beats (dotted quarters in 6/8), rising.
struct Timeline {
    double tempo_bpm = 0.0; // felt beats a minute; 0 when nobody knows
    Metre metre;
    Basis basis = Basis::Reasoned;
    std::vector<double> beats_s;
    int first_downbeat = 0; // index into beats_s of the first beat of bar 1
    std::vector<Section> sections;
    bool operator==(const Timeline&) const = default;
    std::vector<double> downbeats_s() const;
};

// One complete set of placements and strokes.
struct Reading {
    std::string name;
    std::string fretting_school = "one-finger-per-fret";
    std::string plucking_school = "alternate";
    std::vector<NotePlan> plans; // same order as Piece::notes
    bool operator==(const Reading&) const = default;
};

// Who decided what, when.
struct LogEntry {
    std::string when; // ISO 8601, UTC
    std::string what;
    NoteId note = 0;
    bool operator==(const LogEntry&) const = default;
};

struct Piece {
    std::string title;
    Instrument instrument = standardInstrument(InstrumentKind::Guitar);
    std::optional<Take> take;
    Timeline timeline;
    KeySignature key;
    std::vector<Note> notes; // by onset, then by id
    Reading reading;         // "as played"
    std::vector<LogEntry> log;
    NoteId next_id = 1;
    bool operator==(const Piece&) const = default;

    std::optional<std::size_t> indexOf(NoteId id) const;
    const Note* note(NoteId id) const;
    const NotePlan* plan(NoteId id) const;
};

// What must hold of every piece; the message names the first thing that does not.
Status checkPiece(const Piece& piece);

// The signature with the fewest notes outside its scale, nearest to C among equals.
KeySignature guessKey(const std::vector<Note>& notes);

} // namespace wirenote
