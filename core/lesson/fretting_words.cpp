#include "lesson/wording.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <optional>

namespace wirenote {
namespace {

std::string techniqueKey(Technique technique) {
    constexpr std::array kKeys = {"hammer-on", "pull-off",  "slide",  "bend",     "release",
                                  "vibrato",   "palm-mute", "dead",   "staccato", "let-ring",
                                  "harmonic",  "grace",     "accent", "",         "pre-bend",
                                  "roll",      "rake",      "trill",  "tremolo",  "tap"};
    static_assert(kKeys.size() == kTechniqueCount);
    const char* key = kKeys[static_cast<std::size_t>(technique)];
    return *key == '\0' ? std::string() : std::string("techniques.") + key;
}

std::string bendAmount(const Vocabulary& words, double semitones) {
    // To the nearest that has a name.
    constexpr std::array<std::pair<double, const char*>, 5> kNamed = {{{0.5, "quarter_tone"},
                                                                       {1.0, "half_tone"},
                                                                       {2.0, "whole_tone"},
                                                                       {3.0, "tone_and_a_half"},
                                                                       {4.0, "two_tones"}}};
    if (semitones > 4.5)
        return words.say("techniques.tones");
    const auto nearest = std::ranges::min_element(
        kNamed, {}, [&](const auto& named) { return std::abs(named.first - semitones); });
    return words.say(std::string("techniques.") + nearest->second);
}

class FrettingWriter {
  public:
    FrettingWriter(const LessonWriter& writer, const TeachPhrase& phrase)
        : m_writer(writer), m_facts(writer.facts()), m_speaker(writer.speaker()), m_phrase(phrase) {
    }

    std::vector<Sentence> sentences() && {
        const std::vector<std::size_t> moments = momentsToSay(m_facts, m_phrase);
        m_said = sameWords(m_writer, m_phrase);
        if (m_said.empty() && !moments.empty())
            begin(moments.front());
        for (std::size_t i = 0; i < moments.size();) {
            if (const std::size_t bar = wholeBarLikeLast(moments, i); bar > 0) {
                i += bar;
                continue;
            }
            const std::size_t before = i > 0 ? moments[i - 1] : moments[i];
            const bool in_a_row = i > 0 && moments[i] == before + 1;
            if (in_a_row)
                moved(before, moments[i]);
            say(moments[i], in_a_row ? std::optional(before) : std::nullopt);
            ++i;
        }
        if (!moments.empty())
            why(moments);
        return std::move(m_said);
    }

  private:
    const LessonMoment& moment(std::size_t m) const { return m_facts.moments()[m]; }
    const Vocabulary& words() const { return m_speaker.words(); }
    NoteId idOf(std::size_t note) const { return m_facts.piece().notes[note].id; }
    std::string placeOf(std::size_t note) const {
        return m_speaker.place(m_facts.plan(note).position.value);
    }

    void add(std::string_view key, const Vocabulary::Slots& slots, std::vector<NoteId> notes) {
        m_said.push_back({capital(words().say(key, slots)), std::move(notes)});
    }

    void begin(std::size_t first) {
        const std::size_t note = moment(first).notes.front();
        const NotePlan& plan = m_facts.plan(note);
        if (!plan.placed() || !m_facts.piece().notes[note].pitched())
            return;
        const std::string finger = m_speaker.finger(plan.finger.value);
        if (plan.position.value.fret == 0)
            add("sentences.start_open", {{"place", placeOf(note)}}, {idOf(note)});
        else if (!finger.empty())
            add("sentences.start", {{"finger", finger}, {"place", placeOf(note)}}, {idOf(note)});
        // An open string leaves the hand where it was: what counts is where it presses first.
        const auto [from, to] = m_facts.momentsIn(m_phrase.from, m_phrase.to);
        for (std::size_t m = from; m < to; ++m)
            for (const std::size_t one : moment(m).notes)
                if (const NotePlan& pressed = m_facts.plan(one);
                    pressed.position.value.fret > 0 && pressed.hand_fret > 0) {
                    add("sentences.position",
                        {{"position", position(pressed.hand_fret)},
                         {"fret", fret(pressed.hand_fret)}},
                        {});
                    return;
                }
    }
    bool presses(std::size_t m) const {
        return std::ranges::any_of(moment(m).notes, [this](std::size_t note) {
            return m_facts.plan(note).position.value.fret > 0;
        });
    }

    std::string position(int at) const {
        return words().say("words.position", {{"n", std::to_string(at)}});
    }
    std::string fret(int at) const {
        return words().say("words.fret", {{"n", std::to_string(at)}});
    }

    // What all notes of a moment have in common is said once.
    std::vector<Technique> common(std::size_t m) const {
        std::vector<Technique> shared;
        if (moment(m).notes.size() < 2 || !moment(m).graces.empty())
            return shared;
        const auto& notes = m_facts.piece().notes;
        for (const Technique technique : notes[moment(m).notes[0]].techniques)
            if (technique != Technique::Bend && technique != Technique::PreBend &&
                std::ranges::all_of(moment(m).notes,
                                    [&](std::size_t note) { return notes[note].has(technique); }))
                shared.push_back(technique);
        return shared;
    }

    std::string how(std::size_t note, const std::vector<Technique>& but) const {
        const Note& of = m_facts.piece().notes[note];
        std::string text;
        for (const Technique technique : of.techniques) {
            if (std::ranges::count(but, technique) > 0)
                continue;
            const std::string key = techniqueKey(technique);
            if (key.empty())
                continue;
            text += (text.empty() ? "" : ", ") +
                    words().say(key, {{"amount", bendAmount(words(), of.bendSemitones())}});
        }
        return text;
    }

    std::string item(std::size_t note, const std::vector<Technique>& said_once) const {
        const NotePlan& plan = m_facts.plan(note);
        const Note& of = m_facts.piece().notes[note];
        const bool dead = !of.pitched();
        const std::string finger =
            plan.position.value.fret > 0 ? m_speaker.finger(plan.finger.value) : std::string();
        std::string key = finger.empty() ? "sentences.unfingered" : "sentences.pressed";
        if (dead)
            key += "_dead";
        const std::string what = words().say(
            key,
            {{"finger", finger}, {"place", placeOf(note)}, {"note", m_speaker.note(of.midi())}});
        const std::string said = how(note, said_once);
        return said.empty() ? what : words().say("sentences.how", {{"what", what}, {"how", said}});
    }

    std::string withShared(const std::string& what, const std::vector<Technique>& shared) const {
        std::string text;
        for (const Technique technique : shared)
            if (const std::string key = techniqueKey(technique); !key.empty())
                text += (text.empty() ? "" : ", ") + words().say(key);
        return text.empty() ? what
                            : words().say("sentences.how_all", {{"what", what}, {"how", text}});
    }

    bool shown(std::size_t note) const {
        return m_facts.plan(note).placed() &&
               !m_facts.piece().notes[note].has(Technique::GhostStroke);
    }

    bool same(std::size_t a, std::size_t b) const {
        const auto& first = moment(a).notes;
        const auto& second = moment(b).notes;
        if (first.size() != second.size() || !moment(b).graces.empty())
            return false;
        for (std::size_t i = 0; i < first.size(); ++i) {
            const NotePlan& p = m_facts.plan(first[i]);
            const NotePlan& q = m_facts.plan(second[i]);
            const Note& n = m_facts.piece().notes[first[i]];
            const Note& o = m_facts.piece().notes[second[i]];
            if (p.position.value != q.position.value || p.finger.value != q.finger.value ||
                n.midi() != o.midi() || n.techniques != o.techniques)
                return false;
        }
        return true;
    }

    // "Bar 3, beat 1: finger 1 on string 2, fret 1, note C." Its bar is said where another begins.
    void say(std::size_t m, std::optional<std::size_t> before) {
        std::vector<std::string> items;
        std::vector<NoteId> notes;
        const std::vector<Technique> shared = common(m);
        for (const auto* part : {&moment(m).graces, &moment(m).notes})
            for (const std::size_t note : *part)
                if (shown(note)) {
                    items.push_back(item(note, shared));
                    notes.push_back(idOf(note));
                }
        if (!items.empty()) {
            if (before && same(*before, m))
                add("sentences.again", {{"when", when(m)}}, notes);
            else
                add("sentences.moment",
                    {{"when", when(m)}, {"what", withShared(m_speaker.list(items), shared)}},
                    notes);
            m_last_bar = moment(m).place.bar;
        }
        m_pressed |= presses(m);
        lasting(m);
    }

    std::string when(std::size_t m) const {
        return moment(m).place.bar == m_last_bar
                   ? m_speaker.beat(moment(m).metre, moment(m).place)
                   : m_speaker.barBeat(moment(m).metre, moment(m).place);
    }

    std::string until(Rational at) const {
        const Bar& last = m_facts.sheet().score.bars.back();
        if (at >= last.start + last.length)
            return words().say("words.end");
        return m_speaker.barBeat(m_facts.metreAt(at), m_facts.placeAt(at));
    }

    // What begins here and lasts: barres and fingers that stay.
    void lasting(std::size_t m) {
        for (const BarreSign& barre : m_facts.sheet().barres)
            if (barre.from == moment(m).start && barre.to > barre.from)
                add("sentences.barre",
                    {{"finger", m_speaker.finger(barre.finger)},
                     {"from", m_speaker.string(barre.thick)},
                     {"to", m_speaker.string(barre.thin)},
                     {"fret", fret(barre.fret)},
                     {"until", until(barre.to)}},
                    {});
        for (const HoldSign& hold : m_facts.sheet().holds) {
            const auto note = m_facts.piece().indexOf(hold.note);
            const auto [next, end] = m_facts.momentsIn(moment(m).start + Rational(1, 64), hold.to);
            if (hold.from != moment(m).start || !note || next >= end) // as long as it sounds
                continue;
            const Vocabulary::Slots slots = {{"finger", m_speaker.finger(hold.finger)},
                                             {"place", placeOf(*note)},
                                             {"until", until(hold.to)},
                                             {"when", until(hold.from)}};
            add(hold.to > m_phrase.to ? "sentences.anchor" : "sentences.hold", slots, {hold.note});
        }
    }

    // What the hand does between two moments: it moves along the neck, or a finger rolls over.
    void moved(std::size_t before, std::size_t m) {
        for (std::size_t i = 0; i < m_facts.sheet().positions.size(); ++i) {
            const PositionSign& sign = m_facts.sheet().positions[i];
            if (i == 0 || sign.at != moment(m).start || !m_pressed)
                continue;
            const int from = m_facts.sheet().positions[i - 1].fret;
            add(sign.fret > from ? "sentences.shift_up" : "sentences.shift_down",
                {{"when", m_speaker.beat(moment(before).metre, moment(before).place)},
                 {"from", position(from)},
                 {"to", position(sign.fret)}},
                {});
        }
        if (moment(m).notes.size() != 1 || moment(before).notes.size() != 1)
            return;
        const NotePlan& p = m_facts.plan(moment(before).notes[0]);
        const NotePlan& q = m_facts.plan(moment(m).notes[0]);
        const Position a = p.position.value, b = q.position.value;
        if (p.finger.value == q.finger.value && a.fret == b.fret && a.fret > 0 &&
            std::abs(a.string - b.string) == 1 && !m_speaker.finger(p.finger.value).empty() &&
            !underBarre(moment(m).start, b))
            add("sentences.roll",
                {{"when", when(m)},
                 {"finger", m_speaker.finger(p.finger.value)},
                 {"from", m_speaker.string(a.string)},
                 {"to", m_speaker.string(b.string)},
                 {"fret", fret(a.fret)}},
                {});
    }

    bool underBarre(Rational at, Position place) const {
        return std::ranges::any_of(m_facts.sheet().barres, [&](const BarreSign& barre) {
            return barre.from <= at && at < barre.to && barre.fret == place.fret &&
                   place.string >= barre.thin && place.string <= barre.thick;
        });
    }

    // A bar that does what the bar before did, a string further: said in one sentence. How many
    // moments it covers; 0: it does not.
    std::size_t wholeBarLikeLast(const std::vector<std::size_t>& moments, std::size_t i) {
        constexpr std::size_t kWorthIt = 3; // moments
        const auto bar = moment(moments[i]).place.bar;
        std::size_t end = i;
        while (end < moments.size() && moment(moments[end]).place.bar == bar)
            ++end;
        const std::size_t count = end - i;
        if (count < kWorthIt || i < count || bar <= 1)
            return 0;
        std::optional<int> thicker;
        for (std::size_t k = 0; k < count; ++k)
            if (!shifted(moments[i - count + k], moments[i + k], bar, thicker))
                return 0;
        if (!thicker || std::abs(*thicker) != 1)
            return 0;
        std::vector<NoteId> notes;
        for (std::size_t k = i; k < end; ++k)
            for (const std::size_t note : moment(moments[k]).notes)
                notes.push_back(idOf(note));
        add(*thicker > 0 ? "sentences.pattern_thicker" : "sentences.pattern_thinner",
            {{"bars", m_speaker.bars(bar, bar)}, {"other", m_speaker.bars(bar - 1, bar - 1)}},
            notes);
        m_last_bar = bar;
        for (std::size_t k = i; k < end; ++k)
            lasting(moments[k]);
        return count;
    }

    bool shifted(std::size_t a, std::size_t b, int bar, std::optional<int>& by) const {
        const LessonMoment &x = moment(a), &y = moment(b);
        if (x.place.bar != bar - 1 || x.place.beat != y.place.beat ||
            x.place.part != y.place.part || x.notes.size() != y.notes.size() || !x.graces.empty() ||
            !y.graces.empty())
            return false;
        for (std::size_t i = 0; i < x.notes.size(); ++i) {
            const NotePlan& p = m_facts.plan(x.notes[i]);
            const NotePlan& q = m_facts.plan(y.notes[i]);
            const int strings = q.position.value.string - p.position.value.string;
            if (!p.placed() || !q.placed() || p.position.value.fret != q.position.value.fret ||
                p.finger.value != q.finger.value || (by && *by != strings) ||
                m_facts.piece().notes[x.notes[i]].techniques !=
                    m_facts.piece().notes[y.notes[i]].techniques)
                return false;
            by = strings;
        }
        return true;
    }

    // Why this finger and not that one, where it is worth a word.
    void why(const std::vector<std::size_t>& moments) {
        constexpr int kMost = 2;
        int said = 0;
        for (const std::size_t m : moments)
            for (const std::size_t note : moment(m).notes)
                if (said < kMost && m_facts.plan(note).placed() && because(m, note))
                    ++said;
    }

    bool because(std::size_t m, std::size_t note) {
        const NotePlan& plan = m_facts.plan(note);
        const std::string finger = m_speaker.finger(plan.finger.value);
        const std::string at = m_writer.whenOf(moment(m));
        for (const Reason& reason : plan.finger.reasons) {
            const auto other = static_cast<Finger>(static_cast<int>(Finger::Index) +
                                                   static_cast<int>(std::lround(reason.x)) - 1);
            const bool taken = reason.kind == ReasonKind::FingerElsewhere ||
                               reason.kind == ReasonKind::FingerHolds;
            if (taken && !finger.empty() && other != plan.finger.value &&
                !m_speaker.finger(other).empty() &&
                m_facts.piece().instrument.hasString(reason.a)) {
                add("sentences.why_taken",
                    {{"when", at},
                     {"finger", finger},
                     {"other", m_speaker.finger(other)},
                     {"place", m_speaker.place({reason.a, reason.b})}},
                    {idOf(note)});
                return true;
            }
        }
        if (plan.position.value.fret == 0)
            for (const Reason& reason : plan.position.reasons)
                if (reason.kind == ReasonKind::OpenGivesTime) {
                    add("sentences.why_open",
                        {{"when", at}, {"place", placeOf(note)}},
                        {idOf(note)});
                    return true;
                }
        return false;
    }

    const LessonWriter& m_writer;
    const LessonFacts& m_facts;
    const Speaker& m_speaker;
    const TeachPhrase& m_phrase;
    std::vector<Sentence> m_said;
    int m_last_bar = -1000;
    bool m_pressed = false; // something was, in this phrase
};

} // namespace

std::vector<Sentence> frettingWords(const LessonWriter& writer, std::size_t phrase) {
    return FrettingWriter(writer, writer.breakdown().phrases[phrase]).sentences();
}

} // namespace wirenote
