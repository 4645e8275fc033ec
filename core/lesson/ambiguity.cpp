#include "lesson/ambiguity.h"

#include "lesson/spoken.h"

#include <algorithm>
#include <array>
#include <cctype>

namespace wirenote {
namespace {

class Finder {
  public:
    Finder(const std::string& text, const Vocabulary& language)
        : m_text(lowerCase(text)), m_language(language), m_words(wordsOf(text, language)) {}

    std::vector<AmbiguousWord> found() && {
        for (m_at = 0; m_at < m_words.size(); ++m_at) {
            if (m_words[m_at].quoted)
                continue;
            if (isFigure() && !counted())
                add(Ambiguity::BareNumber);
            else if (letterNumber())
                add(Ambiguity::LetterNumber);
            else if (letter())
                add(Ambiguity::BareLetter);
            else if (isOneOf(m_words[m_at], m_language.heard("unclear")) && !safe())
                add(Ambiguity::Direction);
        }
        return std::move(m_found);
    }

  private:
    const Word* word(std::ptrdiff_t off) const {
        const auto at = static_cast<std::ptrdiff_t>(m_at) + off;
        return at >= 0 && at < static_cast<std::ptrdiff_t>(m_words.size())
                   ? &m_words[static_cast<std::size_t>(at)]
                   : nullptr;
    }
    bool isFigure(std::ptrdiff_t off = 0) const {
        const Word* of = word(off);
        return of && of->number && std::isdigit(static_cast<unsigned char>(of->text[0])) != 0;
    }
    // What a number counts: a word that is heard as a unit, or one that the texts of this language
    // put beside a number.
    bool isUnit(std::ptrdiff_t off) const {
        static constexpr std::array kUnits = {
            "string", "fret", "finger", "bar", "beat", "position"};
        const Word* of = word(off);
        if (!of || of->number)
            return false;
        for (const char* unit : kUnits)
            if (isOneOf(*of, m_language.heard(unit)))
                return true;
        static constexpr std::array kSaid = {"words.tempo",
                                             "words.percent",
                                             "sentences.layer_all",
                                             "sentences.cell",
                                             "sentences.higher",
                                             "sentences.key_sharps",
                                             "sentences.key_flats",
                                             "words.repeat_times"};
        return std::ranges::any_of(kSaid, [&](const char* key) {
            return besideSlot(m_language.say(key, {{"n", "#"}, {"frets", "#"}}), of->text);
        });
    }
    // Whether a word stands right beside the number in one of our texts.
    bool besideSlot(const std::string& text, const std::string& said) const {
        const std::vector<Word> words = wordsOf(text, m_language);
        for (std::size_t i = 0; i < words.size(); ++i)
            if (words[i].text == "#" && ((i > 0 && words[i - 1].text == said) ||
                                         (i + 1 < words.size() && words[i + 1].text == said)))
                return true;
        return false;
    }
    // "string 3", "5 beats", "bars 3 to 5", "strings 2, 3 and 4".
    bool counted() const {
        const Word* before = word(-1);
        if (isUnit(-1) && !before->clause_ends)
            return true;
        if (isUnit(1) && !m_words[m_at].clause_ends)
            return true;
        std::ptrdiff_t off = -1; // back over "3 to", "3,", "3 and"
        for (int links = 0; links < 8; ++links) {
            const Word* link = word(off);
            if (!link)
                return false;
            if (!link->number && !isLink(*link))
                return isUnit(off);
            --off;
        }
        return false;
    }
    bool isLink(const Word& of) const {
        for (const auto* key : {"words.bars", "words.bars_two", "words.and"}) {
            const std::vector<Word> words =
                wordsOf(m_language.say(key, {{"from", "1"}, {"to", "2"}, {"a", "1"}, {"b", "2"}}),
                        m_language);
            for (std::size_t i = 1; i + 1 < words.size(); ++i)
                if (words[i].text == of.text && words[i - 1].number && words[i + 1].number)
                    return true;
        }
        return false;
    }

    bool noteName(const std::string& written) const {
        const bool capital = !written.empty() && written[0] >= 'A' && written[0] <= 'G';
        if (m_language.syllables()) {
            std::string text = lowerCase(written);
            for (const std::string& sign : {m_language.sharp(), m_language.flat()})
                if (text.ends_with(sign))
                    text.resize(text.size() - sign.size());
            return std::ranges::find(m_language.steps(), text) != m_language.steps().end() &&
                   text != "la" && text != "si" && text != "mi";
        }
        const std::string rest = written.substr(std::min<std::size_t>(1, written.size()));
        return capital && (rest.empty() || rest == "♯" || rest == "♭" || rest == "#");
    }
    bool isKind(const char* kind, std::ptrdiff_t off) const {
        const Word* of = word(off);
        return of && isOneOf(*of, m_language.heard(kind));
    }
    bool letter() const {
        const Word& here = m_words[m_at];
        const bool begins = m_at == 0 || m_words[m_at - 1].sentence_ends;
        const bool article = here.written == "A" && begins;
        const bool of_chord = here.from > 0 && m_text[here.from - 1] == '/'; // "chord Dm7/A"
        if (!noteName(here.written) || article || of_chord)
            return false;
        std::ptrdiff_t of = isKind("of", -1) ? -2 : -1; // "cuerda de mi"
        return !isKind("note", of) && !isKind("chord", of) && !isKind("string", of) &&
               !isKind("chord", 1) && !isKind("string", 1) && !isKind("major", 1) &&
               !isKind("minor", 1) && !isPhrase();
    }
    // "phrase A".
    bool isPhrase() const {
        const Word* before = word(-1);
        const std::vector<Word> said =
            wordsOf(m_language.say("words.phrase", {{"letter", "#"}}), m_language);
        if (before && !said.empty() && before->text == said.front().text)
            return true;
        // "phrase A, phrase B and C" is written out in full; nothing else is a phrase.
        return false;
    }
    bool letterNumber() const {
        const std::string& text = m_words[m_at].written;
        constexpr std::size_t kLongest = 3;
        return text.size() >= 2 && text.size() <= kLongest && text[0] >= 'A' && text[0] <= 'G' &&
               std::all_of(
                   text.begin() + 1,
                   text.end(),
                   [](char c) { return std::isdigit(static_cast<unsigned char>(c)) != 0; }) &&
               !isKind("chord", -1) && !isKind("chord", 1);
    }
    // Part of a saying that leaves no doubt: "up to speed".
    bool safe() const {
        const Word& here = m_words[m_at];
        return std::ranges::any_of(
            m_language.heard("unclear_safe"), [&](const std::string& saying) {
                const std::size_t back = std::min(here.from, saying.size());
                const std::size_t at =
                    m_text.substr(here.from - back, back + saying.size() + here.text.size())
                        .find(saying);
                return at != std::string::npos;
            });
    }

    void add(Ambiguity what) {
        const Word& here = m_words[m_at];
        m_found.push_back({what, here.from, here.to, here.written});
    }

    std::string m_text;
    const Vocabulary& m_language;
    std::vector<Word> m_words;
    std::vector<AmbiguousWord> m_found;
    std::size_t m_at = 0;
};

} // namespace

std::vector<AmbiguousWord> ambiguitiesIn(const std::string& text, const Vocabulary& language) {
    return Finder(text, language).found();
}

} // namespace wirenote
