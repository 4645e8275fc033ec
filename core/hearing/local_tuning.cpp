#include "hearing/local_tuning.h"

#include "signal/tuning_reference.h"

#include <cmath>

namespace wirenote {
namespace {

constexpr double kReach_s = 8.0;
constexpr std::size_t kFewest = 8;     // notes that say something
constexpr double kSpread_cents = 15.0; // they lie together within this …
constexpr double kError_cents = 3.0;   // … and tell their mean within this
constexpr double kLeast_cents = 3.0;   // less is within the error of either
constexpr double kMost_cents = 30.0;   // more is another note
constexpr double kStep_cents = 2.0;

} // namespace

LocalTuning::LocalTuning(double a4_hz, const std::vector<TimedValue>& pitches)
    : m_a4_hz(a4_hz), m_cents(pitches, kReach_s, [a4_hz](std::vector<double>& near) {
          std::vector<WeightedPitch> notes;
          for (const double midi : near)
              notes.push_back({midi});
          const ReferenceEstimate here = estimateReference(notes);
          const double whole_cents = 1200.0 * std::log2(a4_hz / 440.0);
          const double off_cents = std::remainder(here.cents - whole_cents, 100.0);
          const double error_cents =
              here.spread_cents / std::sqrt(static_cast<double>(near.size()));
          const bool agreed = near.size() >= kFewest && here.spread_cents <= kSpread_cents &&
                              error_cents <= kError_cents;
          const bool other =
              std::abs(off_cents) >= kLeast_cents && std::abs(off_cents) <= kMost_cents;
          return agreed && other ? kStep_cents * std::round(off_cents / kStep_cents) : 0.0;
      }) {}

double LocalTuning::a4At(double time_s) const {
    const double cents = m_cents.empty() ? 0.0 : m_cents.at(time_s);
    return cents == 0.0 ? m_a4_hz : m_a4_hz * std::exp2(cents / 1200.0);
}

} // namespace wirenote
