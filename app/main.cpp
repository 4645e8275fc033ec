// wirenote [--demo] [--dark | --light] [FILE…]
#include "app/desktop_colours.h"
#include "app/document/state_folder.h"
#include "app/end_signals.h"
#include "app/main_window.h"
#include "app/theme.h"
#include "media/device_output.h"

#include <QApplication>
#include <QCommandLineParser>
#include <QSettings>
#include <algorithm>
#include <csignal>
#include <string_view>

namespace {

void describe(QCommandLineParser& parser) {
    parser.setApplicationDescription(QCoreApplication::translate(
        "main", "Recordings of guitar and bass to tablature with evidence"));
    parser.addHelpOption();
    parser.addOption(
        {"demo", QCoreApplication::translate("main", "open the demo piece (simulated)")});
    parser.addOption({"dark", QCoreApplication::translate("main", "dark colours, this time")});
    parser.addOption({"light", QCoreApplication::translate("main", "light colours, this time")});
    parser.addPositionalArgument(
        "FILE",
        QCoreApplication::translate("main", "a recording or a piece; further recordings are takes"),
        "[FILE...]");
}

// Help needs no display.
bool asksForHelp(int argc, char** argv) {
    return std::any_of(argv + 1, argv + argc, [](const std::string_view word) {
        return word == "-h" || word == "--help" || word == "--help-all";
    });
}

} // namespace

int main(int argc, char** argv) {
    QCoreApplication::setApplicationName("wirenote");
    QCoreApplication::setOrganizationName("wirenote");
    QCommandLineParser parser;
    describe(parser);
    if (asksForHelp(argc, argv)) {
        const QCoreApplication without_display(argc, argv);
        parser.process(without_display);
    }
    QApplication application(argc, argv);
    QApplication::setApplicationDisplayName("Wirenote");
    parser.process(application);

    QSettings settings;
    using wirenote::app::Colours;
    wirenote::app::applyTheme(application,
                              parser.isSet("dark")    ? Colours::Dark
                              : parser.isSet("light") ? Colours::Light
                                                      : wirenote::app::chosenColours(settings));
    // A full disk or a limit on the size of files is an error of the write, not the end.
    std::signal(SIGXFSZ, SIG_IGN);
    std::signal(SIGPIPE, SIG_IGN);
    wirenote::app::MainWindow window(
        settings, wirenote::makeDeviceOutput(), wirenote::app::stateFolder());
    wirenote::app::EndSignals end_signals;
    QObject::connect(&end_signals,
                     &wirenote::app::EndSignals::endWanted,
                     &window,
                     &wirenote::app::MainWindow::leaveKeeping);
    // The end of the desktop's session: kept, and nothing is asked.
    QObject::connect(&application,
                     &QGuiApplication::commitDataRequest,
                     &window,
                     &wirenote::app::MainWindow::keepNow,
                     Qt::DirectConnection);
    window.show();
    if (!parser.positionalArguments().isEmpty())
        window.openPaths(parser.positionalArguments());
    else if (parser.isSet("demo"))
        window.openDemo();
    else
        window.restoreLast();
    if (!parser.positionalArguments().isEmpty() || parser.isSet("demo"))
        window.keptWork().offer();
    return QApplication::exec();
}
