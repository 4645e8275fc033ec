#include "fretting/likeness.h"

#include "piece/one_stroke.h"

#include <algorithm>
#include <cmath>
#include <functional>

namespace wirenote {
namespace {

using Shares = std::vector<double>; // of the strings, the thinnest first

struct Strike {
    double time_s = 0.0;
    std::vector<std::size_t> by_pitch;
};

class Strikes {
  public:
    Strikes(int strings, const Rows& rows, const LikenessModel& model)
        : m_string_count(strings), m_rows(rows), m_model(model) {}

    // Strikes that lie in the notes [from, to) or within reach of them.
    void gather(std::size_t from, std::size_t to) {
        const auto notes = m_rows.notes();
        if (from >= to)
            return;
        const double earliest = notes[from].onset_s() - m_model.reach_s;
        const double latest = notes[to - 1].onset_s() + m_model.reach_s;
        std::size_t i = from;
        while (i > 0 && notes[i - 1].onset_s() > earliest)
            --i;
        m_first = i;
        while (i < notes.size() && notes[i].onset_s() < latest)
            ++i;
        for (const auto& struck : strokesOf(notes.subspan(m_first, i - m_first))) {
            Strike strike{notes[m_first + struck.front()].onset_s(), {}};
            for (const std::size_t k : struck)
                if (const Note& note = notes[m_first + k];
                    note.pitched() && !note.has(Technique::Harmonic))
                    strike.by_pitch.push_back(m_first + k);
            std::ranges::sort(strike.by_pitch, {}, [&](std::size_t k) { return midi(k); });
            if (strike.by_pitch.size() >= 2)
                m_all.push_back(std::move(strike));
        }
        m_strings = stringProbabilities(m_rows.part(m_first, i), m_string_count);
    }

    std::size_t count() const { return m_all.size(); }
    const Strike& at(std::size_t k) const { return m_all[k]; }

    // The nearest strike before (step −1) or after (1) that `fits`; null when none is in reach.
    template <class Fits> const Strike* nearest(std::size_t k, int step, Fits fits) const {
        for (auto j = static_cast<std::ptrdiff_t>(k) + step;
             j >= 0 && j < static_cast<std::ptrdiff_t>(m_all.size());
             j += step) {
            const Strike& other = m_all[static_cast<std::size_t>(j)];
            if (std::abs(other.time_s - m_all[k].time_s) > m_model.reach_s)
                break;
            if (fits(other))
                return &other;
        }
        return nullptr;
    }

    bool shareTwo(const Strike& a, const Strike& b) const {
        int shared = 0;
        for (const std::size_t i : a.by_pitch)
            shared += samePitch(b, midi(i)) ? 1 : 0;
        return shared >= 2;
    }

    bool sameShapeMoved(const Strike& a, const Strike& b) const {
        if (a.by_pitch.size() != b.by_pitch.size() ||
            midi(a.by_pitch.front()) == midi(b.by_pitch.front()))
            return false;
        for (std::size_t k = 1; k < a.by_pitch.size(); ++k)
            if (midi(a.by_pitch[k]) - midi(a.by_pitch[0]) !=
                midi(b.by_pitch[k]) - midi(b.by_pitch[0]))
                return false;
        return true;
    }

    const Shares* samePitch(const Strike& strike, int wanted) const {
        for (const std::size_t i : strike.by_pitch)
            if (midi(i) == wanted && m_rows[i].plan.placed())
                return &strings(i);
        return nullptr;
    }

    // Where voice k of the strike would lie if it kept its distance in strings from the lowest
    // voice, as in the other one.
    Shares byShape(const Strike& strike, const Strike& other, std::size_t k) const {
        const Shares& root = strings(strike.by_pitch[0]);
        const Shares& other_root = strings(other.by_pitch[0]);
        const Shares& other_voice = strings(other.by_pitch[k]);
        const auto n = static_cast<int>(root.size());
        const auto share = [n](const Shares& shares, int s) {
            return s >= 0 && s < n ? shares[static_cast<std::size_t>(s)] : 0.0;
        };
        Shares found(root.size(), 0.0);
        if (k == 0)
            return other_root;
        for (int s = 0; s < n; ++s)
            for (int r = 0; r < n; ++r)
                for (int q = 0; q < n; ++q)
                    found[static_cast<std::size_t>(s)] +=
                        share(root, r) * share(other_root, q) * share(other_voice, q + s - r);
        return found;
    }

    int midi(std::size_t i) const { return m_rows[i].note.frettedMidi(); }

  private:
    const Shares& strings(std::size_t i) const { return m_strings[i - m_first]; }

    int m_string_count;
    Rows m_rows;
    LikenessModel m_model;
    std::size_t m_first = 0; // of the notes looked at
    std::vector<Shares> m_strings;
    std::vector<Strike> m_all;
};

// Adds what one neighbour says; the nearer in time, the more it counts.
void hold(std::vector<StringEvidence>& evidence,
          ReasonKind kind,
          const Shares& shares,
          double otherwise,
          double fade) {
    auto it = std::ranges::find(evidence, kind, &StringEvidence::kind);
    if (it == evidence.end())
        it = evidence.insert(it, {kind, Basis::Reasoned, std::vector<double>(shares.size(), 0.0)});
    for (std::size_t s = 0; s < shares.size(); ++s)
        it->costs[s] -= fade * std::log((1.0 - otherwise) * shares[s] + otherwise);
}

// What the nearest like strikes on one side of strike `k` say of each of its notes.
void askNeighbours(const Strikes& strikes,
                   std::size_t k,
                   int step,
                   const LikenessModel& model,
                   const std::function<std::vector<StringEvidence>*(std::size_t)>& evidenceOf) {
    const Strike& strike = strikes.at(k);
    const auto fade = [&](const Strike& other) {
        return 1.0 - std::abs(other.time_s - strike.time_s) / model.reach_s;
    };
    const Strike* again = strikes.nearest(
        k, step, [&](const Strike& other) { return strikes.shareTwo(strike, other); });
    const Strike* moved = strikes.nearest(
        k, step, [&](const Strike& other) { return strikes.sameShapeMoved(strike, other); });
    for (std::size_t v = 0; v < strike.by_pitch.size(); ++v) {
        std::vector<StringEvidence>* evidence = evidenceOf(strike.by_pitch[v]);
        if (!evidence)
            continue;
        const Shares* held =
            again ? strikes.samePitch(*again, strikes.midi(strike.by_pitch[v])) : nullptr;
        if (held)
            hold(*evidence, ReasonKind::StruckAgain, *held, model.otherwise, fade(*again));
        if (moved)
            hold(*evidence,
                 ReasonKind::ShapeMoves,
                 strikes.byShape(strike, *moved, v),
                 v == 0 ? model.root_otherwise : model.shape_otherwise,
                 fade(*moved));
    }
}

} // namespace

std::vector<std::vector<StringEvidence>>
likenessEvidence(int strings, const Rows& rows, IndexSpan part, const LikenessModel& model) {
    std::vector<std::vector<StringEvidence>> evidence(part.size());
    const auto evidenceOf = [&](std::size_t i) {
        return i >= part.first && i < part.end ? &evidence[i - part.first] : nullptr;
    };
    Strikes strikes(strings, rows, model);
    strikes.gather(part.first, part.end);
    for (std::size_t k = 0; k < strikes.count(); ++k)
        for (const int step : {-1, 1})
            askNeighbours(strikes, k, step, model, evidenceOf);
    return evidence;
}

} // namespace wirenote
