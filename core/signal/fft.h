#pragma once

#include <complex>
#include <memory>
#include <span>

namespace wirenote {

// Real FFT of one fixed size (FFTW). Not scaled: inverse(forward(x)) = size · x.
// One object serves one thread; construction may happen on any thread.
class RealFft {
  public:
    explicit RealFft(int size); // even, at least 16
    ~RealFft();
    RealFft(RealFft&&) noexcept;
    RealFft& operator=(RealFft&&) noexcept;

    int size() const;
    std::span<float> time();                   // `size` values, in and out
    std::span<std::complex<float>> spectrum(); // size/2 + 1 values, in and out
    void forward();                            // time() → spectrum(); time() is spoilt
    void inverse();                            // spectrum() → time(); spectrum() is spoilt

  private:
    struct Plans;
    std::unique_ptr<Plans> m_plans;
};

} // namespace wirenote
