#include "hand/reach.h"

#include <algorithm>

namespace wirenote {
namespace {

// Gives each pitch a string of its own, the lowest first.
bool assign(const Instrument& instrument,
            const std::vector<int>& midis,
            std::size_t at,
            unsigned used,
            int low,
            int high,
            int reach) {
    if (at == midis.size())
        return true;
    for (int s = instrument.stringCount(); s >= 1; --s) {
        if (used & (1U << static_cast<unsigned>(s)))
            continue;
        const int fret = instrument.fretFor(s, midis[at]);
        if (fret < 0)
            continue;
        const int new_low = fret > 0 ? std::min(low, fret) : low;
        const int new_high = fret > 0 ? std::max(high, fret) : high;
        if (new_high > 0 && new_high - new_low > reach)
            continue;
        if (assign(instrument,
                   midis,
                   at + 1,
                   used | (1U << static_cast<unsigned>(s)),
                   new_low,
                   new_high,
                   reach))
            return true;
    }
    return false;
}

} // namespace

bool playableAtOnce(const Instrument& instrument, const std::vector<int>& midis, int reach) {
    if (midis.size() > static_cast<std::size_t>(instrument.stringCount()))
        return false;
    std::vector<int> sorted = midis;
    std::sort(sorted.begin(), sorted.end());
    return assign(instrument, sorted, 0, 0, kMaxFrets, 0, reach);
}

} // namespace wirenote
