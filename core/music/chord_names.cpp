#include "music/chord_names.h"

#include <algorithm>
#include <array>

namespace wirenote {
namespace {

struct Kind {
    const char* name;
    std::array<int, 5> steps; // semitones above the root, −1: no more
    double rare;              // what the name costs by itself
};

constexpr std::array<Kind, 19> kKinds = {{{"", {0, 4, 7, -1, -1}, 0.0},
                                          {"m", {0, 3, 7, -1, -1}, 0.0},
                                          {"5", {0, 7, -1, -1, -1}, 0.1},
                                          {"7", {0, 4, 7, 10, -1}, 0.1},
                                          {"maj7", {0, 4, 7, 11, -1}, 0.2},
                                          {"m7", {0, 3, 7, 10, -1}, 0.15},
                                          {"sus4", {0, 5, 7, -1, -1}, 0.25},
                                          {"sus2", {0, 2, 7, -1, -1}, 0.3},
                                          {"6", {0, 4, 7, 9, -1}, 0.35},
                                          {"m6", {0, 3, 7, 9, -1}, 0.4},
                                          {"add9", {0, 4, 7, 2, -1}, 0.3},
                                          {"m(add9)", {0, 3, 7, 2, -1}, 0.35},
                                          {"9", {0, 4, 7, 10, 2}, 0.3},
                                          {"m9", {0, 3, 7, 10, 2}, 0.35},
                                          {"maj9", {0, 4, 7, 11, 2}, 0.4},
                                          {"7sus4", {0, 5, 7, 10, -1}, 0.35},
                                          {"dim", {0, 3, 6, -1, -1}, 0.3},
                                          {"m7♭5", {0, 3, 6, 10, -1}, 0.4},
                                          {"dim7", {0, 3, 6, 9, -1}, 0.45}}};
constexpr double kAdded = 1.0;        // a note that the chord does not have
constexpr double kFifthAbsent = 0.35; // the one that is left out most easily
constexpr double kAbsent = 0.9;
constexpr double kRootAbsent = 1.5;
constexpr double kInverted = 0.3; // the root is not the lowest
constexpr double kMost = 1.3;     // worse than this is no name

// How well a chord of this kind over this root explains what sounds.
struct Explained {
    double cost = 0.0;
    std::vector<int> absent; // pitch classes
};

Explained explain(const std::array<bool, 12>& sounds, int root, const Kind& kind) {
    Explained found;
    long matched = 0;
    for (const int step : kind.steps) {
        if (step < 0)
            break;
        const int pitch = (root + step) % 12;
        if (sounds[static_cast<std::size_t>(pitch)]) {
            ++matched;
            continue;
        }
        found.absent.push_back(pitch);
        found.cost += step == 0 ? kRootAbsent : step == 7 ? kFifthAbsent : kAbsent;
    }
    found.cost += kAdded * static_cast<double>(std::ranges::count(sounds, true) - matched);
    return found;
}

} // namespace

ChordName nameChord(std::span<const int> midis) {
    ChordName best;
    if (midis.empty())
        return best;
    std::array<bool, 12> sounds{};
    for (const int midi : midis)
        sounds[static_cast<std::size_t>(((midi % 12) + 12) % 12)] = true;
    const auto classes = std::ranges::count(sounds, true);
    const int bass = ((*std::ranges::min_element(midis) % 12) + 12) % 12;
    double least = kMost;
    for (int root = 0; root < 12 && classes >= 2; ++root)
        for (const Kind& kind : kKinds) {
            auto found = explain(sounds, root, kind);
            const double cost = kind.rare + (root == bass ? 0.0 : kInverted) + found.cost;
            if (cost < least - 1e-9) {
                least = cost;
                best = {root, kind.name, bass, std::move(found.absent)};
            }
        }
    return best;
}

namespace {

bool takeWord(std::string_view& text, std::string_view word) {
    if (!text.starts_with(word))
        return false;
    text.remove_prefix(word.size());
    return true;
}

// A letter with its accidental, taken from the front.
std::optional<int> takePitchClass(std::string_view& text) {
    constexpr std::string_view kLetters = "CDEFGAB";
    constexpr std::array kClasses{0, 2, 4, 5, 7, 9, 11};
    const std::size_t letter = text.empty() ? std::string_view::npos : kLetters.find(text.front());
    if (letter == std::string_view::npos)
        return {};
    text.remove_prefix(1);
    int pitch = kClasses[letter];
    if (takeWord(text, "#") || takeWord(text, "♯"))
        ++pitch;
    else if (takeWord(text, "b") || takeWord(text, "♭"))
        --pitch;
    return (pitch + 12) % 12;
}

} // namespace

std::optional<ChordTones> parseChord(std::string_view name) {
    const auto root = takePitchClass(name);
    if (!root)
        return {};
    const std::size_t slash = name.find('/');
    std::string kind(name.substr(0, slash));
    if (const std::size_t flat = kind.find("b5"); flat != std::string::npos)
        kind.replace(flat, 2, "♭5");
    const auto found = std::ranges::find_if(kKinds, [&](const Kind& k) { return kind == k.name; });
    if (found == kKinds.end())
        return {};
    ChordTones tones{*root, found->name, {}};
    for (const int step : found->steps)
        if (step >= 0)
            tones.classes.push_back((*root + step) % 12);
    if (slash != std::string_view::npos) {
        name.remove_prefix(slash + 1);
        const auto bass = takePitchClass(name);
        if (!bass || !name.empty())
            return {};
        if (std::ranges::find(tones.classes, *bass) == tones.classes.end())
            tones.classes.push_back(*bass);
    }
    return tones;
}

std::string chordText(const ChordName& chord, Spelling spelling) {
    if (!chord.named())
        return {};
    const auto letter = [spelling](int pitch_class) {
        std::string name = pitchName(60 + pitch_class, spelling);
        while (!name.empty() && name.back() >= '0' && name.back() <= '9')
            name.pop_back();
        return name;
    };
    return letter(chord.root) + chord.kind +
           (chord.bass == chord.root ? "" : "/" + letter(chord.bass));
}

} // namespace wirenote
