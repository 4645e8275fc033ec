#include "engraving/skyline.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {
constexpr double kCell_mm = 0.25;
constexpr double kBefore_mm = 20.0; // what stands left of the origin
constexpr double kNothing = 1e9;
} // namespace

Skyline::Skyline(double width_mm)
    : m_top(static_cast<std::size_t>((std::max(1.0, width_mm) + 2.0 * kBefore_mm) / kCell_mm),
            kNothing),
      m_bottom(m_top.size(), -kNothing) {}

std::size_t Skyline::cell(double x) const {
    const double at = std::floor((x + kBefore_mm) / kCell_mm);
    return static_cast<std::size_t>(std::clamp(at, 0.0, static_cast<double>(m_top.size() - 1)));
}

void Skyline::add(const Box& box) {
    for (std::size_t c = cell(box.left); c <= cell(box.right); ++c) {
        m_top[c] = std::min(m_top[c], box.top);
        m_bottom[c] = std::max(m_bottom[c], box.bottom);
    }
}

double Skyline::topOver(double left, double right, double none) const {
    const auto from = m_top.begin() + static_cast<std::ptrdiff_t>(cell(left));
    const auto to = m_top.begin() + static_cast<std::ptrdiff_t>(cell(right)) + 1;
    const double top = *std::min_element(from, to);
    return top < kNothing ? top : none;
}

double Skyline::bottomOver(double left, double right, double none) const {
    const auto from = m_bottom.begin() + static_cast<std::ptrdiff_t>(cell(left));
    const auto to = m_bottom.begin() + static_cast<std::ptrdiff_t>(cell(right)) + 1;
    const double bottom = *std::max_element(from, to);
    return bottom > -kNothing ? bottom : none;
}

double Skyline::clearBelow(const Skyline& above, double apart) const {
    double down = -kNothing;
    for (std::size_t c = 0; c < std::min(m_top.size(), above.m_bottom.size()); ++c)
        if (m_top[c] < kNothing && above.m_bottom[c] > -kNothing)
            down = std::max(down, above.m_bottom[c] + apart - m_top[c]);
    return down > -kNothing ? down : 0.0;
}

} // namespace wirenote
