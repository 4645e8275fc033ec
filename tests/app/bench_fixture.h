// The real window on one of its benches, with the demo piece at hand.
#pragma once

#include "app/main_window.h"

#include "support/demo_files.h"
#include "support/scratch.h"

#include <QComboBox>
#include <QTest>
#include <gtest/gtest.h>

namespace wirenote::app {

constexpr int kPatience_ms = 60000; // a loaded machine is slow, not wrong

class BenchTest : public ::testing::Test {
  protected:
    explicit BenchTest(BenchKind bench)
        : settings(QString::fromStdString((scratch / "settings.ini").string()),
                   QSettings::IniFormat),
          window(settings, nullptr, scratch / "state") {
        window.resize(1280, 800);
        window.show();
        window.showBench(bench);
    }

    static const DemoFiles& demo() { return test::demoFiles(); }
    void openDemo() {
        window.openPath(QString::fromStdString(demo().piece.string()));
        ASSERT_TRUE(QTest::qWaitFor([&] { return window.document().isOpen(); }, kPatience_ms));
        settle();
    }
    const Piece& piece() { return window.document().piece(); }

    void press(Qt::Key key, Qt::KeyboardModifiers modifiers = Qt::NoModifier) {
        QTest::keyClick(&window.strip(), key, modifiers);
        settle();
    }
    // What follows from an edit is worked out elsewhere, and shown a moment later.
    void settle() {
        window.derived().wait();
        QTest::qWait(20); // what views then ask …
        window.derived().wait();
        QTest::qWait(1); // … they show
    }
    // A widget by its accessible or its object's name.
    template <class W> W* named(const QString& name) {
        for (W* widget : window.findChildren<W*>())
            if (widget->accessibleName() == name || widget->objectName() == name)
                return widget;
        return nullptr;
    }
    template <class W> W* fieldOf(const char* card, const QString& name) {
        for (W* field : window.findChild<QWidget*>(card)->findChildren<W*>())
            if (field->accessibleName() == name)
                return field;
        return nullptr;
    }
    void pick(QComboBox* box, const QVariant& data) {
        ASSERT_NE(box, nullptr);
        box->setCurrentIndex(box->findData(data));
        emit box->activated(box->currentIndex());
    }
    void undo() { window.document().undoStack().undo(); }
    void undoAll() {
        while (window.document().undoStack().canUndo())
            undo();
    }

    test::Scratch scratch;
    QSettings settings;
    MainWindow window;
};

} // namespace wirenote::app
