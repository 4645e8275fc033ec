#include "app/document/derived.h"

#include "app/document/document.h"
#include "form/demonstrations.h"
#include "piece/in_reading.h"
#include "score/quantise.h"

#include <QCoreApplication>
#include <algorithm>
#include <iterator>

namespace wirenote::app {
namespace {
constexpr int kFormDelay_ms = 200;
}

struct Derived::Copy {
    Piece piece;
};

Derived::Derived(Document& document, QObject* parent)
    : QObject(parent), m_document(document), m_copy(std::make_shared<Copy>()) {
    m_worker.setMaxThreadCount(1);
    m_soon.setSingleShot(true);
    m_soon.setInterval(kFormDelay_ms);
    connect(&m_soon, &QTimer::timeout, this, &Derived::lookForForm);
    connect(&document, &Document::opened, this, &Derived::opened);
    connect(&document, &Document::stepped, this, &Derived::stepped);
    connect(&document, &Document::readingShown, this, &Derived::derive);
}

Derived::~Derived() {
    *m_wanted = -1; // what still waits has nothing to work out
    m_worker.clear();
    m_worker.waitForDone();
}

void Derived::post(std::function<void(const Piece&, const Piece&)> work) {
    m_worker.start([copy = m_copy, work = std::move(work), reading = m_document.reading()] {
        if (reading == 0 || reading >= copy->piece.readings.size())
            work(copy->piece, copy->piece);
        else
            work(copy->piece, inReading(copy->piece, reading));
    });
}

void Derived::opened() {
    ++m_opened;
    m_form = {};
    m_facts = std::make_shared<Facts>();
    m_wish = {};
    m_worker.start(
        [copy = m_copy, piece = m_document.whole()]() mutable { copy->piece = std::move(piece); });
    derive();
    emit changed(); // of the piece before nothing is shown any more
}

void Derived::stepped(const PieceDelta& delta, bool forwards) {
    m_worker.start([copy = m_copy, delta, forwards] {
        if (forwards)
            apply(delta, copy->piece);
        else
            revert(delta, copy->piece);
    });
    derive();
}

void Derived::setSchool(CountSchool school) {
    if (school == m_school)
        return;
    m_school = school;
    derive();
    emit changed();
}

// Of several steps in a row only what comes of the last one is worked out.
void Derived::derive() {
    const int wanted = ++*m_wanted;
    post([this,
          wanted,
          still = m_wanted,
          school = m_school,
          revision = m_document.revision(),
          reading = m_document.reading()](const Piece& whole, const Piece& shown) {
        if (*still != wanted)
            return;
        auto facts = factsOf(shown, school);
        facts->exactness =
            exactnessOf(whole, reading < whole.readings.size() ? reading : std::size_t{0});
        facts->revision = revision;
        QMetaObject::invokeMethod(
            this,
            [this, facts = std::shared_ptr<const Facts>(std::move(facts))] { arrived(facts); },
            Qt::QueuedConnection);
    });
    m_soon.start();
}

std::shared_ptr<Derived::Facts> Derived::factsOf(const Piece& piece, CountSchool school) {
    auto facts = std::make_shared<Facts>();
    facts->doubts = openDoubts(piece);
    for (const Doubt& doubt : facts->doubts)
        facts->doubt_of.insert(doubt.note, doubt);
    facts->strokes_guessed = std::ranges::any_of(piece.asPlayed().plans, [](const NotePlan& plan) {
        return plan.stroke.value != Stroke::Unknown && plan.stroke.basis == Basis::Reasoned;
    });
    const Quantised score = quantise(piece);
    for (const ScoreNote& note : score.notes)
        if (!note.grace)
            facts->late_s.insert(piece.notes[note.index].id, note.late_s);
    facts->beats = score.beats;
    facts->count = countOf(piece, score, school);
    facts->chords = chordsOf(piece);
    facts->tunings = guessTuning(piece.instrument, piece.notes, piece.misses);
    facts->questions = openQuestions(piece);
    facts->string_wish = wirenote::stringWish(piece);
    return facts;
}

void Derived::arrived(std::shared_ptr<const Facts> facts) {
    if (facts->revision < m_facts->revision)
        return;
    m_facts = std::move(facts);
    emit changed();
    if (upToDate() && m_wish)
        std::exchange(m_wish, {})();
}

bool Derived::upToDate() const {
    return m_facts->revision == m_document.revision();
}

void Derived::whenUpToDate(std::function<void()> wish) {
    m_wish = {};
    if (upToDate())
        wish();
    else
        m_wish = std::move(wish);
}

void Derived::wait() {
    m_worker.waitForDone();
    QCoreApplication::sendPostedEvents(this, QEvent::MetaCall);
}

const Doubt* Derived::doubtOf(NoteId note) const {
    const auto at = m_facts->doubt_of.constFind(note);
    return at == m_facts->doubt_of.constEnd() ? nullptr : &*at;
}

std::optional<double> Derived::late_s(NoteId note) const {
    const auto at = m_facts->late_s.constFind(note);
    return at == m_facts->late_s.constEnd() ? std::nullopt : std::optional(*at);
}

std::optional<BeatReading> Derived::beatOf(NoteId note) const {
    const Note* chosen = m_document.piece().note(note);
    const auto& beats_s = m_document.piece().timeline.beats_s;
    if (!chosen || beats_s.size() < 2)
        return {};
    const auto next = std::ranges::upper_bound(beats_s, chosen->onset_s());
    const auto beat = static_cast<int>(next - beats_s.begin()) - 1;
    const auto reading = std::ranges::find(m_facts->beats, beat, &BeatReading::beat);
    return reading == m_facts->beats.end() ? std::nullopt : std::optional(*reading);
}

int Derived::partAt(double time_s) const {
    for (std::size_t i = 0; i < m_form.parts.size(); ++i)
        if (m_form.parts[i].span.contains(time_s))
            return static_cast<int>(i);
    return -1;
}

// Takes longer than the rest and can be stopped: it has a thread of its own.
void Derived::lookForForm() {
    ask([](const Piece& piece) { return std::make_shared<const Piece>(piece); },
        [this](const std::shared_ptr<const Piece>& piece) {
            m_forms.run({}, [piece](const JobControl& job) { return formOf(*piece, job); })
                .then([this, opened = m_opened](Form form) {
                    if (opened != m_opened)
                        return;
                    m_form = std::move(form);
                    emit changed();
                });
        });
}

Derived::Form Derived::formOf(const Piece& piece, const JobControl& job) {
    Form form;
    for (const Note& note : piece.notes)
        form.notes.push_back(note.id);
    form.bars = contentsOf(piece, quantise(piece));
    leaveOutShownAgain(piece, form.bars);
    if (!job.cancelRequested())
        form.phrases = phrasesOf(form.bars, {}, job);
    form.parts = wirenote::formOf(form.bars, form.phrases);
    form.twelve = twelveBarForms(piece, form.bars);
    if (job.cancelRequested())
        return form;
    form.versions = versionsOf(piece);
    std::ranges::copy(repeatsOf(piece, form.bars, form.phrases), std::back_inserter(form.versions));
    form.variants = variantsOf(form.versions);
    form.evidence = barEvidence(piece, form.bars, form.versions);
    form.seen = seenWhere(piece, form.bars, form.versions);
    return form;
}

} // namespace wirenote::app
