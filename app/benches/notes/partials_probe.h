#pragma once

#include "app/document/job_runner.h"
#include "piece/note.h"
#include "signal/stiffness_meter.h"

#include <QObject>
#include <QString>
#include <optional>

namespace wirenote::app {

class Document;

// The partials of the chosen note, measured when somebody wants to see them. Keeps the last answer.
class PartialsProbe : public QObject {
    Q_OBJECT
  public:
    PartialsProbe(Document& document, QObject* parent = nullptr);

    bool wanted() const { return m_wanted; }
    void setWanted(bool wanted);
    // Of this note: the fit; nothing while it is measured, or when it failed (see problem()).
    // Starts measuring when it was not measured yet.
    const StiffnessFit* of(const Note& note);
    QString problem() const { return m_problem; }

  signals:
    void changed();

  private:
    Document& m_document;
    JobRunner m_jobs;
    bool m_wanted = false;
    std::optional<Note> m_note; // that was asked for
    std::optional<StiffnessFit> m_fit;
    QString m_problem;
};

} // namespace wirenote::app
