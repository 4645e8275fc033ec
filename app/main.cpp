// wirenote [--demo] [--dark] [FILE]
#include "app/main_window.h"
#include "app/theme.h"
#include "media/device_output.h"

#include <QApplication>
#include <QCommandLineParser>
#include <QSettings>

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
    wirenote::app::MainWindow window(settings, wirenote::makeDeviceOutput());
    window.show();
    if (!parser.positionalArguments().isEmpty())
        window.openPath(parser.positionalArguments().front());
    else if (parser.isSet("demo"))
        window.openDemo();
    else
        window.restoreLast();
    return QApplication::exec();
}
