#include "fretting/playable.h"

#include "hand/hand_shapes.h"
#include "piece/one_stroke.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <optional>

namespace wirenote {
namespace {

constexpr double kLeast = 1e-4;        // probability of a place that the line did not think of
constexpr std::size_t kMostNotes = 12; // of a stroke; more are no one hand's
constexpr double kLeftOut = 7.0;       // a note has no place rather than the others unlikely ones
constexpr double kFixedOut = 100.0;    // a person's word is not left out
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
        extend(0, 0.0);
        for (std::size_t i = 0; i < m_best.size(); ++i)
            take(m_best[i], m_placements[i]);
    }

  private:
    void extend(std::size_t note, double cost) {
        if (cost >= m_best_cost)
            return;
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
        extend(note + 1,
               cost + (m_line[note].fixed_position ? kFixedOut : kLeftOut * m_line[note].belief));
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
};

} // namespace

void makePlayable(const Instrument& instrument,
                  std::span<const LineNote> line,
                  std::vector<LinePlacement>& placements) {
    std::vector<double> onsets_s;
    for (const LineNote& note : line)
        onsets_s.push_back(note.onset_s);
    for (const IndexSpan& span : strokeSpans(onsets_s)) {
        if (span.size() < 2 || span.size() > kMostNotes)
            continue;
        StrokePlaces stroke(instrument,
                            line.subspan(span.first, span.size()),
                            std::span(placements).subspan(span.first, span.size()));
        if (!stroke.held())
            stroke.mend();
    }
}

} // namespace wirenote
