// A window in a process of its own that edits at random and says what it did, to be killed:
//   window_driver STATE PIECE SEED
// Lines on standard output: "begin N" before step N, "done N SUM" after it with the CRC-32 of the
// piece as it would be stored.
#include "app/main_window.h"
#include "app/theme.h"

#include "formats/journal.h"
#include "formats/piece_json.h"

#include <QApplication>
#include <QTimer>
#include <cstdio>
#include <random>
#include <unistd.h>

using namespace wirenote;

namespace {

void say(const std::string& line) {
    if (::write(STDOUT_FILENO, line.data(), line.size()) < 0)
        std::abort();
}

class Driver : public QObject {
  public:
    Driver(app::MainWindow& window, unsigned seed) : m_window(window), m_random(seed) {
        connect(&document(), &app::Document::stepped, this, [this] { ++m_steps; });
        connect(&document(), &app::Document::opened, this, [this] {
            report();
            m_timer.start(0);
        });
        connect(&m_timer, &QTimer::timeout, this, &Driver::step);
    }

  private:
    app::Document& document() { return m_window.document(); }
    int below(int n) { return static_cast<int>(m_random() % static_cast<unsigned>(n)); }

    void report() {
        say("done " + std::to_string(m_steps) + " " +
            std::to_string(crc32(writePieceJson(document().piece()))) + "\n");
    }

    void step() {
        say("begin " + std::to_string(m_steps + 1) + "\n");
        const auto& notes = document().piece().notes;
        const Note& note = notes[static_cast<std::size_t>(below(static_cast<int>(notes.size())))];
        const NoteId id = note.id;
        const double at_s = note.onset_s();
        switch (below(6)) {
        case 0:
            if (document().undoStack().canUndo())
                document().undoStack().undo();
            break;
        case 1:
            edit(at_s, [&](PieceEditor& e) { return e.moveToString(id, 1 + below(6)); });
            break;
        case 2:
            edit(at_s, [&](PieceEditor& e) { return e.setTime(id, {at_s, at_s + 0.2}); });
            break;
        case 3:
            edit(at_s, [&](PieceEditor& e) { return e.accept(id); });
            break;
        default:
            edit(at_s, [&](PieceEditor& e) { return e.toggleTechnique(id, Technique::Accent); });
        }
        report();
    }

    void edit(double at_s, const std::function<Status(PieceEditor&)>& change) {
        document().edit("edit", at_s, change);
    }

    app::MainWindow& m_window;
    std::mt19937 m_random;
    QTimer m_timer;
    int m_steps = 0;
};

} // namespace

int main(int argc, char** argv) {
    qputenv("QT_QPA_PLATFORM", "offscreen");
    QApplication application(argc, argv);
    if (argc != 4)
        return 2;
    app::applyTheme(application, app::Colours::Light);
    QSettings settings(QString(argv[1]) + "/settings.ini", QSettings::IniFormat);
    app::MainWindow window(settings, nullptr, argv[1]);
    Driver driver(window, static_cast<unsigned>(std::atoi(argv[3])));
    window.show();
    window.openPath(argv[2]);
    return QApplication::exec();
}
