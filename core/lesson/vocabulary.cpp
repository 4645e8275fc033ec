#include "lesson/vocabulary.h"

#include "base/json_fields.h"
#include "base/text.h"
#include "lesson/vocabulary_data.h"

#include <array>
#include <set>

namespace wirenote {
namespace {

using json_fields::Fields;
using json_fields::Json;

constexpr std::array kGroups = {
    "words", "techniques", "sentences", "stumbles", "remedies", "steps", "shots", "pack", "page"};
constexpr std::size_t kMaxHeard = 200;
constexpr std::size_t kSteps = 7;

struct Shipped {
    const char* code;
    const char* text;
};
constexpr std::array<Shipped, 2> kShipped = {{{"en", kEnglishText}, {"es", kSpanishText}}};

// The {slots} of a text.
std::set<std::string> slotsOf(const std::string& text) {
    std::set<std::string> slots;
    for (std::size_t at = text.find('{'); at != std::string::npos; at = text.find('{', at + 1)) {
        const std::size_t end = text.find('}', at);
        if (end == std::string::npos)
            break;
        slots.insert(text.substr(at + 1, end - at - 1));
    }
    return slots;
}

Error bad(const std::string& what) {
    return badInput({}, "is no list of words for lessons: " + what + "; see docs/languages.md");
}

std::vector<std::string> listFrom(const Json& json) {
    std::vector<std::string> words;
    for (const Json& word : json)
        if (word.is_string())
            words.push_back(cleanText(word.get<std::string>()));
    return words;
}

using Texts = std::map<std::string, std::string, std::less<>>;
using Heard = std::map<std::string, std::vector<std::string>, std::less<>>;

Texts textsFrom(const Json& json) {
    Texts texts;
    for (const char* group : kGroups)
        if (const Json* of = Fields::find(json, group); of && of->is_object())
            for (const auto& [key, value] : of->items())
                if (value.is_string())
                    texts[std::string(group) + "." + key] = cleanText(value.get<std::string>());
    return texts;
}

Heard heardFrom(const Json& json) {
    Heard heard;
    if (const Json* lexicon = Fields::find(json, "lexicon"); lexicon && lexicon->is_object())
        for (const auto& [kind, list] : lexicon->items())
            if (list.is_array() && list.size() <= kMaxHeard)
                heard[kind] = listFrom(list);
    return heard;
}

} // namespace

std::optional<std::string> Vocabulary::lacks(const Vocabulary& reference) const {
    for (const auto& [key, english] : reference.m_texts) {
        const auto own = m_texts.find(key);
        if (own == m_texts.end())
            return "\"" + key + "\" is missing";
        const std::set<std::string> known = slotsOf(english);
        for (const std::string& slot : slotsOf(own->second))
            if (!known.contains(slot))
                return "\"" + key + "\" has {" + slot + "}, which nobody fills";
    }
    for (const auto& [kind, list] : reference.m_heard)
        if (!m_heard.contains(kind))
            return "\"lexicon." + kind + "\" is missing";
    return std::nullopt;
}

Result<Vocabulary> Vocabulary::parse(const std::string& text, const Vocabulary* reference) {
    const auto json = json_fields::parse(text);
    if (!json)
        return json.error();
    Fields fields;
    Vocabulary words;
    words.m_name = fields.text(*json, "language", "the file");
    words.m_code = fields.text(*json, "code", "the file");
    words.m_syllables = fields.text(*json, "notes", "the file") == "syllables";
    words.m_sharp = fields.text(*json, "sharp", "the file");
    words.m_flat = fields.text(*json, "flat", "the file");
    words.m_steps = listFrom(fields.array(*json, "note_names", "the file", kSteps));
    words.m_texts = textsFrom(*json);
    words.m_heard = heardFrom(*json);
    if (!fields.ok())
        return bad(*fields.problem());
    if (words.m_code.empty() || words.m_name.empty() || words.m_steps.size() != kSteps)
        return bad("it needs a \"code\", a \"language\" and seven \"note_names\"");
    if (!reference)
        return words;
    if (const auto lacks = words.lacks(*reference))
        return bad(*lacks);
    return words;
}

const Vocabulary& Vocabulary::english() {
    // What is shipped is held against this by the tests; a damaged text would have no words.
    static const Vocabulary kEnglish = [] {
        const auto read = parse(kEnglishText, nullptr);
        return read ? *read : Vocabulary{};
    }();
    return kEnglish;
}

Result<Vocabulary> Vocabulary::read(const std::string& json) {
    return parse(json, &english());
}

Result<Vocabulary> Vocabulary::shipped(std::string_view code) {
    std::string codes;
    for (const Shipped& one : kShipped) {
        if (one.code == code)
            return read(one.text);
        codes += (codes.empty() ? "" : ", ") + std::string(one.code);
    }
    return badCall("no lesson is written in \"" + std::string(code) + "\"; there are " + codes +
                   ", or name a language file");
}

std::string Vocabulary::say(std::string_view key, const Slots& slots) const {
    const auto found = m_texts.find(key);
    if (found == m_texts.end())
        return {};
    std::string text;
    const std::string& from = found->second;
    for (std::size_t at = 0; at < from.size();) {
        const std::size_t end = from[at] == '{' ? from.find('}', at) : std::string::npos;
        if (end == std::string::npos) {
            text += from[at++];
            continue;
        }
        const std::string_view slot = std::string_view(from).substr(at + 1, end - at - 1);
        for (const auto& [name, value] : slots)
            if (name == slot)
                text += value;
        at = end + 1;
    }
    return text;
}

const std::vector<std::string>& Vocabulary::heard(std::string_view kind) const {
    static const std::vector<std::string> kNothing;
    const auto found = m_heard.find(kind);
    return found == m_heard.end() ? kNothing : found->second;
}

std::vector<std::string> shippedLanguages() {
    std::vector<std::string> codes;
    for (const Shipped& one : kShipped)
        codes.emplace_back(one.code);
    return codes;
}

} // namespace wirenote
