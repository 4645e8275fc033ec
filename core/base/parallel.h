// The same work on many things at once, on all cores.
#pragma once

#include <algorithm>
#include <cstddef>
#include <future>
#include <thread>
#include <vector>

namespace wirenote {

// How many threads work is spread over: the cores, at most eight.
inline std::size_t workerCount() {
    return std::clamp<std::size_t>(std::thread::hardware_concurrency(), 1, 8);
}

// Calls work(worker, first, end) for parts of 0 … count that follow each other, one part a worker,
// each on a thread of its own (the first on this one), and returns when all are done. What one part
// does must not depend on where the parts are cut: then nothing depends on how many there are.
template <class Work> void inParallel(std::size_t count, std::size_t workers, const Work& work) {
    workers = std::clamp<std::size_t>(workers, 1, std::max<std::size_t>(1, count));
    const auto part = [&](std::size_t worker) {
        work(worker, count * worker / workers, count * (worker + 1) / workers);
    };
    std::vector<std::future<void>> others;
    for (std::size_t worker = 1; worker < workers; ++worker)
        others.push_back(std::async(std::launch::async, part, worker));
    part(0);
    for (auto& other : others)
        other.get();
}

} // namespace wirenote
