#include "app/document/lesson_book.h"

#include "app/document/document.h"
#include "app/text/wording.h"
#include "base/atomic_file.h"
#include "lesson/shown_claims.h"
#include "session/sheet.h"

#include <QCoreApplication>
#include <QEventLoop>

namespace wirenote::app {
namespace {

Vocabulary wordsOf(const Piece& piece) {
    const auto words = Vocabulary::shipped(piece.lesson.manner.language);
    return words ? *words : Vocabulary::english();
}

std::vector<CheckedClaim> saidOf(const LessonState& state, QString& problem) {
    const std::string& file = state.piece.lesson.captions;
    if (file.empty())
        return {};
    const auto bytes = readWholeFile(file, kMaxCaptionsBytes);
    const auto cues = bytes ? readCaptions(*bytes) : Result<std::vector<Cue>>(bytes.error());
    if (!cues) {
        problem = QString::fromStdString(file + ": " + cues.error().message);
        return {};
    }
    return checkClaims(state.facts, *cues, state.speaker);
}

} // namespace

LessonState::LessonState(Piece of, int revision_of)
    : piece(std::move(of)), revision(revision_of), words(wordsOf(piece)), facts(piece),
      breakdown(breakdownOf(facts)),
      speaker(words, piece.lesson.manner, piece.instrument, piece.key),
      writer(facts, breakdown, speaker), stumbles(stumblesOf(facts)) {
    for (std::size_t s = 0; s < breakdown.steps.size(); ++s) {
        texts.push_back(writer.step(s));
        contradictions.emplace_back();
        ambiguous.emplace_back();
        if (!texts.back().edited)
            continue;
        const TeachPhrase& phrase = breakdown.phrases[breakdown.steps[s].phrases.front()];
        for (CheckedClaim& claim : checkClaims(facts, {{phrase.span, texts.back().text}}, speaker))
            if (claim.verdict == ClaimVerdict::Wrong)
                contradictions.back().push_back(std::move(claim));
        ambiguous.back() = ambiguitiesIn(texts.back().text, words);
    }
    claims = saidOf(*this, captions_problem);
    shown = checkDemonstrations(facts, speaker);
    std::vector<std::pair<int, int>> bars;
    for (const TeachPhrase& phrase : breakdown.phrases)
        bars.emplace_back(phrase.first_bar, phrase.last_bar);
    m_tabs = std::make_shared<const std::vector<SheetPage>>(excerptPages(piece, bars));
}

LessonBook::LessonBook(Document& document, QObject* parent)
    : QObject(parent), m_document(document) {
    m_soon.setSingleShot(true);
    m_soon.setInterval(60);
    connect(&m_soon, &QTimer::timeout, this, &LessonBook::work);
    const auto soon = [this] { m_soon.start(); };
    connect(&document, &Document::changed, this, soon);
    connect(&document, &Document::readingShown, this, soon);
    connect(&document, &Document::opened, this, [this, soon] {
        m_state.reset();
        m_step = 0;
        emit changed();
        soon();
    });
}

bool LessonBook::upToDate() const {
    return m_state && m_state->revision == m_document.revision() && !m_working;
}

void LessonBook::setWanted(const void* by, bool wanted) {
    if (wanted)
        m_wanted_by.insert(by);
    else
        m_wanted_by.erase(by);
    if (wanted && !upToDate())
        m_soon.start();
}

void LessonBook::choose(std::size_t step) {
    if (!m_state || step >= m_state->breakdown.steps.size() || step == m_step)
        return;
    m_step = step;
    emit chosen();
}

void LessonBook::work() {
    if (m_wanted_by.empty() || !m_document.isOpen())
        return;
    m_working = true;
    m_runner
        .run(tr("Writing the lesson"),
             [piece = m_document.piece(), revision = m_document.revision()](
                 const JobControl&) -> std::shared_ptr<const LessonState> {
                 return std::make_shared<const LessonState>(piece, revision);
             })
        .then([this](std::shared_ptr<const LessonState> state) {
            m_state = std::move(state);
            m_working = false;
            if (m_step >= m_state->breakdown.steps.size())
                m_step = 0;
            emit changed();
        });
}

void LessonBook::wait() {
    m_wanted_by.insert(this);
    work();
    QEventLoop loop;
    connect(this, &LessonBook::changed, &loop, &QEventLoop::quit);
    while (!upToDate())
        loop.processEvents(QEventLoop::WaitForMoreEvents, 50);
    m_wanted_by.erase(this);
}

} // namespace wirenote::app
