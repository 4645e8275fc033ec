#include "fretting/candidates.h"

namespace wirenote {

std::vector<Position> candidatesFor(const Instrument& instrument, int midi) {
    std::vector<Position> found;
    for (int string = 1; string <= instrument.stringCount(); ++string)
        if (const int fret = instrument.fretFor(string, midi); fret >= 0)
            found.push_back({string, fret});
    return found;
}

} // namespace wirenote
