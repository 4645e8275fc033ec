// What is usual thereabouts: figures of a recording that are taken from what lies near in time, so
// that a click, a shout or one hard chord somewhere says nothing about the rest.
#pragma once

#include <algorithm>
#include <cmath>
#include <cstddef>
#include <functional>
#include <optional>
#include <vector>

namespace wirenote {

struct TimedValue {
    double time_s = 0.0;
    double value = 0.0;
};

// The smallest of the values that make up half of the sum of all, counted from the largest down:
// the typical size of what matters, however many small ones there are. `share` for "half". Values
// must not be negative; 0 for none.
inline double weightyMedian(std::vector<double>& values, double share = 0.5) {
    std::ranges::sort(values, std::greater());
    double sum = 0.0;
    for (const double v : values)
        sum += v;
    double above = 0.0;
    for (const double v : values)
        if ((above += v) >= share * sum)
            return v;
    return 0.0;
}

// The value that a share of them lies below, 0 ≤ share < 1; nothing for none. Reorders them.
inline std::optional<double> quantile(std::vector<double>& values, double share) {
    if (values.empty())
        return {};
    const auto at = values.begin() + static_cast<std::ptrdiff_t>(
                                         std::floor(share * static_cast<double>(values.size())));
    std::ranges::nth_element(values, at);
    return *at;
}

// A figure of the values within ± reach_s about any moment, worked out every half second.
class Nearby {
  public:
    using Figure = std::function<double(std::vector<double>&)>;

    Nearby() = default; // of nothing

    // `values` by rising time. `figure` gets the values about a moment, never none of them; where
    // there are none the nearest figure is taken.
    Nearby(const std::vector<TimedValue>& values, double reach_s, const Figure& figure) {
        if (values.empty())
            return;
        m_first_s = values.front().time_s;
        std::vector<double> near;
        std::size_t from = 0;
        std::size_t to = 0;
        for (double t = m_first_s; t < values.back().time_s + kStep_s; t += kStep_s) {
            while (from < values.size() && values[from].time_s < t - reach_s)
                ++from;
            while (to < values.size() && values[to].time_s <= t + reach_s)
                ++to;
            near.clear();
            for (std::size_t i = from; i < to; ++i)
                near.push_back(values[i].value);
            m_figures.push_back(near.empty() ? m_figures.back() : figure(near));
        }
    }

    bool empty() const { return m_figures.empty(); }
    // There must be some.
    double at(double time_s) const {
        const double step = std::round((time_s - m_first_s) / kStep_s);
        return m_figures[static_cast<std::size_t>(
            std::clamp(step, 0.0, static_cast<double>(m_figures.size() - 1)))];
    }

  private:
    static constexpr double kStep_s = 0.5;
    double m_first_s = 0.0;
    std::vector<double> m_figures; // every kStep_s from m_first_s on
};

} // namespace wirenote
