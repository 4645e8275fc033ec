#include "music/degrees.h"

#include <array>

namespace wirenote {
namespace {

constexpr int kOctave = 12; // semitones
constexpr std::array kDegrees = {"1", "♭2", "2", "♭3", "3", "4", "♭5", "5", "♭6", "6", "♭7", "7"};
constexpr std::array kNumerals = {
    "I", "♭II", "II", "♭III", "III", "IV", "♭V", "V", "♭VI", "VI", "♭VII", "VII"};

int above(int semitones) {
    return (semitones % kOctave + kOctave) % kOctave;
}

std::string small(std::string numeral) {
    for (char& c : numeral)
        c = c == 'I' ? 'i' : c == 'V' ? 'v' : c;
    return numeral;
}

} // namespace

std::string degreeName(int semitones) {
    return kDegrees[static_cast<std::size_t>(above(semitones))];
}

std::string functionName(std::string_view chord, const KeyGuess& key) {
    const auto tones = parseChord(chord);
    if (!tones)
        return {};
    const std::string numeral = kNumerals[static_cast<std::size_t>(above(tones->root - key.tonic))];
    const std::string& kind = tones->kind;
    if (kind.starts_with("dim"))
        return small(numeral) + "°" + kind.substr(3);
    if (kind.starts_with("m") && !kind.starts_with("maj"))
        return small(numeral) + kind.substr(1);
    return numeral + kind;
}

} // namespace wirenote
