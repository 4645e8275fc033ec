#include "strings/tone_traits.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace wirenote {
namespace {

// What is known of a figure before a take is heard (working figures): how it changes an octave up
// one string, how far strings of one instrument differ, and how far notes of one string do.
struct Before {
    double per_octave;
    double per_octave_sd;
    double strings_sd;
    double least_sd;
    double first_sd;
    double stopped_sd; // between an open string and a stopped one
    double per_db;     // harder strokes are brighter: common practice
    double per_db_sd;
};

Before before(ToneFigure figure) {
    switch (figure) {
    case ToneFigure::DecayLow:
        return {0.4, 0.3, 0.5, 0.08, 0.3, 0.15, 0.0, 0.0};
    case ToneFigure::DecayHigh:
        return {1.0, 0.4, 0.7, 0.08, 0.3, 0.15, 0.0, 0.0};
    case ToneFigure::Comb:
        // The hand, or the pickup, keeps its distance from the bridge: as a share of half the
        // length that is twice as much.
        return {std::log(2.0), 0.0, 0.06, 0.05, 0.1, 0.0, 0.0, 0.0};
    case ToneFigure::Tilt:
        break;
    }
    return {-1.0, 2.0, 3.0, 0.7, 3.0, 1.0, 0.1, 0.1};
}

struct Point { // one note on one string that it may lie on
    std::size_t note;
    std::size_t string;
    double octaves; // above the open string
    bool open;
    double louder_db; // than kToneLoudness_db
    double value;
    double sd;
    double share; // of the note
};

double octavesAt(const Instrument& instrument, int fret) {
    return (instrument.capo + fret) / 12.0;
}

double logT(double value, double mean, double sd, double tails) {
    const double z2 = (value - mean) * (value - mean) / (sd * sd);
    return -std::log(sd) - 0.5 * (tails + 1.0) * std::log1p(z2 / tails);
}

constexpr double kFolded_sd = 0.2;

// The comb of a note past the middle of its string reads as the other half.
bool folds(ToneFigure figure, double mean, const ToneModel& model) {
    return figure == ToneFigure::Comb && mean > std::log(model.highest_comb);
}

struct Learned {
    std::vector<double> at_open;
    std::vector<double> weight; // of the notes on each string, and what is common to all
    double per_octave = 0.0;
    double stopped = 0.0;
    double per_db = 0.0;
    double sd = 0.0;
    // What a point lies above its open string, whichever that is.
    double above(const Point& p) const {
        return per_octave * p.octaves + (p.open ? 0.0 : stopped) + per_db * p.louder_db;
    }
};

class Learner {
  public:
    Learner(ToneFigure figure, std::vector<Point> points, std::size_t strings, const ToneModel& m)
        : m_figure(figure), m_before(before(figure)), m_points(std::move(points)), m_model(m) {
        m_fit.at_open.assign(strings, 0.0);
        m_fit.weight.assign(strings, 0.0);
        m_fit.per_octave = m_before.per_octave;
        m_fit.per_db = m_before.per_db;
        m_fit.sd = m_before.first_sd;
        double sum = 0.0;
        double share = 0.0;
        for (const Point& p : m_points) {
            sum += p.share * (p.value - m_fit.above(p));
            share += p.share;
        }
        m_common = share > 0.0 ? sum / share : 0.0;
        std::ranges::fill(m_fit.at_open, m_common);
    }

    const Learned& run() {
        for (int round = 0; round < m_model.rounds; ++round) {
            learnSlopes();
            learnStrings();
            learnScatter();
        }
        return m_fit;
    }

    // By how many nepers a note the figure speaks for the string it lies on, judged by what the
    // other notes of that string say.
    double gain() const {
        double gain = 0.0;
        double notes = 0.0;
        for (std::size_t from = 0; from < m_points.size();) {
            std::size_t to = from;
            double most = -std::numeric_limits<double>::infinity();
            while (to < m_points.size() && m_points[to].note == m_points[from].note)
                most = std::max(most, without(m_points[to++]));
            double even = 0.0;
            for (std::size_t i = from; i < to; ++i)
                even += std::exp(without(m_points[i]) - most) / static_cast<double>(to - from);
            if (to - from > 1) {
                for (std::size_t i = from; i < to; ++i)
                    gain += m_points[i].share *
                            (without(m_points[i]) - most - std::log(std::max(1e-9, even)));
                for (std::size_t i = from; i < to; ++i)
                    notes += m_points[i].share;
            }
            from = to;
        }
        return notes > 0.0 ? gain / notes : 0.0;
    }

  private:
    double weightOf(const Point& p) const {
        const double mean = m_fit.at_open[p.string] + m_fit.above(p);
        if (folds(m_figure, mean, m_model))
            return 0.0;
        const double var = m_fit.sd * m_fit.sd + p.sd * p.sd;
        const double z2 = (p.value - mean) * (p.value - mean) / var;
        return p.share / var * (m_model.tails + 1.0) / (m_model.tails + z2);
    }

    // What the slope of one thing is, when all others are as they are: each point has so much of
    // it.
    template <class Amount>
    void learnPart(double& slope, double usual, double usual_sd, Amount amount) {
        if (usual_sd <= 0.0)
            return;
        double weight = 1.0 / (usual_sd * usual_sd);
        double sum = weight * usual;
        for (const Point& p : m_points) {
            const double x = amount(p);
            const double w = weightOf(p);
            const double rest = m_fit.at_open[p.string] + m_fit.above(p) - slope * x;
            weight += w * x * x;
            sum += w * x * (p.value - rest);
        }
        slope = sum / weight;
    }

    void learnSlopes() {
        learnPart(m_fit.per_octave,
                  m_before.per_octave,
                  m_before.per_octave_sd,
                  [](const Point& p) { return p.octaves; });
        learnPart(m_fit.stopped, 0.0, m_before.stopped_sd, [](const Point& p) {
            return p.open ? 0.0 : 1.0;
        });
        learnPart(m_fit.per_db, m_before.per_db, m_before.per_db_sd, [](const Point& p) {
            return p.louder_db;
        });
    }

    void learnStrings() {
        const double pull = 1.0 / (m_before.strings_sd * m_before.strings_sd);
        std::vector<double> sum(m_fit.at_open.size(), 0.0);
        std::ranges::fill(m_fit.weight, 0.0);
        for (const Point& p : m_points) {
            const double w = weightOf(p);
            m_fit.weight[p.string] += w;
            sum[p.string] += w * (p.value - m_fit.above(p));
        }
        // What is common counts each string as far as its notes tell it.
        double common = 0.0;
        double counted = 0.0;
        for (std::size_t s = 0; s < sum.size(); ++s)
            if (m_fit.weight[s] > 0.0) {
                const double w = 1.0 / (1.0 / m_fit.weight[s] + 1.0 / pull);
                common += w * sum[s] / m_fit.weight[s];
                counted += w;
            }
        if (counted > 0.0)
            m_common = common / counted;
        for (std::size_t s = 0; s < sum.size(); ++s) {
            m_fit.at_open[s] = (pull * m_common + sum[s]) / (pull + m_fit.weight[s]);
            m_fit.weight[s] += pull;
        }
    }

    void learnScatter() {
        constexpr double kPriorNotes = 4.0;
        double sum = kPriorNotes * m_before.least_sd * m_before.least_sd;
        double share = kPriorNotes;
        for (const Point& p : m_points) {
            const double mean = m_fit.at_open[p.string] + m_fit.above(p);
            if (folds(m_figure, mean, m_model))
                continue;
            const double off2 = (p.value - mean) * (p.value - mean);
            const double var = m_fit.sd * m_fit.sd + p.sd * p.sd;
            // What lies far off is on another string, however likely it looked.
            const double believed = (m_model.tails + 1.0) / (m_model.tails + off2 / var);
            sum += p.share * believed * std::max(0.0, off2 - p.sd * p.sd);
            share += p.share;
        }
        m_fit.sd = std::max(m_before.least_sd, std::sqrt(sum / share));
    }

    // The log-likelihood of a point by all other points of its string.
    double without(const Point& p) const {
        const double own = weightOf(p);
        const double rest = std::max(1e-9, m_fit.weight[p.string] - own);
        const double at = p.value - m_fit.above(p);
        const double others = (m_fit.weight[p.string] * m_fit.at_open[p.string] - own * at) / rest;
        const double sd = std::sqrt(m_fit.sd * m_fit.sd + p.sd * p.sd + 1.0 / rest);
        return logT(at, others, sd, m_model.tails);
    }

    ToneFigure m_figure;
    Before m_before;
    std::vector<Point> m_points;
    ToneModel m_model;
    Learned m_fit;
    double m_common = 0.0;
};

// Notes that are as they were struck: their tone is that of their string.
bool speaks(const Note& note) {
    return note.pitched() && !note.slurred() && !note.has(Technique::Harmonic) &&
           !note.has(Technique::PalmMute) && note.bendSemitones() == 0.0 &&
           note.frettedMidi() == note.midi();
}

// How far the place of a note is known without its tone. What the hand alone has placed would only
// teach the tone what the hand prefers.
double trust(const Row& row) {
    constexpr double kOnlyReasoned = 0.25;
    constexpr double kSharp_sd = 0.3;
    const Decision<Position>& position = row.plan.position;
    const HeardStiffness stiffness = row.note.heard().stiffness;
    const bool known = position.isSet() ||
                       (position.runners_up.empty() && position.value.string > 0) ||
                       (stiffness.told() && stiffness.sd < kSharp_sd);
    return known ? 1.0 : kOnlyReasoned;
}

std::vector<Point> pointsOf(const Instrument& instrument,
                            const Rows& rows,
                            const std::vector<std::vector<double>>& probabilities,
                            std::size_t figure) {
    constexpr double kLeastShare = 1e-4;
    std::vector<Point> points;
    for (std::size_t i = 0; i < rows.size() && i < probabilities.size(); ++i) {
        const Note& note = rows[i].note;
        const Measure heard = note.heard().tone[figure];
        if (!heard.told() || !speaks(note))
            continue;
        const double trusted = trust(rows[i]);
        for (int s = 1; s <= instrument.stringCount(); ++s)
            if (const int fret = instrument.fretFor(s, note.midi()); fret >= 0) {
                const auto at = static_cast<std::size_t>(s - 1);
                points.push_back({i,
                                  at,
                                  octavesAt(instrument, fret),
                                  fret == 0 && instrument.capo == 0,
                                  note.loudness_db - kToneLoudness_db,
                                  heard.value,
                                  heard.sd,
                                  std::max(kLeastShare, trusted * probabilities[i][at])});
            }
    }
    return points;
}

} // namespace

namespace {

// What one figure costs each string, in nepers and not yet weighed; nothing where it is not told or
// not known.
std::vector<double> figureCosts(const Instrument& instrument,
                                const std::vector<StringTrait>& traits,
                                ToneFigure figure,
                                const Note& note,
                                const ToneModel& model) {
    const auto at = static_cast<std::size_t>(figure);
    const Measure heard = note.heard().tone[at];
    const bool known =
        std::ranges::all_of(traits, [at](const StringTrait& t) { return t.tone[at].told(); });
    if (!heard.told() || !known)
        return {};
    std::vector<double> costs(traits.size(), std::numeric_limits<double>::infinity());
    for (int s = 1; s <= instrument.stringCount(); ++s) {
        const int fret = instrument.fretFor(s, note.midi());
        if (fret < 0)
            continue;
        const ToneTrait& trait = traits[static_cast<std::size_t>(s - 1)].tone[at];
        double mean = trait.at(
            octavesAt(instrument, fret), fret == 0 && instrument.capo == 0, note.loudness_db);
        double sd = std::hypot(trait.sd, heard.sd);
        if (folds(figure, mean, model)) { // somewhere in the upper half: it hardly tells
            mean = std::log(model.highest_comb);
            sd = std::max(sd, kFolded_sd);
        }
        costs[static_cast<std::size_t>(s - 1)] = -logT(heard.value, mean, sd, model.tails);
    }
    const double least = *std::ranges::min_element(costs);
    if (std::isinf(least)) // no string has this pitch
        return {};
    for (double& cost : costs)
        cost -= least;
    return costs;
}

struct Use { // of a figure
    ReasonKind kind;
    double weight;
};

Use useOf(ToneFigure figure, const ToneModel& model) {
    switch (figure) {
    case ToneFigure::DecayLow:
    case ToneFigure::DecayHigh:
        return {ReasonKind::DecayFits, model.decay_weight};
    case ToneFigure::Comb:
        return {ReasonKind::CombFits, model.comb_weight};
    case ToneFigure::Tilt:
        break;
    }
    return {ReasonKind::TiltFits, model.tilt_weight};
}

} // namespace

std::vector<StringEvidence> toneEvidence(const Instrument& instrument,
                                         const std::vector<StringTrait>& traits,
                                         const Note& note,
                                         const ToneModel& model) {
    std::vector<StringEvidence> all;
    if (traits.size() != instrument.strings.size())
        return all;
    for (int k = 0; k < kToneFigures; ++k) {
        const auto figure = static_cast<ToneFigure>(k);
        const auto costs = figureCosts(instrument, traits, figure, note, model);
        if (costs.empty())
            continue;
        const Use use = useOf(figure, model);
        auto it = std::ranges::find(all, use.kind, &StringEvidence::kind);
        if (it == all.end())
            it = all.insert(it, {use.kind, Basis::Heard, std::vector<double>(costs.size(), 0.0)});
        for (std::size_t s = 0; s < costs.size(); ++s)
            it->costs[s] += std::min(model.most_nepers, use.weight * costs[s]);
    }
    return all;
}

std::vector<StringTrait> withTone(const Instrument& instrument,
                                  const Rows& rows,
                                  std::vector<StringTrait> traits,
                                  const std::vector<std::vector<double>>& probabilities,
                                  const ToneModel& model) {
    const std::size_t strings = instrument.strings.size();
    if (traits.size() != strings)
        return traits;
    const bool calibrated =
        std::ranges::any_of(traits, [](const StringTrait& t) { return t.basis == Basis::Set; });
    for (int k = 0; k < kToneFigures; ++k) {
        const auto figure = static_cast<ToneFigure>(k);
        const auto at = static_cast<std::size_t>(k);
        const bool decay = figure == ToneFigure::DecayLow || figure == ToneFigure::DecayHigh;
        if (calibrated && decay && traits.front().tone[at].told())
            continue;
        auto points = pointsOf(instrument, rows, probabilities, at);
        double notes = 0.0;
        for (const Point& p : points)
            notes += p.share;
        if (notes < model.least_notes)
            continue;
        Learner learner(figure, std::move(points), strings, model);
        const Learned& fit = learner.run();
        const bool helps = learner.gain() > model.least_gain;
        for (std::size_t s = 0; s < strings; ++s)
            traits[s].tone[at] = helps ? ToneTrait{fit.at_open[s],
                                                   fit.per_octave,
                                                   std::sqrt(fit.sd * fit.sd + 1.0 / fit.weight[s]),
                                                   fit.stopped,
                                                   fit.per_db}
                                       : ToneTrait{};
    }
    return traits;
}

} // namespace wirenote
