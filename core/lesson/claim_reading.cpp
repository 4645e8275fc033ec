#include "lesson/claim_reading.h"

#include "score/count.h"

#include <algorithm>
#include <array>
#include <string_view>

namespace wirenote {
namespace {

enum class Unit { None, String, Fret, Finger, Bar, Beat, Position };

constexpr std::array<std::pair<Unit, const char*>, 6> kUnits = {{{Unit::String, "string"},
                                                                 {Unit::Fret, "fret"},
                                                                 {Unit::Finger, "finger"},
                                                                 {Unit::Bar, "bar"},
                                                                 {Unit::Beat, "beat"},
                                                                 {Unit::Position, "position"}}};

constexpr std::array kSteps = {0, 2, 4, 5, 7, 9, 11};

class Reader {
  public:
    Reader(const std::string& text, const Speaker& speaker)
        : m_speaker(speaker), m_language(speaker.words()),
          m_words(wordsOf(speaker.plain(text), speaker.words())), m_bound(m_words.size(), false) {
        dropEchoes();
        for (std::size_t i = 0; i < m_words.size(); ++i)
            m_units.push_back(unitOf(i));
    }

    std::vector<SpokenClaim> claims() && {
        for (m_at = 0; m_at < m_words.size(); ++m_at) {
            if (is("sorry"))
                m_repairing = true;
            const bool hedged = is("maybe");
            if (hedged || (is("then") && !m_claim.empty()))
                close();
            m_offered |= hedged;
            one();
            if (m_words[m_at].sentence_ends) {
                close();
                m_offered = false;
                m_claim.bar.reset();
                m_claim.last_bar.reset();
                m_bar_said = false;
            }
        }
        close();
        return std::move(m_claims);
    }

  private:
    // "third third string": the recogniser heard it twice. Strokes may well be said twice.
    void dropEchoes() {
        std::vector<Word> kept;
        for (Word& word : m_words) {
            const bool stroke = isOneOf(word, m_language.heard("down_word")) ||
                                isOneOf(word, m_language.heard("up_word")) ||
                                isOneOf(word, m_language.heard("down")) ||
                                isOneOf(word, m_language.heard("up"));
            if (!kept.empty() && kept.back().text == word.text && !stroke &&
                !kept.back().clause_ends) {
                kept.back().clause_ends = word.clause_ends;
                kept.back().sentence_ends = word.sentence_ends;
                continue;
            }
            kept.push_back(std::move(word));
        }
        m_words = std::move(kept);
        m_bound.assign(m_words.size(), false);
    }

    const Word* word(std::ptrdiff_t off) const {
        const auto at = static_cast<std::ptrdiff_t>(m_at) + off;
        return at >= 0 && at < static_cast<std::ptrdiff_t>(m_words.size())
                   ? &m_words[static_cast<std::size_t>(at)]
                   : nullptr;
    }
    bool is(const char* kind, std::ptrdiff_t off = 0) const {
        const Word* of = word(off);
        return of && isOneOf(*of, m_language.heard(kind));
    }
    bool isNumberNear(std::size_t i) const {
        return (i > 0 && m_words[i - 1].number) || (i + 1 < m_words.size() && countAt(i + 1));
    }

    // A number, or what a recogniser hears instead of one: "to", "for", beside a unit.
    std::optional<int> countAt(std::size_t i) const {
        if (m_words[i].number)
            return m_words[i].number;
        for (const std::string& pair : m_language.heard("sounds_like")) {
            const std::size_t equals = pair.find('=');
            if (equals != std::string::npos && m_words[i].text == pair.substr(0, equals))
                return std::stoi(pair.substr(equals + 1));
        }
        return std::nullopt;
    }

    Unit unitOf(std::size_t i) const {
        for (const auto& [unit, kind] : kUnits)
            if (isOneOf(m_words[i], m_language.heard(kind)))
                return unit;
        // Garbled, and only where a number stands beside it: "strong" is no string.
        if (isNumberNear(i))
            for (const auto& [unit, kind] : kUnits)
                if (soundsLike(m_words[i], m_language.heard(kind)))
                    return unit;
        return Unit::None;
    }

    void close() {
        if (!m_claim.empty() && !m_offered) {
            m_claim.to = m_at + 1;
            m_claims.push_back(m_claim);
        }
        if (!m_claim.empty())
            m_bar_said = false;
        SpokenClaim next;
        next.bar = m_claim.bar;
        next.last_bar = m_claim.last_bar;
        if (m_claim.empty()) // where it is may be said before what it is
            next.beat = m_claim.beat;
        next.from = m_at;
        m_claim = next;
        m_repairing = false;
    }
    // Another value of what was said already is another note, unless it corrects the first.
    template <class T> void put(std::optional<T>& field, T value) {
        if (denied())
            return;
        if (field && *field != value && !m_repairing)
            close();
        field = value;
        m_repairing = false;
    }
    void putStrings(std::vector<int> strings) {
        if (strings.empty() || denied())
            return;
        if (!m_claim.strings.empty() && m_claim.strings != strings && !m_repairing)
            close();
        m_claim.strings = std::move(strings);
        m_repairing = false;
    }
    // "not the third finger", "instead of string 2".
    bool denied() const {
        constexpr std::ptrdiff_t kReach = 4;
        for (std::ptrdiff_t off = -1; off >= -kReach; --off) {
            const Word* of = word(off);
            if (!of || of->clause_ends)
                return false;
            if (isOneOf(*of, m_language.heard("not")))
                return true;
        }
        return false;
    }

    // The number that belongs to the unit here: "third string", "string 3", "string number three".
    struct Count {
        int value = 0;
        std::size_t at = 0;
    };
    std::optional<Count> numberOf(std::size_t unit) {
        const auto back = numberBefore(unit);
        const auto ahead = numberAfter(unit);
        const bool takes_back =
            back && (m_words[back->at].ordinal || !ahead || belongsToNext(ahead->at));
        const auto chosen = takes_back ? back : ahead;
        if (chosen)
            m_bound[chosen->at] = true;
        return chosen;
    }
    bool isFiller(std::size_t i) const {
        static constexpr std::array<std::string_view, 7> kFillers = {
            "uh", "um", "er", "number", "the", "no", "nr"};
        return std::ranges::find(kFillers, m_words[i].text) != kFillers.end();
    }
    std::optional<Count> numberBefore(std::size_t unit) const {
        for (std::size_t i = unit; i-- > 0 && unit - i <= 3;) {
            if (m_words[i].clause_ends && i + 1 != unit)
                break;
            if (m_words[i].number && !m_bound[i])
                return Count{*m_words[i].number, i};
            if (!isFiller(i))
                break;
        }
        return std::nullopt;
    }
    std::optional<Count> numberAfter(std::size_t unit) const {
        for (std::size_t i = unit + 1; i < m_words.size() && i <= unit + 3; ++i) {
            const auto value = i == unit + 1 ? countAt(i) : m_words[i].number;
            // "string to play" is no number two.
            const bool sure =
                m_words[i].number || m_words[i].clause_ends ||
                (i + 1 < m_words.size() && (m_units.empty() || m_units[i + 1] != Unit::None));
            if (value && sure && !m_bound[i] && !(m_words[i].ordinal && belongsToNext(i)))
                return Count{*value, i};
            if (!isFiller(i) || m_words[i].sentence_ends)
                break;
        }
        return std::nullopt;
    }
    // A number before a unit that has no number after it.
    bool belongsToNext(std::size_t number) const {
        const std::size_t next = number + 1;
        return next < m_words.size() && m_units[next] != Unit::None &&
               !m_words[number].clause_ends &&
               (m_words[number].ordinal || next + 1 >= m_words.size() ||
                !m_words[next + 1].number || m_words[next + 1].ordinal);
    }

    void one() {
        const Unit unit = m_units[m_at];
        if (unit == Unit::String)
            string();
        else if (unit != Unit::None)
            counted(unit);
        else if (!stroke() && !named() && !partOfBeat() && !chord() && !open() && !barre())
            letterNote();
    }

    void counted(Unit unit) {
        const auto count = numberOf(m_at);
        if (!count) {
            if (unit == Unit::Finger)
                signOfFinger(1);
            return;
        }
        constexpr int kFingers = 4;
        switch (unit) {
        case Unit::Fret:
            put(m_claim.fret, count->value);
            break;
        case Unit::Finger:
            if (count->value >= 1 && count->value <= kFingers)
                put(m_claim.finger,
                    static_cast<Finger>(static_cast<int>(Finger::Index) + count->value - 1));
            break;
        case Unit::Bar:
            bars(*count);
            break;
        case Unit::Beat:
            if (!m_beat_said)
                put(m_claim.beat, Rational(count->value));
            m_beat_said = false;
            break;
        default:
            break;
        }
    }

    // "bar 3", "bars 3 to 5", "bars 3 and 4".
    void bars(const Count& count) {
        // "… in bar 3" after what it is about.
        const bool of_this = !m_claim.empty() && !m_bar_said;
        if (!m_claim.empty() && !of_this)
            close();
        m_claim.bar = count.value;
        m_claim.last_bar.reset();
        const Word* before = word(-1); // "beat 2 of bar 3"
        const bool beat_of_it = before && (is("of", -1) || before->text == "in");
        if (!of_this && !beat_of_it)
            m_claim.beat.reset();
        m_bar_said = true;
        const std::size_t last = count.at + 2;
        if (count.at > m_at && last < m_words.size() && m_words[last].number && !m_bound[last] &&
            m_units[std::min(last + 1, m_words.size() - 1)] == Unit::None &&
            !m_words[count.at].clause_ends) {
            m_claim.last_bar = m_words[last].number;
            m_bound[last] = true;
        }
    }

    // "the third string", "the D string", "the thickest string", "the low E string".
    void string() {
        const int count = m_speaker.instrument().stringCount();
        if (is("thickest", -1) || is("thinnest", -1)) {
            int nth = 1;
            if (const Word* before = word(-2); before && before->number && before->ordinal) {
                nth = *before->number;
                m_bound[m_at - 2] = true;
            }
            const int string = is("thickest", -1) ? count + 1 - nth : nth;
            if (m_speaker.instrument().hasString(string))
                putStrings({string});
            return;
        }
        if (const auto letter = letterAt(-1); letter && !isArticle(-1)) {
            putStrings(stringsOfLetter(*letter, is("thick", -2), is("thin", -2)));
            return;
        }
        if (is("thick", -1) || is("thin", -1)) {
            putStrings({is("thick", -1) ? count : 1});
            return;
        }
        if (const auto number = numberOf(m_at)) {
            const bool several =
                number->at > m_at && number->at + 2 < m_words.size() &&
                !m_words[number->at].clause_ends && m_words[number->at + 2].number &&
                !m_bound[number->at + 2] &&
                m_units[std::min(number->at + 3, m_words.size() - 1)] == Unit::None &&
                m_units[number->at + 1] == Unit::None;
            if (!several)
                putStrings({number->value});
        }
    }

    std::vector<int> stringsOfLetter(int pitch_class, bool thick, bool thin) const {
        std::vector<int> strings;
        for (int s = 1; s <= m_speaker.instrument().stringCount(); ++s)
            if (m_speaker.instrument().string(s).open_midi % 12 == pitch_class)
                strings.push_back(s);
        if (strings.size() > 1 && thick)
            return {strings.back()};
        if (strings.size() > 1 && thin)
            return {strings.front()};
        return strings;
    }

    // The pitch class of a note's name; with "sharp" or "flat" after it.
    std::optional<int> letterAt(std::ptrdiff_t off) const {
        const Word* of = word(off);
        if (!of)
            return std::nullopt;
        std::string text = of->text;
        int shift = 0;
        const auto ends = [&text](std::string_view with) {
            return text.size() > with.size() && text.ends_with(with);
        };
        for (const auto& [sign, by] :
             {std::pair<std::string_view, int>{"♯", 1}, {"#", 1}, {"♭", -1}})
            if (ends(sign)) {
                text.resize(text.size() - sign.size());
                shift = by;
            }
        for (const auto* names : {&m_language.heard("letters")}) {
            const auto at = std::ranges::find(*names, text);
            if (at == names->end() || at - names->begin() >= 7)
                continue;
            if (shift == 0 && is("sharp", off + 1))
                shift = 1;
            else if (shift == 0 && is("flat", off + 1))
                shift = -1;
            return (kSteps[static_cast<std::size_t>(at - names->begin())] + shift + 12) % 12;
        }
        return std::nullopt;
    }
    // "a" before what is no string or chord that it could name.
    bool isArticle(std::ptrdiff_t off) const {
        const Word* of = word(off);
        if (!of || of->text != "a")
            return false;
        const Word* before = word(off - 1);
        const bool named =
            before && (before->text == "an" || before->text == "the" || before->text == "open" ||
                       isOneOf(*before, m_language.heard("thick")));
        return of->written != "A" && !named;
    }

    bool stroke() {
        const bool down = is("down"), up = is("up");
        if (down || up) {
            strokeSaid(down ? Stroke::Down : Stroke::Up);
            return true;
        }
        const bool down_word = is("down_word"), up_word = is("up_word");
        if (!down_word && !up_word)
            return false;
        const bool beside = is("stroke", 1) || is("stroke", -1) || is("plucking", -1) ||
                            is("down_word", 1) || is("up_word", 1) || is("down_word", -1) ||
                            is("up_word", -1);
        if (beside)
            strokeSaid(down_word ? Stroke::Down : Stroke::Up);
        return true;
    }
    // Directions one after the other are a row of strokes.
    void strokeSaid(Stroke stroke) {
        if (denied())
            return;
        const auto direction = [this](std::ptrdiff_t off) {
            return is("down", off) || is("up", off) || is("down_word", off) || is("up_word", off);
        };
        if (direction(1) || (direction(-1) && !m_claim.strokes.empty())) {
            if (m_claim.strokes.empty() && m_claim.ofNote())
                close();
            m_claim.strokes.push_back(stroke);
            return;
        }
        put(m_claim.stroke, stroke);
    }

    // "index finger", "ring finger", "thumb", "index (i)".
    bool named() {
        static constexpr std::array<std::pair<const char*, Finger>, 5> kNames = {
            {{"index", Finger::Index},
             {"middle", Finger::Middle},
             {"ring", Finger::Ring},
             {"little", Finger::Little},
             {"thumb", Finger::Thumb}}};
        for (const auto& [kind, finger] : kNames) {
            if (!is(kind))
                continue;
            if (signOfFinger(1))
                return true;
            const bool finger_after =
                m_at + 1 < m_words.size() && m_units[m_at + 1] == Unit::Finger;
            const bool sure = finger_after || finger == Finger::Index || finger == Finger::Thumb ||
                              m_words[m_at].text.starts_with("pink") ||
                              m_words[m_at].text.starts_with("me") ||
                              m_words[m_at].text.starts_with("an");
            if (!sure || denied())
                return true;
            fingerSaid(finger);
            return true;
        }
        return false;
    }
    void fingerSaid(Finger finger) {
        constexpr std::ptrdiff_t kReach = 5;
        bool plucking = false, fretting = false;
        for (std::ptrdiff_t off = -kReach; off <= 3; ++off) {
            plucking |= is("plucking", off);
            fretting |= is("fretting", off);
        }
        if (finger == Finger::Thumb && !fretting)
            put(m_claim.stroke, Stroke::P);
        else if (plucking && !fretting)
            put(m_claim.stroke, pluckedBy(finger));
        else if (fretting && !plucking)
            put(m_claim.finger, finger);
        else
            put(m_claim.either, finger);
    }
    // p, i, m, a or c right after the name of a finger of the plucking hand.
    bool signOfFinger(std::ptrdiff_t off) {
        static constexpr std::array<std::pair<std::string_view, Stroke>, 5> kSigns = {
            {{"p", Stroke::P},
             {"i", Stroke::I},
             {"m", Stroke::M},
             {"a", Stroke::A},
             {"c", Stroke::C}}};
        const Word* of = word(off);
        if (!of || word(0)->clause_ends)
            return false;
        for (const auto& [sign, stroke] : kSigns)
            if (of->text == sign) {
                put(m_claim.stroke, stroke);
                m_at += static_cast<std::size_t>(off);
                return true;
            }
        return false;
    }

    // "the and of two", "the “e” of beat 3".
    bool partOfBeat() {
        if (!is("of", 1))
            return false;
        const std::size_t number = m_at + 2;
        const bool unit = number < m_words.size() && m_units[number] == Unit::Beat;
        const std::size_t at = unit ? number + 1 : number;
        if (at >= m_words.size() || !m_words[at].number)
            return false;
        const auto part = partOf(m_words[m_at].text);
        if (!part || denied())
            return false;
        put(m_claim.beat, Rational(*m_words[at].number) + *part);
        m_bound[at] = true;
        m_beat_said = unit;
        m_at += unit ? 1 : 2;
        return true;
    }
    std::optional<Rational> partOf(const std::string& said) const {
        for (const Metre metre : {Metre{4, 4}, Metre{6, 8}})
            for (const Rational part :
                 {Rational(1, 2), Rational(1, 4), Rational(3, 4), Rational(1, 3), Rational(2, 3)})
                if (const std::string syl = syllable(m_speaker.manner().count, metre, 0, part);
                    !syl.empty() && (syl == said || (syl == "&" && is("and_part"))))
                    return part;
        return std::nullopt;
    }

    bool open() {
        if (!is("open"))
            return false;
        // "open position" and "open chord" are no open string.
        if (!is("position", 1) && !is("chord", 1))
            put(m_claim.fret, 0);
        return true;
    }

    bool barre() {
        if (!is("barre"))
            return false;
        if (is("no", -1)) {
            m_claim.no_barre = true;
            close();
        }
        return true;
    }

    // "a C chord", "A minor seven", "Am7", "chord C".
    bool chord() {
        if (is("chord")) {
            if (const auto letter = letterAt(1); letter) {
                ++m_at;
                chordSaid(*letter);
            } else if (const Word* next = word(1); next && parseChord(capitalChord(*next))) {
                ++m_at;
                chordNamed(capitalChord(*word(0)));
            }
            return true;
        }
        const Word& here = m_words[m_at];
        const bool compact = here.written.size() > 1 && here.written[0] >= 'A' &&
                             here.written[0] <= 'G' && parseChord(here.written).has_value() &&
                             !letterAt(0);
        if (compact) {
            m_claim.chord_or_place = !is("chord", 1) && placeToo(here.written);
            chordNamed(here.written);
            return true;
        }
        const auto letter = letterAt(0);
        if (!letter || isArticle(0))
            return false;
        const std::ptrdiff_t next = is("sharp", 1) || is("flat", 1) ? 2 : 1;
        if (!is("chord", next) && !is("major", next) && !is("minor", next) &&
            !(is("seven", next) && is("chord", next + 1)))
            return false;
        m_at += static_cast<std::size_t>(next - 1);
        chordSaid(*letter);
        return true;
    }
    static std::string capitalChord(const Word& of) { return capital(of.written); }
    bool placeToo(const std::string& text) const {
        return text.size() >= 2 && text.size() <= 3 &&
               std::all_of(
                   text.begin() + 1, text.end(), [](char c) { return c >= '0' && c <= '9'; });
    }
    // From its root on: what kind it is follows.
    void chordSaid(int root) {
        std::string kind;
        std::ptrdiff_t next = 1;
        const bool major = is("major", next), minor = is("minor", next);
        next += major || minor ? 1 : 0;
        if (minor)
            kind = "m";
        if (is("seven", next)) {
            kind += major ? "maj7" : "7";
            ++next;
        }
        m_at += static_cast<std::size_t>(next - 1);
        chordNamed(pitchClassText(root) + kind);
    }
    static std::string pitchClassText(int pitch_class) {
        static constexpr std::array kNames = {
            "C", "C#", "D", "D#", "E", "F", "F#", "G", "G#", "A", "A#", "B"};
        return kNames[static_cast<std::size_t>(pitch_class)];
    }
    void chordNamed(const std::string& name) {
        if (denied())
            return;
        const auto tones = parseChord(name);
        if (!tones)
            return;
        if (!m_claim.empty() && !m_claim.chord_or_place)
            close();
        m_claim.chord = *tones;
        m_claim.chord_said = name;
        if (m_claim.chord_or_place) {
            m_claim.fret.reset();
            m_claim.strings.clear();
        }
        const std::size_t at = m_at;
        if (is("chord", 1))
            ++m_at;
        barAfter();
        close();
        m_at = std::max(at, m_at);
    }

    // "the chord C in bar 3": the bar may come last.
    void barAfter() {
        constexpr std::size_t kReach = 3; // words
        for (std::size_t i = m_at + 1; i + 1 < m_words.size() && i <= m_at + kReach; ++i) {
            if (m_words[i - 1].clause_ends)
                return;
            if (m_units[i] == Unit::Bar && m_words[i + 1].number) {
                m_claim.bar = m_words[i + 1].number;
                m_claim.last_bar.reset();
                m_bound[i + 1] = true;
                return;
            }
        }
    }

    // "the note C", "that is a G": a letter that is no string and no chord.
    void letterNote() {
        static constexpr std::array<std::string_view, 14> kBefore = {"note",
                                                                     "notes",
                                                                     "an",
                                                                     "a",
                                                                     "is",
                                                                     "its",
                                                                     "it's",
                                                                     "that's",
                                                                     "gives",
                                                                     "called",
                                                                     "get",
                                                                     "nota",
                                                                     "la",
                                                                     "un"};
        const auto letter = letterAt(0);
        const Word* before = word(-1);
        if (!letter || !before || isArticle(0) ||
            std::ranges::find(kBefore, before->text) == kBefore.end())
            return;
        const std::ptrdiff_t next = is("sharp", 1) || is("flat", 1) ? 2 : 1;
        const Word* after = word(next);
        const bool of_string =
            after && m_units[m_at + static_cast<std::size_t>(next)] == Unit::String;
        if (of_string || m_words[m_at].quoted)
            return;
        put(m_claim.note, *letter);
    }

    const Speaker& m_speaker;
    const Vocabulary& m_language;
    std::vector<Word> m_words;
    std::vector<bool> m_bound; // numbers that belong to a unit already
    std::vector<Unit> m_units;
    std::vector<SpokenClaim> m_claims;
    SpokenClaim m_claim;
    std::size_t m_at = 0;
    bool m_bar_said = false;  // of this claim
    bool m_repairing = false; // the next value corrects the last
    bool m_offered = false;   // only a possibility
    bool m_beat_said = false; // with its part, before the word for it
};

} // namespace

Stroke pluckedBy(Finger finger) {
    switch (finger) {
    case Finger::Index:
        return Stroke::I;
    case Finger::Middle:
        return Stroke::M;
    case Finger::Ring:
        return Stroke::A;
    case Finger::Little:
        return Stroke::C;
    default:
        return Stroke::P;
    }
}

std::vector<SpokenClaim> claimsIn(const std::string& text, const Speaker& speaker) {
    constexpr std::size_t kMost = 100000; // bytes of one caption
    return Reader(text.substr(0, kMost), speaker).claims();
}

} // namespace wirenote
