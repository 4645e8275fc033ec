// How far up and down what is written reaches, over the width of a system: so that the next mark
// finds a place that is free.
#pragma once

#include "engraving/ink.h"

#include <vector>

namespace wirenote {

class Skyline {
  public:
    explicit Skyline(double width_mm);

    void add(const Box& box);
    // The lowest bottom edge over [left, right] that is clear of everything, and the highest top
    // edge below everything. `none` where nothing is.
    double topOver(double left, double right, double none) const;
    double bottomOver(double left, double right, double none) const;
    // How far this one must be moved down to be `apart` below `above`.
    double clearBelow(const Skyline& above, double apart) const;

  private:
    std::size_t cell(double x) const;
    std::vector<double> m_top;
    std::vector<double> m_bottom;
};

} // namespace wirenote
