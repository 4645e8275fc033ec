#include "fretting/shape_table.h"

#include "hand/usual_grips.h"

#include <algorithm>
#include <bit>

namespace wirenote {
namespace {

// Whether the fingers beside the thumb are as they are taught for what they hold.
bool taughtBesideTheThumb(const Instrument& instrument,
                          const std::vector<Position>& stops,
                          const HandShape& shape,
                          unsigned open) {
    std::vector<Position> beside;
    std::vector<Finger> fingers;
    for (std::size_t i = 0; i < stops.size(); ++i)
        if (shape.fingers[i] != Finger::Thumb) {
            beside.push_back(stops[i]);
            fingers.push_back(shape.fingers[i]);
        }
    if (beside.size() == stops.size())
        return false;
    const auto usual = usualFingers(instrument, beside, open).ways;
    return std::ranges::find(usual, fingers) != usual.end();
}

} // namespace

const std::vector<KnownShape>&
ShapeTable::of(const std::vector<Position>& stops, std::size_t sounding, unsigned open) {
    std::vector<int> key{static_cast<int>(sounding), static_cast<int>(open)};
    for (const Position& stop : stops)
        key.push_back(stop.string * 64 + stop.fret);
    const auto [at, fresh] = m_known.try_emplace(std::move(key));
    if (!fresh)
        return at->second;
    const auto [usual, learned] = usualFingers(m_instrument, stops, open);
    const bool a_grip = sounding + static_cast<std::size_t>(std::popcount(open)) > 1;
    for (HandShape& shape : handShapes(m_instrument, stops, sounding, open, m_model.reach)) {
        const bool taught =
            a_grip &&
            (std::ranges::find(usual, shape.fingers) != usual.end() ||
             (m_model.reach.thumb && taughtBesideTheThumb(m_instrument, stops, shape, open)));
        double cost = shape.cost;
        if (a_grip && !usual.empty() && !taught)
            cost += m_model.usual_grip;
        if (a_grip && learned && stops.size() > 1)
            cost -= m_model.known_grip;
        at->second.push_back({std::move(shape), taught, cost});
    }
    std::ranges::stable_sort(at->second, {}, &KnownShape::cost);
    return at->second;
}

} // namespace wirenote
