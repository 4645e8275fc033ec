#include "form/scale_places.h"

#include <algorithm>

namespace wirenote {
namespace {

constexpr int kOctave = 12; // semitones

template <class Has>
std::vector<ScalePlace> marks(const Instrument& instrument, int tonic, const Has& has) {
    std::vector<ScalePlace> all;
    for (int s = 1; s <= instrument.stringCount(); ++s)
        for (int fret = 0; fret <= instrument.frets - instrument.capo; ++fret) {
            const int midi = instrument.midiAt({s, fret});
            if (has(midi % kOctave))
                all.push_back({{s, fret}, ((midi - tonic) % kOctave + kOctave) % kOctave});
        }
    return all;
}

} // namespace

std::vector<ScalePlace> scalePlaces(const Instrument& instrument, const Scale& scale) {
    return marks(
        instrument, scale.tonic, [&scale](int pitch_class) { return scale.has(pitch_class); });
}

std::vector<ScalePlace> scalePlaces(const Instrument& instrument, const ChordTones& chord) {
    return marks(instrument, chord.root, [&chord](int pitch_class) {
        return std::ranges::count(chord.classes, pitch_class) > 0;
    });
}

bool inBox(Position place, int hand_fret) {
    constexpr int kFingers = 4, kReach = 1; // frets
    return place.fret == 0 ||
           (place.fret >= hand_fret - kReach && place.fret < hand_fret + kFingers + kReach);
}

} // namespace wirenote
