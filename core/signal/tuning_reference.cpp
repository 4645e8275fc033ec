#include "signal/tuning_reference.h"

#include <cmath>
#include <complex>
#include <numbers>

namespace wirenote {

double ReferenceEstimate::a4_hz() const {
    return 440.0 * std::exp2(cents / 1200.0);
}

ReferenceEstimate estimateReference(std::span<const WeightedPitch> pitches) {
    std::complex<double> sum = 0.0;
    double weights = 0.0;
    for (const WeightedPitch& pitch : pitches) {
        sum += pitch.weight * std::polar(1.0, 2.0 * std::numbers::pi * pitch.midi);
        weights += pitch.weight;
    }
    ReferenceEstimate estimate;
    if (weights <= 0.0)
        return estimate;
    constexpr double kCentsPerRadian = 100.0 / (2.0 * std::numbers::pi);
    estimate.certainty = std::min(1.0, std::abs(sum) / weights);
    estimate.cents = std::arg(sum) * kCentsPerRadian;
    estimate.spread_cents =
        std::sqrt(-2.0 * std::log(std::max(estimate.certainty, 1e-9))) * kCentsPerRadian;
    return estimate;
}

} // namespace wirenote
