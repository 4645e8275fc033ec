#include "app/commands/lesson_commands.h"

#include "app/document/document.h"
#include "app/document/lesson_book.h"
#include "app/playing/transport.h"
#include "app/text/wording.h"
#include "base/atomic_file.h"
#include "lesson/stumbles.h"
#include "painting/write_sheet.h"
#include "session/files.h"

#include <algorithm>
#include <cmath>

namespace wirenote::app {
namespace {

constexpr double kSame_s = 0.02;

} // namespace

LessonCommands::LessonCommands(Document& document,
                               LessonBook& book,
                               Transport& transport,
                               JobRunner& jobs)
    : m_document(document), m_book(book), m_transport(transport), m_jobs(jobs) {}

bool LessonCommands::change(const QString& what, const std::function<void(LessonPlan&)>& change) {
    if (!m_document.isOpen())
        return false;
    LessonPlan plan = m_document.piece().lesson;
    change(plan);
    if (plan == m_document.piece().lesson)
        return false;
    return m_document.edit(
        what,
        0.0,
        [&](PieceEditor& editor) { return editor.setLesson(plan, what.toStdString()); },
        Resolve::Nothing);
}

const TeachPhrase* LessonCommands::chosenPhrase() const {
    const auto state = m_book.state();
    if (!state || m_book.step() >= state->breakdown.steps.size())
        return nullptr;
    return &state->breakdown.phrases[state->breakdown.steps[m_book.step()].phrases.back()];
}

std::optional<std::size_t> LessonCommands::phraseAt(double time_s) const {
    const auto state = m_book.state();
    if (!state)
        return std::nullopt;
    for (std::size_t p = 0; p < state->breakdown.phrases.size(); ++p)
        if (state->breakdown.phrases[p].span.contains(time_s))
            return p;
    return std::nullopt;
}

std::vector<TaughtPhrase> LessonCommands::cuts() const {
    std::vector<TaughtPhrase> cuts;
    if (const auto state = m_book.state())
        for (const TeachPhrase& phrase : state->breakdown.phrases)
            cuts.push_back({phrase.span,
                            phrase.set ? phrase.title : std::string(),
                            phrase.left_out,
                            phrase.free});
    return cuts;
}

void LessonCommands::nextStep() {
    m_book.choose(m_book.step() + 1);
}

void LessonCommands::previousStep() {
    if (m_book.step() > 0)
        m_book.choose(m_book.step() - 1);
}

void LessonCommands::playStep() {
    const auto state = m_book.state();
    if (!state || m_book.step() >= state->breakdown.steps.size())
        return;
    const TeachStep& step = state->breakdown.steps[m_book.step()];
    const TimeRange span = {state->breakdown.phrases[step.phrases.front()].span.start_s,
                            state->breakdown.phrases[step.phrases.back()].span.end_s};
    ListenSettings listen = m_transport.listen();
    listen.speed = step.tempo > 0.0 ? step.tempo
                   : state->piece.lesson.manner.tempi.empty()
                       ? 1.0
                       : state->piece.lesson.manner.tempi.front();
    m_transport.setListen(listen);
    m_transport.setListening(Listening::Tab);
    m_transport.setLoop(span);
    m_transport.seek(span.start_s);
    m_transport.play();
}

void LessonCommands::write(const QString& text) {
    const auto state = m_book.state();
    if (!state || m_book.step() >= state->breakdown.steps.size())
        return;
    const TeachStep& step = state->breakdown.steps[m_book.step()];
    const StepText& made = state->texts[m_book.step()];
    if (step.phrases.size() != 1 || step.relief) {
        emit said(tr("What is said of several phrases follows from them. Change the text of a step "
                     "of one phrase."));
        return;
    }
    const double phrase_s = state->breakdown.phrases[step.phrases[0]].span.start_s;
    change(tr("write the text of a step"), [&](LessonPlan& plan) {
        std::erase_if(plan.words, [&](const OwnWords& own) {
            return own.step == step.kind && own.layer == step.layer &&
                   std::abs(own.phrase_s - phrase_s) < kSame_s;
        });
        if (text.toStdString() != made.made)
            plan.words.push_back({phrase_s, step.kind, step.layer, text.toStdString(), made.made});
    });
}

void LessonCommands::writeAsMade() {
    if (const auto state = m_book.state(); state && m_book.step() < state->texts.size())
        write(QString::fromStdString(state->texts[m_book.step()].made));
}

void LessonCommands::cutHere() {
    const auto phrase = phraseAt(m_transport.playhead_s());
    const auto state = m_book.state();
    if (!phrase)
        return;
    const TimelineMap& map = state->facts.map();
    const double at_s = map.timeAt(std::round(map.quartersAt(m_transport.playhead_s())));
    std::vector<TaughtPhrase> all = cuts();
    TaughtPhrase& before = all[*phrase];
    if (at_s <= before.span.start_s + 0.1 || at_s >= before.span.end_s - 0.1) {
        emit said(tr("A phrase is cut at a beat within it: bring the playhead there first."));
        return;
    }
    TaughtPhrase after = before;
    after.title.clear();
    after.span.start_s = before.span.end_s = at_s;
    all.insert(all.begin() + static_cast<std::ptrdiff_t>(*phrase) + 1, after);
    change(tr("cut a phrase"), [&](LessonPlan& plan) { plan.phrases = all; });
}

void LessonCommands::joinToNext() {
    const auto phrase = phraseAt(m_transport.playhead_s());
    std::vector<TaughtPhrase> all = cuts();
    if (!phrase || *phrase + 1 >= all.size())
        return;
    all[*phrase].span.end_s = all[*phrase + 1].span.end_s;
    all.erase(all.begin() + static_cast<std::ptrdiff_t>(*phrase) + 1);
    change(tr("join two phrases"), [&](LessonPlan& plan) { plan.phrases = all; });
}

void LessonCommands::moveCut(std::size_t phrase, double to_s) {
    const auto state = m_book.state();
    std::vector<TaughtPhrase> all = cuts();
    if (!state || phrase >= all.size())
        return;
    const TimelineMap& map = state->facts.map();
    const double at_s = map.timeAt(std::round(map.quartersAt(to_s)));
    const double least_s = phrase > 0 ? all[phrase - 1].span.start_s + 0.1 : at_s;
    if (at_s < least_s || at_s > all[phrase].span.end_s - 0.1)
        return;
    if (phrase > 0 && std::abs(all[phrase - 1].span.end_s - all[phrase].span.start_s) < kSame_s)
        all[phrase - 1].span.end_s = at_s;
    else if (phrase > 0 && all[phrase - 1].span.end_s > at_s)
        return;
    all[phrase].span.start_s = at_s;
    change(tr("move where a phrase begins"), [&](LessonPlan& plan) { plan.phrases = all; });
}

void LessonCommands::cutAsFound() {
    change(tr("phrases as they are found"), [](LessonPlan& plan) { plan.phrases.clear(); });
}

void LessonCommands::changeChosen(const QString& what,
                                  const std::function<void(TaughtPhrase&)>& change_one) {
    const TeachPhrase* phrase = chosenPhrase();
    if (!phrase)
        return;
    std::vector<TaughtPhrase> all = cuts();
    for (TaughtPhrase& one : all)
        if (std::abs(one.span.start_s - phrase->span.start_s) < kSame_s)
            change_one(one);
    change(what, [&](LessonPlan& plan) { plan.phrases = all; });
}

void LessonCommands::leaveOut() {
    changeChosen(tr("leave a phrase out, or teach it"),
                 [](TaughtPhrase& one) { one.left_out = !one.left_out; });
}

void LessonCommands::makeFree() {
    changeChosen(tr("a phrase is free, or not"), [](TaughtPhrase& one) { one.free = !one.free; });
}

void LessonCommands::rename(const QString& title) {
    changeChosen(tr("name a phrase"),
                 [&title](TaughtPhrase& one) { one.title = title.toStdString(); });
}

void LessonCommands::teachLoop() {
    const auto loop = m_transport.loop();
    change(tr("choose what is taught"),
           [&](LessonPlan& plan) { plan.taught = loop.value_or(TimeRange{}); });
}

void LessonCommands::observe(StumbleKind kind, const QString& remark, int pupils) {
    change(tr("note what pupils did"), [&](LessonPlan& plan) {
        const Observation one{m_transport.playhead_s(), kind, pupils, remark.toStdString()};
        plan.observations.insert(
            std::ranges::upper_bound(plan.observations, one.at_s, {}, &Observation::at_s), one);
    });
}

void LessonCommands::forget(std::size_t observation) {
    change(tr("take an observation away"), [&](LessonPlan& plan) {
        if (observation < plan.observations.size())
            plan.observations.erase(plan.observations.begin() +
                                    static_cast<std::ptrdiff_t>(observation));
    });
}

void LessonCommands::object(const QString& who, const QString& text) {
    change(tr("keep an objection"), [&](LessonPlan& plan) {
        plan.objections.push_back({m_transport.playhead_s(),
                                   who.toStdString(),
                                   text.toStdString(),
                                   nowIso8601(),
                                   Verdict::Open,
                                   {}});
    });
}

void LessonCommands::rule(std::size_t objection, Verdict verdict, const QString& answer) {
    change(tr("answer an objection"), [&](LessonPlan& plan) {
        if (objection < plan.objections.size()) {
            plan.objections[objection].verdict = verdict;
            plan.objections[objection].answer = answer.toStdString();
        }
    });
}

void LessonCommands::markRetake() {
    const auto state = m_book.state();
    if (!state || m_book.step() >= state->breakdown.steps.size())
        return;
    const TeachStep& step = state->breakdown.steps[m_book.step()];
    const double phrase_s = state->breakdown.phrases[step.phrases.front()].span.start_s;
    change(tr("mark to be filmed again"), [&](LessonPlan& plan) {
        const auto gone = std::erase_if(plan.retakes, [&](const Retake& one) {
            return one.step == step.kind && std::abs(one.phrase_s - phrase_s) < kSame_s;
        });
        if (gone == 0)
            plan.retakes.push_back({phrase_s, step.kind});
    });
}

void LessonCommands::publish(const QString& what) {
    change(tr("note a version"), [&](LessonPlan& plan) {
        const int number = plan.versions.empty() ? 1 : plan.versions.back().number + 1;
        plan.versions.push_back({number, nowIso8601(), what.toStdString()});
    });
}

void LessonCommands::useCaptions(const QString& file) {
    change(tr("choose captions"), [&](LessonPlan& plan) { plan.captions = file.toStdString(); });
}

void LessonCommands::useMannerOf(const QString& piece_file) {
    const auto other = readGiven(piece_file.toStdString());
    if (!other) {
        emit said(sentence(other.error()));
        return;
    }
    change(tr("speak as in another lesson"), [&](LessonPlan& plan) {
        plan.manner = other->lesson.manner;
        for (std::string LessonPlan::*text : {&LessonPlan::level,
                                              &LessonPlan::presupposes,
                                              &LessonPlan::background,
                                              &LessonPlan::credits,
                                              &LessonPlan::series})
            if ((plan.*text).empty())
                plan.*text = other->lesson.*text;
    });
}

void LessonCommands::countPupils(const QStringList& piece_files) {
    struct Counted {
        std::vector<int> by_kind;
        int pieces = 0;
    };
    std::vector<std::string> files;
    const QString own = m_document.file();
    for (const QString& file : piece_files)
        if (own.isEmpty() || !sameFile(file.toStdString(), own.toStdString()))
            files.push_back(file.toStdString());
    m_jobs
        .enqueue(tr("Counting what pupils stumble over"),
                 [files,
                  own_plan = m_document.piece().lesson](const JobControl& job) -> Result<Counted> {
                     std::vector<LessonPlan> others;
                     for (const std::string& file : files) {
                         if (job.cancelRequested())
                             return cancelled();
                         auto piece = readGiven(file);
                         if (!piece)
                             return piece.error();
                         others.push_back(std::move(piece->lesson));
                     }
                     std::vector<const LessonPlan*> plans = {&own_plan};
                     for (const LessonPlan& other : others)
                         plans.push_back(&other);
                     return Counted{pupilsByKind(plans), static_cast<int>(plans.size())};
                 })
        .then([this](const Result<Counted>& counted) {
            if (counted)
                emit pupilsCounted(counted->by_kind, counted->pieces);
            else if (counted.error().kind != ErrorKind::Cancelled)
                emit said(sentence(counted.error()));
        });
}

PackOptions LessonCommands::packOptions() const {
    PackOptions options;
    options.piece_file = m_document.file().toStdString();
    return options;
}

void LessonCommands::makePack(const QString& folder) {
    m_jobs
        .enqueue(tr("Making the lesson pack"),
                 [piece = m_document.piece(), path = folder.toStdString(), options = packOptions()](
                     const JobControl& job) {
                     return makeLessonPack(
                         piece, path, options, {pdfOfPages, pdfOfHandout, svgElement}, job);
                 })
        .then([this, folder](const Result<PackReport>& made) {
            if (!made) {
                if (made.error().kind != ErrorKind::Cancelled)
                    emit said(sentence(made.error()));
                return;
            }
            emit said(tr("The lesson pack in %1 is version %2: %3 files written, %4 unchanged.")
                          .arg(folder)
                          .arg(made->version)
                          .arg(made->written.size())
                          .arg(made->kept.size()));
            m_document.noteExport(folder + "/index.html");
            emit packMade(folder);
        });
}

void LessonCommands::askOutOfDate(const QString& folder) {
    m_jobs
        .enqueue(tr("Looking at the pack"),
                 [piece = m_document.piece(), path = folder.toStdString(), options = packOptions()](
                     const JobControl&) { return outOfDatePack(piece, path, options); })
        .then([this](const Result<std::vector<std::string>>& old) {
            if (!old) {
                emit said(sentence(old.error()));
                return;
            }
            QStringList files;
            for (const std::string& file : *old)
                files << QString::fromStdString(file);
            emit outOfDate(files);
        });
}

} // namespace wirenote::app
