#pragma once

#include "app/document/document.h"
#include "piece/exactness.h"
#include "piece/note.h"

#include <QObject>
#include <optional>

namespace wirenote::app {

class Derived;
class JobRunner;
class Selection;
class Transport;

// What a person does with readings, and says of what stands there: other readings made, blended and
// shown; why something is set, what may be left out, what stays open. One step to undo each.
class ReadingCommands : public QObject {
    Q_OBJECT
  public:
    ReadingCommands(Document& document,
                    Selection& selection,
                    Derived& derived,
                    Transport& transport,
                    JobRunner& jobs);

    void showNext(); // of the readings, round and round
    // From the one that is shown, by the words of the command line (session/recipe.h); then it is
    // shown. Runs as a job.
    void make(const QString& kind);
    void makeFromScore(const QString& file);
    void rename(const QString& name);
    void setTempi(TempoRange tempi);
    // Says no with what stands against it.
    void claim(std::optional<Exactness> claim);
    void remove();
    // Which readings are for this tempo (felt beats a minute), where the shown one is not.
    void sayWhatIsFor(double bpm);
    // The loop, or the bars of what is chosen, as that reading has them.
    void blend(std::size_t from, const QString& why);
    void blend(TimeRange span, std::size_t from, const QString& why);

    // The chosen notes.
    void sayWhy(SetWhy why);
    void setNeed(const Need& need); // the same again: like any other
    void needAsCounted();           // may be left out, as often as other playings leave it out
    void leaveOpen(const QString& word);
    void askAgain();

  signals:
    void said(const QString& sentence);

  private:
    bool eachChosen(const QString& label,
                    const std::function<Status(PieceEditor&, NoteId)>& change);

    Document& m_document;
    Selection& m_selection;
    Derived& m_derived;
    Transport& m_transport;
    JobRunner& m_jobs;
    std::vector<std::size_t> m_said_for; // the readings that were said to be for the tempo
};

} // namespace wirenote::app
