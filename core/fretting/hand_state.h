// The line as it is solved, its moments, and the hand at each of them.
#pragma once

#include "fretting/line_note.h"
#include "hand/hand_model.h"

#include <array>
#include <cstddef>
#include <cstdint>
#include <span>
#include <vector>

namespace wirenote {

// What is given: the notes by onset, and where each could lie.
class HandLine {
  public:
    // All three must live as long as the line. A note that has a fixed place lies there only.
    HandLine(const Instrument& instrument, std::span<const LineNote> notes, const HandModel& model);
    const Instrument& instrument() const { return m_instrument; }
    const HandModel& model() const { return m_model; }
    std::size_t size() const { return m_notes.size(); }
    const LineNote& note(std::size_t i) const { return m_notes[i]; }
    const std::vector<Position>& candidates(std::size_t i) const { return m_candidates[i]; }
    // Whether a finger must hold the note down at this place.
    bool takesFinger(std::size_t i, int fret) const {
        return fret > 0 && !m_notes[i].harmonic && !m_notes[i].dead;
    }
    // Whether a note that lies at this place is likely to be wanted there again soon after
    // `after_s`, with nothing else on its string before.
    bool comesAgain(std::size_t i, Position place, double after_s) const;
    // Whether both belong to one broken chord: from the one to the other only pitches that could be
    // strings of one grip, three of them at least.
    bool oneBrokenChord(std::size_t from, std::size_t to) const;
    // Millimetres along the neck.
    double between_mm(int from_fret, int to_fret) const;

  private:
    const Instrument& m_instrument;
    std::span<const LineNote> m_notes;
    const HandModel& m_model;
    std::vector<std::vector<Position>> m_candidates;
    std::vector<double> m_fret_mm;
    std::vector<std::size_t> m_chord_ends; // of each note, one past the last of its broken chord
};

// What begins together, one note a string: a stroke, or a part of it where notes lead to others on
// their string. Notes that lie nowhere on this neck are in no moment.
struct Moment {
    double onset_s = 0.0;
    std::vector<std::size_t> notes;
};
std::vector<Moment> momentsOf(const HandLine& line);

// Kept: comes again, or belongs to a grip of which a part is struck; Broken: to the broken chord
// that is being played. Unheld: begins where a person put it, and no finger can take it.
enum class Why : std::uint8_t { Nothing, Begins, Rings, Kept, Broken, Unheld };

// What the hand does on one string.
struct OnString {
    static constexpr std::uint32_t kNoNote = 0xffffffff;
    std::uint32_t note = kNoNote;
    std::int8_t fret = 0;
    Finger finger : 5 = Finger::Unknown; // Open: nothing is pressed; Unknown: touched only
    Why why : 3 = Why::Nothing;
    bool operator==(const OnString&) const = default;
    bool stopped() const { return finger >= Finger::Index && finger <= Finger::Little; }
    bool same(const OnString& other) const { return note == other.note && fret == other.fret; }
};

// The hand at one moment: what begins, what rings on, and what it keeps for later. An hour has many
// of them: they are kept small.
struct HandState {
    std::array<OnString, kMaxStrings> strings{}; // [string − 1]
    std::int8_t hand_fret = 1;                   // where the index finger plays, one finger a fret
    bool usual = false;                          // a grip as it is taught
    float cost = 0.0F;                           // of its own
    const OnString& on(int string) const { return strings[static_cast<std::size_t>(string - 1)]; }
    OnString& on(int string) { return strings[static_cast<std::size_t>(string - 1)]; }
};

// A note that a state holds and that is wanted on: it rings past this moment, comes again, or is a
// part of a grip of which another part is struck just after.
struct Carried {
    int string = 1;
    OnString held; // why: Rings, Kept or Broken
    bool operator==(const Carried&) const = default;
};
// What it costs to hold on to it no longer.
double droppingCost(const HandModel& model, Why why);
// What of a state is still wanted at a later moment, string by string.
std::vector<Carried>
carriedFrom(const HandLine& line, const HandState& state, const Moment& moment);

} // namespace wirenote
