#include "plucking/motion.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

constexpr double kLeastTrust = 0.62;
constexpr double kMostTrust = 0.9;
constexpr std::size_t kFewestHeard = 4;
// A hand goes down on the beat unless much says otherwise.
constexpr double kReversedShare = 0.8;
constexpr double kReversedMargin = 8.0; // nepers

double logOdds(double p) {
    const double q = std::clamp(p, 0.01, 0.99);
    return std::log(q / (1.0 - q));
}

} // namespace

std::optional<bool>
downByTheBeat(const PluckedLine& line, std::size_t attack, const HandMotion& motion) {
    if (!line.hasBeats())
        return std::nullopt;
    const Pluck& pluck = line.at(attack);
    const int here =
        motion.per_beat > 0 ? motion.per_beat : static_cast<int>(std::lround(1.0 / pluck.slot));
    if (here == 3)
        return std::nullopt;
    return (std::lround(pluck.beat * here) % 2 == 0) != motion.reversed;
}

namespace {

// How far a motion agrees with the strokes heard.
struct Agreement {
    double sum = 0.0; // log odds
    double agreed = 0.0;
    std::size_t heard = 0;
};

Agreement agreementOf(const PluckedLine& line, const HandMotion& motion) {
    Agreement all;
    for (std::size_t i = 0; i < line.size(); ++i) {
        const Pluck& pluck = line.at(i);
        const auto down = downByTheBeat(line, i, motion);
        if (!down || !pluck.heard || pluck.fifth) // riffs go down whatever the beat
            continue;
        ++all.heard;
        all.sum += (*down ? 1.0 : -1.0) * logOdds(pluck.down);
        all.agreed += *down ? pluck.down : 1.0 - pluck.down;
    }
    return all;
}

} // namespace

HandMotion motionHeard(const PluckedLine& line) {
    HandMotion best{0, kLeastTrust, false};
    double most = -1e9;
    for (const bool reversed : {false, true})
        for (const int per_beat : {0, 1, 2, 4}) {
            if (reversed && per_beat == 0)
                continue;
            const Agreement all = agreementOf(line, {per_beat, 0.0, reversed});
            if (all.heard < kFewestHeard)
                return best;
            const double share = all.agreed / static_cast<double>(all.heard);
            if (reversed && (share < kReversedShare || all.sum < most + kReversedMargin))
                continue;
            if (all.sum > most + 1e-9) {
                most = all.sum;
                best = {per_beat, std::clamp(share, kLeastTrust, kMostTrust), reversed};
            }
        }
    return best;
}

} // namespace wirenote
