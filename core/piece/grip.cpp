#include "piece/grip.h"

#include <algorithm>
#include <cctype>
#include <charconv>

namespace wirenote {
namespace {

constexpr const char* kTimes = "×"; // as it is shown, so that no font makes one of an x

std::vector<std::string> wordsOf(std::string_view text) {
    std::vector<std::string> words;
    const auto isGap = [](char c) { return c == ' ' || c == '-' || c == '\t'; };
    for (std::size_t i = 0; i < text.size();) {
        if (isGap(text[i])) {
            ++i;
            continue;
        }
        std::size_t end = i;
        while (end < text.size() && !isGap(text[end]))
            ++end;
        words.emplace_back(text.substr(i, end - i));
        i = end;
    }
    if (words.size() == 1 && words.front().size() > 2) { // "x32010"
        std::vector<std::string> letters;
        for (const char c : words.front())
            letters.emplace_back(1, c);
        return letters;
    }
    return words;
}

} // namespace

int Grip::sounding() const {
    return static_cast<int>(std::ranges::count_if(frets, [](int fret) { return fret >= 0; }));
}

std::string gripText(const Grip& grip) {
    std::string text;
    for (auto fret = grip.frets.rbegin(); fret != grip.frets.rend(); ++fret)
        text += (text.empty() ? "" : " ") + (*fret < 0 ? std::string("x") : std::to_string(*fret));
    return text;
}

Result<Grip> parseGrip(std::string_view text, const Instrument& instrument) {
    const auto words = wordsOf(text);
    if (static_cast<int>(words.size()) != instrument.stringCount())
        return badCall("write one fret for each of the " +
                       std::to_string(instrument.stringCount()) +
                       " strings, the thickest first, x for a string that is silent");
    Grip grip;
    for (auto word = words.rbegin(); word != words.rend(); ++word) {
        int fret = Grip::kSilent;
        if (*word != "x" && *word != "X" && *word != kTimes) {
            const auto [end, problem] =
                std::from_chars(word->data(), word->data() + word->size(), fret);
            if (problem != std::errc{} || end != word->data() + word->size() || fret < 0 ||
                fret > instrument.highestFret())
                return badCall("\"" + *word + "\" is no fret of this neck: 0 to " +
                               std::to_string(instrument.highestFret()) + ", or x");
        }
        grip.frets.push_back(fret);
    }
    if (grip.sounding() == 0)
        return badCall("a grip sounds on one string at the least");
    return grip;
}

} // namespace wirenote
