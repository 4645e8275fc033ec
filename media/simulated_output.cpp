#include "media/sound_output.h"

#include <atomic>
#include <chrono>
#include <thread>
#include <vector>

namespace wirenote {
namespace {

using Clock = std::chrono::steady_clock;

class SimulatedOutput : public SoundOutput {
  public:
    ~SimulatedOutput() override { SimulatedOutput::stop(); }

    Status start(SoundSource& source, double rate_hz) override {
        stop();
        m_rate_hz = rate_hz;
        m_running = true;
        m_heard = 0;
        m_thread = std::thread([this, &source] { run(source); });
        return {};
    }
    void stop() override {
        m_running = false;
        if (m_thread.joinable())
            m_thread.join();
    }
    std::int64_t framesHeard() const override { return m_heard; }
    bool simulated() const override { return true; }

  private:
    void run(SoundSource& source) {
        const auto began = Clock::now();
        std::vector<float> block;
        std::int64_t pulled = 0;
        while (m_running) {
            const std::chrono::duration<double> elapsed = Clock::now() - began;
            const auto due = static_cast<std::int64_t>(elapsed.count() * m_rate_hz);
            if (due > pulled) {
                block.assign(static_cast<std::size_t>(due - pulled) * 2, 0.0F);
                source.fill(block);
                pulled = due;
                m_heard = pulled;
            }
            std::this_thread::sleep_for(std::chrono::milliseconds(5));
        }
    }

    std::thread m_thread;
    std::atomic<bool> m_running{false};
    std::atomic<std::int64_t> m_heard{0};
    double m_rate_hz = 44100.0;
};

} // namespace

std::unique_ptr<SoundOutput> makeSimulatedOutput() {
    return std::make_unique<SimulatedOutput>();
}

} // namespace wirenote
