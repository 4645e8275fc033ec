#include "formats/divided_beats.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace wirenote {

void divideBeats(Timeline& timeline, const std::vector<double>& places) {
    constexpr double kNearly = 1e-4;
    const BarGrid grid(timeline);
    const auto place = [&grid](int beat) { return grid.placeOf(beat); };
    std::vector<double> sorted = places;
    std::ranges::sort(sorted);
    std::map<int, std::vector<double>> shares; // of each beat
    int beat = 0;
    for (const double at : sorted) {
        while (place(beat + 1) <= at + kNearly)
            ++beat;
        if (at >= place(beat) - kNearly)
            shares[beat].push_back((at - place(beat)) / (place(beat + 1) - place(beat)));
    }
    timeline.divisions.clear();
    for (const auto& [k, of] : shares)
        for (const int parts : {1, 2, 3, 4, 5, 6, 8, 12})
            if (std::ranges::all_of(of, [&](double share) {
                    return std::abs(share * parts - std::round(share * parts)) < kNearly;
                })) {
                timeline.divisions.push_back({k, parts});
                break;
            }
}

} // namespace wirenote
