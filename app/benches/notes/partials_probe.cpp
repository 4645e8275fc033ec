#include "app/benches/notes/partials_probe.h"

#include "app/document/document.h"
#include "session/note_partials.h"

namespace wirenote::app {

PartialsProbe::PartialsProbe(Document& document, QObject* parent)
    : QObject(parent), m_document(document) {
    connect(&document, &Document::opened, this, [this] {
        m_jobs.cancel();
        m_note.reset();
        m_fit.reset();
    });
}

void PartialsProbe::setWanted(bool wanted) {
    if (m_wanted == wanted)
        return;
    m_wanted = wanted;
    emit changed();
}

const StiffnessFit* PartialsProbe::of(const Note& note) {
    const bool same = m_note && m_note->id == note.id && m_note->time == note.time &&
                      m_note->pitch.value == note.pitch.value;
    if (same)
        return m_fit ? &*m_fit : nullptr;
    m_note = note;
    m_fit.reset();
    m_problem.clear();
    m_jobs
        .run(tr("Listening for overtones"),
             [piece = m_document.piece(), id = note.id](const JobControl& job) {
                 return partialsOf(piece, id, job);
             })
        .then([this](const Result<StiffnessFit>& fit) {
            if (fit)
                m_fit = *fit;
            else
                m_problem = QString::fromStdString(fit.error().sentence());
            emit changed();
        });
    return nullptr;
}

} // namespace wirenote::app
