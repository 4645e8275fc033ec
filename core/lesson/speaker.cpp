#include "lesson/speaker.h"

#include "base/text.h"
#include "score/count.h"

#include <algorithm>
#include <array>
#include <cctype>

namespace wirenote {
namespace {

std::string number(int n) {
    return std::to_string(n);
}

constexpr std::array kGermanSharps = {
    "C", "Cis", "D", "Dis", "E", "F", "Fis", "G", "Gis", "A", "Ais", "H"};
constexpr std::array kGermanFlats = {
    "C", "Des", "D", "Es", "E", "F", "Ges", "G", "As", "A", "B", "H"};
constexpr std::array kSyllables = {"do", "re", "mi", "fa", "sol", "la", "si"};
constexpr std::array kOrdinals = {
    "words.second", "words.third", "words.fourth", "words.fifth", "words.sixth"};

bool letter(char c) {
    return std::isalnum(static_cast<unsigned char>(c)) != 0 ||
           (static_cast<unsigned char>(c) & 0x80U) != 0;
}

char lower(char c) {
    return static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
}

} // namespace

std::string capital(std::string text) {
    if (text.empty())
        return text;
    const auto first = static_cast<unsigned char>(text[0]);
    if (first < 0x80U)
        text[0] = static_cast<char>(std::toupper(first));
    else if (first == 0xC3U && text.size() > 1) { // à to þ lie 0x20 above À to Þ
        const auto second = static_cast<unsigned char>(text[1]);
        if (second >= 0xA0U && second <= 0xBEU && second != 0xB7U)
            text[1] = static_cast<char>(second - 0x20U);
    }
    return text;
}

std::string withWord(const std::string& text, const std::string& from, const std::string& to) {
    if (from.empty())
        return text;
    std::string out;
    for (std::size_t at = 0; at < text.size();) {
        const bool here = at + from.size() <= text.size() && (at == 0 || !letter(text[at - 1])) &&
                          (at + from.size() == text.size() || !letter(text[at + from.size()])) &&
                          std::equal(from.begin(),
                                     from.end(),
                                     text.begin() + static_cast<std::ptrdiff_t>(at),
                                     [](char a, char b) { return lower(a) == lower(b); });
        if (!here) {
            out += text[at++];
            continue;
        }
        const bool big = std::isupper(static_cast<unsigned char>(text[at])) != 0;
        out += big ? capital(to) : to;
        at += from.size();
    }
    return out;
}

Speaker::Speaker(const Vocabulary& words,
                 const TeachingManner& manner,
                 Instrument instrument,
                 KeySignature key)
    : m_words(words), m_manner(manner), m_instrument(std::move(instrument)), m_key(key) {}

std::string Speaker::string(int number_of) const {
    std::string text;
    if (m_manner.strings == StringNaming::Letter)
        text = byLetter(number_of);
    else if (m_manner.strings == StringNaming::ThickThin)
        text = byThickness(number_of);
    return text.empty() ? m_words.say("words.string", {{"n", number(number_of)}}) : text;
}

std::string Speaker::byLetter(int number_of) const {
    const auto classOf = [&](int s) { return m_instrument.string(s).open_midi % 12; };
    std::vector<int> alike; // from the thinnest
    for (int s = 1; s <= m_instrument.stringCount(); ++s)
        if (classOf(s) == classOf(number_of))
            alike.push_back(s);
    const Vocabulary::Slots slots = {{"letter", pitchClass(classOf(number_of))}};
    if (alike.size() == 1)
        return m_words.say("words.string_letter", slots);
    if (alike.size() > 3)
        return {};
    if (number_of == alike.front())
        return m_words.say("words.string_letter_thin", slots);
    return m_words.say(number_of == alike.back() ? "words.string_letter_thick"
                                                 : "words.string_letter_middle",
                       slots);
}

std::string Speaker::byThickness(int number_of) const {
    const int count = m_instrument.stringCount();
    if (number_of == 1)
        return m_words.say("words.string_thinnest");
    if (number_of == count)
        return m_words.say("words.string_thickest");
    const bool thin = number_of <= (count + 1) / 2;
    const int nth = thin ? number_of : count + 1 - number_of;
    const auto ordinal = static_cast<std::size_t>(nth - 2);
    if (ordinal >= kOrdinals.size())
        return {};
    return m_words.say(thin ? "words.string_thin_nth" : "words.string_thick_nth",
                       {{"nth", m_words.say(kOrdinals[ordinal])}});
}

std::string Speaker::place(Position position) const {
    const std::string on = string(position.string);
    if (position.fret == 0)
        return m_words.say("words.place_open", {{"string", on}});
    return m_words.say(
        "words.place",
        {{"string", on}, {"fret", m_words.say("words.fret", {{"n", number(position.fret)}})}});
}

std::string Speaker::finger(Finger finger) const {
    if (finger == Finger::Thumb)
        return m_words.say("words.finger_thumb");
    const int n = static_cast<int>(finger) - static_cast<int>(Finger::Index) + 1;
    if (n < 1 || n > 4)
        return {};
    return m_manner.fingers == FingerNaming::Number
               ? m_words.say("words.finger", {{"n", number(n)}})
               : m_words.say("words.finger_" + number(n));
}

std::string Speaker::stroke(Stroke stroke) const {
    const auto fingered = [&](const char* sign) {
        std::string key = std::string("words.stroke_") + sign;
        if (m_manner.strokes == StrokeNaming::Sign)
            key += "_sign";
        return m_words.say(key);
    };
    switch (stroke) {
    case Stroke::Down:
        return m_words.say("words.stroke_down");
    case Stroke::Up:
        return m_words.say("words.stroke_up");
    case Stroke::P:
        return fingered("p");
    case Stroke::I:
        return fingered("i");
    case Stroke::M:
        return fingered("m");
    case Stroke::A:
        return fingered("a");
    case Stroke::C:
        return fingered("c");
    case Stroke::Ghost:
        return m_words.say("words.stroke_ghost");
    case Stroke::Unknown:
    case Stroke::None:
        break;
    }
    return {};
}

std::string Speaker::pitchClass(int pitch_class) const {
    constexpr int kMiddle = 60;
    NoteNaming naming = m_manner.notes;
    if (m_manner.notes_as_language)
        naming = m_words.syllables() ? NoteNaming::Syllables : NoteNaming::Letters;
    const auto at = static_cast<std::size_t>(pitch_class);
    if (naming == NoteNaming::GermanLetters)
        return m_key.spelling() == Spelling::Flats ? kGermanFlats[at] : kGermanSharps[at];
    const SpelledPitch spelled = spell(kMiddle + pitch_class, m_key.spelling());
    constexpr std::string_view kSteps = "CDEFGAB";
    const std::size_t step = kSteps.find(spelled.step);
    std::string name(1, spelled.step);
    if (naming == NoteNaming::Syllables)
        name = m_words.syllables() ? m_words.steps()[step] : kSyllables[step];
    if (spelled.alter != 0)
        name += spelled.alter > 0 ? m_words.sharp() : m_words.flat();
    return name;
}

std::string Speaker::note(int midi) const {
    return m_words.say("words.note", {{"name", pitchClass(midi % 12)}});
}

std::string Speaker::bars(int first, int last) const {
    const auto bar = [&](int n) {
        return n <= 0 ? m_words.say("words.pickup") : m_words.say("words.bar", {{"n", number(n)}});
    };
    if (first >= last)
        return bar(first);
    if (first <= 0) // the pick-up has no number
        return m_words.say("words.and", {{"a", bar(first)}, {"b", bars(1, last)}});
    return m_words.say(last == first + 1 ? "words.bars_two" : "words.bars",
                       {{"from", number(first)}, {"to", number(last)}});
}

std::string Speaker::beat(const Metre& metre, const SpokenPlace& place) const {
    const std::string on = m_words.say("words.beat", {{"n", number(place.beat + 1)}});
    if (place.part == Rational(0))
        return on;
    const std::string said = syllable(m_manner.count, metre, place.beat, place.part);
    if (!said.empty())
        return m_words.say("words.beat_part", {{"syllable", said}, {"n", number(place.beat + 1)}});
    // After the last place before it that has a syllable.
    for (const Rational part :
         {Rational(3, 4), Rational(2, 3), Rational(1, 2), Rational(1, 3), Rational(1, 4)})
        if (part < place.part && !syllable(m_manner.count, metre, place.beat, part).empty())
            return m_words.say("words.beat_after",
                               {{"beat", beat(metre, {place.bar, place.beat, part})}});
    return m_words.say("words.beat_after", {{"beat", on}});
}

std::string Speaker::barBeat(const Metre& metre, const SpokenPlace& place) const {
    return m_words.say("words.bar_beat",
                       {{"bar", bars(place.bar, place.bar)}, {"beat", beat(metre, place)}});
}

std::string Speaker::list(const std::vector<std::string>& items) const {
    std::string text;
    for (std::size_t i = 0; i < items.size(); ++i) {
        if (i == 0)
            text = items[i];
        else if (i + 1 == items.size())
            text = m_words.say("words.and", {{"a", text}, {"b", items[i]}});
        else
            text += ", " + items[i];
    }
    return text;
}

std::string Speaker::own(std::string text) const {
    for (const GlossaryWord& word : m_manner.glossary)
        text = withWord(text, word.ours, word.own);
    return text;
}

std::string Speaker::plain(std::string text) const {
    for (const GlossaryWord& word : m_manner.glossary)
        text = withWord(text, word.own, word.ours);
    return text;
}

} // namespace wirenote
