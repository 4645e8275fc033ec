#include "readings/pairing.h"

#include "score/quantise.h"

#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <map>
#include <unordered_map>

namespace wirenote {
namespace {

constexpr double kSameMoment_s = 0.001;

std::vector<Spot> spotsOf(const Piece& piece) {
    std::vector<Spot> spots(piece.notes.size());
    for (const ScoreNote& note : quantise(piece).notes)
        spots[note.index] = {note.index, note.start, note.length, note.grace};
    return spots;
}

bool ofOnePiece(const Piece& a, const Piece& b) {
    std::size_t shared = 0;
    for (const Note& note : a.notes)
        if (const Note* other = b.note(note.id))
            shared += std::abs(other->onset_s() - note.onset_s()) < kSameMoment_s ? 1 : 0;
    return 2 * shared >= std::min(a.notes.size(), b.notes.size()) && shared > 0;
}

NotePairs byNumber(const Piece& a, const Piece& b) {
    NotePairs pairs;
    std::unordered_map<NoteId, std::size_t> in_b;
    for (std::size_t i = 0; i < b.notes.size(); ++i)
        in_b.emplace(b.notes[i].id, i);
    for (std::size_t i = 0; i < a.notes.size(); ++i) {
        const auto at = in_b.find(a.notes[i].id);
        if (at == in_b.end()) {
            pairs.only_a.push_back(i);
        } else {
            pairs.same.emplace_back(i, at->second);
            in_b.erase(at);
        }
    }
    for (std::size_t i = 0; i < b.notes.size(); ++i)
        if (in_b.contains(b.notes[i].id))
            pairs.only_b.push_back(i);
    return pairs;
}

// Of what is left at one moment: equal pitches first, then in order of pitch.
void pairUp(const Piece& a,
            const Piece& b,
            int semitones,
            std::vector<std::size_t> left,
            std::vector<std::size_t> right,
            NotePairs& pairs) {
    const auto byPitch = [](const Piece& piece) {
        return [&piece](std::size_t x, std::size_t y) {
            return piece.notes[x].pitch.value < piece.notes[y].pitch.value;
        };
    };
    std::erase_if(left, [&](std::size_t i) {
        const auto at = std::ranges::find_if(right, [&](std::size_t k) {
            return b.notes[k].midi() == a.notes[i].midi() + semitones;
        });
        if (at == right.end())
            return false;
        pairs.same.emplace_back(i, *at);
        right.erase(at);
        return true;
    });
    std::ranges::sort(left, byPitch(a));
    std::ranges::sort(right, byPitch(b));
    const std::size_t both = std::min(left.size(), right.size());
    for (std::size_t i = 0; i < both; ++i)
        pairs.same.emplace_back(left[i], right[i]);
    pairs.only_a.insert(
        pairs.only_a.end(), left.begin() + static_cast<std::ptrdiff_t>(both), left.end());
    pairs.only_b.insert(
        pairs.only_b.end(), right.begin() + static_cast<std::ptrdiff_t>(both), right.end());
}

NotePairs byMoment(const Piece& a,
                   const Piece& b,
                   const std::vector<Spot>& of_a,
                   const std::vector<Spot>& of_b,
                   int semitones) {
    using Moment = std::pair<Rational, bool>;
    std::map<Moment, std::pair<std::vector<std::size_t>, std::vector<std::size_t>>> moments;
    for (const Spot& spot : of_a)
        moments[{spot.start, !spot.grace}].first.push_back(spot.index);
    for (const Spot& spot : of_b)
        moments[{spot.start, !spot.grace}].second.push_back(spot.index);
    NotePairs pairs;
    for (auto& [moment, notes] : moments)
        pairUp(a, b, semitones, std::move(notes.first), std::move(notes.second), pairs);
    return pairs;
}

// By how much most of b is higher, where that is most of it by far.
int shiftBetween(const Piece& a, const Piece& b, const NotePairs& pairs) {
    std::map<int, std::size_t> votes;
    for (const auto& [i, k] : pairs.same)
        ++votes[b.notes[k].midi() - a.notes[i].midi()];
    const auto most = std::ranges::max_element(votes, {}, [](const auto& v) { return v.second; });
    return most != votes.end() && 5 * most->second >= 4 * pairs.same.size() ? most->first : 0;
}

} // namespace

NotePairs pairNotes(const Piece& a, const Piece& b) {
    std::vector<Spot> of_a = spotsOf(a);
    std::vector<Spot> of_b = spotsOf(b);
    const bool by_number = ofOnePiece(a, b);
    NotePairs pairs = by_number ? byNumber(a, b) : byMoment(a, b, of_a, of_b, 0);
    if (const int shift = shiftBetween(a, b, pairs); shift != 0) {
        if (!by_number)
            pairs = byMoment(a, b, of_a, of_b, shift);
        pairs.semitones = shift;
    }
    pairs.by_number = by_number;
    pairs.spots_a = std::move(of_a);
    pairs.spots_b = std::move(of_b);
    return pairs;
}

} // namespace wirenote
