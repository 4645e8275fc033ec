#include "fretting/layings.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace wirenote {
namespace {

constexpr std::size_t kMostLayings = 10;
constexpr std::size_t kMostFound = 64;    // before the hand is asked
constexpr std::size_t kMostLooks = 20000; // a dozen notes can be taken in too many ways
constexpr double kDearest = 14.0;         // above the cheapest that the notes could cost
constexpr double kGivenOut = 20.0;        // a person's word stays, held or not

class LayingSearch {
  public:
    LayingSearch(const HandLine& line, const Moment& moment, ShapeTable& shapes)
        : m_line(line), m_moment(moment), m_shapes(shapes), m_now(moment.notes.size()) {
        for (std::size_t k = 0; k < moment.notes.size(); ++k) {
            m_order.push_back(k);
            m_options.push_back(optionsFor(moment.notes[k]));
        }
        std::ranges::stable_sort(
            m_order, {}, [&](std::size_t k) { return line.note(moment.notes[k]).midi; });
    }

    std::vector<Laying> run() {
        search(false);
        if (m_found.empty() && m_moment.notes.size() > 1)
            search(true);
        std::ranges::stable_sort(m_found, {}, &Laying::cost);
        if (m_found.size() > kMostLayings)
            m_found.resize(kMostLayings);
        return std::move(m_found);
    }

  private:
    struct Option {
        Position place;
        double cost = 0.0;
    };

    // What speaks against each place of a note, without what the hand has to say.
    std::vector<Option> optionsFor(std::size_t i) const {
        const HandModel& m = m_line.model();
        const LineNote& note = m_line.note(i);
        std::vector<Option> options;
        for (const Position& place : m_line.candidates(i)) {
            double cost = note.against(place.string) + drawnCost(note, place);
            if (place.fret > 0)
                cost += m.press + neckCost(note, place.fret);
            options.push_back({place, cost});
        }
        std::ranges::stable_sort(options, {}, &Option::cost);
        return options;
    }

    // A line stays where it is known to be, else chords, and lines a little, like the low frets.
    double neckCost(const LineNote& note, int fret) const {
        const HandModel& m = m_line.model();
        if (!note.alone)
            return m.per_fret * fret;
        return note.near_fret ? m.per_fret_from_given * std::abs(fret - *note.near_fret)
                              : m.per_fret_alone * fret;
    }

    double drawnCost(const LineNote& note, const Position& place) const {
        const HandModel& m = m_line.model();
        double cost = 0.0;
        if (note.vibrato)
            cost += place.fret == 0 ? m.vibrato_open : m.vibrato_low * std::max(0, 3 - place.fret);
        if (note.drawn_semitones <= 0.0)
            return cost;
        if (place.fret == 0)
            return cost + m.bend_open;
        const int fret = m_line.instrument().capo + place.fret;
        const bool wound = m_line.instrument().string(place.string).wound();
        return cost + note.drawn_semitones * (m.bend_low * std::max(0, m.bend_easy_fret - fret) +
                                              (wound ? m.bend_wound : 0.0));
    }

    void search(bool leave_out) {
        m_leave_out = leave_out;
        m_looks = kMostLooks;
        double least = 0.0;
        for (const auto& options : m_options)
            least += options.front().cost;
        m_limit = leave_out ? std::numeric_limits<double>::infinity() : least + kDearest;
        extend(0, 0.0, 0);
    }

    void extend(std::size_t at, double cost, unsigned busy) {
        if (cost >= m_limit || m_looks == 0)
            return;
        --m_looks;
        if (at == m_order.size()) {
            add(cost);
            return;
        }
        const std::size_t k = m_order[at];
        for (const Option& option : m_options[k]) {
            const unsigned bit = 1U << static_cast<unsigned>(option.place.string);
            if ((busy & bit) || tooWide(at, option.place))
                continue;
            m_now[k] = option.place;
            extend(at + 1, cost + option.cost + besideCost(at, option.place), busy | bit);
        }
        m_now[k].reset();
        if (m_leave_out)
            leaveOut(at, cost, busy);
    }

    void leaveOut(std::size_t at, double cost, unsigned busy) {
        const std::size_t k = m_order[at];
        const LineNote& note = m_line.note(m_moment.notes[k]);
        if (!note.fixed_position)
            return extend(at + 1, cost + m_line.model().left_out * note.belief, busy);
        const unsigned bit = 1U << static_cast<unsigned>(note.fixed_position->string);
        if (busy & bit)
            return;
        m_now[k] = note.fixed_position;
        m_unheld |= bit;
        extend(at + 1, cost + kGivenOut, busy | bit);
        m_unheld &= ~bit;
        m_now[k].reset();
    }

    bool unheld(const Position& place) const {
        return (m_unheld >> static_cast<unsigned>(place.string)) & 1U;
    }

    bool tooWide(std::size_t at, const Position& place) const {
        if (place.fret == 0)
            return false;
        for (std::size_t before = 0; before < at; ++before)
            if (const auto& other = m_now[m_order[before]];
                other && other->fret > 0 && !unheld(*other) &&
                m_line.between_mm(std::min(other->fret, place.fret),
                                  std::max(other->fret, place.fret)) >
                    m_line.model().reach.index_to_little_mm)
                return true;
        return false;
    }

    // From low to high the strings go from thick to thin.
    double besideCost(std::size_t at, const Position& place) const {
        const HandModel& m = m_line.model();
        for (std::size_t before = at; before-- > 0;) {
            const auto& lower = m_now[m_order[before]];
            if (!lower)
                continue;
            const int step = lower->string - place.string;
            const bool crossed = m_line.note(m_moment.notes[m_order[at]]).crossed;
            return (step <= 0 ? m.strings_out_of_order : 0.0) +
                   (crossed ? m.skipped_in_strum : m.string_between) *
                       std::max(0, std::abs(step) - 1);
        }
        return 0.0;
    }

    void add(double cost) {
        std::vector<Position> stops;
        unsigned open = 0;
        for (std::size_t k = 0; k < m_now.size(); ++k) {
            if (!m_now[k] || unheld(*m_now[k]))
                continue;
            if (m_line.note(m_moment.notes[k]).fixed_finger == Finger::Thumb)
                continue; // over the neck, beside the fingers
            if (m_line.takesFinger(m_moment.notes[k], m_now[k]->fret))
                stops.push_back(*m_now[k]);
            else if (!m_line.note(m_moment.notes[k]).dead)
                open |= 1U << static_cast<unsigned>(m_now[k]->string);
        }
        Laying laying{m_now, m_unheld, cost, cost};
        if (!stops.empty()) {
            const auto& shapes = m_shapes.of(stops, stops.size(), open);
            if (shapes.empty())
                return;
            laying.cost += shapes.front().cost;
        }
        m_limit = std::min(m_limit, laying.cost + kDearest);
        m_found.push_back(std::move(laying));
        if (m_found.size() > kMostFound) {
            std::ranges::stable_sort(m_found, {}, &Laying::cost);
            m_found.resize(kMostLayings);
            m_limit = std::min(m_limit, m_found.back().cost);
        }
    }

    const HandLine& m_line;
    const Moment& m_moment;
    ShapeTable& m_shapes;
    std::vector<std::optional<Position>> m_now;
    std::vector<std::size_t> m_order; // of the notes, the lowest first
    std::vector<std::vector<Option>> m_options;
    std::vector<Laying> m_found;
    unsigned m_unheld = 0;
    bool m_leave_out = false;
    double m_limit = 0.0;
    std::size_t m_looks = 0;
};

} // namespace

std::vector<Laying> layingsOf(const HandLine& line, const Moment& moment, ShapeTable& shapes) {
    return LayingSearch(line, moment, shapes).run();
}

} // namespace wirenote
