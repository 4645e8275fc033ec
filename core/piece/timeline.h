// Tempo, metre and bars of a piece.
#pragma once

#include "base/rational.h"
#include "base/time_range.h"
#include "music/metre.h"
#include "piece/note.h"

#include <string>
#include <vector>

namespace wirenote {

constexpr std::size_t kMaxBeats = 400000;
constexpr std::size_t kMaxSections = 10000;
constexpr double kLeastBeat_s = 0.01;            // from one beat to the next
constexpr double kFastestTempo_bpm = 6000.0;     // … as a tempo
constexpr int kMostPickupBeats = 64;             // bar 1 may begin this far outside the beats
constexpr int kMostBars = 20000;                 // written out, rests counted
constexpr double kMostQuarters = 32.0 * 20000.0; // of bars as long as a metre allows

struct Section {
    std::string label;
    TimeRange span;
    bool operator==(const Section&) const = default;
};

// From this bar on another metre.
struct MetreChange {
    int bar = 2; // 2 and above: bar 1 has the timeline's own metre
    Metre metre;
    bool operator==(const MetreChange&) const = default;
};

// A beat that a person said is divided so.
struct SetDivision {
    int beat = 0; // index into beats_s
    int parts = 1;
    bool operator==(const SetDivision&) const = default;
};

// beats_s are felt beats of the metre there (dotted quarters in 6/8), rising.
struct Timeline {
    double tempo_bpm = 0.0; // felt beats a minute, in the middle; 0 when nobody knows
    Metre metre;
    Basis basis = Basis::Reasoned;
    std::vector<double> beats_s;
    int first_downbeat = 0;           // index into beats_s of the first beat of bar 1
    std::vector<MetreChange> changes; // by bar
    std::vector<int> pinned;          // beats that a person placed, rising: they stay
    double swing = 1.0;               // how much longer the first of two half beats is; 1: straight
    std::vector<SetDivision> divisions; // by beat
    std::vector<Section> sections;
    bool operator==(const Timeline&) const = default;
    std::vector<double> downbeats_s() const;
};

constexpr double kMostSwing = 3.0;

// One bar of a timeline.
struct GridBar {
    int number = 1;     // 0 and below: before the first full bar
    int first_beat = 0; // index into beats_s; may lie before the first or after the last beat
    Metre metre;
    Rational start; // quarter notes from the start of bar 1
};

// Which beat belongs to which bar, metre changes counted in. Bars go on before the first beat and
// after the last as the metre there says.
class BarGrid {
  public:
    explicit BarGrid(const Timeline& timeline);

    struct Place {
        int bar = 1;
        int beat = 0; // within the bar, from 0
        Metre metre;
    };
    Place at(int beat) const; // index of a beat, also of one that is not there
    GridBar bar(int number) const;
    GridBar barAt(Rational quarters) const; // the bar in which score time lies
    Rational quartersOf(int beat) const;    // where a beat lies
    double placeOf(int beat) const;         // the same as a number, quickly
    bool isDownbeat(int beat) const { return at(beat).beat == 0; }

  private:
    std::vector<GridBar> m_starts; // bar 1 and every bar where the metre changes
};

} // namespace wirenote
