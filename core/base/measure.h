#pragma once

namespace wirenote {

// A measured value with its standard deviation. A negative deviation: it could not be said.
struct Measure {
    double value = 0.0;
    double sd = -1.0;
    bool operator==(const Measure&) const = default;
    bool told() const { return sd >= 0.0; }
};

} // namespace wirenote
