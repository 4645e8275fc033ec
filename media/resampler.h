#pragma once

#include "base/result.h"

#include <memory>
#include <span>
#include <vector>

namespace wirenote {

// Changes the sample rate of one or two interleaved channels, block after block (libswresample).
// Output sample 0 belongs to input sample 0.
class Resampler {
  public:
    static Result<Resampler> make(double from_hz, double to_hz, int channels);
    ~Resampler();
    Resampler(Resampler&&) noexcept;
    Resampler& operator=(Resampler&&) noexcept;

    void add(std::span<const float> in, std::vector<float>& out); // appends what is ready
    void finish(std::vector<float>& out);                         // appends the rest

  private:
    struct State;
    explicit Resampler(std::unique_ptr<State> state);
    std::unique_ptr<State> m;
};

} // namespace wirenote
