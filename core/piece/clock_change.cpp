#include "piece/clock_change.h"

#include "piece/piece.h"

#include <algorithm>

namespace wirenote {
namespace {

void changeTake(Take& take, const ClockChange& clock) {
    if (!take.trim.empty())
        take.trim = clock.of(take.trim);
    for (SoundSpan& one : take.sound_spans)
        one.span = clock.of(one.span);
    for (TakeNote& note : take.notes)
        note.time = clock.of(note.time);
    for (Demonstration& one : take.demonstrations) {
        one.span = clock.of(one.span);
        for (SharedMoment& m : one.moments)
            m.take_s = clock.of(m.take_s);
    }
    for (TakeAlignment::Stretch& stretch : take.alignment.stretches)
        for (SharedMoment& m : stretch)
            m.take_s = clock.of(m.take_s);
}

void changePieceSeconds(std::vector<SharedMoment>& moments, const ClockChange& clock) {
    for (SharedMoment& m : moments)
        m.piece_s = clock.of(m.piece_s);
}

void changeNotes(Piece& piece, const ClockChange& clock) {
    for (Note& note : piece.notes) {
        note.time.value = clock.of(note.time.value);
        for (auto& other : note.time.runners_up)
            other.value = clock.of(other.value);
        for (PitchPoint& point : note.curve)
            point.time_s = clock.of(point.time_s);
    }
    for (NearMiss& miss : piece.misses)
        miss.time = clock.of(miss.time);
    for (NamedChord& chord : piece.chord_names)
        chord.at_s = clock.of(chord.at_s);
    for (SheetMark& mark : piece.marks) {
        mark.at_s = clock.of(mark.at_s);
        mark.to_s = clock.of(mark.to_s);
    }
    for (FollowedTake& one : piece.followed)
        one.span = clock.of(one.span);
}

void changeTimeline(Timeline& timeline, const ClockChange& clock) {
    timeline.tempo_bpm /= clock.rate;
    for (double& beat : timeline.beats_s)
        beat = clock.of(beat);
    for (Section& section : timeline.sections)
        section.span = clock.of(section.span);
}

} // namespace

void changeClock(Piece& piece, std::size_t take, const ClockChange& clock) {
    // A take with the clock of the piece has one of its own from now on.
    if (auto& alignment = piece.takes[take].alignment; take > 0 && alignment.sameClock())
        alignment.stretches.push_back({{0.0, 0.0}, {1.0, 1.0}});
    changeTake(piece.takes[take], clock);
    for (Note& note : piece.notes)
        for (NoteFacts& from : note.facts)
            if (from.take == take)
                from.span = clock.of(from.span);
    if (take > 0)
        return;
    changeNotes(piece, clock);
    changeTimeline(piece.timeline, clock);
    for (std::size_t i = 0; i < piece.takes.size(); ++i) {
        Take& each = piece.takes[i];
        if (i > 0 && each.alignment.sameClock())
            each.alignment.stretches.push_back({{0.0, 0.0}, {1.0, 1.0}});
        for (TakeAlignment::Stretch& stretch : each.alignment.stretches)
            if (i > 0)
                changePieceSeconds(stretch, clock);
        for (Demonstration& one : each.demonstrations)
            changePieceSeconds(one.moments, clock);
    }
}

} // namespace wirenote
