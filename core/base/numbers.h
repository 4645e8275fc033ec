// Numbers from outside, made whole without undefined behaviour.
#pragma once

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <limits>

namespace wirenote {

// The nearest int; what lies beyond is the last one there is, what is no number is 0.
inline int saturated(double value) {
    if (std::isnan(value))
        return 0;
    constexpr double kLow = std::numeric_limits<int>::min();
    constexpr double kHigh = std::numeric_limits<int>::max();
    return static_cast<int>(std::clamp(value, kLow, kHigh));
}
inline int saturated(std::int64_t value) {
    return static_cast<int>(std::clamp<std::int64_t>(
        value, std::numeric_limits<int>::min(), std::numeric_limits<int>::max()));
}
inline int floored(double value) {
    return saturated(std::floor(value));
}
inline int rounded(double value) {
    return saturated(std::round(value));
}

} // namespace wirenote
