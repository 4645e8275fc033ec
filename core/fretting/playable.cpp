#include "fretting/playable.h"

#include "hand/hand_shapes.h"
#include "piece/one_stroke.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <optional>

namespace wirenote {
namespace {

constexpr double kLeast = 1e-4;    // probability of a place that the line did not think of
constexpr double kLeftOut = 7.0;   // a note has no place rather than the others unlikely ones
constexpr double kFixedOut = 20.0; // a person's word stays, held or not
constexpr std::size_t kMostLooks = 20000; // a dozen notes can be taken in too many ways
constexpr double kNever = std::numeric_limits<double>::infinity();

// What the cheapest shape costs that holds these places at once; nothing where none does.
std::optional<double> heldCost(const Instrument& instrument, const std::vector<Position>& places) {
    unsigned strings = 0;
    unsigned open = 0;
    std::vector<Position> stops;
    for (const Position& place : places) {
        const unsigned bit = 1U << static_cast<unsigned>(place.string);
        if (strings & bit)
            return {};
        strings |= bit;
        if (place.fret > 0)
            stops.push_back(place);
        else
            open |= bit;
    }
    if (stops.empty())
        return 0.0;
    const auto shapes = handShapes(instrument, stops, stops.size(), open);
    return shapes.empty() ? std::nullopt : std::optional(shapes.front().cost);
}

class StrokePlaces {
  public:
    StrokePlaces(const Instrument& instrument,
                 std::span<const LineNote> line,
                 std::span<LinePlacement> placements)
        : m_instrument(instrument), m_line(line), m_placements(placements) {}

    bool held() const {
        std::vector<Position> places;
        for (const LinePlacement& placement : m_placements)
            if (placement.possible)
                places.push_back(placement.state.position);
        return places.size() < 2 || heldCost(m_instrument, places).has_value();
    }

    // The likeliest places for all of them, or for all but a few that are left out.
    void mend() {
        takeInTurn();
        extend(0, 0.0);
        for (std::size_t i = 0; i < m_best.size(); ++i)
            if (!m_line[i].fixed_position)
                take(m_best[i], m_placements[i]);
    }

  private:
    double leftOut(std::size_t note) const {
        return m_line[note].fixed_position ? kFixedOut : kLeftOut * m_line[note].belief;
    }

    // Note by note what can still be held: something to hold better ways against.
    void takeInTurn() {
        std::vector<Position> chosen;
        m_best_cost = 0.0;
        for (std::size_t note = 0; note < m_placements.size(); ++note) {
            m_best.emplace_back();
            double cost = leftOut(note);
            for (const PlaceProbability& place : m_placements[note].places) {
                chosen.push_back(place.position);
                if (heldCost(m_instrument, chosen)) {
                    m_best.back() = place.position;
                    cost = -std::log(std::max(kLeast, place.probability));
                    break;
                }
                chosen.pop_back();
            }
            m_best_cost += cost;
        }
        m_best_cost += heldCost(m_instrument, chosen).value_or(0.0);
    }

    void extend(std::size_t note, double cost) {
        if (cost >= m_best_cost || m_looks == 0)
            return;
        --m_looks;
        if (note == m_placements.size()) {
            if (const auto held = heldCost(m_instrument, m_chosen);
                held && cost + *held < m_best_cost) {
                m_best_cost = cost + *held;
                m_best = m_places;
            }
            return;
        }
        for (const PlaceProbability& place : m_placements[note].places) {
            const bool busy = std::ranges::any_of(m_chosen, [&place](const Position& other) {
                return other.string == place.position.string;
            });
            if (busy)
                continue;
            m_chosen.push_back(place.position);
            m_places.emplace_back(place.position);
            extend(note + 1, cost - std::log(std::max(kLeast, place.probability)));
            m_places.pop_back();
            m_chosen.pop_back();
        }
        m_places.emplace_back();
        extend(note + 1, cost + leftOut(note));
        m_places.pop_back();
    }

    static void take(const std::optional<Position>& place, LinePlacement& placement) {
        if (!placement.possible || place == placement.state.position)
            return;
        if (!place) {
            placement.possible = false;
            placement.out_of_hand = true;
            return;
        }
        placement.state.position = *place;
        // The place that was likeliest by itself cannot be: what it had goes to the one that can.
        for (PlaceProbability& one : placement.places)
            if (one.position == *place)
                std::swap(one.probability, placement.places.front().probability);
        std::ranges::stable_sort(
            placement.places, std::ranges::greater{}, &PlaceProbability::probability);
    }

    const Instrument& m_instrument;
    std::span<const LineNote> m_line;
    std::span<LinePlacement> m_placements;
    std::vector<std::optional<Position>> m_places; // so far; nothing: left out
    std::vector<Position> m_chosen;                // those of them that are places
    std::vector<std::optional<Position>> m_best;
    double m_best_cost = kNever;
    std::size_t m_looks = kMostLooks;
};

} // namespace

void makePlayable(const Instrument& instrument,
                  std::span<const LineNote> line,
                  std::vector<LinePlacement>& placements) {
    std::vector<double> onsets_s;
    for (const LineNote& note : line)
        onsets_s.push_back(note.onset_s);
    for (const IndexSpan& span : strokeSpans(onsets_s)) {
        if (span.size() < 2)
            continue;
        StrokePlaces stroke(instrument,
                            line.subspan(span.first, span.size()),
                            std::span(placements).subspan(span.first, span.size()));
        if (!stroke.held())
            stroke.mend();
    }
}

} // namespace wirenote
