#include "readings/compare.h"

#include "piece/decision_text.h"
#include "piece/timeline_map.h"
#include "readings/pairing.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numeric>
#include <optional>

namespace wirenote {
namespace {

constexpr double kBeside_s = 3.0;    // of a span: what the hand comes from and goes to
constexpr double kTogether_s = 0.05; // what is played a little early is of the same moment
constexpr double kAlone_s = 2.0;     // how long a difference matters with nothing behind it

// Notes about a span with their plans, as a passage of its own.
struct Excerpt {
    std::vector<Note> notes;
    std::vector<NotePlan> plans;
    Passage on(const Instrument& instrument) const { return {instrument, Rows(notes, plans)}; }
};

Excerpt excerptOf(const Piece& piece, TimeRange span) {
    Excerpt part;
    const TimeRange wide{span.start_s - kBeside_s, span.end_s + kBeside_s};
    const auto from = std::ranges::lower_bound(piece.notes, wide.start_s, {}, &Note::onset_s);
    for (auto at = from; at != piece.notes.end() && at->onset_s() < wide.end_s; ++at) {
        part.notes.push_back(*at);
        part.plans.push_back(
            piece.asPlayed().plans[static_cast<std::size_t>(at - piece.notes.begin())]);
    }
    return part;
}

std::string noteText(const Piece& piece, std::size_t i) {
    const std::string pitch = pitchName(piece.notes[i].pitch.value, piece.key.spelling());
    const NotePlan& plan = piece.asPlayed().plans[i];
    return plan.placed() ? pitch + ", " + placeWords(plan.position.value) : pitch;
}

std::string techniquesText(const Note& note) {
    std::string all;
    for (const Technique t : note.techniques)
        all += (all.empty() ? "" : ", ") + std::string(techniqueWord(t));
    return all.empty() ? "none" : all;
}

std::string beatsText(const Rational& length) {
    return length.toString() + " quarters";
}

class Comparing {
  public:
    Comparing(const Piece& a, const Piece& b)
        : m_a(a), m_b(b), m_map_a(a.timeline), m_map_b(b.timeline) {}

    ReadingComparison compare() {
        m_pairs = pairNotes(m_a, m_b);
        m_found.semitones = m_pairs.semitones;
        for (const auto& [i, k] : m_pairs.same)
            comparePair(i, k);
        if (!m_pairs.by_number)
            pairMoved();
        for (const std::size_t i : m_pairs.only_a)
            add(ReadingDifferenceKind::Missing, i, {}, noteText(m_a, i), "nothing");
        for (const std::size_t k : m_pairs.only_b)
            add(ReadingDifferenceKind::Added, {}, k, "nothing", noteText(m_b, k));
        sort();
        group();
        return std::move(m_found);
    }

  private:
    void comparePair(std::size_t i, std::size_t k) {
        const Note& x = m_a.notes[i];
        const Note& y = m_b.notes[k];
        const NotePlan& p = m_a.asPlayed().plans[i];
        const NotePlan& q = m_b.asPlayed().plans[k];
        const bool same_pitch = x.midi() + m_found.semitones == y.midi();
        if (!same_pitch && (x.pitched() || y.pitched()))
            add(ReadingDifferenceKind::Pitch, i, k, noteText(m_a, i), noteText(m_b, k));
        else if (p.placed() && q.placed() && p.position.value != q.position.value)
            add(ReadingDifferenceKind::Place,
                i,
                k,
                placeWords(p.position.value),
                placeWords(q.position.value));
        if (stops(p.finger.value) && stops(q.finger.value) && p.finger.value != q.finger.value)
            add(ReadingDifferenceKind::Finger,
                i,
                k,
                fingerWord(p.finger.value),
                fingerWord(q.finger.value));
        if (p.stroke.value != Stroke::Unknown && q.stroke.value != Stroke::Unknown &&
            p.stroke.value != q.stroke.value)
            add(ReadingDifferenceKind::Stroke,
                i,
                k,
                std::string(strokeWord(p.stroke.value)),
                std::string(strokeWord(q.stroke.value)));
        if (!sameTechniques(x, y))
            add(ReadingDifferenceKind::Technique, i, k, techniquesText(x), techniquesText(y));
        if (!m_pairs.by_number && m_a.takes.empty() && m_b.takes.empty() &&
            m_pairs.spots_a[i].length != m_pairs.spots_b[k].length)
            add(ReadingDifferenceKind::Length,
                i,
                k,
                beatsText(m_pairs.spots_a[i].length),
                beatsText(m_pairs.spots_b[k].length));
    }

    static bool stops(Finger finger) { return finger != Finger::Unknown && finger != Finger::Open; }

    static bool sameTechniques(const Note& x, const Note& y) {
        return x.techniques.size() == y.techniques.size() &&
               std::ranges::all_of(x.techniques, [&y](Technique t) { return y.has(t); });
    }

    // The same pitch within a beat of where the other has it.
    void pairMoved() {
        const Rational kNear(1);
        std::erase_if(m_pairs.only_a, [&](std::size_t i) {
            const auto at = std::ranges::find_if(m_pairs.only_b, [&](std::size_t k) {
                const Rational apart = m_pairs.spots_a[i].start - m_pairs.spots_b[k].start;
                return m_b.notes[k].midi() == m_a.notes[i].midi() + m_found.semitones &&
                       apart <= kNear && apart >= Rational(0) - kNear;
            });
            if (at == m_pairs.only_b.end())
                return false;
            const std::size_t k = *at;
            m_pairs.only_b.erase(at);
            comparePair(i, k);
            add(ReadingDifferenceKind::Start,
                i,
                k,
                "beat " + beatText(m_map_a, m_pairs.spots_a[i]),
                "beat " + beatText(m_map_b, m_pairs.spots_b[k]));
            return true;
        });
    }

    struct Written {
        int bar = 1;
        Rational beat; // from 1
    };
    static Written writtenAt(const TimelineMap& map, const Spot& spot) {
        const GridBar bar = map.grid().barAt(spot.start);
        return {bar.number, Rational(1) + (spot.start - bar.start) / bar.metre.beatLength()};
    }

    static std::string beatText(const TimelineMap& map, const Spot& spot) {
        const Written at = writtenAt(map, spot);
        const Rational part = at.beat - Rational(at.beat.floor());
        return std::to_string(at.beat.floor()) +
               (part == Rational(0) ? "" : " and " + part.toString());
    }

    void add(ReadingDifferenceKind kind,
             std::optional<std::size_t> i,
             std::optional<std::size_t> k,
             std::string a_text,
             std::string b_text) {
        ReadingDifference one;
        one.kind = kind;
        const Written at =
            i ? writtenAt(m_map_a, m_pairs.spots_a[*i]) : writtenAt(m_map_b, m_pairs.spots_b[*k]);
        one.bar = at.bar;
        one.beat = std::round(at.beat.toDouble() * 1000.0) / 1000.0;
        one.a = i ? m_a.notes[*i].id : 0;
        one.b = k ? m_b.notes[*k].id : 0;
        one.a_text = std::move(a_text);
        one.b_text = std::move(b_text);
        m_at_s.push_back(i ? m_a.notes[*i].onset_s() : placeInA(*k));
        m_found.differences.push_back(std::move(one));
    }

    double placeInA(std::size_t k) const {
        const double at_s = m_b.notes[k].onset_s();
        return m_pairs.by_number ? at_s : m_map_a.timeAt(m_map_b.quartersAt(at_s));
    }

    // In order of time, with the moments they are at.
    void sort() {
        std::vector<std::size_t> order(m_at_s.size());
        std::iota(order.begin(), order.end(), std::size_t{0});
        std::ranges::stable_sort(order, {}, [this](std::size_t d) { return m_at_s[d]; });
        std::vector<ReadingDifference> sorted;
        std::vector<double> at_s;
        for (const std::size_t d : order) {
            sorted.push_back(std::move(m_found.differences[d]));
            at_s.push_back(m_at_s[d]);
        }
        m_found.differences = std::move(sorted);
        m_at_s = std::move(at_s);
    }

    // Notes of a that b holds in the same way, by time: where a group ends.
    std::vector<double> heldAlike() const {
        std::vector<double> alike_s;
        for (const auto& [i, k] : m_pairs.same) {
            const NotePlan& p = m_a.asPlayed().plans[i];
            const NotePlan& q = m_b.asPlayed().plans[k];
            if (p.position.value == q.position.value && p.finger.value == q.finger.value &&
                (p.hand_fret == q.hand_fret || p.hand_fret == 0 || q.hand_fret == 0))
                alike_s.push_back(m_a.notes[i].onset_s());
        }
        std::ranges::sort(alike_s);
        return alike_s;
    }

    // A stroke or a technique is each for itself.
    static bool ofTheHand(ReadingDifferenceKind kind) {
        return kind != ReadingDifferenceKind::Stroke && kind != ReadingDifferenceKind::Technique &&
               kind != ReadingDifferenceKind::Start && kind != ReadingDifferenceKind::Length;
    }

    void group() {
        const std::vector<double> alike_s = heldAlike();
        const auto alikeAfter = [&](double at_s) {
            const auto next = std::ranges::upper_bound(alike_s, at_s + kTogether_s);
            return next == alike_s.end() ? at_s + kAlone_s : *next + kTogether_s;
        };
        std::optional<std::size_t> open; // the group that goes on
        for (std::size_t d = 0; d < m_found.differences.size(); ++d) {
            ReadingDifference& one = m_found.differences[d];
            const bool hand = ofTheHand(one.kind);
            if (hand && open && m_at_s[d] < m_found.groups[*open].span.end_s) {
                one.group = *open;
                continue;
            }
            one.group = m_found.groups.size();
            m_found.groups.push_back({{m_at_s[d] - kTogether_s, alikeAfter(m_at_s[d])}, {}});
            if (hand)
                open = one.group;
        }
        std::vector<bool> of_the_hand(m_found.groups.size());
        for (const ReadingDifference& one : m_found.differences)
            of_the_hand[one.group] = ofTheHand(one.kind);
        for (std::size_t g = 0; g < m_found.groups.size(); ++g) {
            DifferenceGroup& each = m_found.groups[g];
            each.weighed = gainsAndLosses(excerptOf(m_a, each.span).on(m_a.instrument),
                                          excerptOfB(each.span).on(m_b.instrument),
                                          each.span);
            // Where the hand goes another way beside it, that is said there.
            const auto other = [](const Gain& gain) { return gain.kind != GainKind::Legato; };
            if (!of_the_hand[g]) {
                std::erase_if(each.weighed.gains, other);
                std::erase_if(each.weighed.losses, other);
            }
        }
    }

    // On the clock of a.
    Excerpt excerptOfB(TimeRange span) const {
        if (m_pairs.by_number)
            return excerptOf(m_b, span);
        const auto toB = [this](double at_s) { return m_map_b.timeAt(m_map_a.quartersAt(at_s)); };
        Excerpt part = excerptOf(m_b, {toB(span.start_s), toB(span.end_s)});
        for (Note& note : part.notes)
            note.time.value = {m_map_a.timeAt(m_map_b.quartersAt(note.onset_s())),
                               m_map_a.timeAt(m_map_b.quartersAt(note.offset_s()))};
        return part;
    }

    const Piece& m_a;
    const Piece& m_b;
    TimelineMap m_map_a;
    TimelineMap m_map_b;
    NotePairs m_pairs;
    ReadingComparison m_found;
    std::vector<double> m_at_s; // of each difference, in a
};

} // namespace

std::string_view differenceWord(ReadingDifferenceKind kind) {
    constexpr std::array<std::string_view, 9> kWords{
        "missing", "added", "pitch", "start", "length", "place", "finger", "stroke", "technique"};
    return kWords[static_cast<std::size_t>(kind)];
}

ReadingComparison compareReadings(const Piece& a, const Piece& b) {
    return Comparing(a, b).compare();
}

} // namespace wirenote
