// wirenote [--demo] [--dark] [FILE]
#include "app/document/state_folder.h"
#include "app/end_signals.h"
#include "app/main_window.h"
#include "app/theme.h"
#include "media/device_output.h"

#include <QApplication>
#include <QCommandLineParser>
#include <QSettings>
#include <csignal>

int main(int argc, char** argv) {
    QApplication application(argc, argv);
    QApplication::setApplicationName("wirenote");
    QApplication::setApplicationDisplayName("Wirenote");
    QApplication::setOrganizationName("wirenote");
    QCommandLineParser parser;
    parser.setApplicationDescription(QApplication::translate(
        "main", "Recordings of guitar and bass to tablature with evidence"));
    parser.addHelpOption();
    parser.addOption({"demo", QApplication::translate("main", "open the demo piece (simulated)")});
    parser.addOption({"dark", QApplication::translate("main", "dark colours")});
    parser.addPositionalArgument("FILE", QApplication::translate("main", "a recording or a piece"));
    parser.process(application);

    QSettings settings;
    if (parser.isSet("dark"))
        settings.setValue("window/dark", true);
    wirenote::app::applyTheme(application, settings.value("window/dark", false).toBool());
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
        window.openPath(parser.positionalArguments().front());
    else if (parser.isSet("demo"))
        window.openDemo();
    else
        window.restoreLast();
    if (!parser.positionalArguments().isEmpty() || parser.isSet("demo"))
        window.keptWork().offer();
    return QApplication::exec();
}
