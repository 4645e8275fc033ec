// Hours of work at high speed in one window: endurance MINUTES. Opens, hears, edits, undoes, plays
// and exports in turn; prints memory, handles and threads as it goes, and fails when they grow.
#include "app/main_window.h"
#include "app/theme.h"

#include "session/demo.h"

#include <QApplication>
#include <QElapsedTimer>
#include <QTest>
#include <algorithm>
#include <cstdio>
#include <filesystem>
#include <fstream>
#include <malloc.h>
#include <random>
#include <string>
#include <unistd.h>

using namespace wirenote;

namespace {

struct Use {
    double memory_mib = 0.0;    // of the machine
    double asked_for_mib = 0.0; // of it, what the program has asked for and not given back
    int handles = 0;
    int threads = 0;
};

int entriesIn(const char* folder) {
    return static_cast<int>(std::distance(std::filesystem::directory_iterator(folder), {}));
}

Use use() {
    malloc_trim(0); // what was given back counts as given back
    std::ifstream statm("/proc/self/statm");
    double all = 0.0;
    double resident = 0.0;
    statm >> all >> resident;
    const auto heap = mallinfo2();
    return {resident * static_cast<double>(::sysconf(_SC_PAGESIZE)) / 1048576.0,
            static_cast<double>(heap.uordblks + heap.hblkhd) / 1048576.0,
            entriesIn("/proc/self/fd"),
            entriesIn("/proc/self/task")};
}

bool waitFor(const std::function<bool()>& done) {
    return QTest::qWaitFor(done, 120000);
}

// One working day in a second or two.
bool round(app::MainWindow& window,
           const DemoFiles& demo,
           const std::filesystem::path& folder,
           std::mt19937& random) {
    app::Document& document = window.document();
    const auto open = [&](const std::filesystem::path& path) {
        bool opened = false;
        const auto link =
            QObject::connect(&document, &app::Document::opened, [&] { opened = true; });
        window.opening().open(QString::fromStdString(path.string()));
        const bool done = waitFor([&] { return opened; });
        QObject::disconnect(link);
        return done;
    };
    if (!open(demo.piece))
        return false;
    for (int k = 0; k < 12; ++k) {
        const auto& notes = document.piece().notes;
        const NoteId id = notes[random() % notes.size()].id;
        document.edit("edit", document.piece().note(id)->onset_s(), [&](PieceEditor& e) {
            return k % 3 == 0 ? e.accept(id) : e.toggleTechnique(id, Technique::Accent);
        });
    }
    while (document.undoStack().canUndo())
        document.undoStack().undo();
    for (int bench = 0; bench < app::kBenchCount; ++bench) {
        window.showBench(static_cast<app::BenchKind>(bench));
        window.grab();
    }
    window.transport().play();
    QTest::qWait(60);
    window.transport().pause();
    for (const char* name : {"e.musicxml", "e.mid", "e.tab", "e.json", "e.jams", "e.pdf"})
        if (!window.exporting().exportTo(QString::fromStdString((folder / name).string())))
            return false;
    if (!open(demo.take))
        return false;
    return waitFor([&] { return !document.piece().notes.empty() && !window.jobs().running(); });
}

} // namespace

int main(int argc, char** argv) {
    qputenv("QT_QPA_PLATFORM", "offscreen");
    QApplication application(argc, argv);
    app::applyTheme(application, app::Colours::Light);
    const double minutes = argc > 1 ? std::atof(argv[1]) : 1.0;
    const auto folder = std::filesystem::temp_directory_path() /
                        ("wirenote-endurance-" + std::to_string(::getpid()));
    const auto demo = makeDemo(folder, {});
    if (!demo)
        return 1;
    QSettings settings(QString::fromStdString((folder / "settings.ini").string()),
                       QSettings::IniFormat);
    app::MainWindow window(settings, nullptr, folder / "state");
    window.resize(1280, 800);
    window.show();
    std::mt19937 random(12);
    QElapsedTimer clock;
    clock.start();
    std::vector<Use> course;
    int rounds = 0;
    double next_min = 0.0;
    bool ok = true;
    while (ok && static_cast<double>(clock.elapsed()) < 60000.0 * minutes) {
        ok = round(window, *demo, folder, random);
        ++rounds;
        if (static_cast<double>(clock.elapsed()) >= 60000.0 * next_min) {
            course.push_back(use());
            std::printf("%6.1f min %6d rounds %7.1f MiB, %6.1f asked for %4d handles %3d threads\n",
                        static_cast<double>(clock.elapsed()) / 60000.0,
                        rounds,
                        course.back().memory_mib,
                        course.back().asked_for_mib,
                        course.back().handles,
                        course.back().threads);
            std::fflush(stdout);
            next_min += std::max(0.1, minutes / 20.0);
        }
    }
    window.leaveKeeping();
    std::filesystem::remove_all(folder);
    if (!ok || course.size() < 3) {
        std::printf("a round did not come to its end\n");
        return 1;
    }
    // The first fifth fills caches; from there on nothing may grow.
    const Use early = course[course.size() / 5 + 1];
    const Use late = course.back();
    const bool flat = late.memory_mib < 1.1 * early.memory_mib + 8.0 &&
                      late.asked_for_mib < 1.05 * early.asked_for_mib + 2.0 &&
                      late.handles <= early.handles + 2 && late.threads <= early.threads + 2;
    std::printf("%d rounds; %s\n", rounds, flat ? "flat" : "it grows");
    return flat ? 0 : 1;
}
