// The same grips come again and again: each is counted out once.
#pragma once

#include "hand/hand_shapes.h"

#include <map>
#include <vector>

namespace wirenote {

struct KnownShape {
    HandShape shape;
    bool usual = false; // as teachers show it
    double cost = 0.0;  // of the shape, and of what is usual
};

class ShapeTable {
  public:
    // The instrument must live as long as the table.
    ShapeTable(const Instrument& instrument, const HandModel& model)
        : m_instrument(instrument), m_model(model) {}
    // As handShapes(), and whether each is as taught; cheapest first.
    const std::vector<KnownShape>&
    of(const std::vector<Position>& stops, std::size_t sounding, unsigned open);

  private:
    const Instrument& m_instrument;
    HandModel m_model;
    std::map<std::vector<int>, std::vector<KnownShape>> m_known;
};

} // namespace wirenote
