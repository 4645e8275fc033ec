// What must hold of every piece, whether a reader made it or an edit: bounds on everything that is
// counted, lasts or is written out, so that no small file becomes a large one.
#include "base/text.h"
#include "piece/in_reading.h"
#include "piece/piece.h"
#include "piece/timeline_map.h"

#include <algorithm>
#include <cmath>
#include <vector>

namespace wirenote {
namespace {

Error wrong(const std::string& what) {
    return badInput({}, what);
}

bool isTime(double seconds) {
    return std::abs(seconds) <= kLongestPiece_s; // and a number
}

Status checkTexts(const Piece& piece) {
    if (!isPlain(piece.title))
        return wrong("its title is longer than " + std::to_string(kLongestName) +
                     " bytes, or holds characters that no file can");
    for (const std::string& who : {piece.about.composer,
                                   piece.about.player,
                                   piece.about.transcriber,
                                   piece.about.subtitle,
                                   piece.about.source,
                                   piece.about.date})
        if (!isPlain(who))
            return wrong("a line at the head of its sheet is longer than " +
                         std::to_string(kLongestName) +
                         " bytes, or holds characters that no file can");
    if (piece.chord_names.size() > kMaxNamedChords ||
        !std::ranges::is_sorted(piece.chord_names, {}, &NamedChord::at_s))
        return wrong("the names of its chords are too many, or not in order");
    for (const NamedChord& chord : piece.chord_names)
        if (!isPlain(chord.name) || chord.name.empty() || !isTime(chord.at_s) || chord.at_s < 0.0)
            return wrong("the name of a chord is empty or too long, or lies nowhere in the piece");
    if (!soundMarks(piece.marks, kLongestPiece_s))
        return wrong(
            "the marks of its sheet are too many, not in order, or one says nothing or lies "
            "nowhere in the piece");
    if (piece.readings.empty() || piece.readings.size() > kMaxReadings)
        return wrong("it has no reading, or more than " + std::to_string(kMaxReadings));
    for (const Reading& reading : piece.readings)
        if (!isPlain(reading.head.name) || !isPlain(reading.head.purpose, kLongestRemark))
            return wrong(
                "the name of its reading is too long, or holds characters that no file can");
    if (piece.log.size() > kMaxLogEntries)
        return wrong("its log has more than " + std::to_string(kMaxLogEntries) + " entries");
    for (const LogEntry& entry : piece.log)
        if (!isPlain(entry.when) || !isPlain(entry.what) || !isPlain(entry.who) ||
            !isPlain(entry.from) || !isPlain(entry.to) || !isPlain(entry.evidence) ||
            !isPlain(entry.rejected) || !isPlain(entry.reading) ||
            !isPlain(entry.remark, kLongestRemark))
            return wrong("an entry of its log is too long, or holds characters that no file can");
    return {};
}

Status checkNote(const Note& note, const std::string& where) {
    if (!isTime(note.onset_s()) || !isTime(note.offset_s()) || note.onset_s() < 0.0 ||
        note.time.value.empty())
        return wrong(where + " does not end after it starts, or lies beyond a day");
    if (!(note.pitch.value >= 0.0 && note.pitch.value <= 127.0))
        return wrong(where + " has no possible pitch");
    for (const PitchPoint& point : note.curve)
        if (!isTime(point.time_s) || !(std::abs(point.dev_cents) <= kMostBend_cents))
            return wrong(where + " has a pitch curve that no string can follow");
    return {};
}

Status checkRemarks(const Note& note, const std::string& where) {
    if (!isPlain(note.need.when) ||
        !(note.need.above_bpm >= 0.0 && note.need.above_bpm <= kFastestTempo_bpm))
        return wrong(where + " may be left out under a condition that cannot be");
    std::vector<DoubtKind> kinds;
    for (const LeftOpen& one : note.left_open) {
        if (!isPlain(one.word) || std::ranges::find(kinds, one.kind) != kinds.end())
            return wrong(where + " is left open twice, or with too long a word");
        kinds.push_back(one.kind);
    }
    return {};
}

Status checkFacts(const Note& note, const Piece& piece, const std::string& where) {
    if (note.facts.size() > kMaxFactsOfNote)
        return wrong(where + " has more than " + std::to_string(kMaxFactsOfNote) + " facts");
    for (const NoteFacts& from : note.facts)
        if (from.take >= std::max<std::size_t>(1, piece.takes.size()) ||
            !isTime(from.span.start_s) || !isTime(from.span.end_s))
            return wrong(where + " has facts from a take or a time that is not there");
    return {};
}

const Instrument& neckOf(const Piece& piece, const Reading& reading) {
    return reading.head.instrument ? *reading.head.instrument : piece.instrument;
}

Status checkPlan(const NotePlan& plan,
                 const Note& note,
                 const Instrument& instrument,
                 const std::string& where) {
    if (plan.note != note.id)
        return wrong(where + " has a wrong number");
    const Position p = plan.position.value;
    if (p.string != 0 &&
        (!instrument.hasString(p.string) || p.fret < 0 || p.fret > instrument.highestFret()))
        return wrong(where + " is placed off the neck");
    for (const double sure :
         {plan.position.probability, plan.finger.probability, plan.stroke.probability})
        if (!(sure >= 0.0 && sure <= 1.0 + 1e-6))
            return wrong(where + " has a place, finger or stroke of no possible probability");
    return {};
}

// What it sounds in a reading.
Status checkDeparture(const NotePlan& plan,
                      const Note& note,
                      const ReadingHead& head,
                      const std::string& where) {
    const double midi = note.pitch.value + head.semitones + plan.departure.semitones;
    if (!plan.departure.left_out && !(midi >= 0.0 && midi <= 127.0))
        return wrong(where + " has no possible pitch in the reading \"" + head.name + "\"");
    return {};
}

// Of one note, in every reading.
Status checkPlans(const Piece& piece, std::size_t i, const std::string& where) {
    for (const Reading& reading : piece.readings)
        for (const Status& part :
             {checkPlan(reading.plans[i], piece.notes[i], neckOf(piece, reading), where),
              checkDeparture(reading.plans[i], piece.notes[i], reading.head, where)})
            if (!part)
                return part;
    return {};
}

Status checkOrigins(const ReadingHead& head) {
    if (head.origins.size() > kMaxOrigins)
        return wrong("a reading comes from more than " + std::to_string(kMaxOrigins) + " places");
    double end_s = -kLongestPiece_s;
    for (const Origin& one : head.origins) {
        if (!isTime(one.span.start_s) || !isTime(one.span.end_s) || one.span.empty() ||
            one.span.start_s < end_s || !isPlain(one.of) || !isPlain(one.why, kLongestRemark))
            return wrong("the stretches that a reading has from others do not follow each other");
        end_s = one.span.end_s;
    }
    return {};
}

// What only readings other than the first have.
Status checkReading(const Piece& piece, const Reading& reading) {
    const ReadingHead& head = reading.head;
    if (&reading == &piece.readings.front() && !sameNotes(reading))
        return wrong("its first reading departs from what was played");
    if (head.instrument)
        if (const Status instrument = checkInstrument(*head.instrument); !instrument)
            return instrument;
    if (!isPlain(head.made_from) || !isPlain(head.statement) ||
        !(head.tempi.from_bpm >= 0.0 && head.tempi.to_bpm >= 0.0) || head.semitones < -127 ||
        head.semitones > 127)
        return wrong("a reading has an origin, a tempo or a pitch that cannot be");
    if (const Status origins = checkOrigins(head); !origins)
        return origins;
    if (head.added.size() > kMaxAdded ||
        !std::ranges::is_sorted(
            head.added, {}, [](const AddedNote& a) { return a.note.onset_s(); }))
        return wrong("a reading adds too many notes, or not in order");
    for (std::size_t i = 0; i < head.added.size(); ++i) {
        const auto& [note, plan] = head.added[i];
        const std::string where = "added note " + std::to_string(i + 1);
        if (note.id <= 0 || note.id >= piece.next_id)
            return wrong(where + " has a wrong number");
        for (const Status& part : {checkNote(note, where),
                                   checkRemarks(note, where),
                                   checkFacts(note, piece, where),
                                   checkPlan(plan, note, neckOf(piece, reading), where)})
            if (!part)
                return part;
    }
    return {};
}

Status checkPapers(const Piece& piece) {
    if (piece.papers.size() > kMaxPapers || piece.exported.size() > kMaxExported)
        return wrong("it has too many scores on paper, or files that were written from it");
    for (const Exported& one : piece.exported)
        if (one.path.size() > kLongestPath || !isPlain(one.when) || !isPlain(one.reading) ||
            !isPlain(one.content))
            return wrong("a file that was written from it has too long a name");
    for (const PaperScore& paper : piece.papers) {
        if (!isPlain(paper.name) || paper.path.size() > kLongestPath ||
            paper.pins.size() > kMaxPins || !std::ranges::is_sorted(paper.pins, {}, &PagePin::bar))
            return wrong("a score on paper has too long a name, or too many pins");
        for (const PagePin& pin : paper.pins)
            if (pin.page < 0 || pin.page >= kMaxPages || !(pin.x >= 0.0 && pin.x <= 1.0) ||
                !(pin.y >= 0.0 && pin.y <= 1.0))
                return wrong("a bar is pinned to no place on its page");
    }
    return {};
}

Status checkNumbers(const std::vector<NoteId>& ids) {
    std::vector<NoteId> sorted = ids;
    std::ranges::sort(sorted);
    const auto twice = std::ranges::adjacent_find(sorted);
    if (twice == sorted.end())
        return {};
    const auto second = std::ranges::find(std::ranges::find(ids, *twice) + 1, ids.end(), *twice);
    return wrong("note " + std::to_string(second - ids.begin() + 1) +
                 " has the number of another note");
}

Status checkNotes(const Piece& piece) {
    if (piece.notes.size() > kMaxNotes)
        return wrong("it has more than " + std::to_string(kMaxNotes) + " notes");
    for (const Reading& reading : piece.readings)
        if (piece.notes.size() != reading.plans.size())
            return wrong("it has " + std::to_string(piece.notes.size()) + " notes but " +
                         std::to_string(reading.plans.size()) + " placements");
    std::vector<NoteId> ids;
    ids.reserve(piece.notes.size());
    for (std::size_t i = 0; i < piece.notes.size(); ++i) {
        const Note& note = piece.notes[i];
        const std::string where = "note " + std::to_string(i + 1);
        if (note.id <= 0 || note.id >= piece.next_id)
            return wrong(where + " has a wrong number");
        ids.push_back(note.id);
        if (const Status sound = checkNote(note, where); !sound)
            return sound;
        if (const Status remarks = checkRemarks(note, where); !remarks)
            return remarks;
        if (i > 0 && note.onset_s() < piece.notes[i - 1].onset_s())
            return wrong(where + " comes before the one in front of it");
        if (const Status facts = checkFacts(note, piece, where); !facts)
            return facts;
        if (const Status plans = checkPlans(piece, i, where); !plans)
            return plans;
    }
    for (const Reading& reading : piece.readings) {
        if (const Status sound = checkReading(piece, reading); !sound)
            return sound;
        for (const AddedNote& added : reading.head.added)
            ids.push_back(added.note.id);
    }
    return checkNumbers(ids);
}

Status checkMisses(const Piece& piece) {
    if (piece.misses.size() > kMaxMisses)
        return wrong("it has more than " + std::to_string(kMaxMisses) + " nearly heard notes");
    for (const NearMiss& miss : piece.misses)
        if (!isTime(miss.time.start_s) || !isTime(miss.time.end_s) ||
            miss.time.end_s < miss.time.start_s || miss.midi < 0 || miss.midi > 127)
            return wrong("a nearly heard note has no possible time or pitch");
    return {};
}

Status checkSoundSpans(const Take& take) {
    if (take.sound_spans.size() > kMaxSoundSpans)
        return wrong("a take has more than " + std::to_string(kMaxSoundSpans) + " spans");
    for (const SoundSpan& one : take.sound_spans)
        if (!isTime(one.span.start_s) || !isTime(one.span.end_s) || one.span.empty())
            return wrong("a span of a take does not end after it starts, or lies beyond a day");
    return {};
}

Status checkKinds(const Take& take) {
    if (take.sounds_like.size() > kMaxKindGuesses)
        return wrong("a take sounds like too many instruments");
    for (const KindGuess& one : take.sounds_like)
        if (!(one.probability >= 0.0 && one.probability <= 1.0))
            return wrong("what a take sounds like has no possible probability");
    return {};
}

Status checkShown(const Take& take) {
    if (take.demonstrations.size() > kMaxDemonstrations || take.notes.size() > kMaxNotes)
        return wrong("a take has more than " + std::to_string(kMaxDemonstrations) +
                     " demonstrations or " + std::to_string(kMaxNotes) + " notes");
    double end_s = 0.0;
    for (const Demonstration& one : take.demonstrations) {
        if (!isTime(one.span.start_s) || !isTime(one.span.end_s) || one.span.empty() ||
            one.span.start_s < end_s - 1e-6)
            return wrong("the demonstrations of a take do not follow each other");
        end_s = one.span.end_s;
        if (!rises(one.moments) || (!one.moments.empty() && !(isTime(one.moments.front().piece_s) &&
                                                              isTime(one.moments.back().piece_s) &&
                                                              isTime(one.moments.back().take_s))))
            return wrong("a demonstration does not go forward in time");
    }
    for (const TakeNote& note : take.notes)
        if (!isTime(note.time.start_s) || !isTime(note.time.end_s) || note.midi < 0 ||
            note.midi > 127 || note.time.end_s < note.time.start_s)
            return wrong("a note of a take has no possible time or pitch");
    return {};
}

Status checkFollowed(const Piece& piece) {
    if (piece.followed.size() > kMaxFollowed)
        return wrong("it follows other takes in more than " + std::to_string(kMaxFollowed) +
                     " places");
    double end_s = -kLongestPiece_s;
    for (const FollowedTake& one : piece.followed) {
        if (!isTime(one.span.start_s) || !isTime(one.span.end_s) || one.span.empty() ||
            one.span.start_s < end_s || one.take >= piece.takes.size())
            return wrong("a stretch that follows a take does not follow the one before it, or its "
                         "take is not there");
        end_s = one.span.end_s;
    }
    return {};
}

Status checkAlignment(const Take& take, const std::string& where) {
    if (!take.alignment.valid())
        return wrong(where + " is not lined up forward in time");
    for (const TakeAlignment::Stretch& stretch : take.alignment.stretches)
        for (const TakeAlignment::Moment& m : stretch)
            if (!isTime(m.piece_s) || !isTime(m.take_s))
                return wrong(where + " is lined up with moments beyond a day");
    return {};
}

Status checkTakes(const Piece& piece) {
    if (piece.takes.size() > kMaxTakes)
        return wrong("it has more than " + std::to_string(kMaxTakes) + " takes");
    for (const Take& take : piece.takes) {
        if (const Status spans = checkSoundSpans(take); !spans)
            return spans;
        if (const Status kinds = checkKinds(take); !kinds)
            return kinds;
        if (const Status shown = checkShown(take); !shown)
            return shown;
        if (!isPlain(take.name) || !isPlain(take.origin, kLongestRemark) ||
            !isPlain(take.remark, kLongestRemark) || take.path.size() > kLongestPath)
            return wrong("a take has a name, path or remark that is too long, or holds characters "
                         "that no file can");
        const std::string where = "the take \"" + take.name + "\"";
        if (const Status lined_up = checkAlignment(take, where); !lined_up)
            return lined_up;
        if (!(take.length_s >= 0.0) || !isTime(take.length_s))
            return wrong(where + " is longer than a day");
        if (!isTime(take.trim.start_s) || !isTime(take.trim.end_s) || take.trim.start_s < 0.0 ||
            take.trim.end_s < take.trim.start_s)
            return wrong(where + " has a part to hear that does not lie in it");
    }
    return {};
}

Status checkBeats(const Timeline& timeline) {
    const auto& beats = timeline.beats_s;
    if (beats.size() > kMaxBeats)
        return wrong("it has more than " + std::to_string(kMaxBeats) + " beats");
    if (!(timeline.tempo_bpm >= 0.0 && timeline.tempo_bpm <= kFastestTempo_bpm))
        return wrong("its tempo does not lie between 0 and " +
                     std::to_string(static_cast<int>(kFastestTempo_bpm)));
    for (std::size_t i = 0; i < beats.size(); ++i) {
        if (!isTime(beats[i]))
            return wrong("its beats go on beyond a day");
        if (i > 0 && !(beats[i] >= beats[i - 1]))
            return wrong("its beats are not in order");
        if (i > 0 && beats[i] - beats[i - 1] < kLeastBeat_s)
            return wrong("its beats are closer together than a hundredth of a second");
    }
    const auto count = static_cast<int>(beats.size());
    if (timeline.first_downbeat < -kMostPickupBeats ||
        timeline.first_downbeat > count + kMostPickupBeats)
        return wrong("its bar 1 does not begin among its beats");
    for (const int pinned : timeline.pinned)
        if (pinned < 0 || pinned >= count)
            return wrong("a placed beat is not among its beats");
    if (!std::ranges::is_sorted(timeline.pinned) ||
        !std::ranges::is_sorted(timeline.divisions, {}, &SetDivision::beat))
        return wrong("its placed or divided beats are not in order");
    for (const SetDivision& division : timeline.divisions)
        if (division.beat < 0 || division.beat >= count || division.parts < 1 ||
            division.parts > 12)
            return wrong("a divided beat is not among its beats");
    return {};
}

Status checkTimeline(const Timeline& timeline) {
    if (const Status beats = checkBeats(timeline); !beats)
        return beats;
    int bar = 1;
    for (const MetreChange& change : timeline.changes) {
        if (change.bar <= bar)
            return wrong("its metre changes are not in order of bars");
        if (change.bar > kMostBars)
            return wrong("its metre changes after bar " + std::to_string(kMostBars));
        bar = change.bar;
    }
    if (!(timeline.swing >= 1.0 && timeline.swing <= kMostSwing))
        return wrong("its swing does not lie between 1 and 3");
    if (timeline.sections.size() > kMaxSections)
        return wrong("it has more than " + std::to_string(kMaxSections) + " sections");
    for (const Section& section : timeline.sections)
        if (!isPlain(section.label) || !isTime(section.span.start_s) ||
            !isTime(section.span.end_s) || section.span.end_s < section.span.start_s)
            return wrong("a section has a name that is too long, or does not end after it starts");
    return {};
}

// How many bars are written out for these notes, as the tempo at both ends goes on.
Status checkBars(const Piece& piece) {
    const TimelineMap map(piece.timeline);
    double first_s = piece.timeline.beats_s.empty() ? 0.0 : piece.timeline.beats_s.front();
    double last_s = piece.timeline.beats_s.empty() ? 0.0 : piece.timeline.beats_s.back();
    for (const Note& note : piece.notes) {
        first_s = std::min(first_s, note.onset_s());
        last_s = std::max(last_s, note.offset_s());
    }
    const double from = map.quartersAt(first_s);
    const double to = map.quartersAt(last_s);
    const bool sane = std::abs(from) <= kMostQuarters && std::abs(to) <= kMostQuarters;
    if (!sane || map.barBeatAt(last_s).bar - map.barBeatAt(first_s).bar > kMostBars)
        return wrong("it would have more than " + std::to_string(kMostBars) +
                     " bars, as its beats go on to its last note");
    return {};
}

} // namespace

Status checkPiece(const Piece& piece) {
    for (const Status& part : {checkInstrument(piece.instrument),
                               checkTexts(piece),
                               checkNotes(piece),
                               checkMisses(piece),
                               checkTakes(piece),
                               checkFollowed(piece),
                               checkPapers(piece),
                               checkLesson(piece.lesson),
                               checkTimeline(piece.timeline)})
        if (!part)
            return part;
    return checkBars(piece); // needs sound beats
}

} // namespace wirenote
