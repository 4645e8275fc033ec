#pragma once

#include <atomic>
#include <functional>

namespace wirenote {

// How long work talks to whoever waits for it. Both members may be empty.
// `progress` gets (done, total) in seconds of sound, from the working thread, in rising order.
struct JobControl {
    std::function<void(double done_s, double total_s)> progress;
    const std::atomic<bool>* cancel = nullptr;

    bool cancelRequested() const { return cancel && cancel->load(std::memory_order_relaxed); }
    void report(double done_s, double total_s) const {
        if (progress)
            progress(done_s, total_s);
    }
};

} // namespace wirenote
