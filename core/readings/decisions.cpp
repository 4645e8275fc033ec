#include "readings/decisions.h"

#include "piece/decision_text.h"
#include "piece/in_reading.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdio>
#include <unordered_map>
#include <unordered_set>

namespace wirenote {
namespace {

constexpr double kSameTime_s = 0.02; // a start that moves by less is the same

std::string techniquesText(const Note& note) {
    std::string all;
    for (const Technique t : note.techniques)
        all += (all.empty() ? "" : ", ") + std::string(techniqueWord(t));
    return all.empty() ? "none" : all;
}

std::string secondsText(double seconds) {
    std::array<char, 32> text{};
    std::snprintf(text.data(), text.size(), "%.2f s", seconds);
    return text.data();
}

std::string noteText(const Piece& piece, std::size_t i) {
    return pitchName(piece.notes[i].pitch.value, piece.key.spelling()) + ", " +
           placeWords(piece.asPlayed().plans[i].position.value);
}

class Comparing {
  public:
    Comparing(const Piece& before, const Piece& after) : m_before(before), m_after(after) {}

    std::vector<DecisionChange> all() {
        std::unordered_map<NoteId, std::size_t> was;
        for (std::size_t i = 0; i < m_before.notes.size(); ++i)
            was.emplace(m_before.notes[i].id, i);
        for (std::size_t k = 0; k < m_after.notes.size(); ++k) {
            const auto at = was.find(m_after.notes[k].id);
            if (at == was.end()) {
                const auto& existence = m_after.notes[k].existence;
                add(k, ChangedWhat::Comes, "", noteText(m_after, k), 0.0, existence);
            } else {
                compare(at->second, k);
                was.erase(at);
            }
        }
        for (const auto& [id, i] : was) {
            const Note& note = m_before.notes[i];
            m_changes.push_back({id,
                                 note.onset_s(),
                                 ChangedWhat::Goes,
                                 noteText(m_before, i),
                                 "",
                                 note.existence.probability,
                                 0.0,
                                 Basis::Heard});
        }
        std::ranges::sort(m_changes, {}, [](const DecisionChange& c) {
            return std::tuple(c.onset_s, c.note, c.what);
        });
        return std::move(m_changes);
    }

  private:
    template <class T, class Text>
    void decided(
        std::size_t k, ChangedWhat what, const Decision<T>& was, const Decision<T>& is, Text text) {
        if (was.value != is.value && !was.isSet())
            add(k, what, text(was.value), text(is.value), was.probability, is);
    }

    void compare(std::size_t i, std::size_t k) {
        const Note& x = m_before.notes[i];
        const Note& y = m_after.notes[k];
        const NotePlan& p = m_before.asPlayed().plans[i];
        const NotePlan& q = m_after.asPlayed().plans[k];
        if (x.midi() != y.midi())
            decided(k, ChangedWhat::Pitch, x.pitch, y.pitch, [this](double midi) {
                return pitchName(midi, m_after.key.spelling());
            });
        if (std::abs(x.onset_s() - y.onset_s()) > kSameTime_s)
            decided(k, ChangedWhat::Time, x.time, y.time, [](TimeRange time) {
                return secondsText(time.start_s);
            });
        decided(k, ChangedWhat::Place, p.position, q.position, placeWords);
        decided(k, ChangedWhat::Finger, p.finger, q.finger, fingerWord);
        decided(k, ChangedWhat::Stroke, p.stroke, q.stroke, [](Stroke stroke) {
            return std::string(strokeWord(stroke));
        });
        if (x.techniques != y.techniques)
            add(k,
                ChangedWhat::Technique,
                techniquesText(x),
                techniquesText(y),
                x.existence.probability,
                y.existence);
    }

    template <class T>
    void add(std::size_t k,
             ChangedWhat what,
             std::string before,
             std::string after,
             double probability_before,
             const Decision<T>& is) {
        m_changes.push_back({m_after.notes[k].id,
                             m_after.notes[k].onset_s(),
                             what,
                             std::move(before),
                             std::move(after),
                             probability_before,
                             is.probability,
                             is.basis});
    }

    const Piece& m_before;
    const Piece& m_after;
    std::vector<DecisionChange> m_changes;
};

// Stays what it was, and no evidence changes it any more.
template <class T> void keep(const Decision<T>& was, Decision<T>& is) {
    if (was.value != is.value && !was.isSet())
        is.set(was.value);
}

void keepNote(const Note& was, Note& is) {
    if (was.midi() != is.midi()) {
        keep(was.pitch, is.pitch);
        is.curve = was.curve;
    }
    if (std::abs(was.onset_s() - is.onset_s()) > kSameTime_s)
        keep(was.time, is.time);
    is.techniques = was.techniques;
}

bool earlier(const Note& a, const Note& b) {
    return a.onset_s() != b.onset_s() ? a.onset_s() < b.onset_s() : a.id < b.id;
}

// A note and its plans, taken out of a piece or put into it.
void removeAt(Piece& piece, std::size_t i) {
    piece.notes.erase(piece.notes.begin() + static_cast<std::ptrdiff_t>(i));
    for (Reading& reading : piece.readings)
        reading.plans.erase(reading.plans.begin() + static_cast<std::ptrdiff_t>(i));
}

void insertFrom(const Piece& from, std::size_t i, Piece& to) {
    Note note = from.notes[i];
    note.existence.set(true);
    const auto at = std::ranges::upper_bound(to.notes, note, earlier) - to.notes.begin();
    to.notes.insert(to.notes.begin() + at, std::move(note));
    for (std::size_t r = 0; r < to.readings.size(); ++r) {
        auto& plans = to.readings[r].plans;
        plans.insert(plans.begin() + at,
                     from.readings[std::min(r, from.readings.size() - 1)].plans[i]);
    }
}

// In order again, when starts were put back.
void sortNotes(Piece& piece) {
    if (std::ranges::is_sorted(piece.notes, earlier))
        return;
    std::vector<std::size_t> order(piece.notes.size());
    for (std::size_t i = 0; i < order.size(); ++i)
        order[i] = i;
    std::ranges::sort(order, [&](std::size_t a, std::size_t b) {
        return earlier(piece.notes[a], piece.notes[b]);
    });
    const auto inOrder = [&order](auto& all) {
        auto sorted = all;
        for (std::size_t i = 0; i < order.size(); ++i)
            sorted[i] = all[order[i]];
        all = std::move(sorted);
    };
    inOrder(piece.notes);
    for (Reading& reading : piece.readings)
        inOrder(reading.plans);
}

} // namespace

std::vector<DecisionChange> decisionChanges(const Piece& before, const Piece& after) {
    return Comparing(before, after).all();
}

Piece withoutChanges(const Piece& before,
                     const Piece& after,
                     const std::vector<NoteId>& refused,
                     const std::string& when,
                     const std::string& who) {
    Piece kept = after;
    for (const NoteId id : refused) {
        const auto was = before.indexOf(id);
        const auto is = kept.indexOf(id);
        if (was && is) {
            keepNote(before.notes[*was], kept.notes[*is]);
            NotePlan& plan = kept.asPlayed().plans[*is];
            const NotePlan& old = before.asPlayed().plans[*was];
            keep(old.position, plan.position);
            keep(old.finger, plan.finger);
            keep(old.stroke, plan.stroke);
            plan.hand_fret = old.hand_fret;
        } else if (was) {
            insertFrom(before, *was, kept);
        } else if (is) {
            removeAt(kept, *is);
        }
        kept.log.push_back({when, "new evidence refused", was ? id : 0, who});
    }
    sortNotes(kept);
    return kept;
}

} // namespace wirenote
