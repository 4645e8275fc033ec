#include "plucking/attacks.h"

#include <algorithm>

namespace wirenote {
namespace {

constexpr double kApart_s = 0.03; // from note to note of one attack, at the most
constexpr double kWhole_s = 0.15; // and in all

} // namespace

std::vector<Attack> attacksOf(const Piece& piece) {
    std::vector<std::size_t> order;
    for (std::size_t i = 0; i < piece.notes.size(); ++i)
        if (!piece.notes[i].slurred())
            order.push_back(i);
    std::stable_sort(order.begin(), order.end(), [&piece](std::size_t a, std::size_t b) {
        return piece.notes[a].onset_s() < piece.notes[b].onset_s();
    });
    std::vector<Attack> attacks;
    double last_s = -1e9;
    for (const std::size_t i : order) {
        const double at_s = piece.notes[i].onset_s();
        if (attacks.empty() || at_s - last_s > kApart_s || at_s - attacks.back().onset_s > kWhole_s)
            attacks.push_back({{}, at_s, 0.5, false});
        Attack& attack = attacks.back();
        attack.notes.push_back(i);
        last_s = at_s;
        if (const auto& thick_first = piece.notes[i].heard.thick_first) {
            attack.heard = true;
            attack.down = *thick_first;
        }
    }
    return attacks;
}

} // namespace wirenote
