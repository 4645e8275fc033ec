#include "score/quantise.h"

#include "base/best_path.h"
#include "base/interpolate.h"
#include "base/median.h"
#include "base/numbers.h"
#include "piece/one_stroke.h"
#include "piece/timeline_map.h"

#include <algorithm>
#include <cmath>
#include <optional>

namespace wirenote {
namespace {

enum class Family { Whole, Twos, Threes, Fives };

struct Division {
    int parts;
    double cost; // of reading it
    Family family;
};

const std::vector<Division>& divisionsOf(const Metre& metre) {
    static const std::vector<Division> kSimple = {{1, 0.0, Family::Whole},
                                                  {2, 0.4, Family::Twos},
                                                  {4, 1.0, Family::Twos},
                                                  {3, 1.8, Family::Threes},
                                                  {6, 3.4, Family::Threes},
                                                  {8, 4.0, Family::Twos},
                                                  {5, 5.0, Family::Fives}};
    static const std::vector<Division> kCompound = {{1, 0.0, Family::Whole},
                                                    {3, 0.3, Family::Threes},
                                                    {6, 1.0, Family::Threes},
                                                    {2, 2.4, Family::Twos},
                                                    {4, 2.8, Family::Twos},
                                                    {12, 4.0, Family::Threes}};
    static const std::vector<Division> kQuaver = {{1, 0.0, Family::Whole},
                                                  {2, 0.5, Family::Twos},
                                                  {3, 2.6, Family::Threes},
                                                  {4, 2.2, Family::Twos}};
    return metre.compound() ? kCompound : metre.unit >= 8 ? kQuaver : kSimple;
}

// Notes struck together, by their beat and the place in it, 0..1.
struct StrokeGroup {
    std::vector<std::size_t> notes;
    double time_s = 0.0;
    double part = 0.0;
};

struct BeatStrokes {
    int beat = 0;
    double length_s = 0.5;
    Metre metre;
    std::vector<StrokeGroup> strokes;
};

// A place in a swung beat as it would be played straight.
double straightened(double part, double swing) {
    const double half = swing / (1.0 + swing);
    return part < half ? 0.5 * part / half : 0.5 + 0.5 * (part - half) / (1.0 - half);
}

double played(double part, double swing) {
    const double half = swing / (1.0 + swing);
    return part < 0.5 ? part / 0.5 * half : half + (part - 0.5) / 0.5 * (1.0 - half);
}

class BeatClock {
  public:
    explicit BeatClock(const TimelineMap& map) : m_beats(map.beats_s()) {}

    double at(double time_s) const { return placeAmong(m_beats, time_s); }
    double timeAt(double beats) const { return atPlace(m_beats, beats); }
    double length(int beat) const { return timeAt(beat + 1.0) - timeAt(beat); }

  private:
    const std::vector<double>& m_beats;
};

// From this note on graces lead to nothing: they are written with a time of their own, as any note,
// or they would be missing on the page.
std::size_t endOfGraces(const std::vector<Note>& notes) {
    std::size_t end = notes.size();
    while (end > 0 && notes[end - 1].has(Technique::Grace))
        --end;
    return end;
}

std::vector<BeatStrokes> strokesByBeat(const Piece& piece, const TimelineMap& map) {
    const BeatClock clock(map);
    const std::size_t end_of_graces = endOfGraces(piece.notes);
    std::vector<std::size_t> placed;
    std::vector<double> onsets_s;
    for (std::size_t i = 0; i < piece.notes.size(); ++i)
        if (i >= end_of_graces || !piece.notes[i].has(Technique::Grace)) {
            placed.push_back(i);
            onsets_s.push_back(piece.notes[i].onset_s());
        }
    std::vector<StrokeGroup> strokes;
    for (const IndexSpan span : strokeSpans(onsets_s))
        strokes.push_back({{placed.begin() + static_cast<std::ptrdiff_t>(span.first),
                            placed.begin() + static_cast<std::ptrdiff_t>(span.end)},
                           onsets_s[span.first],
                           0.0});
    std::vector<BeatStrokes> beats;
    for (StrokeGroup& stroke : strokes) {
        const double at = clock.at(stroke.time_s);
        const int beat = floored(at);
        stroke.part = at - beat;
        if (beats.empty() || beats.back().beat != beat)
            beats.push_back({beat, clock.length(beat), map.grid().at(beat).metre, {}});
        beats.back().strokes.push_back(std::move(stroke));
    }
    return beats;
}

// The part of a beat as this division sees it.
double seenBy(const Division& division, double part, double swing) {
    return swing > 1.0 && division.family != Family::Threes && division.family != Family::Fives
               ? straightened(part, swing)
               : part;
}

double costOf(const BeatStrokes& beat,
              const Division& division,
              double piece_swing,
              const QuantiseParameters& p) {
    const double swing = beat.metre.compound() ? 1.0 : piece_swing;
    const double loose_s = std::max(p.loose_s, p.loose_share * beat.length_s);
    double cost = division.cost;
    int last = -1;
    for (const StrokeGroup& stroke : beat.strokes) {
        const double part = seenBy(division, stroke.part, swing);
        const int slot = rounded(part * division.parts);
        const double off_s = (part - static_cast<double>(slot) / division.parts) * beat.length_s;
        cost += std::min(p.most, 0.5 * off_s * off_s / (loose_s * loose_s));
        cost += slot == last ? p.collision : 0.0;
        last = slot;
    }
    return cost;
}

double betweenCost(const Division& a, const Division& b, const QuantiseParameters& p) {
    return a.family == Family::Whole || b.family == Family::Whole || a.family == b.family
               ? 0.0
               : p.other_family;
}

struct Choice {
    std::vector<std::size_t> division; // of each beat
    std::vector<std::vector<double>> costs;
};

// What a person said of a beat leaves no choice, where the metre has such a division.
double costOfSet(const Timeline& timeline, int beat, int parts) {
    constexpr double kForbidden = 1e6;
    const auto set = std::ranges::lower_bound(timeline.divisions, beat, {}, &SetDivision::beat);
    return set != timeline.divisions.end() && set->beat == beat && set->parts != parts ? kForbidden
                                                                                       : 0.0;
}

// The cheapest reading of all beats together.
Choice choose(const std::vector<BeatStrokes>& beats,
              const Timeline& timeline,
              const QuantiseParameters& p) {
    Choice choice;
    for (const BeatStrokes& beat : beats) {
        auto& costs = choice.costs.emplace_back();
        for (const Division& division : divisionsOf(beat.metre))
            costs.push_back(costOf(beat, division, timeline.swing, p) +
                            costOfSet(timeline, beat.beat, division.parts));
    }
    const auto steps = [&](std::size_t i, StepCosts& costs) {
        const auto& from = divisionsOf(beats[i - 1].metre);
        const auto& to = divisionsOf(beats[i].metre);
        const bool beside = beats[i].beat - beats[i - 1].beat == 1;
        costs.fill(from.size(), to.size(), [&](std::size_t a, std::size_t b) {
            return beside ? betweenCost(from[a], to[b], p) : 0.0;
        });
    };
    choice.division = bestPath(
        beats.size(), [&](std::size_t i) { return choice.costs[i]; }, steps);
    return choice;
}

// Whether the strokes of a beat stand at the same shares of it when it is read so or so.
bool sameAs(const BeatStrokes& beat, const Division& a, const Division& b, double swing) {
    const auto slot = [swing](const StrokeGroup& stroke, const Division& division) {
        return rounded(seenBy(division, stroke.part, swing) * division.parts);
    };
    return std::ranges::all_of(beat.strokes, [&](const StrokeGroup& stroke) {
        return slot(stroke, a) * b.parts == slot(stroke, b) * a.parts;
    });
}

// Divisions that put every stroke on the same place are one reading.
BeatReading readingOf(const BeatStrokes& beat,
                      const std::vector<double>& costs,
                      std::size_t chosen,
                      double piece_swing) {
    const double swing = beat.metre.compound() ? 1.0 : piece_swing;
    const auto& divisions = divisionsOf(beat.metre);
    BeatReading reading{beat.beat, divisions[chosen].parts, 0.0, 0, 0.0};
    double sum = 0.0;
    double own = 0.0;
    for (std::size_t k = 0; k < costs.size(); ++k) {
        const double share = std::exp(costs[chosen] - costs[k]);
        sum += share;
        if (sameAs(beat, divisions[k], divisions[chosen], swing))
            own += share;
        else if (share > reading.other_probability) {
            reading.other_parts = divisions[k].parts;
            reading.other_probability = share;
        }
    }
    reading.probability = own / sum;
    reading.other_probability /= sum;
    if (reading.other_probability < 0.02) {
        reading.other_parts = 0;
        reading.other_probability = 0.0;
    }
    return reading;
}

Rational placeOf(const BarGrid& grid, int beat, int slot, int parts) {
    return grid.quartersOf(beat) + grid.at(beat).metre.beatLength() * Rational(slot, parts);
}

class Quantiser {
  public:
    Quantiser(const Piece& piece, const QuantiseParameters& p)
        : m_piece(piece), m_p(p), m_map(piece.timeline), m_clock(m_map),
          m_beats(strokesByBeat(piece, m_map)), m_choice(choose(m_beats, piece.timeline, p)) {}

    Quantised run() {
        Quantised out;
        for (std::size_t i = 0; i < m_beats.size(); ++i) {
            out.beats.push_back(readingOf(
                m_beats[i], m_choice.costs[i], m_choice.division[i], m_piece.timeline.swing));
            place(m_beats[i], divisionOf(i), out.notes);
        }
        lengths(out.notes);
        addGraces(out.notes);
        return out;
    }

  private:
    const Division& divisionOf(std::size_t i) const {
        return divisionsOf(m_beats[i].metre)[m_choice.division[i]];
    }

    void place(const BeatStrokes& beat, const Division& division, std::vector<ScoreNote>& notes) {
        for (const StrokeGroup& stroke : beat.strokes) {
            const double swing = beat.metre.compound() ? 1.0 : m_piece.timeline.swing;
            const double part = seenBy(division, stroke.part, swing);
            const auto slot = rounded(part * division.parts);
            const double exact = static_cast<double>(slot) / division.parts;
            const double there = part == stroke.part || exact >= 1.0 ? exact : played(exact, swing);
            const double late_s = stroke.time_s - m_clock.timeAt(beat.beat + there);
            for (const std::size_t index : stroke.notes) {
                const Rational start = placeOf(m_map.grid(), beat.beat, slot, division.parts);
                notes.push_back({index,
                                 start,
                                 Rational(1, 4),
                                 false,
                                 late_s,
                                 endOf(m_piece.notes[index]) - start,
                                 beat.metre.beatLength() / Rational(division.parts)});
            }
        }
    }

    // The end of the sound, on the division of the beat it falls into.
    Rational endOf(const Note& note) const {
        const double at = m_clock.at(note.offset_s());
        const int beat = floored(at);
        const auto found = std::ranges::lower_bound(m_beats, beat, {}, &BeatStrokes::beat);
        const Metre metre = m_map.grid().at(beat).metre;
        int parts = metre.compound() ? 3 : 2;
        if (found != m_beats.end() && found->beat == beat)
            parts = std::max(parts,
                             divisionOf(static_cast<std::size_t>(found - m_beats.begin())).parts);
        return placeOf(m_map.grid(), beat, rounded((at - beat) * parts), parts);
    }

    void lengths(std::vector<ScoreNote>& notes) const {
        std::size_t next = 0;
        for (std::size_t i = 0; i < notes.size(); ++i) {
            next = std::max(next, i + 1);
            while (next < notes.size() && notes[next].start <= notes[i].start)
                ++next;
            notes[i].length =
                writtenLength(notes[i],
                              next < notes.size() ? std::optional(notes[next].start) : std::nullopt,
                              m_map.grid().barAt(notes[i].start).metre.barLength());
        }
    }

    void addGraces(std::vector<ScoreNote>& notes) const {
        std::vector<ScoreNote> graces;
        auto next = notes.begin();
        for (std::size_t i = 0; i < endOfGraces(m_piece.notes); ++i) {
            if (!m_piece.notes[i].has(Technique::Grace))
                continue;
            while (next->index <= i) // both go up, and something follows
                ++next;
            graces.push_back({i, next->start, Rational(0), true, 0.0, Rational(0), Rational(0)});
        }
        notes.insert(notes.end(), graces.begin(), graces.end());
        std::ranges::stable_sort(notes, [](const ScoreNote& a, const ScoreNote& b) {
            return a.start != b.start   ? a.start < b.start
                   : a.grace != b.grace ? a.grace
                                        : a.index < b.index;
        });
    }

    const Piece& m_piece;
    const QuantiseParameters& m_p;
    TimelineMap m_map;
    BeatClock m_clock;
    std::vector<BeatStrokes> m_beats;
    Choice m_choice;
};

} // namespace

Rational writtenLength(const ScoreNote& note, std::optional<Rational> next, Rational bar) {
    Rational end = note.start + std::max(note.sounds, note.step);
    if (next) {
        const Rational gap = *next - note.start;
        // Up to the next note unless a real rest is heard: a quarter note, or an eighth that is
        // half of the gap.
        const Rational silence = *next - end;
        const bool rest =
            silence >= Rational(1) || (silence >= Rational(1, 2) && silence * Rational(2) >= gap);
        if (!rest || end > *next)
            end = *next;
    }
    return std::min(end - note.start, bar * Rational(2));
}

Quantised quantise(const Piece& piece, const QuantiseParameters& parameters) {
    return Quantiser(piece, parameters).run();
}

double estimateSwing(const std::vector<Note>& notes, const std::vector<double>& beats_s) {
    constexpr std::size_t kEnough = 6;
    constexpr double kStraight = 1.2; // below, it is a player's looseness
    std::vector<double> ratios;
    std::size_t n = 0;
    for (std::size_t b = 0; b + 1 < beats_s.size(); ++b) {
        const double length_s = beats_s[b + 1] - beats_s[b];
        std::vector<double> inside;
        while (n < notes.size() && notes[n].onset_s() < beats_s[b] + 0.12 * length_s)
            ++n;
        std::size_t k = n;
        for (; k < notes.size() && notes[k].onset_s() < beats_s[b + 1] - 0.12 * length_s; ++k) {
            const double part = (notes[k].onset_s() - beats_s[b]) / length_s;
            if (inside.empty() || part - inside.back() > 0.06)
                inside.push_back(part);
        }
        if (inside.size() == 1 && inside[0] > 0.42 && inside[0] < 0.8)
            ratios.push_back(inside[0] / (1.0 - inside[0]));
    }
    if (ratios.size() < kEnough)
        return 1.0;
    const double middle = *median(ratios);
    return middle < kStraight ? 1.0 : std::min(middle, kMostSwing);
}

} // namespace wirenote
