#include "media/biquad.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace wirenote {

Biquad Biquad::lowPass(double corner_hz, double q, double rate_hz) {
    const double w = 2.0 * std::numbers::pi * std::clamp(corner_hz / rate_hz, 1e-5, 0.49);
    const double alpha = std::sin(w) / (2.0 * q);
    const double a0 = 1.0 + alpha;
    Biquad f;
    f.m_b1 = (1.0 - std::cos(w)) / a0;
    f.m_b0 = f.m_b2 = 0.5 * f.m_b1;
    f.m_a1 = -2.0 * std::cos(w) / a0;
    f.m_a2 = (1.0 - alpha) / a0;
    return f;
}

Biquad Biquad::highPass(double corner_hz, double q, double rate_hz) {
    const double w = 2.0 * std::numbers::pi * std::clamp(corner_hz / rate_hz, 1e-5, 0.49);
    const double alpha = std::sin(w) / (2.0 * q);
    const double a0 = 1.0 + alpha;
    Biquad f;
    f.m_b1 = -(1.0 + std::cos(w)) / a0;
    f.m_b0 = f.m_b2 = -0.5 * f.m_b1;
    f.m_a1 = -2.0 * std::cos(w) / a0;
    f.m_a2 = (1.0 - alpha) / a0;
    return f;
}

} // namespace wirenote
