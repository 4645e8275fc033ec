// What a lesson speaks of: one reading in score time, worked out once.
#pragma once

#include "form/form.h"
#include "form/harmony.h"
#include "lesson/speaker.h"
#include "piece/timeline_map.h"
#include "score/sheet.h"

#include <optional>
#include <vector>

namespace wirenote {

// What begins together, graces apart.
struct LessonMoment {
    Rational start; // quarter notes from bar 1
    SpokenPlace place;
    Metre metre;
    double time_s = 0.0;             // when it was played
    std::vector<std::size_t> notes;  // into Piece::notes, the thickest string first
    std::vector<std::size_t> graces; // written small before them
};

// "As played" of a piece (inReading gives every other reading as such a piece).
class LessonFacts {
  public:
    // The piece must outlive it and stay as it is.
    explicit LessonFacts(const Piece& piece);

    const Piece& piece() const { return m_piece; }
    const NotePlan& plan(std::size_t note) const { return m_piece.asPlayed().plans[note]; }
    const std::vector<LessonMoment>& moments() const { return m_moments; } // by time
    const Sheet& sheet() const { return m_sheet; }
    const std::vector<CountMark>& count() const { return m_count; } // the whole piece counted
    const std::vector<BarContent>& bars() const { return m_bars; }
    const std::vector<ChordSpan>& chords() const { return m_chords; } // worth a name
    const TimelineMap& map() const { return m_map; }
    const ScoreNote& scoreNote(std::size_t note) const { return m_score_notes[note]; }
    // Where a note's moment is; nothing for a grace, and for what is not written.
    std::optional<std::size_t> momentOf(std::size_t note) const;
    SpokenPlace placeAt(Rational quarters) const;
    Metre metreAt(Rational quarters) const;
    // Moments from `from` on and before `to`, as a half-open range of indices.
    std::pair<std::size_t, std::size_t> momentsIn(Rational from, Rational to) const;
    std::string chordName(const ChordSpan& chord) const;

  private:
    const Piece& m_piece;
    TimelineMap m_map;
    std::vector<ScoreNote> m_score_notes; // by note
    std::vector<LessonMoment> m_moments;
    Sheet m_sheet;
    std::vector<CountMark> m_count;
    std::vector<BarContent> m_bars;
    std::vector<ChordSpan> m_chords;
};

} // namespace wirenote
