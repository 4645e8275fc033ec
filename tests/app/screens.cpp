// The window on a real screen with a window manager, as tests/tools/screens_test.py starts it: it
// stays on the screen, keeps its size from bench to bench, loses nothing and cuts no text.
#include "app/main_window.h"

#include "app/card.h"
#include "app/theme.h"
#include "session/files.h"
#include "support/long_piece.h"
#include "support/scratch.h"

#include <QAbstractButton>
#include <QApplication>
#include <QLabel>
#include <QPushButton>
#include <QScreen>
#include <QTest>
#include <gtest/gtest.h>

namespace wirenote::app {
namespace {

constexpr int kPatience_ms = 60000;
constexpr int kSettled_ms = 3000;
constexpr int kLeastNeck = 100; // pixels in which a hand can still be seen

class Screens : public ::testing::Test {
  protected:
    Screens()
        : settings(QString::fromStdString((scratch / "settings.ini").string()),
                   QSettings::IniFormat),
          window(settings, nullptr, scratch / "state") {
        window.show();
        EXPECT_TRUE(QTest::qWaitForWindowExposed(&window, kPatience_ms));
        QTest::qWait(300); // the window manager puts its frame about it
    }
    void open() {
        ASSERT_TRUE(writeAny(test::longPiece(120), scratch / "p.wirenote").ok());
        window.openPath(QString::fromStdString((scratch / "p.wirenote").string()));
        ASSERT_TRUE(QTest::qWaitFor([&] { return window.document().isOpen(); }, kPatience_ms));
        window.selection().choose(window.document().piece().notes[7].id);
        QTest::qWait(300);
    }
    QRect screen() const { return window.screen()->availableGeometry(); }
    // Whether the words of a button or a line of text are wider than it.
    static bool cut(const QWidget& widget) {
        if (const auto* button = qobject_cast<const QPushButton*>(&widget))
            return button->fontMetrics().size(0, button->text()).width() > button->width() - 8;
        const auto* label = qobject_cast<const QLabel*>(&widget);
        if (!label || label->sizePolicy().horizontalPolicy() == QSizePolicy::Ignored)
            return false; // it ends in dots, and says the rest in its tool tip
        return label->wordWrap()
                   ? label->heightForWidth(label->width()) > label->height() + 2
                   : label->fontMetrics().horizontalAdvance(label->text()) > label->width() + 1;
    }
    QString firstCut() const {
        for (const QWidget* widget : window.findChildren<QWidget*>())
            if (widget->isVisible() && cut(*widget))
                return qobject_cast<const QLabel*>(widget)
                           ? qobject_cast<const QLabel*>(widget)->text()
                           : qobject_cast<const QAbstractButton*>(widget)->text();
        return {};
    }
    // Words that have just changed get their room when the loop comes round: what is counted
    // beside the window (questions, doubts) changes them at any moment.
    void expectNothingCut(const std::string& where) {
        EXPECT_TRUE(QTest::qWaitFor([this] { return firstCut().isEmpty(); }, kSettled_ms))
            << where << ": cut: " << firstCut().toStdString();
    }

    test::Scratch scratch;
    QSettings settings;
    MainWindow window;
};

TEST_F(Screens, TheFirstWindowLiesOnItsScreenAndSaysEverything) {
    EXPECT_TRUE(screen().contains(window.frameGeometry()))
        << window.frameGeometry().width() << " × " << window.frameGeometry().height() << " on "
        << screen().width() << " × " << screen().height();
    expectNothingCut("without a piece");
}

TEST_F(Screens, EveryBenchFitsAndTheWindowStaysAsItIs) {
    const QSize size = window.size();
    open();
    for (int b = 0; b < kBenchCount; ++b) {
        const auto bench = static_cast<BenchKind>(b);
        window.showBench(bench);
        QTest::qWait(150);
        const std::string name = Rail::nameOf(bench).toStdString();
        EXPECT_EQ(window.size(), size) << name;
        EXPECT_TRUE(screen().contains(window.frameGeometry())) << name;
        const QWidget* whole = window.centralWidget();
        for (const char* part : {"strip", "neck", "sheet", "why", "map"}) {
            const auto* view = window.findChild<QWidget*>(part);
            ASSERT_NE(view, nullptr) << part;
            if (!view->isVisible())
                continue;
            const QRect at(view->mapTo(whole, QPoint(0, 0)), view->size());
            const bool scrolled = std::string(part) == "why"; // it is in a scrolled card
            EXPECT_TRUE(scrolled || whole->rect().contains(at)) << part << " on " << name;
        }
        // The card of the bench, beside the work or scrolled.
        const char* card = bench == BenchKind::Takes      ? "take"
                           : bench == BenchKind::Pulse    ? "pulse"
                           : bench == BenchKind::Sheet    ? "piece"
                           : bench == BenchKind::Readings ? "readingCard"
                           : bench == BenchKind::Lesson   ? "lessonCard"
                                                          : "why";
        const auto* side = window.findChild<QWidget*>(card);
        ASSERT_NE(side, nullptr) << card;
        EXPECT_GT(side->visibleRegion().boundingRect().width(), 200) << card << " on " << name;
        EXPECT_LE(side->width(), side->parentWidget()->width()) << card << " is cut on " << name;
        EXPECT_EQ(side->visibleRegion().boundingRect().right(), side->rect().right())
            << card << " is cut on " << name;
        if (bench == BenchKind::Neck) {
            const auto* neck = window.findChild<QWidget*>("neck");
            EXPECT_TRUE(neck->isVisible()) << name;
            EXPECT_GE(neck->height(), kLeastNeck) << name;
        }
        expectNothingCut(name);
    }
}

TEST_F(Screens, TheBannerLiesOverTheWorkAndPushesNothing) {
    open();
    const QRect before = window.strip().geometry();
    emit window.document().refused(
        "A long sentence that says what cannot be done and why, and what "
        "to do about it, so that it takes more than one line of words.");
    QTest::qWait(100);
    const auto* banner = window.findChild<QWidget*>("banner");
    ASSERT_TRUE(banner->isVisible());
    EXPECT_EQ(window.strip().geometry(), before);
    EXPECT_TRUE(window.centralWidget()->rect().contains(banner->geometry()));
    expectNothingCut("with a banner");
}

// What was kept from a larger screen does not hang over the edge of this one.
TEST_F(Screens, AWindowFromALargerScreenComesBackWhole) {
    QSettings larger(QString::fromStdString((scratch / "larger.ini").string()),
                     QSettings::IniFormat);
    window.resize(2600, 1500);
    window.move(700, 500);
    QTest::qWait(200);
    larger.setValue("window/geometry", window.saveGeometry());
    window.hide();
    MainWindow again(larger, nullptr, scratch / "other-state");
    again.show();
    ASSERT_TRUE(QTest::qWaitForWindowExposed(&again, kPatience_ms));
    QTest::qWait(300);
    const QRect at = again.frameGeometry();
    EXPECT_TRUE(screen().contains(at))
        << at.x() << ", " << at.y() << ": " << at.width() << " × " << at.height() << " on "
        << screen().width() << " × " << screen().height();
}

} // namespace
} // namespace wirenote::app

int main(int argc, char** argv) {
    ::testing::InitGoogleTest(&argc, argv);
    QApplication application(argc, argv);
    wirenote::app::applyTheme(application, wirenote::app::Colours::Light);
    return RUN_ALL_TESTS();
}
