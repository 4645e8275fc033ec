#include "plucking/motion.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

constexpr double kLeastTrust = 0.62;
constexpr double kMostTrust = 0.9;
constexpr std::size_t kFewestHeard = 4;

double logOdds(double p) {
    const double q = std::clamp(p, 0.01, 0.99);
    return std::log(q / (1.0 - q));
}

} // namespace

std::optional<bool> downByTheBeat(const PluckedLine& line, std::size_t attack, int per_beat) {
    if (!line.hasBeats())
        return std::nullopt;
    const Pluck& pluck = line.at(attack);
    const int here = per_beat > 0 ? per_beat : static_cast<int>(std::lround(1.0 / pluck.slot));
    if (here == 3)
        return std::nullopt;
    return std::lround(pluck.beat * here) % 2 == 0;
}

HandMotion motionHeard(const PluckedLine& line) {
    HandMotion best{0, kLeastTrust};
    double most = -1e9;
    for (const int per_beat : {0, 1, 2, 4}) {
        double sum = 0.0;
        double agreed = 0.0;
        std::size_t heard = 0;
        for (std::size_t i = 0; i < line.size(); ++i) {
            const Pluck& pluck = line.at(i);
            const auto down = downByTheBeat(line, i, per_beat);
            if (!down || !pluck.heard || pluck.fifth) // riffs go down whatever the beat
                continue;
            ++heard;
            sum += (*down ? 1.0 : -1.0) * logOdds(pluck.down);
            agreed += *down ? pluck.down : 1.0 - pluck.down;
        }
        if (heard < kFewestHeard)
            return best;
        if (sum > most + 1e-9) {
            most = sum;
            best = {per_beat,
                    std::clamp(agreed / static_cast<double>(heard), kLeastTrust, kMostTrust)};
        }
    }
    return best;
}

} // namespace wirenote
