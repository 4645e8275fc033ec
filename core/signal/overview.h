#pragma once

#include <cstddef>
#include <span>
#include <vector>

namespace wirenote {

// Lowest and highest sample of equal stretches of a sound, for drawing it at any zoom.
struct Overview {
    double step_s = 0.0; // length of one stretch
    double power = 0.0;  // mean square of all samples
    std::vector<float> lowest;
    std::vector<float> highest;
    double length_s() const { return step_s * static_cast<double>(lowest.size()); }
};

// Makes an overview while the sound goes by. Of a long sound the stretches get longer, so that its
// memory has a bound.
class OverviewBuilder {
  public:
    static constexpr std::size_t kMostSteps = 120000;
    OverviewBuilder(double rate_hz, double step_s = 0.002);
    void add(std::span<const float> samples);
    Overview overview() const; // so far

  private:
    void endStep();
    double m_rate_hz;
    std::size_t m_step; // samples
    std::size_t m_in_step = 0;
    double m_power = 0.0;
    double m_samples = 0.0;
    float m_low = 0.0F;
    float m_high = 0.0F;
    Overview m_overview;
};

} // namespace wirenote
