#include "signal/fft.h"

#include <cassert>
#include <fftw3.h>
#include <mutex>

namespace wirenote {
namespace {
// FFTW plans are made and destroyed by one thread at a time.
std::mutex& planMutex() {
    static std::mutex mutex;
    return mutex;
}
} // namespace

struct RealFft::Plans {
    int size = 0;
    float* time = nullptr;
    fftwf_complex* spectrum = nullptr;
    fftwf_plan forward = nullptr;
    fftwf_plan inverse = nullptr;

    explicit Plans(int n) : size(n) {
        const std::lock_guard lock(planMutex());
        const auto count = static_cast<std::size_t>(n);
        time = fftwf_alloc_real(count);
        spectrum = fftwf_alloc_complex(count / 2 + 1);
        forward = fftwf_plan_dft_r2c_1d(n, time, spectrum, FFTW_ESTIMATE);
        inverse = fftwf_plan_dft_c2r_1d(n, spectrum, time, FFTW_ESTIMATE);
    }
    ~Plans() {
        const std::lock_guard lock(planMutex());
        fftwf_destroy_plan(forward);
        fftwf_destroy_plan(inverse);
        fftwf_free(time);
        fftwf_free(spectrum);
    }
    Plans(const Plans&) = delete;
    Plans& operator=(const Plans&) = delete;
};

RealFft::RealFft(int size) {
    assert(size >= 16 && size % 2 == 0);
    m_plans = std::make_unique<Plans>(size);
}
RealFft::~RealFft() = default;
RealFft::RealFft(RealFft&&) noexcept = default;
RealFft& RealFft::operator=(RealFft&&) noexcept = default;

int RealFft::size() const {
    return m_plans->size;
}
std::span<float> RealFft::time() {
    return {m_plans->time, static_cast<std::size_t>(size())};
}
std::span<std::complex<float>> RealFft::spectrum() {
    // fftwf_complex is documented to be layout-compatible with std::complex<float>.
    return {reinterpret_cast<std::complex<float>*>(m_plans->spectrum),
            static_cast<std::size_t>(size() / 2 + 1)};
}
void RealFft::forward() {
    fftwf_execute(m_plans->forward);
}
void RealFft::inverse() {
    fftwf_execute(m_plans->inverse);
}

} // namespace wirenote
