#include "piece/decision_text.h"

#include <array>
#include <cmath>
#include <cstdio>

namespace wirenote {
namespace {

std::string percent(double probability) {
    return std::to_string(std::lround(100.0 * probability)) + " %";
}

std::string secondsText(TimeRange time) {
    std::array<char, 64> text{};
    std::snprintf(text.data(), text.size(), "%.3f–%.3f s", time.start_s, time.end_s);
    return text.data();
}

std::string techniquesText(const std::vector<Technique>& techniques) {
    std::string all;
    for (const Technique t : techniques)
        all += (all.empty() ? "" : ", ") + std::string(techniqueWord(t));
    return all.empty() ? "no technique" : all;
}

std::string voiceText(const std::optional<Voice>& voice) {
    return !voice ? "voice as found" : *voice == Voice::Lower ? "lower voice" : "upper voice";
}

std::string needText(const Need& need) {
    std::string text = need.kind == Necessity::MayGo      ? "may be left out"
                       : need.kind == Necessity::MustLand ? "must land"
                                                          : "like any other";
    if (need.above_bpm > 0.0)
        text += " at " + std::to_string(std::lround(need.above_bpm)) + " and faster";
    return need.when.empty() ? text : text + ", " + need.when;
}

std::string leftText(const std::vector<LeftOpen>& left) {
    std::string all;
    for (const LeftOpen& one : left)
        all += (all.empty() ? "left open: " : "; ") +
               (one.word.empty() ? std::string("without a word") : one.word);
    return all.empty() ? "not left open" : all;
}

class Differences {
  public:
    template <class T> void plain(const T& was, const T& is, std::string (*text)(const T&)) {
        if (was != is)
            told(text(was), text(is));
    }
    template <class T, class Text>
    void decided(const char* of, const Decision<T>& was, const Decision<T>& is, Text text) {
        const bool confirmed = !was.isSet() && is.isSet();
        if (was.value == is.value && !confirmed)
            return;
        told(text(was.value), text(is.value));
        append(m_text.evidence,
               std::string(of) + " " + std::string(basisWord(was.basis)) +
                   (was.isSet() ? "" : ", " + percent(was.probability)));
        for (const RunnerUp<T>& other : was.runners_up)
            if (other.value != is.value)
                append(m_text.rejected,
                       text(other.value) + " (" + percent(other.probability) + ")");
    }
    ChangeText take() { return std::move(m_text); }

  private:
    void told(const std::string& from, const std::string& to) {
        append(m_text.from, from);
        append(m_text.to, to);
    }
    static void append(std::string& all, const std::string& one) {
        constexpr std::size_t kLongest = 160; // what is left of many runners-up says no more
        if (all.size() < kLongest)
            all += (all.empty() ? "" : "; ") + one;
    }
    ChangeText m_text;
};

} // namespace

std::string placeWords(Position p) {
    return p.string == 0
               ? "no place"
               : "string " + std::to_string(p.string) + ", fret " + std::to_string(p.fret);
}

std::string_view basisWord(Basis basis) {
    constexpr std::array<std::string_view, 4> kWords{"heard", "seen", "reasoned", "set"};
    return kWords[static_cast<std::size_t>(basis)];
}

std::string fingerWord(Finger finger) {
    constexpr std::array<std::string_view, 7> kWords{
        "no finger said", "open", "finger 1", "finger 2", "finger 3", "finger 4", "thumb"};
    return std::string(kWords[static_cast<std::size_t>(finger)]);
}

std::string_view strokeWord(Stroke stroke) {
    constexpr std::array<std::string_view, 10> kWords{
        "no stroke said", "down", "up", "p", "i", "m", "a", "c", "ghost stroke", "not struck"};
    return kWords[static_cast<std::size_t>(stroke)];
}

std::string_view techniqueWord(Technique technique) {
    constexpr std::array<std::string_view, kTechniqueCount> kWords{
        "hammer-on", "pull-off", "slide",    "bend",     "release", "vibrato", "palm mute",
        "dead note", "staccato", "let ring", "harmonic", "grace",   "accent",  "ghost stroke",
        "pre-bend",  "roll",     "rake",     "trill",    "tremolo", "tap"};
    return kWords[static_cast<std::size_t>(technique)];
}

ChangeText changeText(const DecidedNote& before, const DecidedNote& after, Spelling spelling) {
    Differences found;
    found.decided("pitch", before.note.pitch, after.note.pitch, [spelling](double midi) {
        return pitchName(midi, spelling);
    });
    found.decided("time", before.note.time, after.note.time, secondsText);
    found.decided("place", before.plan.position, after.plan.position, placeWords);
    found.decided("finger", before.plan.finger, after.plan.finger, fingerWord);
    found.decided("stroke", before.plan.stroke, after.plan.stroke, [](Stroke stroke) {
        return std::string(strokeWord(stroke));
    });
    found.plain(before.note.techniques, after.note.techniques, techniquesText);
    found.plain(before.note.voice, after.note.voice, voiceText);
    found.plain(before.note.need, after.note.need, needText);
    found.plain(before.note.left_open, after.note.left_open, leftText);
    return found.take();
}

} // namespace wirenote
