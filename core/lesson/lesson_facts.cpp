#include "lesson/lesson_facts.h"

#include <algorithm>
#include <map>
#include <set>

namespace wirenote {
namespace {

std::vector<ScoreNote> byNote(const Piece& piece, const Quantised& quantised) {
    std::vector<ScoreNote> notes(piece.notes.size());
    for (std::size_t i = 0; i < notes.size(); ++i) {
        notes[i].index = i;
        notes[i].grace = true; // what is not written
    }
    for (const ScoreNote& note : quantised.notes)
        notes[note.index] = note;
    return notes;
}

// Three pitches or more, or what a person calls so: two notes of a tune are no chord to be taught.
std::vector<ChordSpan> namedChords(const Piece& piece) {
    constexpr std::size_t kChord = 3;
    std::vector<ChordSpan> named;
    for (ChordSpan& span : chordsOf(piece)) {
        std::set<int> classes;
        const auto from =
            std::ranges::lower_bound(piece.notes, span.span.start_s - 1e-3, {}, &Note::onset_s);
        for (auto note = from;
             note != piece.notes.end() && note->onset_s() < span.span.end_s - 1e-3;
             ++note)
            if (note->pitched())
                classes.insert(note->midi() % 12);
        if (!span.said.empty() || (span.chord.named() && classes.size() >= kChord))
            named.push_back(std::move(span));
    }
    return named;
}

} // namespace

LessonFacts::LessonFacts(const Piece& piece) : m_piece(piece), m_map(piece.timeline) {
    const Quantised quantised = quantise(piece);
    m_score_notes = byNote(piece, quantised);
    std::map<Rational, std::vector<std::size_t>> together, graces;
    for (const ScoreNote& note : quantised.notes)
        if (!note.grace)
            together[note.start].push_back(note.index);
        else
            graces[note.start].push_back(note.index);
    for (auto& [start, notes] : together) {
        std::ranges::stable_sort(notes, std::ranges::greater{}, [this](std::size_t i) {
            return plan(i).position.value.string;
        });
        LessonMoment moment{
            start, placeAt(start), metreAt(start), m_piece.notes[notes[0]].onset_s(), notes, {}};
        for (const std::size_t i : notes)
            moment.time_s = std::min(moment.time_s, m_piece.notes[i].onset_s());
        if (const auto small = graces.find(start); small != graces.end())
            moment.graces = small->second;
        m_moments.push_back(std::move(moment));
    }
    m_sheet = writeSheet(piece, {}, piece.lesson.manner.count);
    m_count = countOf(piece, quantised, piece.lesson.manner.count);
    m_bars = contentsOf(piece, quantised);
    m_chords = namedChords(piece);
}

std::optional<std::size_t> LessonFacts::momentOf(std::size_t note) const {
    if (m_score_notes[note].grace)
        return std::nullopt;
    const auto at =
        std::ranges::lower_bound(m_moments, m_score_notes[note].start, {}, &LessonMoment::start);
    return at == m_moments.end() ? std::nullopt
                                 : std::optional(static_cast<std::size_t>(at - m_moments.begin()));
}

SpokenPlace LessonFacts::placeAt(Rational quarters) const {
    const GridBar bar = m_map.grid().barAt(quarters);
    const Rational beats = (quarters - bar.start) / bar.metre.beatLength();
    return {bar.number, static_cast<int>(beats.floor()), beats - Rational(beats.floor())};
}

Metre LessonFacts::metreAt(Rational quarters) const {
    return m_map.grid().barAt(quarters).metre;
}

std::pair<std::size_t, std::size_t> LessonFacts::momentsIn(Rational from, Rational to) const {
    const auto at = [this](Rational quarters) {
        return static_cast<std::size_t>(
            std::ranges::lower_bound(m_moments, quarters, {}, &LessonMoment::start) -
            m_moments.begin());
    };
    return {at(from), at(std::max(from, to))};
}

std::string LessonFacts::chordName(const ChordSpan& chord) const {
    return chordText(chord, m_piece.key.spelling());
}

} // namespace wirenote
