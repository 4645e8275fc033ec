#include "app/document/score_facts.h"

#include "app/document/document.h"

#include <algorithm>
#include <memory>

namespace wirenote::app {
namespace {
constexpr int kFormDelay_ms = 200;
}

ScoreFacts::ScoreFacts(Document& document, QObject* parent)
    : QObject(parent), m_document(document) {
    m_soon.setSingleShot(true);
    m_soon.setInterval(kFormDelay_ms);
    connect(&m_soon, &QTimer::timeout, this, &ScoreFacts::lookForForm);
    connect(&document, &Document::opened, this, [this] {
        m_form = {};
        edited();
    });
    connect(&document, &Document::changed, this, &ScoreFacts::edited);
}

void ScoreFacts::edited() {
    m_stale = true;
    m_soon.start();
}

const Quantised& ScoreFacts::quantised() {
    if (m_stale) {
        m_quantised = quantise(m_document.piece());
        m_count = countOf(m_document.piece(), m_quantised, m_school);
        m_stale = false;
    }
    return m_quantised;
}

const std::vector<CountMark>& ScoreFacts::count() {
    quantised();
    return m_count;
}

void ScoreFacts::setSchool(CountSchool school) {
    if (school == m_school)
        return;
    m_school = school;
    m_stale = true;
    emit changed();
}

std::optional<double> ScoreFacts::late_s(NoteId note) {
    const auto index = m_document.piece().indexOf(note);
    if (!index)
        return {};
    for (const ScoreNote& n : quantised().notes)
        if (n.index == *index && !n.grace)
            return n.late_s;
    return {};
}

std::optional<BeatReading> ScoreFacts::beatOf(NoteId note) {
    const Note* chosen = m_document.piece().note(note);
    const auto& beats_s = m_document.piece().timeline.beats_s;
    if (!chosen || beats_s.size() < 2)
        return {};
    const auto next = std::ranges::upper_bound(beats_s, chosen->onset_s());
    const auto beat = static_cast<int>(next - beats_s.begin()) - 1;
    for (const BeatReading& reading : quantised().beats)
        if (reading.beat == beat)
            return reading;
    return {};
}

int ScoreFacts::partAt(double time_s) const {
    for (std::size_t i = 0; i < m_form.parts.size(); ++i)
        if (m_form.parts[i].span.contains(time_s))
            return static_cast<int>(i);
    return -1;
}

void ScoreFacts::lookForForm() {
    auto found = std::make_shared<Form>();
    m_jobs.run({},
               [this, found, piece = m_document.piece(), quantised = quantised()](
                   const JobControl& job) -> std::function<void()> {
                   for (const Note& note : piece.notes)
                       found->notes.push_back(note.id);
                   found->bars = contentsOf(piece, quantised);
                   if (!job.cancelRequested())
                       found->phrases = phrasesOf(found->bars, {}, job);
                   found->parts = formOf(found->bars, found->phrases);
                   found->twelve = twelveBarForms(piece, found->bars);
                   return [this, found] {
                       m_form = std::move(*found);
                       emit changed();
                   };
               });
}

} // namespace wirenote::app
