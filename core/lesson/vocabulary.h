// The words of a lesson as data: a language is one file.
#pragma once

#include "base/result.h"

#include <map>
#include <optional>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

namespace wirenote {

// One language: its words and sentences by key, with {slots}, and what is understood when it is
// said. Lists of words are in lower case.
class Vocabulary {
  public:
    using Slots = std::vector<std::pair<std::string_view, std::string>>;

    // From the text of a language file. Errors: no JSON, a key that English has and it has not, a
    // slot that English does not fill.
    static Result<Vocabulary> read(const std::string& json);
    // One that is shipped, by its code. Errors: no such language, with the codes there are.
    static Result<Vocabulary> shipped(std::string_view code);
    static const Vocabulary& english();

    const std::string& code() const { return m_code; }
    const std::string& name() const { return m_name; }
    bool syllables() const { return m_syllables; } // how its notes are named
    // Names of the seven steps from C, and the signs.
    const std::vector<std::string>& steps() const { return m_steps; }
    const std::string& sharp() const { return m_sharp; }
    const std::string& flat() const { return m_flat; }

    // "words.string", with its slots filled. The key must be there: read() has seen to it.
    std::string say(std::string_view key, const Slots& slots = {}) const;
    // Words that mean the same when they are heard: "string", "fret", "numbers" …
    const std::vector<std::string>& heard(std::string_view kind) const;

  private:
    Vocabulary() = default;
    // What of another is not here, in words.
    std::optional<std::string> lacks(const Vocabulary& reference) const;
    static Result<Vocabulary> parse(const std::string& json, const Vocabulary* reference);

    std::string m_code, m_name, m_sharp, m_flat;
    bool m_syllables = false;
    std::vector<std::string> m_steps;
    std::map<std::string, std::string, std::less<>> m_texts;
    std::map<std::string, std::vector<std::string>, std::less<>> m_heard;
};

// Codes of the languages that are shipped, English first.
std::vector<std::string> shippedLanguages();

} // namespace wirenote
