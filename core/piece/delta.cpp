#include "piece/delta.h"

#include <algorithm>
#include <unordered_map>
#include <unordered_set>

namespace wirenote {
namespace {

void replaceNotes(const std::vector<PieceDelta::NoteState>& out,
                  const std::vector<PieceDelta::NoteState>& in,
                  Piece& piece) {
    if (out.empty() && in.empty())
        return;
    std::unordered_set<NoteId> leaving;
    for (const auto& state : out)
        leaving.insert(state.note.id);
    std::vector<PieceDelta::NoteState> all;
    for (std::size_t i = 0; i < piece.notes.size(); ++i)
        if (!leaving.contains(piece.notes[i].id))
            all.push_back({std::move(piece.notes[i]), std::move(piece.reading.plans[i])});
    all.insert(all.end(), in.begin(), in.end());
    std::sort(all.begin(), all.end(), [](const auto& a, const auto& b) {
        return a.note.onset_s() != b.note.onset_s() ? a.note.onset_s() < b.note.onset_s()
                                                    : a.note.id < b.note.id;
    });
    piece.notes.clear();
    piece.reading.plans.clear();
    for (auto& state : all) {
        piece.notes.push_back(std::move(state.note));
        piece.reading.plans.push_back(std::move(state.plan));
    }
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
            piece.reading.head,
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
    piece.reading.head = frame.reading;
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
        if (old != old_index.end() && before.notes[old->second] == after.notes[i] &&
            before.reading.plans[old->second] == after.reading.plans[i])
            kept.insert(after.notes[i].id);
        else
            delta.come.push_back({after.notes[i], after.reading.plans[i]});
    }
    for (std::size_t i = 0; i < before.notes.size(); ++i)
        if (!kept.contains(before.notes[i].id))
            delta.gone.push_back({before.notes[i], before.reading.plans[i]});
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
    replaceNotes(delta.gone, delta.come, piece);
    if (delta.after)
        setFrame(*delta.after, piece);
    piece.log.insert(piece.log.end(), delta.logged.begin(), delta.logged.end());
}

void revert(const PieceDelta& delta, Piece& piece) {
    replaceNotes(delta.come, delta.gone, piece);
    if (delta.before)
        setFrame(*delta.before, piece);
    piece.log.resize(piece.log.size() - std::min(piece.log.size(), delta.logged.size()));
}

} // namespace wirenote
