#include "form/form.h"

#include "form/harmony.h"
#include "piece/timeline_map.h"

#include <algorithm>
#include <array>
#include <bit>
#include <cmath>
#include <cstdint>
#include <map>
#include <queue>

namespace wirenote {
namespace {

using Event = BarContent::Event;

constexpr double kPlaceOnly = 0.35; // what a note at the same place with another pitch is worth

// Calls same(i, j) for events that are the same but for the transposition; both lists are by place
// and pitch.
template <class Same>
void forSame(const std::vector<Event>& a, const std::vector<Event>& b, int transposed, Same same) {
    std::size_t j = 0;
    for (std::size_t i = 0; i < a.size(); ++i) {
        while (j < b.size() &&
               (b[j].at < a[i].at || (b[j].midi < a[i].midi + transposed && b[j].at == a[i].at)))
            ++j;
        if (j < b.size() && b[j].midi == a[i].midi + transposed && b[j].at == a[i].at)
            same(i, j++);
    }
}

std::size_t countSame(const std::vector<Event>& a, const std::vector<Event>& b, int transposed) {
    std::size_t count = 0;
    forSame(a, b, transposed, [&count](std::size_t, std::size_t) { ++count; });
    return count;
}

std::size_t samePlaces(const std::vector<Event>& a, const std::vector<Event>& b) {
    std::size_t same = 0;
    std::size_t j = 0;
    for (const Event& event : a) {
        while (j < b.size() && b[j].at < event.at)
            ++j;
        if (j < b.size() && b[j].at == event.at) {
            ++same;
            ++j;
        }
    }
    return same;
}

double likenessAt(const BarContent& a, const BarContent& b, int transposed) {
    if (a.events.empty() && b.events.empty())
        return 1.0;
    if (a.metre != b.metre || a.events.empty() || b.events.empty())
        return 0.0;
    const auto both = static_cast<double>(a.events.size() + b.events.size());
    const auto same = static_cast<double>(countSame(a.events, b.events, transposed));
    const auto places = static_cast<double>(samePlaces(a.events, b.events));
    return 2.0 * (same + kPlaceOnly * std::max(0.0, places - same)) / both;
}

// Intervals worth trying: none, and those between the first and between the last notes.
std::array<int, 3> transpositions(const BarContent& a, const BarContent& b) {
    if (a.events.empty() || b.events.empty())
        return {0, 0, 0};
    return {0,
            b.events.front().midi - a.events.front().midi,
            b.events.back().midi - a.events.back().midi};
}

} // namespace

std::vector<BarContent> contentsOf(const Piece& piece, const Quantised& quantised) {
    std::vector<BarContent> bars;
    if (quantised.notes.empty())
        return bars;
    const TimelineMap map(piece.timeline);
    const BarGrid& grid = map.grid();
    const int first = grid.barAt(quantised.notes.front().start).number;
    const int last = grid.barAt(quantised.notes.back().start).number;
    for (int number = first; number <= last; ++number) {
        const GridBar bar = grid.bar(number);
        const double from = bar.start.toDouble();
        bars.push_back({number,
                        {map.timeAt(from), map.timeAt(from + bar.metre.barLength().toDouble())},
                        bar.metre,
                        {}});
    }
    for (const ScoreNote& note : quantised.notes) {
        const Note& heard = piece.notes[note.index];
        if (note.grace || !heard.pitched())
            continue;
        const GridBar bar = grid.barAt(note.start);
        bars[static_cast<std::size_t>(bar.number - first)].events.push_back(
            {note.start - bar.start, note.length, heard.midi(), note.index});
    }
    for (BarContent& bar : bars)
        std::ranges::sort(bar.events, [](const Event& a, const Event& b) {
            return a.at != b.at ? a.at < b.at : a.midi < b.midi;
        });
    return bars;
}

BarLikeness likenessOf(const BarContent& a, const BarContent& b) {
    BarLikeness best;
    for (const int transposed : transpositions(a, b))
        if (const double likeness = likenessAt(a, b, transposed); likeness > best.likeness + 1e-9)
            best = {likeness, transposed};
    return best;
}

std::vector<Difference> differencesOf(const BarContent& a, const BarContent& b, int transposed) {
    std::vector<bool> in_a(a.events.size(), false);
    std::vector<bool> in_b(b.events.size(), false);
    forSame(a.events, b.events, transposed, [&](std::size_t i, std::size_t j) {
        in_a[i] = in_b[j] = true;
    });
    std::vector<Difference> found;
    const auto pair = [&](auto alike, auto make) {
        for (std::size_t i = 0; i < a.events.size(); ++i)
            for (std::size_t j = 0; j < b.events.size() && !in_a[i]; ++j)
                if (!in_b[j] && alike(a.events[i], b.events[j])) {
                    in_a[i] = in_b[j] = true;
                    found.push_back(make(a.events[i], b.events[j]));
                }
    };
    pair([](const Event& x, const Event& y) { return x.at == y.at; },
         [&](const Event& x, const Event& y) {
             return Difference{DifferenceKind::Pitch,
                               x.at,
                               y.midi - x.midi - transposed,
                               Rational(0),
                               x.note,
                               y.note};
         });
    pair(
        [&](const Event& x, const Event& y) {
            const Rational apart = y.at < x.at ? x.at - y.at : y.at - x.at;
            return x.midi + transposed == y.midi && apart <= Rational(1);
        },
        [](const Event& x, const Event& y) {
            return Difference{DifferenceKind::Moved, x.at, 0, y.at - x.at, x.note, y.note};
        });
    for (std::size_t i = 0; i < a.events.size(); ++i)
        if (!in_a[i])
            found.push_back({DifferenceKind::Missing, a.events[i].at, 0, {}, a.events[i].note, 0});
    for (std::size_t j = 0; j < b.events.size(); ++j)
        if (!in_b[j])
            found.push_back({DifferenceKind::Added, b.events[j].at, 0, {}, 0, b.events[j].note});
    std::ranges::stable_sort(found, {}, &Difference::at);
    return found;
}

bool Occurrence::same() const {
    return std::ranges::none_of(other, [](bool o) { return o; }) &&
           std::ranges::all_of(differences, [](const auto& bar) { return bar.empty(); });
}

namespace {

// Compares stretches of bars.
class Likeness {
  public:
    Likeness(const std::vector<BarContent>& bars, const FormParameters& p, const JobControl& job)
        : m_bars(bars), m_p(p) {
        // Most bars are unlike: looked at once, they need not be looked at again. Those whose
        // rhythms hardly meet need not be looked at at all.
        std::vector<std::uint64_t> rhythms;
        for (const BarContent& bar : bars)
            rhythms.push_back(rhythmOf(bar));
        m_perhaps.assign(bars.size() * reach(), false);
        for (std::size_t a = 0; a < bars.size() && !job.cancelRequested(); ++a)
            for (std::size_t b = a + 1; b < std::min(bars.size(), a + reach()); ++b)
                m_perhaps[a * reach() + b - a] =
                    rhythmsMeet(rhythms[a], rhythms[b]) &&
                    (bars[a].events.empty() || bars[b].events.empty() ||
                     likenessOf(bars[a], bars[b]).likeness >= p.same_bar);
    }

    // The transposition at which the stretches are the same phrase, or nothing.
    std::optional<int> samePhrase(std::size_t a, std::size_t b, std::size_t length) {
        std::size_t others = 0;
        for (std::size_t k = 0; k < length; ++k)
            if (!m_perhaps[(a + k) * reach() + b - a] &&
                (++others > mostOthers(length) || k == 0 || k + 1 == length))
                return {};
        for (const int transposed : transpositions(firstFull(a, length), firstFull(b, length)))
            if (alike(a, b, length, transposed))
                return transposed;
        return {};
    }

    std::size_t reach() const { return static_cast<std::size_t>(m_p.reach); }

    bool anythingIn(std::size_t from, std::size_t length) const {
        std::size_t full = 0;
        for (std::size_t k = from; k < from + length; ++k)
            full += m_bars[k].events.empty() ? 0 : 1;
        return 2 * full >= length && full > 0;
    }

  private:
    // The places of a bar at which something begins, in twelfths of a quarter, folded into 64.
    static std::uint64_t rhythmOf(const BarContent& bar) {
        std::uint64_t rhythm = 0;
        for (const Event& event : bar.events)
            rhythm |= std::uint64_t{1} << (static_cast<std::uint64_t>(std::max<std::int64_t>(
                                               0, (event.at * Rational(12)).floor())) %
                                           64U);
        return rhythm;
    }

    bool rhythmsMeet(std::uint64_t a, std::uint64_t b) const {
        if (a == 0 || b == 0)
            return true;
        constexpr double kGenerous = 0.8; // chords weigh more than the places they stand on
        return 2.0 * std::popcount(a & b) >=
               kGenerous * m_p.same_bar * (std::popcount(a) + std::popcount(b));
    }

    const BarContent& firstFull(std::size_t from, std::size_t length) const {
        for (std::size_t k = from; k < from + length; ++k)
            if (!m_bars[k].events.empty())
                return m_bars[k];
        return m_bars[from];
    }

    bool alike(std::size_t a, std::size_t b, std::size_t length, int transposed) {
        double sum = 0.0;
        std::size_t others = 0;
        for (std::size_t k = 0; k < length; ++k) {
            const double likeness = likenessAt(m_bars[a + k], m_bars[b + k], transposed);
            if (likeness < m_p.same_bar &&
                (++others > mostOthers(length) || k == 0 || k + 1 == length))
                return false;
            sum += likeness;
        }
        return sum >= m_p.same_phrase * static_cast<double>(length);
    }

    std::size_t mostOthers(std::size_t length) const {
        return static_cast<std::size_t>(m_p.other_bars * static_cast<double>(length));
    }

    const std::vector<BarContent>& m_bars;
    const FormParameters& m_p;
    std::vector<bool> m_perhaps; // of each bar and those after it within reach
};

struct Found {
    std::size_t first = 0;
    std::size_t length = 0;
    std::vector<std::pair<std::size_t, int>> at; // where, and how much higher
    std::size_t covered() const { return length * at.size(); }
};

class PhraseFinder {
  public:
    PhraseFinder(const std::vector<BarContent>& bars,
                 const FormParameters& p,
                 const JobControl& job)
        : m_bars(bars), m_p(p), m_job(job), m_likeness(bars, p, job), m_taken(bars.size(), false) {}

    std::vector<Phrase> run() {
        const std::size_t longest =
            std::min(m_bars.size() / 2, static_cast<std::size_t>(m_p.longest));
        for (std::size_t length = longest; length > 0 && !m_job.cancelRequested(); --length)
            for (std::size_t first = 0; first + 2 * length <= m_bars.size(); ++first)
                addCandidate(first, length);
        std::vector<Found> all;
        for (Found best = next(); best.length > 0; best = next()) {
            for (const auto& [at, transposed] : best.at)
                for (std::size_t k = at; k < at + best.length; ++k)
                    m_taken[k] = true;
            all.push_back(std::move(best));
        }
        std::ranges::sort(all, {}, &Found::first);
        std::vector<Phrase> phrases;
        for (const Found& found : all)
            phrases.push_back(phraseOf(found, phrases.size()));
        return phrases;
    }

  private:
    bool free(std::size_t from, std::size_t length) const {
        for (std::size_t k = from; k < from + length; ++k)
            if (m_taken[k])
                return false;
        return true;
    }

    Found occurrences(std::size_t first, std::size_t length) {
        Found found{first, length, {{first, 0}}};
        const std::size_t end = std::min(m_bars.size() - length + 1, first + m_likeness.reach());
        for (std::size_t at = first + length; at < end;) {
            const auto transposed =
                free(at, length) ? m_likeness.samePhrase(first, at, length) : std::nullopt;
            if (transposed)
                found.at.emplace_back(at, *transposed);
            at += transposed ? length : 1;
        }
        return found;
    }

    // A stretch whose halves are the same is two of a shorter one.
    bool twice(std::size_t first, std::size_t length) {
        return length % 2 == 0 && m_likeness.samePhrase(first, first + length / 2, length / 2) == 0;
    }

    // How good a phrase is: it covers most bars; of equals the longer, then the earlier.
    struct Candidate {
        std::size_t covered = 0;
        std::size_t length = 0;
        std::size_t first = 0;
        bool operator<(const Candidate& o) const {
            return covered != o.covered ? covered < o.covered
                   : length != o.length ? length < o.length
                                        : first > o.first;
        }
    };

    void addCandidate(std::size_t first, std::size_t length) {
        if (!free(first, length) || !m_likeness.anythingIn(first, length) || twice(first, length))
            return;
        const Found found = occurrences(first, length);
        if (found.at.size() > 1)
            m_candidates.push({found.covered(), length, first});
    }

    // Bars that were taken meanwhile only make a phrase worse: the best that is still as good as it
    // was is the best of all.
    Found next() {
        while (!m_candidates.empty() && !m_job.cancelRequested()) {
            const Candidate best = m_candidates.top();
            m_candidates.pop();
            if (!free(best.first, best.length))
                continue;
            Found found = occurrences(best.first, best.length);
            if (found.at.size() > 1 && found.covered() == best.covered)
                return found;
            if (found.at.size() > 1)
                m_candidates.push({found.covered(), best.length, best.first});
        }
        return {};
    }

    Phrase phraseOf(const Found& found, std::size_t index) const {
        Phrase phrase;
        phrase.label = std::string(1, static_cast<char>('A' + index % 26));
        if (index >= 26)
            phrase.label += std::to_string(index / 26 + 1);
        phrase.bars = static_cast<int>(found.length);
        for (const auto& [at, transposed] : found.at) {
            Occurrence occurrence{m_bars[at].number, transposed, {}, {}};
            for (std::size_t k = 0; k < found.length; ++k) {
                const BarContent& model = m_bars[found.first + k];
                const bool other = likenessAt(model, m_bars[at + k], transposed) < m_p.same_bar;
                occurrence.other.push_back(other);
                occurrence.differences.push_back(
                    other ? std::vector<Difference>{}
                          : differencesOf(model, m_bars[at + k], transposed));
            }
            phrase.occurrences.push_back(std::move(occurrence));
        }
        return phrase;
    }

    const std::vector<BarContent>& m_bars;
    const FormParameters& m_p;
    const JobControl& m_job;
    Likeness m_likeness;
    std::priority_queue<Candidate> m_candidates;
    std::vector<bool> m_taken;
};

} // namespace

std::vector<Phrase> phrasesOf(const std::vector<BarContent>& bars,
                              const FormParameters& parameters,
                              const JobControl& job) {
    auto phrases = PhraseFinder(bars, parameters, job).run();
    if (job.cancelRequested())
        phrases.clear();
    return phrases;
}

std::vector<FormPart> formOf(const std::vector<BarContent>& bars,
                             const std::vector<Phrase>& phrases) {
    std::vector<FormPart> parts;
    if (bars.empty())
        return parts;
    const int first = bars.front().number;
    const auto spanOf = [&](int from, int count) {
        const auto at = static_cast<std::size_t>(from - first);
        return TimeRange{bars[at].span.start_s,
                         bars[at + static_cast<std::size_t>(count) - 1].span.end_s};
    };
    for (std::size_t p = 0; p < phrases.size(); ++p)
        for (std::size_t o = 0; o < phrases[p].occurrences.size(); ++o) {
            const Occurrence& occurrence = phrases[p].occurrences[o];
            const bool varied = !occurrence.same() || occurrence.transposed != 0;
            parts.push_back({phrases[p].label + (varied ? "'" : ""),
                             occurrence.first_bar,
                             phrases[p].bars,
                             p,
                             o,
                             spanOf(occurrence.first_bar, phrases[p].bars)});
        }
    std::ranges::sort(parts, {}, &FormPart::first_bar);
    std::vector<FormPart> whole;
    int at = first;
    const auto fill = [&](int to) {
        if (to > at)
            whole.push_back({{}, at, to - at, 0, 0, spanOf(at, to - at)});
    };
    for (const FormPart& part : parts) {
        fill(part.first_bar);
        whole.push_back(part);
        at = part.first_bar + part.bars;
    }
    fill(bars.back().number + 1);
    return whole;
}

namespace {

// The chord root that sounds longest in a bar, or −1.
int rootIn(const std::vector<ChordSpan>& chords, TimeRange bar) {
    std::map<int, double> seconds;
    for (const ChordSpan& chord : chords) {
        const TimeRange inside = chord.span.clippedTo(bar);
        if (!inside.empty())
            seconds[chord.chord.root] += inside.length_s();
    }
    int root = -1;
    double most = 0.25 * bar.length_s();
    for (const auto& [r, s] : seconds)
        if (s > most) {
            most = s;
            root = r;
        }
    return root;
}

} // namespace

std::vector<TwelveBars> twelveBarForms(const Piece& piece, const std::vector<BarContent>& bars) {
    // Semitones above the tonic; the second choice is as usual (the quick change, the turnaround).
    static constexpr int kForm[12][2] = {{0, 0},
                                         {0, 5},
                                         {0, 0},
                                         {0, 0},
                                         {5, 5},
                                         {5, 5},
                                         {0, 0},
                                         {0, 0},
                                         {7, 7},
                                         {5, 7},
                                         {0, 0},
                                         {7, 0}};
    constexpr int kMostDepartures = 2;
    std::vector<TwelveBars> found;
    const auto chords = chordsOf(piece);
    std::vector<int> roots;
    for (const BarContent& bar : bars)
        roots.push_back(rootIn(chords, bar.span));
    for (std::size_t at = 0; at + 12 <= roots.size();) {
        TwelveBars form{bars[at].number, roots[at], {}};
        if (form.tonic >= 0)
            for (std::size_t k = 0; k < 12; ++k) {
                const int above = (roots[at + k] - form.tonic + 12) % 12;
                if (roots[at + k] < 0 || (above != kForm[k][0] && above != kForm[k][1]))
                    form.departures.push_back(bars[at + k].number);
            }
        // Something must have left the tonic, or any twelve bars on one chord would do.
        const bool moves = form.tonic >= 0 && (roots[at + 4] - form.tonic + 12) % 12 == 5 &&
                           static_cast<int>(form.departures.size()) <= kMostDepartures;
        if (moves)
            found.push_back(std::move(form));
        at += moves ? 12 : 1;
    }
    return found;
}

} // namespace wirenote
