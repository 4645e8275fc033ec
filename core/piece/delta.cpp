#include "piece/delta.h"

#include <algorithm>
#include <utility>
#include <unordered_map>
#include <unordered_set>

namespace wirenote {
namespace {

PieceDelta::NoteState stateOf(const Piece& piece, std::size_t i) {
    PieceDelta::NoteState state{piece.notes[i], {}};
    for (const Reading& reading : piece.readings)
        state.plans.push_back(reading.plans[i]);
    return state;
}

bool sameAt(const Piece& a, std::size_t i, const Piece& b, std::size_t j) {
    return a.notes[i] == b.notes[j] &&
           std::ranges::equal(a.readings, b.readings, [&](const Reading& x, const Reading& y) {
               return x.plans[i] == y.plans[j];
           });
}

bool earlier(const Note& a, const Note& b) {
    return a.onset_s() != b.onset_s() ? a.onset_s() < b.onset_s() : a.id < b.id;
}

// The heads of the readings are changed first: there are as many plans a note as there are of them.
void replaceNotes(const std::vector<PieceDelta::NoteState>& out,
                  const std::vector<PieceDelta::NoteState>& in,
                  Piece& piece) {
    if (out.empty() && in.empty())
        return;
    std::unordered_set<NoteId> leaving;
    for (const auto& state : out)
        leaving.insert(state.note.id);
    std::vector<PieceDelta::NoteState> coming = in;
    std::ranges::sort(coming, earlier, &PieceDelta::NoteState::note);
    std::vector<Note> notes;
    notes.reserve(piece.notes.size() + coming.size());
    std::vector<std::vector<NotePlan>> plans(piece.readings.size());
    auto next = coming.begin();
    const auto take = [&] {
        notes.push_back(std::move(next->note));
        for (std::size_t r = 0; r < plans.size(); ++r)
            plans[r].push_back(r < next->plans.size() ? std::move(next->plans[r])
                                                      : NotePlan{notes.back().id, {}, {}, {}, 0});
        ++next;
    };
    for (std::size_t i = 0; i < piece.notes.size(); ++i) {
        if (leaving.contains(piece.notes[i].id))
            continue;
        while (next != coming.end() && earlier(next->note, piece.notes[i]))
            take();
        notes.push_back(std::move(piece.notes[i]));
        for (std::size_t r = 0; r < plans.size(); ++r)
            if (i < piece.readings[r].plans.size())
                plans[r].push_back(std::move(piece.readings[r].plans[i]));
    }
    while (next != coming.end())
        take();
    piece.notes = std::move(notes);
    for (std::size_t r = 0; r < plans.size(); ++r)
        piece.readings[r].plans = std::move(plans[r]);
}

std::vector<ReadingHead> headsOf(const Piece& piece) {
    std::vector<ReadingHead> heads;
    for (const Reading& reading : piece.readings)
        heads.push_back(reading.head);
    return heads;
}

} // namespace

PieceDelta::Frame frameOf(const Piece& piece) {
    return {piece.title,
            piece.instrument,
            piece.takes,
            piece.timeline,
            piece.key,
            piece.string_traits,
            piece.misses,
            headsOf(piece),
            piece.next_id};
}

void setFrame(const PieceDelta::Frame& frame, Piece& piece) {
    piece.title = frame.title;
    piece.instrument = frame.instrument;
    piece.takes = frame.takes;
    piece.timeline = frame.timeline;
    piece.key = frame.key;
    piece.string_traits = frame.string_traits;
    piece.misses = frame.misses;
    piece.readings.resize(std::max<std::size_t>(1, frame.readings.size()));
    for (std::size_t r = 0; r < frame.readings.size(); ++r)
        piece.readings[r].head = frame.readings[r];
    piece.next_id = frame.next_id;
}

std::vector<NoteId> PieceDelta::changedNotes() const {
    std::unordered_set<NoteId> before_ids;
    for (const auto& state : gone)
        before_ids.insert(state.note.id);
    std::vector<NoteId> changed;
    for (const auto& state : come)
        if (before_ids.contains(state.note.id))
            changed.push_back(state.note.id);
    return changed;
}

PieceDelta difference(const Piece& before, const Piece& after) {
    PieceDelta delta;
    std::unordered_map<NoteId, std::size_t> old_index;
    for (std::size_t i = 0; i < before.notes.size(); ++i)
        old_index.emplace(before.notes[i].id, i);
    std::unordered_set<NoteId> kept;
    for (std::size_t i = 0; i < after.notes.size(); ++i) {
        const auto old = old_index.find(after.notes[i].id);
        if (old != old_index.end() && sameAt(before, old->second, after, i))
            kept.insert(after.notes[i].id);
        else
            delta.come.push_back(stateOf(after, i));
    }
    for (std::size_t i = 0; i < before.notes.size(); ++i)
        if (!kept.contains(before.notes[i].id))
            delta.gone.push_back(stateOf(before, i));
    if (!(frameOf(before) == frameOf(after))) {
        delta.before = frameOf(before);
        delta.after = frameOf(after);
    }
    if (after.log.size() > before.log.size())
        delta.logged.assign(after.log.begin() + static_cast<std::ptrdiff_t>(before.log.size()),
                            after.log.end());
    return delta;
}

void apply(const PieceDelta& delta, Piece& piece) {
    if (delta.after)
        setFrame(*delta.after, piece);
    replaceNotes(delta.gone, delta.come, piece);
    piece.log.insert(piece.log.end(), delta.logged.begin(), delta.logged.end());
}

void revert(const PieceDelta& delta, Piece& piece) {
    if (delta.before)
        setFrame(*delta.before, piece);
    replaceNotes(delta.come, delta.gone, piece);
    piece.log.resize(piece.log.size() - std::min(piece.log.size(), delta.logged.size()));
}

} // namespace wirenote
