#include "piece/piece.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdlib>

namespace wirenote {

int Note::midi() const {
    return static_cast<int>(std::lround(pitch.value));
}

void Note::add(Technique technique) {
    if (!has(technique))
        techniques.push_back(technique);
}

bool Note::has(Technique technique) const {
    return std::find(techniques.begin(), techniques.end(), technique) != techniques.end();
}

double Note::bendSemitones() const {
    double most_cents = 0.0;
    if (has(Technique::Bend))
        for (const PitchPoint& p : curve)
            most_cents = std::max(most_cents, p.dev_cents);
    return std::round(most_cents / 50.0) / 2.0;
}

int Note::frettedMidi() const {
    if (!has(Technique::PreBend))
        return midi();
    double lowest_cents = 0.0;
    for (const PitchPoint& p : curve)
        lowest_cents = std::min(lowest_cents, p.dev_cents);
    return midi() + static_cast<int>(std::lround(lowest_cents / 100.0));
}

std::optional<std::size_t> Piece::indexOf(NoteId id) const {
    for (std::size_t i = 0; i < notes.size(); ++i)
        if (notes[i].id == id)
            return i;
    return {};
}

const Note* Piece::note(NoteId id) const {
    const auto index = indexOf(id);
    return index ? &notes[*index] : nullptr;
}

const NotePlan* Piece::plan(NoteId id) const {
    const auto index = indexOf(id);
    return index && *index < reading.plans.size() ? &reading.plans[*index] : nullptr;
}

Status checkPiece(const Piece& piece) {
    if (const Status instrument = checkInstrument(piece.instrument); !instrument)
        return instrument;
    if (piece.notes.size() > kMaxNotes)
        return badInput({}, "it has more than " + std::to_string(kMaxNotes) + " notes");
    if (piece.notes.size() != piece.reading.plans.size())
        return badInput({},
                        "it has " + std::to_string(piece.notes.size()) + " notes but " +
                            std::to_string(piece.reading.plans.size()) + " placements");
    for (std::size_t i = 0; i < piece.notes.size(); ++i) {
        const Note& note = piece.notes[i];
        const NotePlan& plan = piece.reading.plans[i];
        const std::string where = "note " + std::to_string(i + 1);
        if (note.id <= 0 || note.id >= piece.next_id || plan.note != note.id)
            return badInput({}, where + " has a wrong number");
        if (!std::isfinite(note.onset_s()) || !std::isfinite(note.offset_s()) ||
            note.onset_s() < 0.0 || note.time.value.empty())
            return badInput({}, where + " does not end after it starts");
        if (!(note.pitch.value >= 0.0 && note.pitch.value <= 127.0))
            return badInput({}, where + " has no possible pitch");
        if (i > 0 && note.onset_s() < piece.notes[i - 1].onset_s())
            return badInput({}, where + " comes before the one in front of it");
        const Position p = plan.position.value;
        if (p.string != 0 && (!piece.instrument.hasString(p.string) || p.fret < 0 ||
                              p.fret > piece.instrument.highestFret()))
            return badInput({}, where + " is placed off the neck");
    }
    if (piece.takes.size() > kMaxTakes)
        return badInput({}, "it has more than " + std::to_string(kMaxTakes) + " takes");
    for (const Take& take : piece.takes)
        if (!take.alignment.valid())
            return badInput({}, "the take \"" + take.name + "\" is not lined up forward in time");
    if (!std::is_sorted(piece.timeline.beats_s.begin(), piece.timeline.beats_s.end()))
        return badInput({}, "its beats are not in order");
    int bar = 1;
    for (const MetreChange& change : piece.timeline.changes) {
        if (change.bar <= bar)
            return badInput({}, "its metre changes are not in order of bars");
        bar = change.bar;
    }
    if (!(piece.timeline.swing >= 1.0 && piece.timeline.swing <= kMostSwing))
        return badInput({}, "its swing does not lie between 1 and 3");
    const auto beats = static_cast<int>(piece.timeline.beats_s.size());
    for (const int pinned : piece.timeline.pinned)
        if (pinned < 0 || pinned >= beats)
            return badInput({}, "a placed beat is not among its beats");
    if (!std::ranges::is_sorted(piece.timeline.pinned) ||
        !std::ranges::is_sorted(piece.timeline.divisions, {}, &SetDivision::beat))
        return badInput({}, "its placed or divided beats are not in order");
    for (const SetDivision& division : piece.timeline.divisions)
        if (division.beat < 0 || division.beat >= beats || division.parts < 1 ||
            division.parts > 12)
            return badInput({}, "a divided beat is not among its beats");
    return {};
}

KeySignature guessKey(const std::vector<Note>& notes) {
    std::array<double, 12> weight{};
    for (const Note& note : notes)
        weight[static_cast<std::size_t>(((note.midi() % 12) + 12) % 12)] +=
            std::min(note.time.value.length_s(), 2.0);
    static constexpr std::array<int, 7> kMajor = {0, 2, 4, 5, 7, 9, 11};
    KeySignature best;
    double best_inside = -1.0;
    for (const int fifths : {0, 1, -1, 2, -2, 3, -3, 4, -4, 5, -5, 6}) {
        const int tonic = ((fifths * 7) % 12 + 12) % 12;
        double inside = 0.0;
        for (const int step : kMajor)
            inside += weight[static_cast<std::size_t>((tonic + step) % 12)];
        if (inside > best_inside + 1e-9) {
            best_inside = inside;
            best.fifths = fifths;
        }
    }
    return best;
}

} // namespace wirenote
