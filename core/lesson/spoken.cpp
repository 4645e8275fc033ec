#include "lesson/spoken.h"

#include <algorithm>
#include <array>
#include <cctype>
#include <string_view>

namespace wirenote {
namespace {

bool isByte(const std::string& text, std::size_t at, unsigned char byte) {
    return at < text.size() && static_cast<unsigned char>(text[at]) == byte;
}

// How many bytes of a word are here: letters and figures, ♯ and ♭, a hyphen or an apostrophe
// within, "&" and "#". 0: something between words.
std::size_t wordPart(const std::string& text, std::size_t at, bool within) {
    const auto c = static_cast<unsigned char>(text[at]);
    if (std::isalnum(c) != 0 || c == '&' || c == '#')
        return 1;
    const bool more =
        at + 1 < text.size() && (std::isalnum(static_cast<unsigned char>(text[at + 1])) != 0 ||
                                 static_cast<unsigned char>(text[at + 1]) >= 0xC0U);
    if (c == '-' || c == '\'')
        return within && more ? 1 : 0;
    if (c < 0x80U)
        return 0;
    if (c == 0xE2U && isByte(text, at + 1, 0x80U)) // quotes, dashes, the typographic apostrophe
        return within && isByte(text, at + 2, 0x99U) && at + 3 < text.size() ? 3 : 0;
    std::size_t length = 1;
    while (at + length < text.size() &&
           (static_cast<unsigned char>(text[at + length]) & 0xC0U) == 0x80U)
        ++length;
    return length;
}

// Words never hold the typographic apostrophe.
std::string plainApostrophe(std::string text) {
    constexpr std::string_view kApostrophe = "\xE2\x80\x99";
    for (std::size_t at = text.find(kApostrophe); at != std::string::npos;
         at = text.find(kApostrophe))
        text.replace(at, kApostrophe.size(), "'");
    return text;
}

void count(Word& word, const Vocabulary& language) {
    constexpr std::size_t kDigits = 4;
    std::size_t digits = 0;
    while (digits < word.text.size() &&
           std::isdigit(static_cast<unsigned char>(word.text[digits])) != 0)
        ++digits;
    const std::string rest = word.text.substr(digits);
    constexpr std::array kOrdinalEnds = {"st", "nd", "rd", "th", "ª", "º"};
    if (digits > 0 && digits <= kDigits) {
        if (!rest.empty() && std::ranges::find(kOrdinalEnds, rest) == kOrdinalEnds.end())
            return;
        word.number = std::stoi(word.text.substr(0, digits));
        word.ordinal = !rest.empty();
        return;
    }
    for (const auto* kind : {"numbers", "ordinals"}) {
        const auto& list = language.heard(kind);
        const auto at = std::ranges::find(list, word.text);
        if (at == list.end())
            continue;
        word.number = static_cast<int>(at - list.begin());
        word.ordinal = std::string_view(kind) == "ordinals";
        return;
    }
}

// What stands between two words.
struct Between {
    bool clause = false, sentence = false, opens = false, closes = false;
};

Between between(const std::string& gap) {
    Between found;
    found.sentence = gap.find_first_of(".;!?\n") != std::string::npos;
    found.clause = found.sentence || gap.find_first_of(",:") != std::string::npos;
    found.opens = gap.find("\xE2\x80\x9C") != std::string::npos;
    found.closes = gap.find("\xE2\x80\x9D") != std::string::npos;
    return found;
}

} // namespace

std::string lowerCase(const std::string& text) {
    std::string low = text;
    for (std::size_t i = 0; i < low.size(); ++i) {
        const auto c = static_cast<unsigned char>(low[i]);
        if (c < 0x80U)
            low[i] = static_cast<char>(std::tolower(c));
        else if (c == 0xC3U && i + 1 < low.size()) {
            const auto next = static_cast<unsigned char>(low[i + 1]);
            if (next >= 0x80U && next <= 0x9EU && next != 0x97U)
                low[i + 1] = static_cast<char>(next + 0x20U);
        }
    }
    return low;
}

std::vector<Word> wordsOf(const std::string& text, const Vocabulary& language) {
    std::vector<Word> words;
    std::string gap;
    bool quoted = false;
    for (std::size_t at = 0; at < text.size();) {
        if (text[at] == '<') { // <i>, <00:01.000>
            const std::size_t end = text.find('>', at);
            if (end != std::string::npos) {
                at = end + 1;
                continue;
            }
        }
        std::size_t length = wordPart(text, at, false);
        if (length == 0) {
            do // a whole character
                gap += text[at++];
            while (at < text.size() && (static_cast<unsigned char>(text[at]) & 0xC0U) == 0x80U);
            continue;
        }
        const Between found = between(gap);
        if (!words.empty()) {
            words.back().clause_ends = found.clause;
            words.back().sentence_ends = found.sentence;
        }
        quoted = found.opens || (quoted && !found.closes);
        gap.clear();
        Word word;
        word.from = at;
        for (; at < text.size() && (length = wordPart(text, at, true)) > 0; at += length) {
        }
        word.to = at;
        word.quoted = quoted;
        word.written = text.substr(word.from, word.to - word.from);
        word.text = lowerCase(plainApostrophe(word.written));
        count(word, language);
        words.push_back(std::move(word));
    }
    if (!words.empty()) {
        words.back().clause_ends = words.back().sentence_ends = true;
    }
    return words;
}

bool isOneOf(const Word& word, const std::vector<std::string>& list) {
    return std::ranges::find(list, word.text) != list.end();
}

bool soundsLike(const Word& word, const std::vector<std::string>& list) {
    constexpr std::size_t kLongEnough = 5;
    if (isOneOf(word, list))
        return true;
    if (word.text.size() < kLongEnough)
        return false;
    const auto near = [&](const std::string& other) {
        const std::string& a = word.text;
        if (other.size() + 1 < a.size() || other.size() > a.size() + 1 ||
            other.size() < kLongEnough)
            return false;
        // What is alike from both ends leaves the one place at which they differ.
        std::size_t head = 0, tail = 0;
        while (head < std::min(a.size(), other.size()) && a[head] == other[head])
            ++head;
        while (tail < std::min(a.size(), other.size()) - head &&
               a[a.size() - 1 - tail] == other[other.size() - 1 - tail])
            ++tail;
        const std::size_t left_a = a.size() - head - tail, left_b = other.size() - head - tail;
        return (left_a <= 1 && left_b <= 1) ||
               (left_a == 2 && left_b == 2 && a[head] == other[head + 1] &&
                a[head + 1] == other[head]);
    };
    return std::ranges::any_of(list, near);
}

} // namespace wirenote
