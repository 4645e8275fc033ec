#include "plucking/attacks.h"

#include "piece/one_stroke.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

double logOdds(double p) {
    const double q = std::clamp(p, 0.01, 0.99);
    return std::log(q / (1.0 - q));
}

// What a film shows of the hand counts beside the order of the strings, as far as it is trusted.
void addSeen(std::span<const Note> notes, Attack& attack) {
    const SeenFacts* seen = notes[attack.notes.front()].seen();
    if (!seen || !seen->down)
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
        Attack attack{std::move(struck), 0.0, 0.5, false, false};
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
