#include "strings/string_wish.h"

#include <algorithm>
#include <vector>

namespace wirenote {
namespace {

constexpr double kDoubtful = 0.9; // a place is in doubt below this
constexpr double kPossible = 0.05;
constexpr int kFewest = 4; // places

struct Place {
    Position at;
    double probability = 0.0;
};

std::vector<Place> possible(const NotePlan& plan) {
    std::vector<Place> places{{plan.position.value, plan.position.probability}};
    for (const RunnerUp<Position>& other : plan.position.runners_up)
        places.push_back({other.value, other.probability});
    std::erase_if(places,
                  [](const Place& p) { return p.at.string == 0 || p.probability < kPossible; });
    return places;
}

bool known(const Piece& piece, int string) {
    const auto index = static_cast<std::size_t>(string - 1);
    return index < piece.string_traits.size() && piece.string_traits[index].basis == Basis::Set;
}

// The note that is likeliest the open string, of those that may be.
NoteId likeliestOpen(const Piece& piece, int string) {
    NoteId best = 0;
    double most = kPossible;
    for (const NotePlan& plan : piece.asPlayed().plans)
        for (const Place& place : possible(plan))
            if (place.at == Position{string, 0} && place.probability > most &&
                !plan.position.isSet()) {
                most = place.probability;
                best = plan.note;
            }
    return best;
}

} // namespace

std::optional<StringWish> stringWish(const Piece& piece) {
    const auto strings = static_cast<std::size_t>(piece.instrument.stringCount());
    std::vector<double> doubt(strings + 1, 0.0);
    std::vector<int> places(strings + 1, 0);
    for (const NotePlan& plan : piece.asPlayed().plans) {
        if (plan.position.isSet() || !plan.placed() || plan.position.probability >= kDoubtful)
            continue;
        for (const Place& place : possible(plan)) {
            const auto string = static_cast<std::size_t>(place.at.string);
            if (string <= strings && !known(piece, place.at.string)) {
                doubt[string] += place.probability * (1.0 - place.probability);
                ++places[string];
            }
        }
    }
    const auto worst = std::ranges::max_element(doubt);
    const auto string = static_cast<std::size_t>(worst - doubt.begin());
    if (places[string] < kFewest)
        return {};
    const int number = static_cast<int>(string);
    return StringWish{number, places[string], likeliestOpen(piece, number)};
}

} // namespace wirenote
