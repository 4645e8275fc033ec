#include "piece/delta.h"

#include <algorithm>
#include <functional>
#include <optional>
#include <unordered_map>
#include <unordered_set>
#include <utility>

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

// Where a note is, by its place in time; the notes of a journal that is not to be trusted may not
// be where they say.
std::optional<std::size_t> locate(const Piece& piece, const Note& note) {
    const auto at = std::ranges::lower_bound(piece.notes, note, earlier);
    if (at != piece.notes.end() && at->id == note.id)
        return static_cast<std::size_t>(at - piece.notes.begin());
    return piece.indexOf(note.id);
}

void insertAt(Piece& piece, std::size_t at, const PieceDelta::NoteState& state) {
    const auto offset = static_cast<std::ptrdiff_t>(at);
    piece.notes.insert(piece.notes.begin() + offset, state.note);
    for (std::size_t r = 0; r < piece.readings.size(); ++r) {
        auto& plans = piece.readings[r].plans;
        plans.insert(plans.begin() + offset,
                     r < state.plans.size() ? state.plans[r]
                                            : NotePlan{state.note.id, {}, {}, {}, 0});
    }
}

void eraseAt(Piece& piece, std::size_t at) {
    const auto offset = static_cast<std::ptrdiff_t>(at);
    piece.notes.erase(piece.notes.begin() + offset);
    for (Reading& reading : piece.readings)
        reading.plans.erase(reading.plans.begin() + offset);
}

bool plansGoWith(const Piece& piece, const std::vector<PieceDelta::NoteState>& states) {
    return std::ranges::all_of(piece.readings,
                               [&](const Reading& reading) {
                                   return reading.plans.size() == piece.notes.size();
                               }) &&
           std::ranges::all_of(states, [&](const PieceDelta::NoteState& state) {
               return state.plans.size() == piece.readings.size();
           });
}

// Few notes that come and go are put in their places one by one, and a note that stays where it is
// is written over: what an edit costs does not grow with the piece. False: nothing was done, it
// is not that kind of change.
bool replaceFew(const std::vector<PieceDelta::NoteState>& out,
                const std::vector<PieceDelta::NoteState>& in,
                Piece& piece) {
    constexpr std::size_t kFew = 400; // notes; most of them written over
    constexpr std::size_t kMoved = 8;
    if (out.size() > kFew || in.size() > kFew || !plansGoWith(piece, in))
        return false;
    std::unordered_map<NoteId, const PieceDelta::NoteState*> coming;
    for (const auto& state : in)
        coming.emplace(state.note.id, &state);
    std::vector<std::size_t> erased;
    std::vector<std::pair<std::size_t, const PieceDelta::NoteState*>> written;
    for (const auto& state : out) {
        const auto at = locate(piece, state.note);
        const auto same = coming.find(state.note.id);
        if (!at)
            continue;
        if (same != coming.end() && same->second->note.onset_s() == piece.notes[*at].onset_s()) {
            written.emplace_back(*at, same->second);
            coming.erase(same);
        } else {
            erased.push_back(*at);
        }
    }
    if (erased.size() + coming.size() > kMoved)
        return false;
    for (const auto& [at, state] : written) {
        piece.notes[at] = state->note;
        for (std::size_t r = 0; r < piece.readings.size(); ++r)
            piece.readings[r].plans[at] = state->plans[r];
    }
    std::ranges::sort(erased, std::greater<>());
    for (const std::size_t at : erased)
        eraseAt(piece, at);
    for (const auto& [id, state] : coming)
        insertAt(
            piece,
            static_cast<std::size_t>(std::ranges::lower_bound(piece.notes, state->note, earlier) -
                                     piece.notes.begin()),
            *state);
    return true;
}

// The heads of the readings are changed first: there are as many plans a note as there are of them.
void replaceNotes(const std::vector<PieceDelta::NoteState>& out,
                  const std::vector<PieceDelta::NoteState>& in,
                  Piece& piece) {
    if ((out.empty() && in.empty()) || replaceFew(out, in, piece))
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
            piece.title_guessed,
            piece.about,
            piece.settled,
            piece.instrument,
            piece.takes,
            piece.timeline,
            piece.key,
            piece.sheet,
            piece.string_traits,
            piece.misses,
            piece.chord_names,
            piece.marks,
            piece.followed,
            piece.papers,
            piece.lesson,
            headsOf(piece),
            piece.next_id};
}

void setFrame(const PieceDelta::Frame& frame, Piece& piece) {
    piece.title = frame.title;
    piece.title_guessed = frame.title_guessed;
    piece.about = frame.about;
    piece.settled = frame.settled;
    piece.instrument = frame.instrument;
    piece.takes = frame.takes;
    piece.timeline = frame.timeline;
    piece.key = frame.key;
    piece.sheet = frame.sheet;
    piece.string_traits = frame.string_traits;
    piece.misses = frame.misses;
    piece.chord_names = frame.chord_names;
    piece.marks = frame.marks;
    piece.followed = frame.followed;
    piece.papers = frame.papers;
    piece.lesson = frame.lesson;
    piece.readings.resize(std::max<std::size_t>(1, frame.readings.size()));
    for (std::size_t r = 0; r < frame.readings.size(); ++r)
        piece.readings[r].head = frame.readings[r];
    piece.next_id = frame.next_id;
}

bool sameFrame(const Piece& a, const Piece& b) {
    return a.title == b.title && a.title_guessed == b.title_guessed && a.about == b.about &&
           a.settled == b.settled && a.instrument == b.instrument && a.takes == b.takes &&
           a.timeline == b.timeline && a.key == b.key && a.sheet == b.sheet &&
           a.string_traits == b.string_traits && a.misses == b.misses &&
           a.chord_names == b.chord_names && a.marks == b.marks && a.followed == b.followed &&
           a.papers == b.papers && a.lesson == b.lesson &&
           std::ranges::equal(a.readings, b.readings, {}, &Reading::head, &Reading::head) &&
           a.next_id == b.next_id;
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

Changes changesOf(const PieceDelta& delta) {
    Changes what;
    std::unordered_map<NoteId, const PieceDelta::NoteState*> before;
    for (const auto& state : delta.gone)
        before.emplace(state.note.id, &state);
    const auto reach = [&what](const Note& note) {
        what.span = what.span.empty() ? note.time.value
                                      : TimeRange{std::min(what.span.start_s, note.onset_s()),
                                                  std::max(what.span.end_s, note.offset_s())};
    };
    std::size_t kept = 0;
    for (const auto& state : delta.come) {
        reach(state.note);
        const auto old = before.find(state.note.id);
        kept += old != before.end() ? 1 : 0;
        what.notes |= old == before.end() || old->second->note != state.note;
        what.plans |= old == before.end() || old->second->plans != state.plans;
    }
    for (const auto& state : delta.gone)
        reach(state.note);
    if (kept < delta.gone.size())
        what.notes = what.plans = true;
    if (!delta.before)
        return what;
    const auto differs = [&](auto member) {
        return (*delta.before).*member != (*delta.after).*member;
    };
    what.timeline = differs(&PieceDelta::Frame::timeline) || differs(&PieceDelta::Frame::key) ||
                    differs(&PieceDelta::Frame::chord_names) ||
                    differs(&PieceDelta::Frame::marks) || differs(&PieceDelta::Frame::followed);
    what.takes = differs(&PieceDelta::Frame::takes);
    what.instrument =
        differs(&PieceDelta::Frame::instrument) || differs(&PieceDelta::Frame::string_traits);
    what.misses = differs(&PieceDelta::Frame::misses);
    what.readings = differs(&PieceDelta::Frame::readings);
    what.title = differs(&PieceDelta::Frame::title) || differs(&PieceDelta::Frame::title_guessed) ||
                 differs(&PieceDelta::Frame::about) || differs(&PieceDelta::Frame::sheet);
    what.papers = differs(&PieceDelta::Frame::papers);
    what.lesson = differs(&PieceDelta::Frame::lesson);
    return what;
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
    if (!sameFrame(before, after)) {
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
