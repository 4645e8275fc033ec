#pragma once

#include "lesson/breakdown.h"
#include "piece/lesson_plan.h"
#include "session/lesson_pack.h"

#include <QObject>
#include <functional>
#include <vector>

namespace wirenote::app {

class Document;
class JobRunner;
class LessonBook;
class Transport;

// What a person does with the lesson of a piece. One step to undo each.
class LessonCommands : public QObject {
    Q_OBJECT
  public:
    LessonCommands(Document& document, LessonBook& book, Transport& transport, JobRunner& jobs);

    // Any change of the plan, as one step.
    bool change(const QString& what, const std::function<void(LessonPlan&)>& change);

    void nextStep();
    void previousStep();
    // The chosen step's phrases as a loop, at its tempo, played by the simulated instrument.
    void playStep();
    // A person's text of the chosen step; the one that is made again, when it is the same.
    void write(const QString& text);
    void writeAsMade();
    void cutHere();    // the phrase under the playhead in two, at the nearest beat
    void joinToNext(); // the phrase under the playhead with the one after it
    void moveCut(std::size_t phrase, double to_s); // where a phrase begins
    void cutAsFound();                             // all phrases
    void leaveOut();                               // the chosen step's phrase, or not
    void makeFree();                               // likewise
    void rename(const QString& title);
    void teachLoop(); // only what the loop spans; without a loop: all
    void observe(StumbleKind kind, const QString& remark, int pupils);
    void forget(std::size_t observation);
    void object(const QString& who, const QString& text); // at the playhead
    void rule(std::size_t objection, Verdict verdict, const QString& answer);
    void markRetake(); // the chosen step, or no longer
    void publish(const QString& what);
    void useCaptions(const QString& file); // empty: none
    // How the teacher speaks, taken over from the lesson of another piece of a series, and what it
    // says of itself where this one says nothing.
    void useMannerOf(const QString& piece_file);
    // What pupils were seen to stumble over in other pieces and this one. Runs as a job.
    void countPupils(const QStringList& piece_files);
    // Makes or renews the pack in a folder. Runs as a job.
    void makePack(const QString& folder);
    // Which of its files say something else now. Runs as a job: recordings are compared too.
    void askOutOfDate(const QString& folder);

  signals:
    void said(const QString& sentence);
    void packMade(const QString& folder);
    void outOfDate(const QStringList& files);
    void pupilsCounted(const std::vector<int>& by_kind, int pieces);

  private:
    PackOptions packOptions() const;
    std::vector<TaughtPhrase> cuts() const; // as they are now
    const TeachPhrase* chosenPhrase() const;
    void changeChosen(const QString& what, const std::function<void(TaughtPhrase&)>& change_one);
    std::optional<std::size_t> phraseAt(double time_s) const;

    Document& m_document;
    LessonBook& m_book;
    Transport& m_transport;
    JobRunner& m_jobs;
};

} // namespace wirenote::app
