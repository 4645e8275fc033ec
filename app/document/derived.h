#pragma once

#include "app/document/job_runner.h"
#include "form/bar_evidence.h"
#include "form/form.h"
#include "form/harmony.h"
#include "form/seen_where.h"
#include "form/variants.h"
#include "hearing/tuning_guess.h"
#include "piece/delta.h"
#include "piece/doubts.h"
#include "piece/exactness.h"
#include "score/count.h"
#include "session/questions.h"
#include "strings/string_wish.h"

#include <QHash>
#include <QObject>
#include <QThreadPool>
#include <QTimer>
#include <atomic>
#include <functional>
#include <memory>

namespace wirenote::app {

class Document;

// What follows from the open piece and is shown: doubts, score time, the count, chords, how it may
// be tuned, and the form. Worked out off the interface thread, on a copy of the piece that is kept
// up by the same differences as the piece itself, so that asking costs no copy. It follows an edit
// a moment later (signal changed; the form still later), and holds ids, not indices: notes may have
// come and gone meanwhile.
class Derived : public QObject {
    Q_OBJECT
  public:
    explicit Derived(Document& document, QObject* parent = nullptr);
    ~Derived() override;

    const std::vector<Doubt>& doubts() const { return m_facts->doubts; } // most urgent first
    const Doubt* doubtOf(NoteId note) const;
    // Whether there are strokes that only a rule speaks of: nobody is asked about them.
    bool strokesGuessed() const { return m_facts->strokes_guessed; }
    const std::vector<CountMark>& count() const { return m_facts->count; }
    const std::vector<ChordSpan>& chords() const { return m_facts->chords; }
    const std::vector<TuningGuess>& tunings() const { return m_facts->tunings; }
    // About the piece as a whole, before any doubt about a note.
    const std::vector<Question>& questions() const { return m_facts->questions; }
    // The string that one would like to hear by itself.
    const std::optional<StringWish>& stringWish() const { return m_facts->string_wish; }
    // How exact the reading that is shown is.
    const ExactnessStatement& exactness() const { return m_facts->exactness; }
    bool nothingInDoubt() const { return doubts().empty() && questions().empty(); }
    const std::vector<BeatReading>& beats() const { return m_facts->beats; }
    CountSchool school() const { return m_school; }
    void setSchool(CountSchool school);
    // How much after its place in the score a note was played; nothing for graces and strangers.
    std::optional<double> late_s(NoteId note) const;
    // How the beat in which the note begins was read, and what else it may be.
    std::optional<BeatReading> beatOf(NoteId note) const;

    struct Form {
        std::vector<NoteId> notes; // which notes the indices below mean
        std::vector<BarContent> bars;
        std::vector<Phrase> phrases;
        std::vector<FormPart> parts;
        std::vector<TwelveBars> twelve;
        std::vector<Version> versions; // of the takes, then the repeats of phrases
        std::vector<Variant> variants;
        std::vector<BarEvidence> evidence;
        std::vector<SeenBar> seen;
    };
    const Form& form() const { return m_form; }
    // The part in which a moment lies; −1 for none.
    int partAt(double time_s) const;

    // Asks something else of the piece as it is now: `ask` gets the copy, on the worker; `answer`
    // gets what it says, on the interface thread, unless another piece was opened meanwhile.
    template <class Ask, class Answer> void ask(Ask ask, Answer answer) {
        post([this, ask = std::move(ask), answer = std::move(answer), piece = m_opened](
                 const Piece&, const Piece& copy) {
            using Said = std::invoke_result_t<Ask, const Piece&>;
            auto said = std::make_shared<Said>(ask(copy));
            QMetaObject::invokeMethod(
                this,
                [this, piece, answer, said] {
                    if (piece == m_opened)
                        answer(std::move(*said));
                },
                Qt::QueuedConnection);
        });
    }

    // Whether all but the form is of the piece as it is now.
    bool upToDate() const;
    // Runs now, or once all but the form is up to date; a later wish takes the place of an earlier.
    void whenUpToDate(std::function<void()> wish);
    // Returns when all but the form is up to date: for who writes files, and for tests.
    void wait();

  signals:
    void changed();

  private:
    struct Facts {
        int revision = -1;
        std::vector<Doubt> doubts;
        QHash<NoteId, Doubt> doubt_of;
        bool strokes_guessed = false;
        QHash<NoteId, double> late_s;
        std::vector<BeatReading> beats;
        std::vector<CountMark> count;
        std::vector<ChordSpan> chords;
        std::vector<TuningGuess> tunings;
        std::vector<Question> questions;
        std::optional<StringWish> string_wish;
        ExactnessStatement exactness;
    };
    struct Copy;
    // With the copy, and the same in the reading that is shown now.
    void post(std::function<void(const Piece& whole, const Piece& shown)> work);
    void opened();
    void stepped(const PieceDelta& delta, bool forwards);
    void derive();
    void arrived(std::shared_ptr<const Facts> facts);
    void lookForForm();
    static std::shared_ptr<Facts> factsOf(const Piece& piece, CountSchool school);
    static Form formOf(const Piece& piece, const JobControl& job);

    Document& m_document;
    CountSchool m_school = CountSchool::Numbers;
    std::shared_ptr<const Facts> m_facts = std::make_shared<Facts>();
    Form m_form;
    int m_opened = 0; // how many pieces were
    std::function<void()> m_wish;

    std::shared_ptr<Copy> m_copy; // touched by the worker only
    std::shared_ptr<std::atomic<int>> m_wanted = std::make_shared<std::atomic<int>>(0);
    QThreadPool m_worker; // one thread: what is posted runs in turn
    JobRunner m_forms;
    QTimer m_soon;
};

} // namespace wirenote::app
