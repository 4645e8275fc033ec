#include "score/marks.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <functional>
#include <utility>

namespace wirenote {

std::string tonesText(double semitones) {
    static constexpr std::array<const char*, 4> kParts = {"", "¼", "½", "¾"};
    const long quarters = std::lround(2.0 * semitones);
    const std::string whole = quarters >= 4 ? std::to_string(quarters / 4) : "";
    return whole + kParts[static_cast<std::size_t>(quarters % 4)];
}

std::string fretMark(const Note& note, Position place) {
    if (!note.pitched())
        return "x";
    const std::string fret = std::to_string(place.fret);
    if (note.has(Technique::Harmonic))
        return "<" + fret + ">";
    return note.has(Technique::PreBend) ? "(" + fret + ")" : fret;
}

std::string slurMark(const Note& note) {
    return note.has(Technique::Slide)      ? "sl"
           : note.has(Technique::HammerOn) ? "h"
           : note.has(Technique::PullOff)  ? "p"
                                           : "";
}

std::vector<std::string> techniqueMarks(const Note& note) {
    std::vector<std::string> marks;
    if (note.has(Technique::PreBend))
        marks.push_back("↑" + tonesText(note.midi() - note.frettedMidi()));
    if (note.has(Technique::Bend))
        marks.push_back("↑" + tonesText(note.bendSemitones()));
    if (note.has(Technique::Release))
        marks.push_back("↓");
    static constexpr std::array<std::pair<Technique, const char*>, 10> kWords = {
        {{Technique::Vibrato, "~~"},
         {Technique::PalmMute, "P.M."},
         {Technique::Accent, ">"},
         {Technique::Staccato, "·"},
         {Technique::Trill, "tr"},
         {Technique::Tremolo, "trem."},
         {Technique::Rake, "rake"},
         {Technique::Roll, "roll"},
         {Technique::LetRing, "let ring"},
         {Technique::Tap, "T"}}};
    for (const auto& [technique, word] : kWords)
        if (note.has(technique))
            marks.emplace_back(word);
    return marks;
}

std::optional<std::size_t> noteBeforeOnString(const Piece& piece, std::size_t index) {
    constexpr std::size_t kFar = 48; // nothing further back still sounds
    const int string = piece.asPlayed().plans[index].position.value.string;
    for (std::size_t away = 1; away <= std::min(index, kFar); ++away)
        if (piece.asPlayed().plans[index - away].position.value.string == string)
            return index - away;
    return {};
}

std::string pluckedLetters(const Rows& rows, const std::vector<std::size_t>& together) {
    static constexpr std::array<const char*, 5> kLetters = {"p", "i", "m", "a", "c"};
    std::vector<std::size_t> thick_first = together;
    std::ranges::sort(thick_first, std::greater<>(), [&](std::size_t i) {
        return rows[i].plan.position.value.string;
    });
    std::string letters;
    for (const std::size_t i : thick_first)
        if (const Stroke stroke = rows[i].plan.stroke.value;
            stroke >= Stroke::P && stroke <= Stroke::C) {
            const char* letter =
                kLetters[static_cast<std::size_t>(stroke) - static_cast<std::size_t>(Stroke::P)];
            if (letters.find(letter) == std::string::npos)
                letters += letter;
        }
    return letters;
}

std::string namesLine(const About& about) {
    std::string line = about.composer;
    const auto add = [&line](const char* does, const std::string& who) {
        if (!who.empty())
            line += (line.empty() ? "" : " · ") + (does + who);
    };
    add("played by ", about.player);
    add("written down by ", about.transcriber);
    return line;
}

} // namespace wirenote
