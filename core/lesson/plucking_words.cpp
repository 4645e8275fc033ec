#include "lesson/wording.h"

#include "plucking/cells.h"

#include <algorithm>

namespace wirenote {
namespace {

class PluckingWriter {
  public:
    PluckingWriter(const LessonWriter& writer, const TeachPhrase& phrase)
        : m_writer(writer), m_facts(writer.facts()), m_speaker(writer.speaker()), m_phrase(phrase) {
    }

    std::vector<Sentence> sentences() && {
        const std::vector<std::size_t> moments = momentsToSay(m_facts, m_phrase);
        m_said = sameWords(m_writer, m_phrase);
        if (moments.empty())
            return std::move(m_said);
        if (m_said.empty()) {
            count();
            cells();
        }
        for (const std::size_t m : moments)
            say(m);
        return std::move(m_said);
    }

  private:
    const LessonMoment& moment(std::size_t m) const { return m_facts.moments()[m]; }
    const Vocabulary& words() const { return m_speaker.words(); }
    Stroke strokeOf(std::size_t note) const { return m_facts.plan(note).stroke.value; }
    int stringOf(std::size_t note) const { return m_facts.plan(note).position.value.string; }

    void add(std::string_view key, const Vocabulary::Slots& slots, std::vector<NoteId> notes = {}) {
        m_said.push_back({capital(words().say(key, slots)), std::move(notes)});
    }

    // The count of the first whole bar.
    void count() {
        std::string text;
        for (const CountMark& mark : m_facts.count()) {
            if (m_facts.placeAt(mark.quarters).bar != m_phrase.first_bar || mark.text.empty())
                continue;
            text += (text.empty() ? "" : " ") + mark.text;
        }
        if (!text.empty())
            add("sentences.count",
                {{"count", text}, {"bar", m_speaker.bars(m_phrase.first_bar, m_phrase.first_bar)}});
    }

    // A pattern that goes on through the phrase.
    void cells() {
        for (const Cell& cell : cellsOf(m_facts.piece())) {
            const int from = std::max(cell.first_bar, m_phrase.first_bar);
            const int to = std::min(cell.last_bar, m_phrase.last_bar);
            if (to <= from)
                continue;
            add("sentences.cell",
                {{"bars", m_speaker.bars(from, to)}, {"n", std::to_string(cell.beats)}});
            for (const int bar : cell.exceptions)
                if (bar >= from && bar <= to)
                    add("sentences.cell_but", {{"bars", m_speaker.bars(bar, bar)}});
        }
    }

    // Notes of one stroke, in the order in which it meets their strings.
    std::string stringsOf(std::vector<std::size_t> notes, Stroke stroke) const {
        std::ranges::sort(notes, {}, [this](std::size_t i) { return stringOf(i); });
        if (stroke != Stroke::Up)
            std::ranges::reverse(notes);
        const int first = stringOf(notes.front()), last = stringOf(notes.back());
        if (notes.size() > 2 &&
            static_cast<std::size_t>(std::abs(first - last)) + 1 == notes.size())
            return words().say("sentences.over",
                               {{"from", m_speaker.string(first)}, {"to", m_speaker.string(last)}});
        std::vector<std::string> strings;
        for (const std::size_t note : notes)
            strings.push_back(m_speaker.string(stringOf(note)));
        return m_speaker.list(strings);
    }

    void say(std::size_t m) {
        std::vector<std::string> items;
        std::vector<NoteId> ids;
        std::vector<Stroke> done;
        for (const std::size_t note : moment(m).notes) {
            const Stroke stroke = strokeOf(note);
            if (stroke == Stroke::Unknown || !m_facts.plan(note).placed() ||
                std::ranges::count(done, stroke) > 0)
                continue;
            done.push_back(stroke);
            std::vector<std::size_t> alike;
            for (const std::size_t other : moment(m).notes)
                if (strokeOf(other) == stroke && m_facts.plan(other).placed()) {
                    alike.push_back(other);
                    ids.push_back(m_facts.piece().notes[other].id);
                }
            const std::string strings = stringsOf(alike, stroke);
            if (stroke == Stroke::None)
                items.push_back(words().say("sentences.pluck_none", {{"strings", strings}}));
            else
                items.push_back(
                    words().say(alike.size() > 2 ? "sentences.pluck_over" : "sentences.pluck",
                                {{"stroke", m_speaker.stroke(stroke)}, {"strings", strings}}));
        }
        if (items.empty())
            return;
        const std::string when = moment(m).place.bar == m_last_bar
                                     ? m_speaker.beat(moment(m).metre, moment(m).place)
                                     : m_speaker.barBeat(moment(m).metre, moment(m).place);
        m_last_bar = moment(m).place.bar;
        add("sentences.moment", {{"when", when}, {"what", m_speaker.list(items)}}, ids);
    }

    const LessonWriter& m_writer;
    const LessonFacts& m_facts;
    const Speaker& m_speaker;
    const TeachPhrase& m_phrase;
    std::vector<Sentence> m_said;
    int m_last_bar = -1000;
};

} // namespace

std::vector<Sentence> pluckingWords(const LessonWriter& writer, std::size_t phrase) {
    return PluckingWriter(writer, writer.breakdown().phrases[phrase]).sentences();
}

} // namespace wirenote
