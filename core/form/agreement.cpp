#include "form/agreement.h"

#include "form/demonstrations.h"

#include <algorithm>
#include <cmath>
#include <iterator>

namespace wirenote {
namespace {

// What one more playing says, in odds (natural logarithms): less than its hearing alone would, as
// another playing may be another version.
constexpr double kPlayedToo = 1.1;
constexpr double kNotPlayed = -0.5;
constexpr double kNearlyHeard = -0.6;  // a note the leading take was nearly heard to play, before
constexpr double kNotHeard = -2.2;     // … and one it was not heard to play
constexpr double kSurest = 1.0 - 1e-6; // so that what was added can be taken away again

double oddsOf(double p) {
    const double inside = std::clamp(p, 1.0 - kSurest, kSurest);
    return std::log(inside / (1.0 - inside));
}

double probabilityOf(double odds) {
    return std::min(kSurest, 1.0 / (1.0 + std::exp(-odds)));
}

// Other playings have their say, which stands among the reasons; what they said before is taken
// back.
template <class T> void hearOthers(Decision<T>& decision, const PlayedIn& in, double odds) {
    for (const Reason& reason : decision.reasons)
        if (reason.kind == ReasonKind::PlayedInOthers)
            decision.probability = probabilityOf(oddsOf(decision.probability) - reason.x);
    std::erase_if(decision.reasons,
                  [](const Reason& r) { return r.kind == ReasonKind::PlayedInOthers; });
    if (in.of < 2)
        return;
    decision.probability = probabilityOf(oddsOf(decision.probability) + odds);
    decision.reasons.push_back({ReasonKind::PlayedInOthers, Basis::Heard, in.times, in.of, odds});
}

// A note that other playings have and the piece has not.
struct Lacking {
    double piece_s = 0.0;
    double length_s = 0.0;
    int midi = 60;
    int times = 0;
    double belief = 0.0; // summed
};

class Pooling {
  public:
    Pooling(Piece& piece, const std::vector<Version>& versions)
        : m_piece(piece), m_versions(versions) {
        for (std::size_t t = 0; t < piece.takes.size(); ++t)
            m_played.push_back(playedIn(piece, t));
    }

    int run() {
        believe();
        gatherLacking();
        int added = 0;
        for (const Lacking& one : m_lacking)
            added += isPlayed(one) ? 1 : 0;
        return added;
    }

  private:
    void believe() {
        const auto counted = playedInVersions(m_piece, m_versions);
        for (std::size_t i = 0; i < m_piece.notes.size(); ++i) {
            const PlayedIn& in = counted[i];
            Note& note = m_piece.notes[i];
            const double odds = (in.times - 1) * kPlayedToo + (in.of - in.times) * kNotPlayed;
            if (!note.existence.isSet())
                hearOthers(note.existence, in, odds);
            if (!note.pitch.isSet()) // what others left out says nothing of its pitch
                hearOthers(note.pitch, in.times > 1 ? in : PlayedIn{}, std::max(0.0, odds));
        }
    }

    const PlayedNote* heardAs(const Version& version, std::size_t index) const {
        const auto& notes = m_played[version.take];
        const auto found = std::ranges::lower_bound(notes, index, {}, &PlayedNote::index);
        return found == notes.end() || found->index != index ? nullptr : &*found;
    }

    void gatherLacking() {
        for (const Version& version : m_versions) {
            if (!version.learn)
                continue;
            for (const VersionDifference& one : version.differences) {
                if (one.kind != VersionDifferenceKind::Added &&
                    one.kind != VersionDifferenceKind::Pitch)
                    continue;
                const PlayedNote* played = heardAs(version, one.played);
                if (!played)
                    continue;
                const double from_s = inPiece(version.moments, played->at_s);
                note(from_s,
                     inPiece(version.moments, played->end_s) - from_s,
                     one.midi,
                     played->belief);
            }
        }
    }

    void note(double from_s, double length_s, int midi, double belief) {
        const auto same = std::ranges::find_if(m_lacking, [&](const Lacking& l) {
            return l.midi == midi && std::abs(l.piece_s - from_s) <= kSamePlace_s;
        });
        Lacking& one = same == m_lacking.end() ? m_lacking.emplace_back() : *same;
        one.midi = midi;
        one.piece_s = (one.piece_s * one.times + from_s) / (one.times + 1);
        one.length_s = std::max(one.length_s, length_s);
        one.belief += belief;
        ++one.times;
    }

    bool isPlayed(const Lacking& one) {
        int of = 0;
        for (const Version& version : m_versions)
            of += version.learn && version.of_piece.contains(one.piece_s) ? 1 : 0;
        if (one.times < 2)
            return false;
        const auto near = std::ranges::find_if(m_piece.misses, [&one](const NearMiss& miss) {
            return miss.midi == one.midi &&
                   std::abs(miss.time.start_s - one.piece_s) <= kSamePlace_s;
        });
        const bool heard = near != m_piece.misses.end();
        const double odds =
            (heard ? std::max(kNearlyHeard, oddsOf(near->probability)) : kNotHeard) +
            one.belief * kPlayedToo + (of - one.times) * kNotPlayed;
        if (odds <= 0.0)
            return false;
        insert(one, heard ? near->time : TimeRange{}, probabilityOf(odds), of);
        if (heard)
            m_piece.misses.erase(near);
        return true;
    }

    void insert(const Lacking& one, TimeRange heard, double probability, int of) {
        Note note;
        note.id = m_piece.next_id++;
        const double start_s = heard.empty() ? atAnAttack(one.piece_s) : heard.start_s;
        note.time.value = {start_s, start_s + std::max(0.05, one.length_s)};
        note.time.probability = probability;
        note.time.basis = Basis::Reasoned;
        note.existence = {true,
                          Basis::Reasoned,
                          probability,
                          {},
                          {{ReasonKind::PlayedInOthers, Basis::Heard, one.times, of + 1, 0.0}}};
        note.pitch.value = one.midi;
        note.pitch.basis = Basis::Reasoned;
        note.pitch.probability = probability;
        const auto at = std::ranges::upper_bound(
            m_piece.notes, start_s, {}, [](const Note& n) { return n.onset_s(); });
        const auto offset = at - m_piece.notes.begin();
        NotePlan plan;
        plan.note = note.id;
        plan.position.value = {0, 0};
        m_piece.notes.insert(at, std::move(note));
        for (Reading& reading : m_piece.readings)
            reading.plans.insert(reading.plans.begin() + offset, plan);
    }

    // Where something begins there, with it.
    double atAnAttack(double at_s) const {
        double best = at_s;
        double nearest = kSamePlace_s;
        for (const Note& other : m_piece.notes)
            if (const double off = std::abs(other.onset_s() - at_s); off < nearest) {
                nearest = off;
                best = other.onset_s();
            }
        return best;
    }

    Piece& m_piece;
    const std::vector<Version>& m_versions;
    std::vector<std::vector<PlayedNote>> m_played;
    std::vector<Lacking> m_lacking;
};

} // namespace

std::vector<PlayedIn> playedInVersions(const Piece& piece, const std::vector<Version>& versions) {
    std::vector<PlayedIn> counted(piece.notes.size());
    for (const Version& version : versions) {
        if (!version.learn)
            continue;
        const auto also = [&counted](std::size_t note, bool played) {
            ++counted[note].of;
            counted[note].times += played ? 1 : 0;
        };
        for (const Version::Same& same : version.same)
            also(same.note, true);
        for (const VersionDifference& one : version.differences)
            if (one.kind == VersionDifferenceKind::Missing ||
                one.kind == VersionDifferenceKind::Pitch)
                also(one.note, false);
    }
    return counted;
}

int poolVersions(Piece& piece, const std::vector<Version>& versions) {
    return Pooling(piece, versions).run();
}

} // namespace wirenote
