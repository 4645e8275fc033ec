// The instrument card: tuning, gauges, sets of strings and the table they come from.
#include "app/bench_fixture.h"
#include "app/benches/takes/strings_choice.h"

#include "base/atomic_file.h"

#include <QApplication>
#include <QCheckBox>
#include <QFile>
#include <QLabel>
#include <QLineEdit>
#include <QScrollArea>
#include <QScrollBar>
#include <QSpinBox>
#include <QStandardPaths>
#include <QWheelEvent>

namespace wirenote::app {
namespace {

class InstrumentCardTest : public BenchTest {
  protected:
    // A home of its own: tests run side by side.
    InstrumentCardTest() : BenchTest(BenchKind::Takes) {
        QStandardPaths::setTestModeEnabled(false);
        qputenv("XDG_DATA_HOME", QByteArray::fromStdString((scratch / "data").string()));
    }
    ~InstrumentCardTest() override {
        qunsetenv("XDG_DATA_HOME");
        QStandardPaths::setTestModeEnabled(true);
    }
    QComboBox* sets() { return window.findChild<QComboBox*>("stringSet"); }
    void choose(const QString& name) {
        ASSERT_GE(sets()->findText(name), 0) << name.toStdString();
        sets()->setCurrentIndex(sets()->findText(name));
        emit sets()->activated(sets()->currentIndex());
    }
    QString banner() { return window.findChild<QLabel*>("bannerText")->text(); }
};

TEST_F(InstrumentCardTest, TheInstrumentIsTunedNamedTypedAndGauged) {
    openDemo();
    const Instrument before = piece().instrument;
    auto* named = fieldOf<QComboBox>("instrument", "Tuning");
    ASSERT_NE(named, nullptr);
    named->setCurrentIndex(named->findText("a whole step down"));
    emit named->activated(named->currentIndex());
    EXPECT_EQ(tuningText(piece().instrument), "D2 G2 C3 F3 A3 D4");
    undo();
    EXPECT_TRUE(piece().instrument == before);
    auto* gauges = fieldOf<QLineEdit>("instrument", "Gauges");
    gauges->setText("9 11 16 24 32 42");
    emit gauges->editingFinished();
    EXPECT_NEAR(piece().instrument.string(1).gauge_mm, 0.2286, 1e-4);
    undo();
    gauges->setText("9 11 16");
    emit gauges->editingFinished();
    EXPECT_TRUE(piece().instrument == before);
    EXPECT_TRUE(
        window.findChild<QLabel*>("bannerText")->text().contains("one gauge for each string"));
    for (auto* box : window.findChild<QWidget*>("instrument")->findChildren<QCheckBox*>())
        box->setChecked(true);
    EXPECT_TRUE(piece().instrument.left_handed);
    window.showBench(BenchKind::Neck);
    // The nut, the darkest line across the neck, is at the other end.
    auto* neck = window.findChild<QWidget*>("neck");
    ASSERT_NE(neck, nullptr);
    const auto nutAt = [neck] {
        const QImage image = neck->grab().toImage();
        int darkest = 0;
        long most = 0;
        for (int x = 30; x + 180 < image.width(); ++x) { // words stand on the right
            long dark = 0;
            for (int y = 0; y < image.height(); ++y)
                dark += 255 - qGray(image.pixel(x, y));
            if (dark > most) {
                most = dark;
                darkest = x;
            }
        }
        return static_cast<double>(darkest) / image.width();
    };
    const double left_handed = nutAt();
    undo();
    EXPECT_FALSE(piece().instrument.left_handed);
    EXPECT_LT(nutAt(), 0.2);
    EXPECT_GT(left_handed, 0.6);
}

// A person's word for the tool used to be forgotten at the next edit, which guessed it again.
TEST_F(InstrumentCardTest, WhatItIsPlayedWithIsSaidOnceAndKept) {
    openDemo();
    auto* tool = fieldOf<QComboBox>("instrument", "Played with");
    ASSERT_NE(tool, nullptr);
    EXPECT_TRUE(tool->currentText().contains("guessed")) << tool->currentText().toStdString();
    tool->setCurrentIndex(tool->findText("the fingers"));
    emit tool->activated(tool->currentIndex());
    const auto fingers = [this] {
        return std::ranges::count_if(piece().asPlayed().plans, [](const NotePlan& plan) {
            return plan.stroke.value == Stroke::P || plan.stroke.value == Stroke::I ||
                   plan.stroke.value == Stroke::M || plan.stroke.value == Stroke::A;
        });
    };
    const auto said = fingers();
    EXPECT_GT(said, 4);
    window.document().edit("test", piece().notes[0].onset_s(), [this](PieceEditor& e) {
        return e.toggleTechnique(piece().notes[0].id, Technique::Accent);
    });
    EXPECT_EQ(fingers(), said);
    EXPECT_EQ(tool->currentText(), "the fingers");
    undo();
    undo();
    EXPECT_EQ(fingers(), 0);
}

TEST_F(InstrumentCardTest, TheNotesTellTheTuning) {
    openDemo();
    QString words;
    for (const QLabel* label : window.findChild<QWidget*>("instrument")->findChildren<QLabel*>())
        words += label->text() + "\n";
    EXPECT_TRUE(words.contains("Heard: lowest string dropped")) << words.toStdString();
    EXPECT_TRUE(words.contains("lowest note"));
}

// Who scrolls the cards with the pointer over a field changes nothing.
TEST_F(InstrumentCardTest, TheWheelDoesNotTurnAFieldWithoutTheKeyboard) {
    openDemo();
    const Piece before = piece();
    window.strip().setFocus();
    const auto turn = [](QWidget* field) {
        QWheelEvent wheel(QPointF(field->rect().center()),
                          field->mapToGlobal(QPointF(field->rect().center())),
                          {0, -120},
                          {0, -120},
                          Qt::NoButton,
                          Qt::NoModifier,
                          Qt::NoScrollPhase,
                          false);
        QApplication::sendEvent(field, &wheel);
    };
    for (QComboBox* box : window.findChildren<QComboBox*>())
        turn(box);
    for (QAbstractSpinBox* box : window.findChildren<QAbstractSpinBox*>())
        turn(box);
    EXPECT_TRUE(piece() == before);
    auto* area = window.findChild<QWidget*>("instrument")->parentWidget();
    while (area && !qobject_cast<QScrollArea*>(area))
        area = area->parentWidget();
    ASSERT_NE(area, nullptr);
    EXPECT_GT(qobject_cast<QScrollArea*>(area)->verticalScrollBar()->value(), 0) << "it scrolls";
    auto* capo = fieldOf<QSpinBox>("instrument", "Capo");
    capo->setFocus();
    capo->stepUp();
    EXPECT_EQ(piece().instrument.capo, 1) << "the fields themselves work";
}

TEST_F(InstrumentCardTest, AnotherSetOfStringsIsChosenAndUndone) {
    openDemo();
    const Piece before = piece();
    EXPECT_EQ(sets()->currentText(), "light, 10 to 46");
    choose("wound third, 12 to 52");
    EXPECT_TRUE(piece().instrument.string(3).wound());
    EXPECT_EQ(tuningText(piece().instrument), tuningText(before.instrument));
    EXPECT_EQ(fieldOf<QLineEdit>("instrument", "Gauges")->text(), "12 16 24 32 42 52");
    undo();
    EXPECT_TRUE(piece() == before);
    EXPECT_EQ(sets()->currentText(), "light, 10 to 46");
    // Gauges that no set has are shown as typed; "as typed" itself changes nothing.
    auto* gauges = fieldOf<QLineEdit>("instrument", "Gauges");
    gauges->setText("9 13 17 26 36 46");
    emit gauges->editingFinished();
    EXPECT_EQ(sets()->currentText(), "as typed");
    const Instrument typed = piece().instrument;
    choose("as typed");
    EXPECT_TRUE(piece().instrument == typed);
}

TEST_F(InstrumentCardTest, ATableOfOnesOwnIsReadAgainWhenItIsSaved) {
    openDemo();
    auto* choice = window.findChild<StringsChoice*>();
    ASSERT_NE(choice, nullptr);
    ASSERT_TRUE(choice->makeOwn().ok());
    std::string text = shippedStringsText();
    const std::string name = "\"set\": \"light, 10 to 46\"";
    text.replace(text.find(name), name.size(), "\"set\": \"my own\"");
    ASSERT_TRUE(writeFileAtomically(StringsChoice::ownTable().toStdString(), text).ok());
    ASSERT_TRUE(QTest::qWaitFor([&] { return sets()->findText("my own") >= 0; }, kPatience_ms));
    EXPECT_EQ(sets()->currentText(), "my own") << "these gauges have that name now";
    ASSERT_TRUE(choice->makeOwn().ok());
    EXPECT_GE(choice->table().setsFor(InstrumentKind::Guitar).size(), 4U)
        << "what is there is not written over";

    // A slip in it is said in one sentence, and the shipped table serves meanwhile.
    ASSERT_TRUE(
        writeFileAtomically(StringsChoice::ownTable().toStdString(), "{ \"format\": ").ok());
    ASSERT_TRUE(QTest::qWaitFor([&] { return banner().contains("strings.json"); }, kPatience_ms));
    EXPECT_TRUE(
        QTest::qWaitFor([&] { return sets()->findText("light, 10 to 46") >= 0; }, kPatience_ms));
    QFile::remove(StringsChoice::ownTable());
    QTest::qWait(300);
    EXPECT_EQ(sets()->currentText(), "light, 10 to 46");
}

TEST_F(InstrumentCardTest, ACalibrationOutlivesAnotherTuningButNotOtherStrings) {
    openDemo();
    const auto calibrated = [this] {
        const auto& traits = piece().string_traits;
        return std::ranges::any_of(traits,
                                   [](const StringTrait& t) { return t.basis == Basis::Set; });
    };
    std::vector<StringTrait> traits(6, StringTrait{0.1, 0.05, Basis::Set, {}});
    ASSERT_TRUE(window.document().edit(
        "calibrate",
        0.0,
        [&](PieceEditor& e) { return e.setStringTraits(traits); },
        Resolve::WholePiece));
    EXPECT_TRUE(calibrated());
    auto* tuning = window.findChild<QLineEdit*>("tuningText");
    tuning->setText("D2 A2 D3 G3 B3 E4");
    emit tuning->editingFinished();
    EXPECT_TRUE(calibrated()) << "the strings are the same";
    choose("extra light, 9 to 42");
    EXPECT_FALSE(calibrated()) << "other strings";
}

} // namespace
} // namespace wirenote::app
