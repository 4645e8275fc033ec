#include "app/commands/questions.h"

#include "app/commands/take_commands.h"
#include "app/document/derived.h"
#include "app/document/selection.h"
#include "app/playing/transport.h"

#include <algorithm>
#include <unordered_map>

namespace wirenote::app {

Questions::Questions(Document& document,
                     Derived& derived,
                     Selection& selection,
                     Transport& transport,
                     TakeCommands& takes)
    : m_document(document), m_derived(derived), m_selection(selection), m_transport(transport),
      m_takes(takes) {
    connect(&document, &Document::opened, this, [this] {
        m_asking.reset();
        m_offering = false;
        m_other.reset();
        m_put_off = -1;
        m_show = false;
        emit changed();
    });
    connect(&document, &Document::stepped, this, &Questions::noteInstrument);
    connect(&derived, &Derived::changed, this, &Questions::follow);
    connect(&takes, &TakeCommands::hearingChanged, this, [this] {
        if (m_takes.hearing() != TakeCommands::Hearing::Heard)
            return;
        m_other.reset(); // it was heard with what there is now
        m_put_off = -1;
        m_show = true;
        follow();
    });
    // Who chooses a note wants to look at it.
    connect(&selection, &Selection::changed, this, [this] {
        if (m_selection.note() != 0)
            leave();
    });
}

const Question* Questions::current() const {
    if (!m_asking)
        return nullptr;
    const auto& all = m_derived.questions();
    const auto at = std::ranges::find(all, *m_asking, &Question::kind);
    return at == all.end() ? nullptr : &*at;
}

const OtherInstrument* Questions::hearAgainOffered() const {
    return m_offering && m_other ? &*m_other : nullptr;
}

bool Questions::openNext() {
    if (m_asking)
        m_put_off = static_cast<int>(*m_asking);
    for (const Question& question : m_derived.questions())
        if (static_cast<int>(question.kind) > m_put_off) {
            open(question.kind);
            return true;
        }
    leave();
    return false;
}

void Questions::openFirst() {
    m_put_off = -1;
    m_asking.reset();
    if (!openNext())
        emit said(tr("Nothing about the whole piece is in doubt."));
}

void Questions::open(QuestionKind kind) {
    m_selection.choose(0);
    m_asking = kind;
    m_offering = false;
    m_chosen = 0;
    emit changed();
}

// The question may be none any more, and another may have come.
void Questions::follow() {
    if (!m_derived.upToDate())
        return;
    if (std::exchange(m_show, false) && !isOpen() && m_selection.note() == 0)
        openNext();
    if (m_asking && !current()) {
        m_asking.reset();
        const bool answering = std::exchange(m_answering, false);
        if (m_other && answering) {
            m_offering = true;
        } else if (!openNext() && answering) {
            emit answered();
        }
    }
    emit changed();
}

void Questions::choose(int choice) {
    const Question* question = current();
    if (!question || choice < 0 || choice >= static_cast<int>(question->choices.size()))
        return;
    m_chosen = choice;
    emit changed();
    hear();
}

// Where it tells most: clicks from the first notes on, strings where the lowest note is.
Audition Questions::auditionOf(const Question& question, const Choice& choice) const {
    constexpr double kBeats_s = 8.0;
    constexpr double kString_s = 0.55;
    const auto& notes = m_document.piece().notes;
    Audition audition;
    if (question.kind == QuestionKind::Instrument) {
        const auto lowest = std::ranges::min_element(notes, {}, &Note::midi);
        const double from_s = lowest == notes.end() ? 0.0 : lowest->onset_s();
        audition.open_strings = choice.tuning.instrument;
        audition.span = {from_s, from_s + kString_s * choice.tuning.instrument.stringCount() + 1.0};
    } else {
        const double from_s = notes.empty() ? 0.0 : std::max(0.0, notes.front().onset_s() - 1.0);
        audition.beats = choice.timeline;
        audition.span = {from_s, from_s + kBeats_s};
    }
    audition.span.end_s = std::min(audition.span.end_s, m_document.length_s());
    return audition;
}

void Questions::hear() {
    const Question* question = current();
    if (!question)
        return;
    const Choice& choice = question->choices[static_cast<std::size_t>(m_chosen)];
    m_transport.audition(auditionOf(*question, choice));
}

void Questions::accept() {
    if (m_offering) {
        m_offering = false;
        emit changed();
        m_takes.hear(m_document.piece().lead()->heardSpan());
        return;
    }
    if (const Question* question = current()) {
        const Choice choice = question->choices[static_cast<std::size_t>(m_chosen)];
        answer(Question(*question), choice);
    }
}

void Questions::answer(const Question& question, const Choice& choice) {
    m_transport.pause();
    m_answering = true;
    const Settled says = settledBy(question.kind);
    bool done = true;
    if (choice.now) {
        done = m_document.edit(
            tr("answer: as it is"),
            0.0,
            [&](PieceEditor& e) { return e.settle(says); },
            Resolve::Nothing);
    } else if (question.kind == QuestionKind::Instrument) {
        m_takes.setInstrument(choice.tuning.instrument);
    } else {
        done = m_document.edit(
            question.kind == QuestionKind::Tempo   ? tr("answer: the tempo")
            : question.kind == QuestionKind::Metre ? tr("answer: the metre")
                                                   : tr("answer: where one is"),
            0.0,
            [&](PieceEditor& e) {
                return e.changeTimeline(
                    "answered: the pulse",
                    [&](Timeline& timeline) {
                        auto sections = timeline.sections;
                        timeline = choice.timeline;
                        timeline.sections = std::move(sections);
                        timeline.basis = Basis::Set;
                        return Status{};
                    },
                    false,
                    says);
            },
            Resolve::Strokes);
    }
    m_answering = done;
}

void Questions::leave() {
    if (!isOpen())
        return;
    if (m_asking)
        m_put_off = std::max(m_put_off, static_cast<int>(*m_asking));
    m_asking.reset();
    m_offering = false;
    if (m_transport.auditioned())
        m_transport.pause();
    emit changed();
}

// Another instrument, whoever chose it: the notes were heard with the one before.
void Questions::noteInstrument(const PieceDelta& delta, bool forwards) {
    if (!delta.before || delta.before->instrument == delta.after->instrument)
        return;
    const Instrument& was = (forwards ? delta.before : delta.after)->instrument;
    const Instrument& is = (forwards ? delta.after : delta.before)->instrument;
    if (!m_document.piece().lead() || m_document.piece().lead()->path.empty() ||
        m_document.piece().notes.empty())
        return;
    OtherInstrument other{m_other ? m_other->heard_with : was, 0, 0};
    if (other.heard_with == is ||
        (other.heard_with.isBass() == is.isBass() && other.heard_with.capo == is.capo &&
         tuningText(other.heard_with) == tuningText(is))) {
        m_other.reset(); // back again, or only its strings are others
        m_offering = false;
        emit changed();
        return;
    }
    std::unordered_map<NoteId, Position> before;
    for (const auto& state : forwards ? delta.gone : delta.come)
        before.emplace(state.note.id, state.plans.front().position.value);
    for (const auto& state : forwards ? delta.come : delta.gone) {
        const auto old = before.find(state.note.id);
        const NotePlan& plan = state.plans.front();
        other.homeless += plan.placed() ? 0 : 1;
        other.moved += plan.placed() && old != before.end() && old->second != plan.position.value;
    }
    m_other = other;
    if (!m_answering) { // it was chosen by hand
        m_asking.reset();
        m_offering = forwards;
        if (m_offering)
            m_selection.choose(0);
    }
    emit changed();
}

} // namespace wirenote::app
