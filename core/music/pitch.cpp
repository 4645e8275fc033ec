#include "music/pitch.h"

#include <array>
#include <cmath>

namespace wirenote {

double midiFromHz(double f0_hz, double a4_hz) {
    return 69.0 + 12.0 * std::log2(f0_hz / a4_hz);
}
double hzFromMidi(double midi, double a4_hz) {
    return a4_hz * std::exp2((midi - 69.0) / 12.0);
}
double centsBetween(double from_hz, double to_hz) {
    return 1200.0 * std::log2(to_hz / from_hz);
}

std::optional<int> parsePitchName(std::string_view name) {
    static constexpr std::array<int, 7> kSemitones = {9, 11, 0, 2, 4, 5, 7}; // A..G
    if (name.empty())
        return {};
    const char letter = static_cast<char>(name[0] >= 'a' ? name[0] - 'a' + 'A' : name[0]);
    if (letter < 'A' || letter > 'G')
        return {};
    int midi = kSemitones[static_cast<std::size_t>(letter - 'A')];
    name.remove_prefix(1);
    const auto take = [&name](std::string_view mark) {
        if (!name.starts_with(mark))
            return false;
        name.remove_prefix(mark.size());
        return true;
    };
    if (take("#") || take("♯"))
        ++midi;
    else if (take("b") || take("♭"))
        --midi;
    const bool negative = take("-");
    if (name.size() != 1 || name[0] < '0' || name[0] > '9')
        return {};
    const int octave = (negative ? -1 : 1) * (name[0] - '0');
    return midi + 12 * (octave + 1);
}

SpelledPitch spell(int midi, Spelling spelling) {
    struct Step {
        char letter;
        int alter;
    };
    static constexpr std::array<Step, 12> kSharps = {{{'C', 0},
                                                      {'C', 1},
                                                      {'D', 0},
                                                      {'D', 1},
                                                      {'E', 0},
                                                      {'F', 0},
                                                      {'F', 1},
                                                      {'G', 0},
                                                      {'G', 1},
                                                      {'A', 0},
                                                      {'A', 1},
                                                      {'B', 0}}};
    static constexpr std::array<Step, 12> kFlats = {{{'C', 0},
                                                     {'D', -1},
                                                     {'D', 0},
                                                     {'E', -1},
                                                     {'E', 0},
                                                     {'F', 0},
                                                     {'G', -1},
                                                     {'G', 0},
                                                     {'A', -1},
                                                     {'A', 0},
                                                     {'B', -1},
                                                     {'B', 0}}};
    const int pitch_class = ((midi % 12) + 12) % 12;
    const Step step =
        (spelling == Spelling::Sharps ? kSharps : kFlats)[static_cast<std::size_t>(pitch_class)];
    return {step.letter, step.alter, (midi - pitch_class) / 12 - 1};
}

std::string pitchName(double midi, Spelling spelling) {
    const SpelledPitch s = spell(static_cast<int>(std::lround(midi)), spelling);
    const char* accidental = s.alter > 0 ? "♯" : s.alter < 0 ? "♭" : "";
    return std::string(1, s.step) + accidental + std::to_string(s.octave);
}

} // namespace wirenote
