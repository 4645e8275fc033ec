#include "session/recipe.h"

#include "base/text.h"
#include "formats/words.h"

#include <algorithm>
#include <array>
#include <charconv>
#include <cstdio>
#include <functional>

namespace wirenote {
namespace {

std::string shortNumber(double value) {
    std::array<char, 32> text{};
    std::snprintf(text.data(), text.size(), "%g", value);
    return text.data();
}

// What can be wished of the hands, and within which bounds its number lies; none has none.
struct WishPart {
    WishKind kind = WishKind::Easiest;
    const char* word = "";
    const char* name = "";
    double least = 0.0;
    double most = 0.0;
    double usual = -1.0; // below 0: the number must be said
};
constexpr std::array kWishes{
    WishPart{WishKind::Easiest, "easiest", "easiest"},
    WishPart{WishKind::Easier, "easier", "easier, level", 1.0, 3.0, 1.0},
    WishPart{WishKind::OnePosition, "one-position", "one position", 1.0, 20.0, 0.0},
    WishPart{WishKind::NoOpen, "no-open", "no open strings"},
    WishPart{WishKind::NoBarre, "no-barre", "no barre"},
    WishPart{WishKind::Stretch, "stretch", "stretch of", 2.0, 6.0},
    WishPart{WishKind::SmallHand, "small-hand", "small hand"},
    WishPart{WishKind::Tempo, "tempo", "tempo ×", 0.25, 4.0}};

std::string allParts() {
    std::string all;
    for (const WishPart& one : kWishes) {
        const std::string number = one.most == 0.0    ? ""
                                   : one.usual >= 0.0 ? "[:NUMBER]"
                                                      : ":NUMBER";
        all += one.word + number + ", ";
    }
    return all + "transpose:SEMITONES, capo:FRET, tuning:\"D2 A2 …\", instrument:NAME, "
                 "fretting:SCHOOL, plucking:SCHOOL, no-slurs, score:FILE; several joined by +";
}

// One part: its word, and what is said behind the colon.
struct Part {
    std::string_view whole;
    std::string_view word;
    std::string_view said;
};
Part partOf(std::string_view text) {
    const std::size_t colon = text.find(':');
    return {text,
            text.substr(0, colon),
            colon == std::string_view::npos ? std::string_view() : text.substr(colon + 1)};
}

Result<double> numberOf(const Part& part, double least, double most) {
    double value = 0.0;
    const char* const end = part.said.data() + part.said.size();
    const auto [read, failed] = std::from_chars(part.said.data(), end, value);
    if (part.said.empty() || failed != std::errc{} || read != end ||
        !(value >= least && value <= most))
        return badCall("\"" + std::string(part.whole) + "\": the number must be from " +
                       shortNumber(least) + " to " + shortNumber(most));
    return value;
}

Result<int> wholeOf(const Part& part, double least, double most) {
    const auto number = numberOf(part, least, most);
    if (!number)
        return number.error();
    if (*number != static_cast<int>(*number))
        return badCall("\"" + std::string(part.whole) + "\": the number must be a whole one");
    return static_cast<int>(*number);
}

class Reader {
  public:
    explicit Reader(const Instrument& own) : m_own(own) {}

    Status read(const Part& part) {
        if (const auto wish = std::ranges::find(kWishes, part.word, &WishPart::word);
            wish != kWishes.end())
            return readWish(*wish, part);
        static const std::array<std::pair<std::string_view, Status (Reader::*)(const Part&)>, 8>
            kParts = {{{"transpose", &Reader::transpose},
                       {"capo", &Reader::capo},
                       {"tuning", &Reader::tuning},
                       {"instrument", &Reader::instrument},
                       {"fretting", &Reader::fretting},
                       {"plucking", &Reader::plucking},
                       {"no-slurs", &Reader::noSlurs},
                       {"score", &Reader::score}}};
        for (const auto& [word, how] : kParts)
            if (part.word == word)
                return (this->*how)(part);
        return badCall("\"" + std::string(part.whole) + "\" is none of: " + allParts());
    }
    ReadingRecipe take() { return std::move(m_recipe); }

  private:
    void name(const std::string& text) {
        m_recipe.name += (m_recipe.name.empty() ? "" : ", ") + text;
    }
    Instrument& other() {
        if (!m_recipe.instrument)
            m_recipe.instrument = m_own;
        return *m_recipe.instrument;
    }

    Status readWish(const WishPart& wish, const Part& part) {
        if (m_recipe.wish.kind != WishKind::None)
            return badCall("\"" + std::string(part.whole) +
                           "\": one wish of the hands at a time; the others can be added to it");
        m_recipe.wish = {wish.kind, std::max(0.0, wish.usual)};
        if (part.word.size() == part.whole.size()) {
            if (wish.most > 0.0 && wish.usual < 0.0)
                return badCall("\"" + std::string(part.whole) + "\" needs a number: " + wish.word +
                               ":NUMBER");
        } else if (wish.most == 0.0) {
            return badCall("\"" + std::string(part.whole) + "\": " + wish.word +
                           " takes no number");
        } else {
            const bool whole = wish.kind != WishKind::Tempo;
            const auto number = numberOf(part, wish.least, wish.most);
            if (!number)
                return number.error();
            if (whole && *number != static_cast<int>(*number))
                return badCall("\"" + std::string(part.whole) +
                               "\": the number must be a whole one");
            m_recipe.wish.value = *number;
        }
        std::string text = wish.name;
        if (m_recipe.wish.value > 0.0)
            text += (wish.kind == WishKind::Tempo ? "" : " ") + shortNumber(m_recipe.wish.value);
        name(wish.kind == WishKind::Stretch ? text + " frets" : text);
        return {};
    }

    Status transpose(const Part& part) {
        const auto semitones = wholeOf(part, -24, 24);
        if (!semitones)
            return semitones.error();
        m_recipe.semitones = *semitones;
        const int size = std::abs(*semitones);
        name(std::to_string(size) + (size == 1 ? " semitone " : " semitones ") +
             (*semitones < 0 ? "lower" : "higher"));
        return {};
    }
    Status capo(const Part& part) {
        const auto fret = wholeOf(part, 0, kMaxFrets);
        if (!fret)
            return fret.error();
        name(*fret == 0 ? std::string("without capo") : "capo " + std::to_string(*fret));
        return setCapo(other(), *fret);
    }
    Status tuning(const Part& part) {
        name("tuned " + std::string(part.said));
        return setTuning(other(), part.said);
    }
    Status instrument(const Part& part) {
        const auto kind = parseInstrumentName(part.said);
        if (!kind)
            return kind.error();
        other() = standardInstrument(*kind);
        name("for " + std::string(part.said));
        return {};
    }
    Status fretting(const Part& part) {
        m_recipe.fretting = frettingMannerFrom(part.said);
        if (!m_recipe.fretting)
            return badCall("\"" + std::string(part.said) +
                           "\" is no school of the fretting hand (docs/schools.md)");
        name("fretting " + std::string(part.said));
        return {};
    }
    Status plucking(const Part& part) {
        m_recipe.plucking = pluckingSchoolFrom(part.said);
        if (!m_recipe.plucking || *m_recipe.plucking == PluckingSchool::Unknown)
            return badCall("\"" + std::string(part.said) +
                           "\" is no school of the plucking hand (docs/plucking-schools.md)");
        name("plucking " + std::string(part.said));
        return {};
    }
    Status noSlurs(const Part&) {
        m_recipe.no_slurs = true;
        name("every note struck");
        return {};
    }
    Status score(const Part& part) {
        if (part.said.empty())
            return badCall("say which score: score:FILE");
        m_recipe.score = std::string(part.said);
        name("as in " + cleanText(m_recipe.score.filename().string()));
        return {};
    }

    const Instrument& m_own;
    ReadingRecipe m_recipe;
};

} // namespace

Result<ReadingRecipe> parseRecipe(std::string_view text, const Instrument& own) {
    Reader reader(own);
    for (std::size_t from = 0; from <= text.size();) {
        const std::size_t plus = std::min(text.find('+', from), text.size());
        if (const Status read = reader.read(partOf(text.substr(from, plus - from))); !read)
            return read.error();
        from = plus + 1;
    }
    return reader.take();
}

} // namespace wirenote
