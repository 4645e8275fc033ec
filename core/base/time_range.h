#pragma once

#include <algorithm>

namespace wirenote {

// Media time, half open: start_s belongs to it, end_s does not. Seconds from the start of the take.
struct TimeRange {
    double start_s = 0.0;
    double end_s = 0.0;

    double length_s() const { return end_s - start_s; }
    bool empty() const { return end_s <= start_s; }
    bool contains(double time_s) const { return time_s >= start_s && time_s < end_s; }
    bool overlaps(const TimeRange& other) const {
        return start_s < other.end_s && other.start_s < end_s;
    }
    TimeRange clippedTo(const TimeRange& other) const {
        return {std::max(start_s, other.start_s), std::min(end_s, other.end_s)};
    }
    bool operator==(const TimeRange&) const = default;
};

} // namespace wirenote
