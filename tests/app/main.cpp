#include "app/theme.h"

#include <QApplication>
#include <QStandardPaths>
#include <gtest/gtest.h>

int main(int argc, char** argv) {
    if (qEnvironmentVariableIsEmpty("QT_QPA_PLATFORM"))
        qputenv("QT_QPA_PLATFORM", "offscreen");
    ::testing::InitGoogleTest(&argc, argv);
    qputenv("FONTCONFIG_FILE",
            WIRENOTE_SOURCE_DIR "/tests/data/fonts.conf"); // letters as everywhere
    QApplication application(argc, argv);
    QApplication::setAttribute(Qt::AA_DontUseNativeDialogs);
    QStandardPaths::setTestModeEnabled(true);
    wirenote::app::applyTheme(application, wirenote::app::Colours::Light);
    return RUN_ALL_TESTS();
}
