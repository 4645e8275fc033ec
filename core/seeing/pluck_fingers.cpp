#include "seeing/pluck_fingers.h"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace wirenote {
namespace {

constexpr std::size_t kFewest = 8; // notes
constexpr std::size_t kMostKinds = 4;
constexpr double kBringsMuch = 0.04; // nearness, on the average, by one kind more
constexpr double kLittle = 0.4;      // of the usual change: the hand did nothing
constexpr double kToTell = 0.25;     // … enough to tell a finger by
constexpr double kSharpness = 14.0;  // of nearness, when it is made a probability

using Vector = std::vector<double>;

// The root of the change, of length 1: where much moves does not drown where little does.
Vector direction(const PluckMap& map) {
    Vector out(map.changed.size());
    double sum = 0.0;
    for (std::size_t i = 0; i < out.size(); ++i) {
        out[i] = std::sqrt(static_cast<double>(std::max(0.0F, map.changed[i])));
        sum += out[i] * out[i];
    }
    for (double& v : out)
        v /= std::max(1e-9, std::sqrt(sum));
    return out;
}

double nearness(const Vector& a, const Vector& b) {
    return std::inner_product(a.begin(), a.end(), b.begin(), 0.0);
}

struct Kinds {
    std::vector<Vector> middles;
    std::vector<std::size_t> of; // of each vector, its kind
    double near = 0.0;           // to their middles, on the average
};

// Begun by the vectors that lie farthest from those begun with, so that nothing is left to chance.
Kinds sorted(const std::vector<Vector>& all, std::size_t count, std::size_t first) {
    constexpr int kRounds = 30;
    Kinds kinds;
    kinds.middles = {all[first]};
    while (kinds.middles.size() < count) {
        const auto farthest = std::ranges::min_element(all, {}, [&kinds](const Vector& one) {
            double most = -1.0;
            for (const Vector& middle : kinds.middles)
                most = std::max(most, nearness(one, middle));
            return most;
        });
        kinds.middles.push_back(*farthest);
    }
    kinds.of.resize(all.size());
    for (int round = 0; round < kRounds; ++round) {
        kinds.near = 0.0;
        std::vector<Vector> sums(count, Vector(all.front().size(), 0.0));
        for (std::size_t i = 0; i < all.size(); ++i) {
            const auto best = std::ranges::max_element(
                kinds.middles, {}, [&](const Vector& middle) { return nearness(all[i], middle); });
            kinds.of[i] = static_cast<std::size_t>(best - kinds.middles.begin());
            kinds.near += nearness(all[i], *best) / static_cast<double>(all.size());
            for (std::size_t k = 0; k < all[i].size(); ++k)
                sums[kinds.of[i]][k] += all[i][k];
        }
        for (std::size_t k = 0; k < count; ++k)
            if (const double length = std::sqrt(nearness(sums[k], sums[k])); length > 1e-9) {
                for (double& v : sums[k])
                    v /= length;
                kinds.middles[k] = sums[k];
            }
    }
    return kinds;
}

Kinds bestSorted(const std::vector<Vector>& all, std::size_t count) {
    Kinds best;
    for (std::size_t first = 0; first < all.size(); first += 1 + all.size() / 12)
        if (Kinds kinds = sorted(all, count, first); kinds.near > best.near)
            best = std::move(kinds);
    return best;
}

// The finger (0 thumb … 3 ring) of each kind.
std::vector<std::size_t> fingersOf(const Kinds& kinds,
                                   const std::vector<PluckedNote>& notes,
                                   const std::vector<std::size_t>& seen,
                                   bool two) {
    const std::size_t count = kinds.middles.size();
    Vector along(count, 0.0);
    Vector pitch(count, 0.0);
    Vector members(count, 1e-9);
    for (std::size_t i = 0; i < seen.size(); ++i) {
        const std::size_t k = kinds.of[i];
        along[k] += notes[seen[i]].map->along();
        pitch[k] += notes[seen[i]].midi;
        members[k] += 1.0;
    }
    std::vector<std::size_t> order(count);
    std::iota(order.begin(), order.end(), std::size_t{0});
    std::ranges::sort(
        order, {}, [&](std::size_t k) { return (two ? along[k] : pitch[k]) / members[k]; });
    std::vector<std::size_t> fingers(count);
    for (std::size_t rank = 0; rank < count; ++rank)
        fingers[order[rank]] = two ? rank + 1 : rank;
    return fingers;
}

} // namespace

double PluckMap::all() const {
    return std::accumulate(changed.begin(), changed.end(), 0.0);
}

double PluckMap::edge() const {
    constexpr double kSomething = 0.12; // of the column in which most changes
    std::array<double, kSide> columns{};
    for (std::size_t i = 0; i < changed.size(); ++i)
        columns[i % kSide] += static_cast<double>(changed[i]);
    const double least = kSomething * *std::ranges::max_element(columns);
    for (std::size_t x = 0; x < kSide && least > 0.0; ++x)
        if (columns[x] >= least) // and what lies beside it is not noise
            if (x + 1 == kSide || columns[x + 1] >= least)
                return (static_cast<double>(x) + 0.5) / kSide;
    return 1.0;
}

double PluckMap::along() const {
    double sum = 0.0;
    for (std::size_t i = 0; i < changed.size(); ++i)
        sum += changed[i] * (static_cast<double>(i % kSide) + 0.5) / kSide;
    return sum / std::max(1e-9, all());
}

std::vector<PluckSeen> pluckFingers(const std::vector<PluckedNote>& notes, bool two) {
    std::vector<PluckSeen> out(notes.size());
    Vector changes;
    for (const PluckedNote& note : notes)
        if (note.map)
            changes.push_back(note.map->all());
    if (changes.size() < kFewest)
        return out;
    const auto middle = changes.begin() + static_cast<std::ptrdiff_t>(changes.size() / 2);
    std::ranges::nth_element(changes, middle);
    const double usual = *middle;
    std::vector<std::size_t> seen;
    std::vector<Vector> directions;
    for (std::size_t i = 0; i < notes.size(); ++i) {
        if (!notes[i].map)
            continue;
        const double share = notes[i].map->all() / std::max(1e-9, usual);
        out[i].unplucked = 1.0 / (1.0 + std::exp(8.0 * std::log(std::max(1e-3, share / kLittle))));
        if (share >= kToTell) {
            seen.push_back(i);
            directions.push_back(direction(*notes[i].map));
        }
    }
    if (seen.size() < kFewest)
        return out;
    Kinds kinds = bestSorted(directions, 2);
    for (std::size_t count = 3; !two && count <= kMostKinds; ++count) {
        Kinds more = bestSorted(directions, count);
        if (more.near - kinds.near < kBringsMuch)
            break;
        kinds = std::move(more);
    }
    const auto fingers = fingersOf(kinds, notes, seen, two);
    for (std::size_t i = 0; i < seen.size(); ++i) {
        double sum = 0.0;
        auto& likely = out[seen[i]].fingers;
        for (std::size_t k = 0; k < fingers.size(); ++k) {
            likely[fingers[k]] = std::exp(kSharpness * nearness(directions[i], kinds.middles[k]));
            sum += likely[fingers[k]];
        }
        for (double& v : likely)
            v /= sum;
    }
    return out;
}

} // namespace wirenote
