// How many keys a person presses until a tab is right: trial MEDIA TRUTH [MEDIA TRUTH …]. A person
// who knows the answer opens each recording in the real window without a word about it, answers the
// questions, goes through the doubts with N, Enter, numbers, arrows and Delete, and then mends what
// nobody asked about. Right: every pitch within 50 ms, on its string and fret. A simulated person
// never wavers and never reads: keys, not minutes, are what this measures.
#include "app/main_window.h"
#include "app/theme.h"

#include "session/files.h"

#include <QApplication>
#include <QTest>
#include <algorithm>
#include <cmath>
#include <cstdio>
#include <filesystem>
#include <map>
#include <optional>
#include <set>
#include <unistd.h>

using namespace wirenote;

namespace {

constexpr double kSame_s = 0.05;

struct Keys {
    int questions = 0;
    int doubts = 0; // in doubt, as they were asked
    int rest = 0;   // that nobody asked about
    int all() const { return questions + doubts + rest; }
};

class Person {
  public:
    Person(app::MainWindow& window, const Piece& truth) : m_window(window), m_truth(truth) {}

    Keys work() {
        answerQuestions();
        match();
        std::printf("  heard: %zu notes of %zu; %d wrong or missing\n",
                    piece().notes.size(),
                    m_truth.notes.size(),
                    wrong());
        goThroughDoubts();
        mendTheRest();
        return m_keys;
    }

    int wrong() {
        match();
        int count = 0;
        for (const Note& note : piece().notes)
            count += right(note) ? 0 : 1;
        return count + static_cast<int>(m_missing.size());
    }

  private:
    const Piece& piece() { return m_window.document().piece(); }

    void press(Qt::Key key, Qt::KeyboardModifiers held = Qt::NoModifier) {
        ++*m_counted;
        QTest::keyClick(&m_window.strip(), key, held);
        m_window.derived().wait();
        QTest::qWait(2);
        m_window.derived().wait();
    }

    // What stands in the piece and in the truth for each other, nearest first.
    void match() {
        m_of.clear();
        m_missing.clear();
        std::set<NoteId> taken;
        for (std::size_t t = 0; t < m_truth.notes.size(); ++t) {
            const Note& wanted = m_truth.notes[t];
            const Note* best = nullptr;
            for (const Note& note : piece().notes)
                if (std::abs(note.onset_s() - wanted.onset_s()) < kSame_s &&
                    note.midi() == wanted.midi() && !taken.contains(note.id) &&
                    (!best || std::abs(note.onset_s() - wanted.onset_s()) <
                                  std::abs(best->onset_s() - wanted.onset_s())))
                    best = &note;
            if (best) {
                taken.insert(best->id);
                m_of[best->id] = t;
            } else if (wanted.pitched()) {
                m_missing.push_back(t);
            }
        }
    }

    bool right(const Note& note) {
        if (!note.pitched())
            return true;
        const auto of = m_of.find(note.id);
        return of != m_of.end() && piece().plan(note.id)->position.value ==
                                       m_truth.asPlayed().plans[of->second].position.value;
    }

    void answerQuestions() {
        m_counted = &m_keys.questions;
        for (int k = 0; k < 8 && m_window.questions().isOpen(); ++k) {
            const Question* question = m_window.questions().current();
            if (!question) { // hear it again
                press(Qt::Key_Return);
                waitUntilHeard();
                continue;
            }
            int answer = 0;
            for (std::size_t i = 0; i < question->choices.size(); ++i)
                if (isRight(question->kind, question->choices[i]))
                    answer = static_cast<int>(i) + 1;
            std::printf("  asked about the %s: %s\n",
                        std::string(questionName(question->kind)).c_str(),
                        answer == 0   ? "the right answer is not there"
                        : answer == 1 ? "the first choice is right"
                                      : "another choice is right");
            if (answer == 0) {
                press(Qt::Key_N);
                continue;
            }
            if (answer > 1)
                press(static_cast<Qt::Key>(Qt::Key_0 + answer));
            press(Qt::Key_Return);
        }
        if (m_window.questions().isOpen())
            press(Qt::Key_Escape);
    }

    bool isRight(QuestionKind kind, const Choice& choice) const {
        const Timeline& wanted = m_truth.timeline;
        switch (kind) {
        case QuestionKind::Instrument:
            return choice.tuning.instrument.isBass() == m_truth.instrument.isBass() &&
                   choice.tuning.instrument.capo == m_truth.instrument.capo &&
                   tuningText(choice.tuning.instrument) == tuningText(m_truth.instrument);
        case QuestionKind::Tempo:
            return std::abs(choice.timeline.tempo_bpm / wanted.tempo_bpm - 1.0) < 0.06;
        case QuestionKind::Metre:
            return choice.timeline.metre == wanted.metre;
        case QuestionKind::One: {
            const auto is = choice.timeline.downbeats_s();
            return std::ranges::any_of(is, [&](double t) {
                const auto ones = wanted.downbeats_s();
                return !ones.empty() && std::abs(t - ones.front()) < 0.1;
            });
        }
        }
        return false;
    }

    void waitUntilHeard() {
        const bool heard = QTest::qWaitFor(
            [this] {
                return m_window.takes().hearing() == app::TakeCommands::Hearing::Heard &&
                       !m_window.jobs().running();
            },
            300000);
        std::printf("%s", heard ? "" : "  not heard again\n");
        m_window.derived().wait();
        QTest::qWait(20);
    }

    void goThroughDoubts() {
        m_counted = &m_keys.doubts;
        const auto most = m_window.derived().doubts().size() * 4 + 20;
        press(Qt::Key_N);
        for (std::size_t k = 0;
             k < most && m_window.selection().note() != 0 && !m_window.derived().doubts().empty();
             ++k) {
            match();
            const std::vector<NoteId> asked = m_window.selection().all();
            const bool all_right =
                std::ranges::all_of(asked, [this](NoteId id) { return right(*piece().note(id)); });
            if (all_right) {
                press(Qt::Key_Return); // and it is on the next doubt
                continue;
            }
            for (const NoteId id : asked)
                if (const Note* note = piece().note(id); note && !right(*note))
                    mend(id, asked.size() > 1);
            press(Qt::Key_N);
        }
    }

    // Chosen alone with the mouse first, where several are.
    void mend(NoteId id, bool choose) {
        if (choose) {
            ++*m_counted;
            m_window.selection().choose(id);
        }
        const auto of = m_of.find(id);
        const auto wanted =
            of == m_of.end() ? missedNear(*piece().note(id)) : std::optional(of->second);
        if (!wanted) {
            press(Qt::Key_Delete);
            return;
        }
        const int to = m_truth.notes[*wanted].midi();
        for (int guard = 0; guard < 24 && piece().note(id)->midi() != to; ++guard) {
            const int off = to - piece().note(id)->midi();
            const Qt::KeyboardModifiers held =
                std::abs(off) >= 12 ? Qt::ControlModifier | Qt::ShiftModifier : Qt::ShiftModifier;
            press(off > 0 ? Qt::Key_Up : Qt::Key_Down, held);
        }
        const Position place = m_truth.asPlayed().plans[*wanted].position.value;
        if (piece().plan(id)->position.value != place)
            press(static_cast<Qt::Key>(Qt::Key_0 + place.string));
        match();
    }

    // A missing note of the truth that this one stands for: it begins with it at another pitch.
    std::optional<std::size_t> missedNear(const Note& note) {
        for (const std::size_t t : m_missing)
            if (std::abs(m_truth.notes[t].onset_s() - note.onset_s()) < kSame_s)
                return t;
        return {};
    }

    void mendTheRest() {
        m_counted = &m_keys.rest;
        match();
        std::vector<NoteId> ids;
        for (const Note& note : piece().notes)
            ids.push_back(note.id);
        for (const NoteId id : ids)
            if (const Note* note = piece().note(id); note && !right(*note))
                mend(id, true);
        match();
        const std::vector<std::size_t> missing = m_missing;
        for (const std::size_t t : missing)
            addMissing(m_truth.notes[t], m_truth.asPlayed().plans[t].position.value);
    }

    // A click on the dotted circle where there is one; else V's place is pointed at, A adds, and
    // the fret is turned to.
    void addMissing(const Note& wanted, Position place) {
        const auto& misses = piece().misses;
        for (std::size_t m = 0; m < misses.size(); ++m)
            if (misses[m].midi == wanted.midi() &&
                std::abs(misses[m].time.start_s - wanted.onset_s()) < kSame_s) {
                ++*m_counted;
                m_window.commands().takeMiss(m);
                if (piece().plan(m_window.selection().note())->position.value != place)
                    press(static_cast<Qt::Key>(Qt::Key_0 + place.string));
                return;
            }
        *m_counted += 2; // the pointer there, and A
        m_window.commands().addAt(wanted.onset_s(), place.string);
        for (int guard = 0; guard < 24 && m_window.selection().note() != 0; ++guard) {
            const NotePlan* plan = piece().plan(m_window.selection().note());
            if (!plan || plan->position.value.fret == place.fret)
                return;
            press(plan->position.value.fret < place.fret ? Qt::Key_Up : Qt::Key_Down);
        }
    }

    app::MainWindow& m_window;
    const Piece& m_truth;
    Keys m_keys;
    int* m_counted = &m_keys.questions;
    std::map<NoteId, std::size_t> m_of; // which note of the truth
    std::vector<std::size_t> m_missing;
};

bool tryOne(const std::filesystem::path& media, const std::filesystem::path& truth_file) {
    const auto truth = readAny(truth_file);
    if (!truth) {
        std::fprintf(stderr, "%s\n", truth.error().sentence().c_str());
        return false;
    }
    const auto folder =
        std::filesystem::temp_directory_path() / ("wirenote-trial-" + std::to_string(::getpid()));
    std::filesystem::create_directories(folder);
    QSettings settings(QString::fromStdString((folder / "settings.ini").string()),
                       QSettings::IniFormat);
    settings.clear();
    app::MainWindow window(settings, nullptr, folder / "state");
    window.resize(1280, 800);
    window.show();
    window.openPath(QString::fromStdString(media.string()));
    const bool heard = QTest::qWaitFor(
        [&window] { return window.takes().hearing() == app::TakeCommands::Hearing::Heard; },
        300000);
    window.derived().wait();
    QTest::qWait(20);
    std::printf("%s\n", media.stem().string().c_str());
    if (!heard) {
        std::printf("  not heard\n");
        return false;
    }
    Person person(window, *truth);
    const Keys keys = person.work();
    const double per_100 = 100.0 / static_cast<double>(truth->notes.size());
    const double tempo = window.document().piece().timeline.tempo_bpm / truth->timeline.tempo_bpm;
    std::printf("  keys: %d for questions, %d in doubts, %d for what nobody asked about; %.0f per "
                "100 notes; left wrong: %d; tempo at %.2f of the right one\n",
                keys.questions,
                keys.doubts,
                keys.rest,
                keys.all() * per_100,
                person.wrong(),
                tempo);
    std::fflush(stdout);
    window.leaveKeeping();
    std::filesystem::remove_all(folder);
    return true;
}

} // namespace

int main(int argc, char** argv) {
    qputenv("QT_QPA_PLATFORM", "offscreen");
    QApplication application(argc, argv);
    app::applyTheme(application, app::Colours::Light);
    bool all = argc > 2;
    for (int i = 1; i + 1 < argc; i += 2)
        all &= tryOne(argv[i], argv[i + 1]);
    return all ? 0 : 1;
}
