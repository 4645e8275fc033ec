#include "lesson/wording.h"

#include <cmath>

namespace wirenote {
namespace {

constexpr int kMostOthers = 2;    // fingers that would do too, of one phrase
constexpr double kWorksToo = 0.2; // a runner-up as likely as this is a way of its own

class EasierWriter {
  public:
    EasierWriter(const LessonWriter& writer, const TeachPhrase& phrase)
        : m_writer(writer), m_facts(writer.facts()), m_speaker(writer.speaker()), m_phrase(phrase) {
    }

    std::vector<Sentence> sentences() && {
        int others = 0;
        for (const std::size_t m : momentsToSay(m_facts, m_phrase))
            for (const std::size_t note : m_facts.moments()[m].notes) {
                if (!m_facts.plan(note).placed())
                    continue;
                need(m, note);
                if (others < kMostOthers && worksToo(m, note))
                    ++others;
            }
        return std::move(m_said);
    }

  private:
    void add(std::string_view key, Vocabulary::Slots slots, std::size_t m, std::size_t note) {
        slots.push_back({"when", m_writer.whenOf(m_facts.moments()[m])});
        slots.push_back({"place", m_speaker.place(m_facts.plan(note).position.value)});
        m_said.push_back(
            {capital(m_speaker.words().say(key, slots)), {m_facts.piece().notes[note].id}});
    }

    // What a person said of it: whether it may be left out, or has to come.
    void need(std::size_t m, std::size_t note) {
        const Need& need = m_facts.piece().notes[note].need;
        if (need.kind == Necessity::MustLand)
            add("sentences.must_land", {}, m, note);
        else if (need.kind == Necessity::MayGo && need.above_bpm > 0.0)
            add("sentences.may_go_above",
                {{"tempo",
                  m_speaker.words().say("words.tempo",
                                        {{"n", std::to_string(std::lround(need.above_bpm))}})}},
                m,
                note);
        else if (need.kind == Necessity::MayGo)
            add("sentences.may_go", {}, m, note);
    }

    // Another finger that would do, where the choice was close and nobody has made it.
    bool worksToo(std::size_t m, std::size_t note) {
        const Decision<Finger>& finger = m_facts.plan(note).finger;
        if (finger.isSet() || finger.runners_up.empty())
            return false;
        const RunnerUp<Finger>& other = finger.runners_up.front();
        if (other.probability < kWorksToo || m_speaker.finger(other.value).empty() ||
            m_speaker.finger(finger.value).empty())
            return false;
        add("sentences.works_too",
            {{"finger", m_speaker.finger(finger.value)}, {"other", m_speaker.finger(other.value)}},
            m,
            note);
        return true;
    }

    const LessonWriter& m_writer;
    const LessonFacts& m_facts;
    const Speaker& m_speaker;
    const TeachPhrase& m_phrase;
    std::vector<Sentence> m_said;
};

} // namespace

std::vector<Sentence> easierWords(const LessonWriter& writer, std::size_t phrase) {
    return EasierWriter(writer, writer.breakdown().phrases[phrase]).sentences();
}

} // namespace wirenote
