#include "seeing/hand_fit.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <vector>

namespace wirenote {
namespace {

constexpr std::size_t kFingers = 4;
using Hand = std::array<double, kFingers>; // frets beyond the index finger
constexpr std::array kHands = {Hand{0.0, 1.0, 2.0, 3.0}, Hand{0.0, 0.9, 1.4, 2.0}};

constexpr double kStep = 0.25; // frets
constexpr double kFirst = -0.25;
constexpr std::size_t kPlaces = 80;
constexpr double kAbout = 0.3;     // frets that a tip lies beside its finger's place
constexpr double kLeftOver = 0.2;  // cost of a tip that is no finger's
constexpr double kNoIndex = 2.0;   // … of an index finger without a tip: it is hidden least
constexpr double kMove = 0.25;     // … of a fret that the hand goes
constexpr double kFarMove = 1.5;   // … at the most
constexpr double kNumbered = 0.45; // frets: nearer than that a tip is the finger's

double placeAt(std::size_t k) {
    return kFirst + kStep * static_cast<double>(k);
}

// How badly tips fit a hand there: fingers without a tip, and tips without a finger.
double misfit(const SeenFacts& seen, const Hand& hand, double index_fret) {
    double cost = 0.0;
    for (const double beyond : hand) {
        double least = beyond == 0.0 ? kNoIndex : 1.0;
        for (const SeenTip& tip : seen.tips)
            least = std::min(least, std::pow((tip.fret - index_fret - beyond) / kAbout, 2));
        cost += least;
    }
    for (const SeenTip& tip : seen.tips) {
        double nearest = std::numeric_limits<double>::infinity();
        for (const double beyond : hand)
            nearest = std::min(nearest, std::abs(tip.fret - index_fret - beyond));
        cost += nearest > kNumbered ? kLeftOver : 0.0;
    }
    return cost;
}

struct Way {
    std::vector<double> index_fret;
    double cost = 0.0;
};

Way wayOf(std::span<SeenFacts* const> moments, const Hand& hand) {
    std::vector<std::array<std::size_t, kPlaces>> before(moments.size());
    std::vector<double> cost(kPlaces, 0.0);
    for (std::size_t m = 0; m < moments.size(); ++m) {
        std::vector<double> next(kPlaces);
        for (std::size_t to = 0; to < kPlaces; ++to) {
            double least = std::numeric_limits<double>::infinity();
            for (std::size_t from = 0; from < kPlaces; ++from) {
                const double way = kMove * std::abs(placeAt(to) - placeAt(from));
                const double sum = cost[from] + (m == 0 ? 0.0 : std::min(kFarMove, way));
                if (sum < least) {
                    least = sum;
                    before[m][to] = from;
                }
            }
            next[to] = least + misfit(*moments[m], hand, placeAt(to));
        }
        cost = std::move(next);
    }
    Way way;
    way.index_fret.resize(moments.size());
    auto at = static_cast<std::size_t>(std::ranges::min_element(cost) - cost.begin());
    way.cost = cost[at];
    for (std::size_t m = moments.size(); m-- > 0;) {
        way.index_fret[m] = placeAt(at);
        at = before[m][at];
    }
    return way;
}

} // namespace

void numberTips(std::span<SeenFacts* const> moments) {
    std::vector<SeenFacts*> seen;
    std::ranges::copy_if(
        moments, std::back_inserter(seen), [](const SeenFacts* one) { return !one->tips.empty(); });
    if (seen.empty())
        return;
    Way best;
    Hand hand{};
    best.cost = std::numeric_limits<double>::infinity();
    for (const Hand& one : kHands)
        if (Way way = wayOf(seen, one); way.cost < best.cost) {
            best = std::move(way);
            hand = one;
        }
    for (std::size_t m = 0; m < seen.size(); ++m) {
        for (SeenTip& tip : seen[m]->tips)
            tip.finger = 0;
        for (std::size_t finger = 0; finger < kFingers; ++finger) {
            const double at = best.index_fret[m] + hand[finger];
            const auto nearest = std::ranges::min_element(
                seen[m]->tips, {}, [at](const SeenTip& tip) { return std::abs(tip.fret - at); });
            if (std::abs(nearest->fret - at) < kNumbered && nearest->finger == 0)
                nearest->finger = static_cast<int>(finger) + 1;
        }
    }
}

} // namespace wirenote
