#pragma once

#include "app/document/job_runner.h"
#include "score/count.h"
#include "form/form.h"

#include <QObject>
#include <QTimer>

namespace wirenote::app {

class Document;

// What follows from the open piece and is shown in several places: the notes in score time, the
// count, the form. Score time is there at once after an edit; the form is looked for in a thread of
// its own and comes a little later (signal changed).
class ScoreFacts : public QObject {
    Q_OBJECT
  public:
    explicit ScoreFacts(Document& document, QObject* parent = nullptr);

    const Quantised& quantised();
    const std::vector<CountMark>& count();
    CountSchool school() const { return m_school; }
    void setSchool(CountSchool school);
    // How much after its place in the score a note was played; nothing for graces and strangers.
    std::optional<double> late_s(NoteId note);

    // How the beat in which the note begins was read, and what else it may be.
    std::optional<BeatReading> beatOf(NoteId note);

    struct Form {
        std::vector<NoteId> notes; // which notes the indices below mean: edits may have moved them
        std::vector<BarContent> bars;
        std::vector<Phrase> phrases;
        std::vector<FormPart> parts;
        std::vector<TwelveBars> twelve;
    };
    const Form& form() const { return m_form; }
    // The part in which a moment lies; −1 for none.
    int partAt(double time_s) const;

  signals:
    void changed();

  private:
    void edited();
    void lookForForm();

    Document& m_document;
    CountSchool m_school = CountSchool::Numbers;
    bool m_stale = true;
    Quantised m_quantised;
    std::vector<CountMark> m_count;
    Form m_form;
    JobRunner m_jobs;
    QTimer m_soon;
};

} // namespace wirenote::app
