#include "plucking/attacks.h"

#include "piece/one_stroke.h"

namespace wirenote {

std::vector<Attack> attacksOf(std::span<const Note> notes) {
    std::vector<Attack> attacks;
    for (auto& struck : strokesOf(notes)) {
        Attack attack{std::move(struck), 0.0, 0.5, false};
        attack.onset_s = notes[attack.notes.front()].onset_s();
        for (const std::size_t i : attack.notes)
            if (const auto thick_first = notes[i].heard().thick_first) {
                attack.heard = true;
                attack.down = *thick_first;
            }
        attacks.push_back(std::move(attack));
    }
    return attacks;
}

} // namespace wirenote
