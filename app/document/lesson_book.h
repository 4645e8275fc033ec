#pragma once

#include "app/document/job_runner.h"
#include "lesson/ambiguity.h"
#include "lesson/claims.h"
#include "lesson/wording.h"

#include <QObject>
#include <QTimer>
#include <memory>
#include <set>

namespace wirenote {
struct SheetPage;
}

namespace wirenote::app {

class Document;

// A lesson as it follows from one state of the piece. It refers to itself: made once, shared, never
// copied.
struct LessonState {
    LessonState(Piece of, int revision_of);
    LessonState(const LessonState&) = delete;
    LessonState& operator=(const LessonState&) = delete;

    Piece piece;
    int revision;
    Vocabulary words;
    LessonFacts facts;
    Breakdown breakdown;
    Speaker speaker;
    LessonWriter writer;
    std::vector<StepText> texts;      // by step
    std::vector<Stumble> stumbles;    // the likeliest first
    std::vector<CheckedClaim> claims; // of the captions, as they are said
    std::vector<CheckedClaim> shown;  // what the takes play otherwise
    QString captions_problem;         // why they could not be read
    // What of a step's own text contradicts the reading now.
    std::vector<std::vector<CheckedClaim>> contradictions;
    std::vector<std::vector<AmbiguousWord>> ambiguous;

    // The tab of each phrase as a page. Out of line: who shows a window needs no ink.
    const std::vector<SheetPage>& tabs() const { return *m_tabs; }

  private:
    std::shared_ptr<const std::vector<SheetPage>> m_tabs;
};

// Keeps the lesson of the shown reading, worked out off the interface thread while somebody looks
// at it. Empty until the first is there.
class LessonBook : public QObject {
    Q_OBJECT
  public:
    explicit LessonBook(Document& document, QObject* parent = nullptr);

    std::shared_ptr<const LessonState> state() const { return m_state; }
    bool upToDate() const;
    // Somebody looks at it, or no longer does; it is kept up to date for all who do.
    void setWanted(const void* by, bool wanted);
    std::size_t step() const { return m_step; } // that is chosen
    void choose(std::size_t step);
    void wait(); // for tests

  signals:
    void changed();
    void chosen(); // another step

  private:
    void work();

    Document& m_document;
    JobRunner m_runner;
    QTimer m_soon;
    std::shared_ptr<const LessonState> m_state;
    std::size_t m_step = 0;
    std::set<const void*> m_wanted_by;
    bool m_working = false;
};

} // namespace wirenote::app
