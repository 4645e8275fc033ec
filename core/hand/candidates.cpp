#include "hand/candidates.h"

namespace wirenote {

std::vector<Position> candidatesFor(const Instrument& instrument, int midi, bool harmonic) {
    std::vector<Position> found;
    if (harmonic) {
        for (int string = 1; string <= instrument.stringCount(); ++string)
            for (const int fret : instrument.harmonicFrets(string, midi))
                found.push_back({string, fret});
        if (!found.empty())
            return found; // an artificial one is taken where the pitch itself lies
    }
    for (int string = 1; string <= instrument.stringCount(); ++string)
        if (const int fret = instrument.fretFor(string, midi); fret >= 0)
            found.push_back({string, fret});
    return found;
}

} // namespace wirenote
