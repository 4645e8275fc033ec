#include "form/note_matching.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdint>
#include <functional>
#include <limits>
#include <span>

namespace wirenote {
namespace {

constexpr double kStrum_s = 0.045;     // between two strings of a stroke
constexpr double kWholeStrum_s = 0.15; // and from the first to the last
constexpr double kChance = 0.35;       // likeness that moments of different music reach
constexpr double kLeastLike = 0.2;     // less is no pair
constexpr double kNearly = 0.45;       // what a pitch is worth that a slip may have made
constexpr double kLeftOut = 0.22;      // what a moment costs that only one of both has
constexpr std::size_t kReach = 6;      // moments a step may go
constexpr double kUneven_s = 0.04;     // what players are early or late
constexpr double kFreeTempo = 0.12;    // change of tempo (as a logarithm) that costs nothing
constexpr double kTempoCost = 2.0;
constexpr double kTempoMemory_s = 1.5; // of the piece: what tells the tempo so far
constexpr double kAnyTempo = 0.12;     // what it costs to begin at another tempo than the piece's
constexpr std::size_t kFewest = 3;     // pairs of a stretch
constexpr std::size_t kPassage = 6;    // … of a part of it that lies elsewhere
constexpr double kSameTempo = 0.18;    // two stretches that go on

// A pair of moments that a way has reached.
struct Cell {
    std::size_t b = 0;
    double score = 0.0;
    double tempo = 0.0; // piece seconds in a second; 0: not yet
    std::size_t from = std::numeric_limits<std::size_t>::max(); // cell before; none: a beginning
};

using Moments = std::span<const PlayedMoment>;

// What both have in common, of all that sounds; pitches at most a slip of the fingers apart count
// for `nearly` of that.
double likeness(const PlayedMoment& a, const PlayedMoment& b, int semitones, double nearly) {
    double common = 0.0;
    double all = 1e-9;
    for (const PlayedNote& note : b.notes)
        all += note.belief;
    std::uint64_t taken = 0;
    const std::size_t count = std::min<std::size_t>(64, b.notes.size());
    const auto pair = [&](const PlayedNote& note, int off, double worth) {
        for (std::size_t k = 0; k < count; ++k)
            if ((taken >> k & 1U) == 0 && b.notes[k].midi == note.midi + semitones + off) {
                taken |= std::uint64_t{1} << k;
                common += worth * (note.belief + b.notes[k].belief);
                return true;
            }
        return false;
    };
    std::array<const PlayedNote*, 64> others{};
    std::size_t left = 0;
    for (const PlayedNote& note : a.notes) {
        all += note.belief;
        if (!pair(note, 0, 1.0) && left < others.size())
            others[left++] = &note;
    }
    for (std::size_t i = 0; nearly > 0.0 && i < left; ++i)
        for (const int off : {-1, 1, -2, 2})
            if (pair(*others[i], off, nearly))
                break;
    return common / all;
}

// Local alignment over the pairs of moments that have a pitch in common; others are stepped over.
class Matching {
  public:
    Matching(Moments a, Moments b, const MatchParameters& parameters)
        : m_a(a), m_b(b), m_with(parameters) {}

    NoteStretch best(const JobControl& job) {
        std::size_t best = 0;
        for (std::size_t i = 0; i < m_a.size() && !job.cancelRequested(); ++i) {
            m_rows.push_back(m_cells.size());
            for (std::size_t j = 0; j < m_b.size(); ++j) {
                const double like = likeness(m_a[i], m_b[j], m_with.semitones, kNearly);
                if (like <= kLeastLike)
                    continue;
                m_cells.push_back(reached(i, j, like - kChance));
                m_of.push_back(i);
                if (m_cells.back().score > m_cells[best].score)
                    best = m_cells.size() - 1;
            }
        }
        NoteStretch stretch;
        if (m_cells.empty() || job.cancelRequested())
            return stretch;
        stretch.score = m_cells[best].score;
        stretch.semitones = m_with.semitones;
        for (std::size_t c = best; c < m_cells.size(); c = m_cells[c].from)
            stretch.pairs.push_back({m_of[c], m_cells[c].b});
        std::ranges::reverse(stretch.pairs);
        return stretch;
    }

  private:
    Cell reached(std::size_t i, std::size_t j, double gain) const {
        Cell cell{j, gain, 0.0, std::numeric_limits<std::size_t>::max()};
        for (std::size_t back = i > kReach ? i - kReach : 0; back < i; ++back) {
            const std::size_t end = back + 1 < m_rows.size() ? m_rows[back + 1] : m_cells.size();
            for (std::size_t c = m_rows[back]; c < end; ++c) {
                const Cell& before = m_cells[c];
                if (before.b >= j || before.b + kReach < j)
                    continue;
                const double a_s = m_a[i].at_s - m_a[back].at_s;
                const double b_s = m_b[j].at_s - m_b[before.b].at_s;
                const double score =
                    before.score + gain - stepCost(before, a_s, b_s) -
                    kLeftOut * static_cast<double>(i - back - 1 + (j - before.b - 1));
                if (score > cell.score && allowed(a_s / b_s))
                    cell = {j, score, tempoAfter(before.tempo, a_s, b_s), c};
            }
        }
        return cell;
    }

    bool allowed(double tempo) const { return tempo >= m_with.slowest && tempo <= m_with.fastest; }

    static double stepCost(const Cell& before, double a_s, double b_s) {
        if (before.tempo == 0.0)
            return kAnyTempo * std::abs(std::log(a_s / b_s));
        const double off = std::abs(std::log((a_s + kUneven_s) / (b_s * before.tempo + kUneven_s)));
        return kTempoCost * std::max(0.0, off - kFreeTempo);
    }

    static double tempoAfter(double tempo, double a_s, double b_s) {
        if (tempo == 0.0)
            return a_s / b_s;
        return (a_s + kTempoMemory_s) / (b_s + kTempoMemory_s / tempo);
    }

    Moments m_a;
    Moments m_b;
    const MatchParameters& m_with;
    std::vector<Cell> m_cells; // row after row
    std::vector<std::size_t> m_of;
    std::vector<std::size_t> m_rows; // where the row of each moment of a begins
};

double tempoOf(const NoteStretch& s, Moments a, Moments b) {
    return (a[s.pairs.back().a].at_s - a[s.pairs.front().a].at_s) /
           std::max(1e-6, b[s.pairs.back().b].at_s - b[s.pairs.front().b].at_s);
}

bool goesOn(const NoteStretch& one, const NoteStretch& next, Moments a, Moments b) {
    const double a_s = a[next.pairs.front().a].at_s - a[one.pairs.back().a].at_s;
    const double b_s = b[next.pairs.front().b].at_s - b[one.pairs.back().b].at_s;
    constexpr std::size_t kMostBetween = 10; // moments
    if (a_s <= 0.0 || b_s <= 0.0 || next.pairs.front().b - one.pairs.back().b > kMostBetween)
        return false;
    const double tempo = tempoOf(one, a, b);
    const auto off = [tempo](double other) { return std::abs(std::log(other / tempo)); };
    return off(a_s / b_s) < kSameTempo && off(tempoOf(next, a, b)) < 2.0 * kSameTempo;
}

// Pairs first … last − 1 of a stretch.
struct PairRun {
    std::size_t first = 0;
    std::size_t last = 0;
    double gain = 0.0;
    std::size_t length() const { return last - first; }
};

// The run that gains most (Kadane's scan).
template <class Gain> PairRun bestRun(const NoteStretch& stretch, const Gain& gainOf) {
    PairRun best;
    PairRun now;
    for (std::size_t k = 0; k < stretch.pairs.size(); ++k) {
        const double gain = gainOf(stretch.pairs[k]);
        if (now.gain + gain <= 0.0) {
            now = {k + 1, k + 1, 0.0};
            continue;
        }
        now = {now.first, k + 1, now.gain + gain};
        if (now.gain > best.gain)
            best = now;
    }
    return best;
}

// A stretch without one of its runs: what is left before and after it.
std::vector<NoteStretch> without(const NoteStretch& whole, const PairRun& run, bool after) {
    std::vector<NoteStretch> left;
    const std::size_t from = after ? run.last : 0;
    const std::size_t to = after ? whole.pairs.size() : run.first;
    if (to - from < kFewest)
        return left;
    NoteStretch some;
    some.semitones = whole.semitones;
    some.pairs.assign(whole.pairs.begin() + static_cast<std::ptrdiff_t>(from),
                      whole.pairs.begin() + static_cast<std::ptrdiff_t>(to));
    some.score =
        whole.score * static_cast<double>(to - from) / static_cast<double>(whole.pairs.size());
    left.push_back(std::move(some));
    return left;
}

// In the place of a stretch: what is left of it, and what is put between. Gives the index behind
// what is left before.
std::size_t replace(std::vector<NoteStretch>& stretches,
                    std::size_t i,
                    const PairRun& run,
                    const std::vector<NoteStretch>& between) {
    const NoteStretch whole = stretches[i];
    std::vector<NoteStretch> all = without(whole, run, false);
    const std::size_t before = all.size();
    all.insert(all.end(), between.begin(), between.end());
    const auto after = without(whole, run, true);
    all.insert(all.end(), after.begin(), after.end());
    const auto at = stretches.erase(stretches.begin() + static_cast<std::ptrdiff_t>(i));
    stretches.insert(at, all.begin(), all.end());
    return i + before;
}

// The stretches of b between two of its moments.
void matchWithin(const std::vector<PlayedMoment>& a,
                 const std::vector<PlayedMoment>& b,
                 std::size_t from,
                 std::size_t to,
                 const MatchParameters& with,
                 const JobControl& job,
                 std::vector<NoteStretch>& found) {
    if (to < from + kFewest || job.cancelRequested())
        return;
    NoteStretch best = Matching(a, std::span(b).subspan(from, to - from), with).best(job);
    if (best.score < with.least_score || best.pairs.size() < kFewest)
        return;
    for (NoteStretch::Pair& pair : best.pairs)
        pair.b += from;
    const std::size_t first = best.pairs.front().b;
    const std::size_t last = best.pairs.back().b;
    matchWithin(a, b, from, first, with, job, found);
    found.push_back(std::move(best));
    matchWithin(a, b, last + 1, to, with, job, found);
}

} // namespace

std::vector<PlayedMoment> momentsOf(const std::vector<PlayedNote>& notes) {
    std::vector<PlayedMoment> moments;
    double last_s = 0.0;
    for (const PlayedNote& note : notes) {
        const bool with = !moments.empty() && note.at_s - last_s < kStrum_s &&
                          note.at_s - moments.back().at_s < kWholeStrum_s;
        if (!with)
            moments.push_back({note.at_s, {}});
        moments.back().notes.push_back(note);
        last_s = note.at_s;
    }
    for (PlayedMoment& moment : moments)
        std::ranges::sort(moment.notes, {}, &PlayedNote::midi);
    return moments;
}

double likenessOf(const PlayedMoment& a, const PlayedMoment& b, int semitones) {
    return likeness(a, b, semitones, 0.0);
}

std::vector<NoteStretch> matchNotes(const std::vector<PlayedMoment>& a,
                                    const std::vector<PlayedMoment>& b,
                                    const MatchParameters& parameters,
                                    const JobControl& job) {
    std::vector<NoteStretch> found;
    constexpr std::size_t kAtOnce = 400; // bounds memory: longer lists of b are matched in parts
    for (std::size_t from = 0; from < b.size(); from += kAtOnce)
        matchWithin(a, b, from, std::min(b.size(), from + kAtOnce), parameters, job, found);
    if (job.cancelRequested())
        return {};
    std::vector<NoteStretch> joined;
    for (NoteStretch& one : found) {
        if (!joined.empty() && goesOn(joined.back(), one, a, b)) {
            auto& pairs = joined.back().pairs;
            pairs.insert(pairs.end(), one.pairs.begin(), one.pairs.end());
            joined.back().score += one.score;
        } else {
            joined.push_back(std::move(one));
        }
    }
    return joined;
}

void putWhereTheyFit(const std::vector<PlayedMoment>& a,
                     const std::vector<PlayedMoment>& b,
                     std::vector<NoteStretch>& stretches,
                     const JobControl& job) {
    constexpr double kPoor = 0.6; // likeness
    constexpr double kAllPoor = 1.5;
    constexpr double kBetter = 1.5;   // times the score
    constexpr double kOtherKey = 1.3; // … and again, in another key
    constexpr int kFarthest = 6;      // semitones
    for (std::size_t i = 0; i < stretches.size() && !job.cancelRequested(); ++i) {
        const NoteStretch& whole = stretches[i];
        const auto like = [&](const NoteStretch::Pair& pair, double nearly) {
            return likeness(a[pair.a], b[pair.b], whole.semitones, nearly);
        };
        const PairRun run =
            bestRun(whole, [&](const NoteStretch::Pair& pair) { return kPoor - like(pair, 0.0); });
        if (run.length() < kPassage || run.gain < kAllPoor)
            continue;
        double most = 0.0;
        for (std::size_t k = run.first; k < run.last; ++k)
            most += like(whole.pairs[k], kNearly) - kChance;
        most = kBetter * std::max(1.0, most);
        std::vector<NoteStretch> better;
        for (int s = -kFarthest; s <= kFarthest; ++s) {
            MatchParameters with;
            with.semitones = s;
            std::vector<NoteStretch> there;
            const std::size_t first = whole.pairs[run.first].b;
            const std::size_t last = whole.pairs[run.last - 1].b;
            matchWithin(a, b, first, last + 1, with, job, there);
            double score = 0.0;
            for (const NoteStretch& one : there)
                score += one.score;
            score /= s == whole.semitones ? 1.0 : kOtherKey;
            if (score > most) {
                most = score;
                better = std::move(there);
            }
        }
        if (!better.empty())
            i = replace(stretches, i, run, better) + better.size() - 1;
    }
}

void leaveOutStrangers(const std::vector<PlayedMoment>& a,
                       const std::vector<PlayedMoment>& b,
                       std::vector<NoteStretch>& stretches) {
    constexpr double kStrange = 0.35; // likeness
    constexpr double kAllStrange = 5.0;
    for (std::size_t i = 0; i < stretches.size();) {
        const NoteStretch& whole = stretches[i];
        // Moments of either without a counterpart belong to the pair behind them.
        NoteStretch::Pair before = whole.pairs.front();
        const PairRun run = bestRun(whole, [&](const NoteStretch::Pair& pair) {
            const auto alone = static_cast<double>(std::max<std::size_t>(1, pair.a - before.a) - 1 +
                                                   std::max<std::size_t>(1, pair.b - before.b) - 1);
            before = pair;
            return kStrange * (alone + 1.0) - likeness(a[pair.a], b[pair.b], whole.semitones, 0.0);
        });
        if (run.gain >= kAllStrange)
            replace(stretches, i, run, {});
        else
            ++i;
    }
}

namespace {

// A stretch as it would go on over other moments of b, at its tempo, forwards or backwards.
class GoingOn {
  public:
    GoingOn(Moments a, Moments b, const NoteStretch& stretch)
        : m_a(a), m_b(b), m_stretch(stretch), m_tempo(tempoOf(stretch, a, b)) {}

    // Pairs of moments of b behind the last pair, up to `to`.
    std::vector<NoteStretch::Pair> after(std::size_t to) const {
        std::vector<NoteStretch::Pair> pairs;
        NoteStretch::Pair from = m_stretch.pairs.back();
        for (std::size_t j = from.b + 1; j <= to; ++j)
            if (const auto pair = next(from, j); pair.a > from.a)
                pairs.push_back(from = pair);
        return pairs;
    }
    // … before the first one, down to `to`; the last first.
    std::vector<NoteStretch::Pair> before(std::size_t to) const {
        std::vector<NoteStretch::Pair> pairs;
        NoteStretch::Pair from = m_stretch.pairs.front();
        for (std::size_t j = from.b; j-- > to;)
            if (const auto pair = next(from, j); pair.a < from.a)
                pairs.push_back(from = pair);
        return pairs;
    }

  private:
    // The moment of a that j would be; `from` itself where there is none like it.
    NoteStretch::Pair next(const NoteStretch::Pair& from, std::size_t j) const {
        constexpr double kOff_s = 0.1;
        const double at_s = m_a[from.a].at_s + m_tempo * (m_b[j].at_s - m_b[from.b].at_s);
        const auto later = std::ranges::lower_bound(m_a, at_s, {}, &PlayedMoment::at_s);
        NoteStretch::Pair best = from;
        double nearest = kOff_s;
        for (auto at = later == m_a.begin() ? later : later - 1; at != m_a.end() && at < later + 1;
             ++at)
            if (const double off = std::abs(at->at_s - at_s);
                off < nearest && likeness(*at, m_b[j], m_stretch.semitones, 0.0) > kLeastLike) {
                nearest = off;
                best = {static_cast<std::size_t>(at - m_a.begin()), j};
            }
        return best;
    }

    Moments m_a;
    Moments m_b;
    const NoteStretch& m_stretch;
    double m_tempo;
};

} // namespace

void moveBorders(const std::vector<PlayedMoment>& a,
                 const std::vector<PlayedMoment>& b,
                 std::vector<NoteStretch>& stretches) {
    const auto fill = [&](const NoteStretch& stretch,
                          const std::vector<NoteStretch::Pair>& pairs,
                          std::size_t from,
                          std::vector<double>& like) {
        for (const NoteStretch::Pair& pair : pairs)
            like[pair.b - from] = likeness(a[pair.a], b[pair.b], stretch.semitones, 0.0);
    };
    for (std::size_t i = 0; i + 1 < stretches.size(); ++i) {
        NoteStretch& one = stretches[i];
        NoteStretch& other = stretches[i + 1];
        const std::size_t from = one.pairs.front().b;
        const std::size_t to = other.pairs.back().b;
        auto ahead = GoingOn(a, b, one).after(to);
        auto behind = GoingOn(a, b, other).before(from);
        std::vector<double> first(to - from + 1, 0.0);
        std::vector<double> second(to - from + 1, 0.0);
        fill(one, one.pairs, from, first);
        fill(one, ahead, from, first);
        fill(other, other.pairs, from, second);
        fill(other, behind, from, second);
        // How much is gained by giving the moments before a border to the first.
        double sum = 0.0;
        double most = 0.0;
        std::size_t border = from;
        for (std::size_t j = 0; j < first.size(); ++j) {
            sum += first[j] - second[j];
            if (sum > most || (sum == most && from + j + 1 == other.pairs.front().b)) {
                most = sum;
                border = from + j + 1;
            }
        }
        std::ranges::reverse(behind);
        one.pairs.insert(one.pairs.end(), ahead.begin(), ahead.end());
        other.pairs.insert(other.pairs.begin(), behind.begin(), behind.end());
        const auto beyond = [border](const NoteStretch::Pair& pair) { return pair.b >= border; };
        std::erase_if(one.pairs, beyond);
        std::erase_if(other.pairs, std::not_fn(beyond));
        if (one.pairs.size() < kFewest)
            stretches.erase(stretches.begin() + static_cast<std::ptrdiff_t>(i--));
        else if (other.pairs.size() < kFewest)
            stretches.erase(stretches.begin() + static_cast<std::ptrdiff_t>(i-- + 1));
    }
}

double nextBestScore(const std::vector<PlayedMoment>& a,
                     const std::vector<PlayedMoment>& b,
                     const NoteStretch& fit,
                     const MatchParameters& parameters) {
    const std::size_t first = fit.pairs.front().a;
    const std::size_t last = fit.pairs.back().a;
    const std::span whole(a);
    const double before = Matching(whole.first(first), b, parameters).best({}).score;
    const double after = Matching(whole.subspan(last + 1), b, parameters).best({}).score;
    return std::max(before, after);
}

} // namespace wirenote
