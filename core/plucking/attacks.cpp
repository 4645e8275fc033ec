#include "plucking/attacks.h"

#include "piece/one_stroke.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

constexpr double kFilmWeight = 1.5; // of a finger seen against what hands usually do

double logOdds(double p) {
    const double q = std::clamp(p, 0.01, 0.99);
    return std::log(q / (1.0 - q));
}

// Of single notes only: of a chord the film does not tell which finger had which string.
void addFingers(const SeenFacts& seen, Attack& attack) {
    constexpr double kLeast = 0.04;
    const double most = *std::ranges::max_element(seen.plucked);
    if (most <= 0.0 || attack.notes.size() != 1)
        return;
    for (std::size_t k = 0; k < attack.against.size(); ++k)
        attack.against[k] =
            kFilmWeight * seen.trust * std::log(most / std::max(kLeast, seen.plucked[k]));
}

// What a film shows of the hand counts beside the order of the strings, as far as it is trusted.
void addSeen(std::span<const Note> notes, Attack& attack) {
    const SeenFacts* seen = notes[attack.notes.front()].seen();
    if (!seen)
        return;
    addFingers(*seen, attack);
    if (!seen->down)
        return;
    const double odds = seen->trust * logOdds(*seen->down);
    const double sound = attack.heard ? logOdds(attack.down) : 0.0;
    attack.seen = std::abs(odds) > std::abs(sound);
    attack.heard = attack.heard || seen->trust > 0.0;
    attack.down = 1.0 / (1.0 + std::exp(-(odds + sound)));
}

} // namespace

std::vector<Attack> attacksOf(std::span<const Note> notes) {
    std::vector<Attack> attacks;
    for (auto& struck : strokesOf(notes)) {
        Attack attack{std::move(struck), 0.0, 0.5, false, false, {}};
        attack.onset_s = notes[attack.notes.front()].onset_s();
        for (const std::size_t i : attack.notes)
            if (const auto thick_first = notes[i].heard().thick_first) {
                attack.heard = true;
                attack.down = *thick_first;
            }
        addSeen(notes, attack);
        attacks.push_back(std::move(attack));
    }
    return attacks;
}

} // namespace wirenote
