#include "base/parallel.h"

#include <gtest/gtest.h>
#include <numeric>
#include <stdexcept>

namespace wirenote {
namespace {

TEST(InParallel, EveryThingIsDoneOnceHoweverManyWorkersThereAre) {
    for (const std::size_t workers : {1, 2, 3, 8, 50})
        for (const std::size_t count : {0, 1, 2, 7, 64}) {
            std::vector<int> done(count, 0);
            inParallel(count, workers, [&](std::size_t, std::size_t first, std::size_t end) {
                for (std::size_t i = first; i < end; ++i)
                    ++done[i];
            });
            EXPECT_EQ(done, std::vector<int>(count, 1)) << workers << " " << count;
        }
}

TEST(InParallel, AnErrorOfOnePartReachesTheCaller) {
    const auto work = [](std::size_t worker, std::size_t, std::size_t) {
        if (worker == 1)
            throw std::runtime_error("no");
    };
    EXPECT_THROW(inParallel(10, 2, work), std::runtime_error);
}

} // namespace
} // namespace wirenote
