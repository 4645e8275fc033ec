#include "support/sentence_reader.h"

#include <algorithm>
#include <array>
#include <regex>

namespace wirenote::test {
namespace {

constexpr std::array kLetters = {"C", "C♯", "D", "D♯", "E", "F", "F♯", "G", "G♯", "A", "A♯", "B"};
constexpr std::array kFlats = {"C", "D♭", "D", "E♭", "E", "F", "G♭", "G", "A♭", "A", "B♭", "B"};

const std::string kString =
    "(?:string [0-9]+|the (?:thick |middle |thin )?[A-G](?:♯|♭)? string|"
    "the (?:(?:second|third|fourth|fifth|sixth) )?(?:thickest|thinnest) string)";

std::string fingerOf(const std::string& said) {
    static const std::array<std::pair<const char*, const char*>, 5> kNames = {
        {{"index finger", "1"},
         {"middle finger", "2"},
         {"ring finger", "3"},
         {"little finger", "4"},
         {"fretting thumb", "T"}}};
    for (const auto& [name, sign] : kNames)
        if (said == name)
            return sign;
    return said.starts_with("finger ") ? said.substr(7) : std::string();
}

std::string strokeOf(const std::string& said) {
    static const std::array<std::pair<const char*, const char*>, 14> kNames = {
        {{"down-stroke", "down"},
         {"up-stroke", "up"},
         {"silent stroke", "ghost"},
         {"no stroke", "none"},
         {"thumb (p)", "p"},
         {"index (i)", "i"},
         {"middle (m)", "m"},
         {"ring (a)", "a"},
         {"little (c)", "c"},
         {"plucking thumb p", "p"},
         {"plucking finger i", "i"},
         {"plucking finger m", "m"},
         {"plucking finger a", "a"},
         {"plucking finger c", "c"}}};
    for (const auto& [name, sign] : kNames)
        if (said == name)
            return sign;
    return {};
}

// "beat 2", "the “&” of beat 2", "shortly after the “&” of beat 2", with "bar 3, " before.
bool readWhen(const std::string& when, ReadSentence& sentence) {
    static const std::regex kWhen(
        "(?:(?:[Bb]ar ([0-9]+)|[Tt]he (pick-up)), )?(?:[Ss]hortly after )?"
        "(?:[Tt]he “([^”]+)” of )?[Bb]eat ([0-9]+)");
    std::smatch found;
    if (!std::regex_match(when, found, kWhen))
        return false;
    if (found[1].matched)
        sentence.bar = std::stoi(found[1]);
    else if (found[2].matched)
        sentence.bar = 0;
    sentence.part = found[3];
    sentence.beat = std::stoi(found[4]);
    return true;
}

void readPressed(const std::string& text, const Instrument& instrument, ReadSentence& sentence) {
    static const std::regex kPlace(
        "(?:(finger [1-4]|(?:index|middle|ring|little) finger|fretting thumb) on )?(" + kString +
        "), (?:(open)|fret ([0-9]+))(?:, note ([A-G](?:♯|♭)?))?");
    for (std::sregex_iterator at(text.begin(), text.end(), kPlace), end; at != end; ++at) {
        ReadPlace place;
        place.finger = fingerOf((*at)[1]);
        place.string = readString((*at)[2], instrument);
        place.fret = (*at)[3].matched ? 0 : std::stoi((*at)[4]);
        place.note = (*at)[5];
        sentence.places.push_back(place);
    }
}

void readPlucked(const std::string& text, const Instrument& instrument, ReadSentence& sentence) {
    static const std::regex kStroke(
        "(down-stroke|up-stroke|silent stroke|no stroke|(?:thumb|index|middle|ring|little) "
        "\\([pimac]\\)|plucking (?:thumb|finger) [pimac]) (?:on|over) ((?:(?:, | and | to |)" +
        kString + ")+)");
    static const std::regex kOne(kString);
    for (std::sregex_iterator at(text.begin(), text.end(), kStroke), end; at != end; ++at) {
        const std::string strings = (*at)[2];
        std::vector<int> numbers;
        for (std::sregex_iterator one(strings.begin(), strings.end(), kOne); one != end; ++one)
            numbers.push_back(readString(one->str(), instrument));
        if (strings.find(" to ") != std::string::npos && numbers.size() == 2) {
            const int from = numbers[0], to = numbers[1];
            numbers.clear();
            for (int s = from; s != to; s += to > from ? 1 : -1)
                numbers.push_back(s);
            numbers.push_back(to);
        }
        for (const int number : numbers)
            sentence.places.push_back({number, std::nullopt, {}, strokeOf((*at)[1]), {}});
    }
}

} // namespace

int readString(const std::string& text, const Instrument& instrument) {
    static const std::regex kNumber("string ([0-9]+)");
    static const std::regex kLetter("the (thick |middle |thin )?([A-G](?:♯|♭)?) string");
    static const std::regex kThick(
        "the (?:(second|third|fourth|fifth|sixth) )?(thickest|thinnest) string");
    std::smatch found;
    if (std::regex_match(text, found, kNumber))
        return instrument.hasString(std::stoi(found[1])) ? std::stoi(found[1]) : 0;
    if (std::regex_match(text, found, kLetter)) {
        std::vector<int> alike;
        for (int s = 1; s <= instrument.stringCount(); ++s) {
            const auto pitch = static_cast<std::size_t>(instrument.string(s).open_midi % 12);
            if (found[2] == kLetters[pitch] || found[2] == kFlats[pitch])
                alike.push_back(s);
        }
        if (alike.size() == 1)
            return found[1].matched ? 0 : alike[0];
        if (alike.empty() || !found[1].matched)
            return 0; // which of them?
        if (found[1] == "middle ")
            return alike.size() == 3 ? alike[1] : 0;
        return found[1] == "thin " ? alike.front() : alike.back();
    }
    if (!std::regex_match(text, found, kThick))
        return 0;
    static const std::array<std::string, 5> kOrdinals = {
        "second", "third", "fourth", "fifth", "sixth"};
    int nth = 1;
    if (found[1].matched)
        nth =
            2 + static_cast<int>(std::ranges::find(kOrdinals, found[1].str()) - kOrdinals.begin());
    const int string = found[2] == "thinnest" ? nth : instrument.stringCount() + 1 - nth;
    return instrument.hasString(string) ? string : 0;
}

std::optional<ReadSentence> readMoment(const std::string& sentence, const Instrument& instrument) {
    const std::size_t colon = sentence.find(": ");
    ReadSentence read;
    if (colon == std::string::npos || !sentence.ends_with(".") ||
        !readWhen(sentence.substr(0, colon), read))
        return std::nullopt;
    const std::string rest = sentence.substr(colon + 2);
    read.again = rest == "the same again.";
    readPlucked(rest, instrument, read);
    if (read.places.empty())
        readPressed(rest, instrument, read);
    return read;
}

} // namespace wirenote::test
