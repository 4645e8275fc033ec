// The notes as the plucking hand meets them: what one of its movements begins, where on the
// strings, and when.
#pragma once

#include "music/instrument.h"
#include "piece/one_stroke.h"
#include "piece/reading.h"
#include "piece/timeline.h"
#include "plucking/attacks.h"

#include <limits>
#include <optional>
#include <vector>

namespace wirenote {

// One attack with what its strokes depend on.
struct Pluck : Attack {
    std::vector<int> strings; // on which it lies, the thickest first
    bool by_times = false;    // its order is that of the notes' own times, heard or written
    double spread_s = 0.0;    // from its first note to its last
    double beat = 0.0;        // where among the beats; 0 where nobody knows any
    double gap_s = std::numeric_limits<double>::infinity(); // since the attack before

    bool slurred_into = false; // a slur lies between it and the attack before
    bool rings = false;  // above the bass strings, into or out of an attack on another of them
    bool damped = false; // by the palm, or dead
    bool ghost = false;  // a hand that passes over damped strings
    bool fifth = false;  // a root and its fifth
    bool downbeat = false;
    double beats_since = std::numeric_limits<double>::infinity(); // the attack before, in beats
    double slot = 0.5; // of a beat: what the hand's strokes divide it into here

    bool single() const { return notes.size() == 1; }
    int string() const { return strings.empty() ? 0 : strings.front(); }
    int across() const { return strings.empty() ? 0 : strings.front() - strings.back() + 1; }
    // Strings with others between them that are left out.
    bool skips() const { return across() > static_cast<int>(strings.size()); }
};

class PluckedLine {
  public:
    PluckedLine(const Instrument& instrument, const Timeline& timeline, const Rows& rows);
    const Instrument& instrument() const { return m_instrument; }
    const Rows& rows() const { return m_rows; }
    std::size_t size() const { return m_plucks.size(); }
    const Pluck& at(std::size_t i) const { return m_plucks[i]; }
    const std::vector<Pluck>& plucks() const { return m_plucks; }
    // The same where nobody knows in which order strings sounded.
    PluckedLine withoutOrder() const;
    bool hasBeats() const { return m_has_beats; }
    bool compound() const { return m_compound; } // beats of three parts
    // The three thickest of six strings, two of four or five: the thumb's.
    bool onBass(int string) const {
        const int strings = m_instrument.stringCount();
        return strings - string < (strings >= 6 ? 3 : 2);
    }
    // A run of single notes, one a string, that goes over neighbouring strings one way: how many
    // of them there are where `i` is one, 0 otherwise.
    int sweep(std::size_t i) const { return m_sweeps[i].length; }
    bool sweepsDown(std::size_t i) const { return m_sweeps[i].down; }

  private:
    struct Sweep {
        int length = 0;
        bool down = false; // from thick to thin
    };
    void markRings();
    void markSlots();
    void markSweeps();

    const Instrument& m_instrument;
    Rows m_rows;
    bool m_has_beats = false;
    bool m_compound = false;
    std::vector<Pluck> m_plucks;
    std::vector<Sweep> m_sweeps;
};

} // namespace wirenote
