// A reading: one complete set of placements and strokes over the heard notes, and what it rests on.
#pragma once

#include "piece/fretting_manner.h"
#include "piece/note.h"

#include <optional>
#include <span>
#include <string>
#include <vector>

namespace wirenote {

// What another reading of the same notes is made for, beside its school: to be played otherwise
// than it was. Easiest; in one position (value: the fret of the index finger; 0: the best one);
// without open strings; without barres; no stretch over `value` frets; for a small hand; at `value`
// times the tempo; easier, with less in it: level `value` (core/readings/thinning.h).
enum class WishKind {
    None,
    Easiest,
    OnePosition,
    NoOpen,
    NoBarre,
    Stretch,
    SmallHand,
    Tempo,
    Easier
};
struct ReadingWish {
    WishKind kind = WishKind::None;
    double value = 0.0;
    bool operator==(const ReadingWish&) const = default;
};

// What the strings are struck with. Unknown: nobody has said, and the notes were not asked yet.
// Both: a pick and the fingers that do not hold it.
enum class PluckingTool { Unknown, Pick, Fingers, Both };

// The rules that the plucking hand is taken to follow (docs/plucking-schools.md). With a pick:
// Alternate: down on the beat, up off it; Sequence: one after the other, whatever the beat;
// Economy: on over neighbouring strings the way they lie; Sweep: the same in runs of one note a
// string; Down: down-strokes only; Cross: alternating from string to string; Strum: a hand that
// never stops. Fingers: Pima: thumb and a finger a string; Thumb: it alternates under a tune; Im,
// Ma: two fingers take turns; Slap: thumb and pops. Hybrid: the pick, and middle and ring for what
// it cannot reach.
enum class PluckingSchool {
    Unknown,
    Alternate,
    Pima,
    Im,
    Hybrid,
    Sequence,
    Economy,
    Sweep,
    Down,
    Cross,
    Strum,
    Thumb,
    Ma,
    Slap
};
constexpr std::size_t kPluckingSchools = 13; // but for Unknown
PluckingTool toolOf(PluckingSchool school);  // what it is played with

// How a strumming or alternating hand moves: strokes to a beat (0: as each place suggests), how far
// that agrees with what was heard (0..1), and whether it goes up where others go down: reversed for
// its sound, or the beats lie half a stroke beside.
struct HandMotion {
    int per_beat = 0;
    double trust = 0.0;
    bool reversed = false;
    bool operator==(const HandMotion&) const = default;
};

// A note that only one reading has.
struct AddedNote {
    Note note;
    NotePlan plan;
    bool operator==(const AddedNote&) const = default;
};
constexpr std::size_t kMaxAdded = 20000;

// From where a stretch of a reading was taken: another reading, or a score, by its name.
struct Origin {
    TimeRange span; // seconds
    std::string of;
    std::string why; // in a person's words
    bool operator==(const Origin&) const = default;
};
constexpr std::size_t kMaxOrigins = 5000;

// At which tempi a reading is for: felt beats a minute; 0: no bound.
struct TempoRange {
    double from_bpm = 0.0;
    double to_bpm = 0.0;
    bool operator==(const TempoRange&) const = default;
    bool holds(double bpm) const { return bpm >= from_bpm && (to_bpm == 0.0 || bpm <= to_bpm); }
};

// How exact a reading is. NoteForNote: each note as it was played, and where; Essence: the same
// notes, not all of it known or kept; Adapted: changed on purpose.
enum class Exactness { NoteForNote, Essence, Adapted };

struct ReadingHead {
    std::string name = "as played";
    std::string purpose; // what it is for, in a person's words
    FrettingManner fretting;
    ReadingWish wish; // but for None, what was heard of strings does not count
    // Asked of the notes once (plucking/strokes.h) and then kept, so that no edit turns every
    // stroke of the piece over. Heard, reasoned or set.
    Decision<PluckingTool> tool;
    Decision<PluckingSchool> plucking_school;
    std::optional<HandMotion> motion; // of a hand with a pick, once it was asked
    // What only readings other than "as played" have.
    std::string made_from;                // the reading or the score it began as
    std::optional<Instrument> instrument; // where it is not the piece's
    int semitones = 0;                    // how much higher it sounds
    std::vector<Origin> origins;          // by time, apart; elsewhere it is as `made_from`
    std::vector<AddedNote> added;         // by onset, then by id
    TempoRange tempi;
    std::optional<Exactness> claim; // what a person says of it (piece/exactness.h)
    // How exact it is in one line, where it was taken out of its piece and what it departs from is
    // not there any more; empty: as piece/exactness.h finds it.
    std::string statement;
    bool operator==(const ReadingHead&) const = default;
};

struct Reading {
    ReadingHead head;
    std::vector<NotePlan> plans; // same order as Piece::notes
    bool operator==(const Reading&) const = default;
};

// A note with what a reading says of it.
struct Row {
    const Note& note;
    const NotePlan& plan;
};

// Notes in order of time with what one reading says of each: what solvers walk.
class Rows {
  public:
    // As many plans as notes.
    Rows(std::span<const Note> notes, std::span<const NotePlan> plans)
        : m_notes(notes), m_plans(plans) {}

    std::size_t size() const { return m_notes.size(); }
    bool empty() const { return m_notes.empty(); }
    Row operator[](std::size_t i) const { return {m_notes[i], m_plans[i]}; }
    const std::span<const Note>& notes() const { return m_notes; }
    const std::span<const NotePlan>& plans() const { return m_plans; }
    Rows part(std::size_t from, std::size_t to) const {
        return {m_notes.subspan(from, to - from), m_plans.subspan(from, to - from)};
    }

    class Iterator {
      public:
        Iterator(const Rows& rows, std::size_t at) : m_rows(&rows), m_at(at) {}
        Row operator*() const { return (*m_rows)[m_at]; }
        Iterator& operator++() {
            ++m_at;
            return *this;
        }
        bool operator!=(const Iterator& other) const { return m_at != other.m_at; }

      private:
        const Rows* m_rows;
        std::size_t m_at;
    };
    Iterator begin() const { return {*this, 0}; }
    Iterator end() const { return {*this, size()}; }

  private:
    std::span<const Note> m_notes;
    std::span<const NotePlan> m_plans;
};

} // namespace wirenote
