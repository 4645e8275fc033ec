#include "app/benches/readings/reading_card.h"

#include "app/commands/reading_commands.h"
#include "app/document/derived.h"
#include "app/document/document.h"
#include "app/text/reading_wording.h"
#include "piece/exactness.h"

#include <QFileDialog>
#include <QHBoxLayout>
#include <QSignalBlocker>
#include <array>

namespace wirenote::app {
namespace {

// What can be made, with the word of the recipe, and what its value is.
struct Kind {
    const char* word;
    const char* name;
    const char* value; // shown where nothing is typed; empty: it has none
};
constexpr std::array kKinds{
    Kind{"easier",
         QT_TRANSLATE_NOOP("ReadingCard", "Easier"),
         QT_TRANSLATE_NOOP("ReadingCard", "level: 1, 2 or 3")},
    Kind{"easiest", QT_TRANSLATE_NOOP("ReadingCard", "Easier for the hand, all notes"), ""},
    Kind{"one-position",
         QT_TRANSLATE_NOOP("ReadingCard", "In one position"),
         QT_TRANSLATE_NOOP("ReadingCard", "fret, or the best one")},
    Kind{"no-barre", QT_TRANSLATE_NOOP("ReadingCard", "Without barres"), ""},
    Kind{"no-open", QT_TRANSLATE_NOOP("ReadingCard", "Without open strings"), ""},
    Kind{"stretch",
         QT_TRANSLATE_NOOP("ReadingCard", "No wider than"),
         QT_TRANSLATE_NOOP("ReadingCard", "frets: 2 to 6")},
    Kind{"small-hand", QT_TRANSLATE_NOOP("ReadingCard", "For a small hand"), ""},
    Kind{"tempo",
         QT_TRANSLATE_NOOP("ReadingCard", "For another tempo"),
         QT_TRANSLATE_NOOP("ReadingCard", "times as fast: 1.2")},
    Kind{"transpose",
         QT_TRANSLATE_NOOP("ReadingCard", "In another key"),
         QT_TRANSLATE_NOOP("ReadingCard", "semitones up: 2, or -3")},
    Kind{"capo",
         QT_TRANSLATE_NOOP("ReadingCard", "With a capo"),
         QT_TRANSLATE_NOOP("ReadingCard", "fret: 3, or 0 for none")},
    Kind{"tuning",
         QT_TRANSLATE_NOOP("ReadingCard", "In another tuning"),
         QT_TRANSLATE_NOOP("ReadingCard", "thickest first: D2 A2 D3 G3 B3 E4")},
    Kind{"instrument",
         QT_TRANSLATE_NOOP("ReadingCard", "For another instrument"),
         QT_TRANSLATE_NOOP("ReadingCard", "guitar, nylon, bass, bass-5 …")},
    Kind{"no-slurs", QT_TRANSLATE_NOOP("ReadingCard", "Every note struck"), ""},
    Kind{"score", QT_TRANSLATE_NOOP("ReadingCard", "As a score has it…"), ""}};

} // namespace

ReadingCard::ReadingCard(Document& document,
                         Derived& derived,
                         ReadingCommands& commands,
                         QWidget* parent)
    : Card(parent), m_document(document), m_derived(derived), m_commands(commands),
      m_list(new QListWidget), m_remove(new QPushButton(tr("Remove"))),
      m_from(label({}, 8.5, false, theme().quiet)), m_exactness(label({}, 9, false, theme().ink)),
      m_claim(new QComboBox), m_name(new QLineEdit), m_from_bpm(new QDoubleSpinBox),
      m_to_bpm(new QDoubleSpinBox), m_kind(new QComboBox), m_value(new QLineEdit),
      m_source(new QComboBox), m_why(new QLineEdit), m_blend(new QPushButton(tr("Take its bars"))) {
    setObjectName("readingCard");
    column()->addWidget(label(tr("Readings"), 12, true, theme().ink));
    addList();
    addSayings();
    addMaking();
    addBlending();
    column()->addStretch(1);
    connect(&document, &Document::opened, this, &ReadingCard::refresh);
    connect(&document, &Document::readingShown, this, &ReadingCard::refresh);
    connect(&document, &Document::changed, this, [this](const Changes& what) {
        if (what.readings)
            refresh();
    });
    connect(&derived, &Derived::changed, this, &ReadingCard::refreshExactness);
    refresh();
}

void ReadingCard::addList() {
    m_list->setObjectName("readingList");
    m_list->setAccessibleName(tr("Readings"));
    m_list->setToolTip(tr("The one that is chosen is shown everywhere (Ctrl+R: the next)"));
    m_list->setMaximumHeight(120);
    connect(m_list, &QListWidget::currentRowChanged, this, [this](int row) {
        if (row >= 0)
            m_document.showReading(static_cast<std::size_t>(row));
    });
    column()->addWidget(m_list);
    auto* row = new QHBoxLayout;
    m_name->setAccessibleName(tr("Name of the reading"));
    m_name->setMaxLength(200);
    connect(m_name, &QLineEdit::editingFinished, this, [this] {
        if (m_name->text().toStdString() != m_document.piece().asPlayed().head.name)
            m_commands.rename(m_name->text());
    });
    row->addWidget(m_name, 1);
    m_remove->setObjectName("removeReading");
    connect(m_remove, &QPushButton::clicked, &m_commands, &ReadingCommands::remove);
    row->addWidget(m_remove);
    column()->addLayout(row);
    column()->addWidget(m_from);
}

void ReadingCard::addSayings() {
    m_exactness->setObjectName("exactness");
    column()->addWidget(m_exactness);
    m_claim->setObjectName("claim");
    m_claim->setAccessibleName(tr("What is said of it"));
    m_claim->addItems({tr("Say what the facts say"),
                       tr("Say: note for note"),
                       tr("Say: the essence"),
                       tr("Say: adapted")});
    m_claim->setToolTip(tr("Stands on the sheet and in files. Nothing can be claimed that "
                           "something stands against."));
    connect(m_claim, &QComboBox::activated, this, [this](int chosen) {
        m_commands.claim(chosen == 0 ? std::nullopt
                                     : std::optional(static_cast<Exactness>(chosen - 1)));
        refreshSayings();
    });
    column()->addWidget(m_claim);
    auto* tempi = new QHBoxLayout;
    for (const auto& [box, name] :
         {std::pair{m_from_bpm, tr("Slowest tempo")}, {m_to_bpm, tr("Fastest tempo")}}) {
        box->setRange(0.0, 400.0);
        box->setDecimals(0);
        box->setSpecialValueText(tr("any"));
        box->setAccessibleName(name);
        box->setKeyboardTracking(false);
        connect(box, &QDoubleSpinBox::editingFinished, this, [this] {
            m_commands.setTempi({m_from_bpm->value(), m_to_bpm->value()});
        });
    }
    tempi->addWidget(label(tr("For tempi from"), 9, false, theme().quiet));
    tempi->addWidget(m_from_bpm);
    tempi->addWidget(label(tr("to"), 9, false, theme().quiet));
    tempi->addWidget(m_to_bpm);
    column()->addLayout(tempi);
}

void ReadingCard::addMaking() {
    column()->addWidget(label(tr("Make another from it"), 10, true, theme().ink));
    m_kind->setObjectName("kindOfReading");
    m_kind->setAccessibleName(tr("What for"));
    for (const Kind& kind : kKinds)
        m_kind->addItem(tr(kind.name));
    m_value->setObjectName("valueOfReading");
    m_value->setAccessibleName(tr("Its number or word"));
    auto* button = new QPushButton(tr("Make it"));
    button->setObjectName("makeReading");
    connect(m_kind, &QComboBox::currentIndexChanged, this, &ReadingCard::showPlaceholder);
    connect(m_value, &QLineEdit::returnPressed, this, &ReadingCard::make);
    connect(button, &QPushButton::clicked, this, &ReadingCard::make);
    column()->addWidget(m_kind);
    auto* row = new QHBoxLayout;
    row->addWidget(m_value, 1);
    row->addWidget(button);
    column()->addLayout(row);
    showPlaceholder();
}

void ReadingCard::showPlaceholder() {
    const Kind& kind = kKinds[static_cast<std::size_t>(std::max(0, m_kind->currentIndex()))];
    m_value->clear();
    m_value->setPlaceholderText(*kind.value ? tr(kind.value) : QString());
    m_value->setEnabled(*kind.value);
}

void ReadingCard::make() {
    const Kind& kind = kKinds[static_cast<std::size_t>(std::max(0, m_kind->currentIndex()))];
    if (QString(kind.word) == "score") {
        const QString file =
            QFileDialog::getOpenFileName(this,
                                         tr("The score"),
                                         {},
                                         tr("Scores (*.musicxml *.xml *.mxl *.mid *.midi *.tab "
                                            "*.txt *.json *.wirenote)"));
        if (!file.isEmpty())
            m_commands.makeFromScore(file);
        return;
    }
    const QString value = m_value->text().trimmed();
    m_commands.make(value.isEmpty() ? QString(kind.word) : QString("%1:%2").arg(kind.word, value));
}

void ReadingCard::addBlending() {
    column()->addWidget(label(tr("Bars as another has them"), 10, true, theme().ink));
    m_source->setObjectName("blendFrom");
    m_source->setAccessibleName(tr("The other reading"));
    m_why->setAccessibleName(tr("Why"));
    m_why->setPlaceholderText(tr("why, in your words"));
    m_blend->setObjectName("blend");
    m_blend->setToolTip(tr("The bars of the loop, or of what is chosen"));
    connect(m_blend, &QPushButton::clicked, this, [this] {
        m_commands.blend(static_cast<std::size_t>(m_source->currentData().toULongLong()),
                         m_why->text());
        m_why->clear();
    });
    column()->addWidget(m_source);
    auto* row = new QHBoxLayout;
    row->addWidget(m_why, 1);
    row->addWidget(m_blend);
    column()->addLayout(row);
}

void ReadingCard::refresh() {
    const QSignalBlocker list(m_list);
    m_list->clear();
    m_source->clear();
    const auto& readings = m_document.whole().readings;
    for (std::size_t r = 0; r < readings.size(); ++r) {
        const QString name = QString::fromStdString(readings[r].head.name);
        m_list->addItem(name);
        if (r != m_document.reading())
            m_source->addItem(name, static_cast<qulonglong>(r));
    }
    m_list->setCurrentRow(static_cast<int>(m_document.reading()));
    const bool first = m_document.reading() == 0;
    m_remove->setEnabled(!first);
    m_blend->setEnabled(!first && m_source->count() > 0);
    m_source->setEnabled(!first);
    m_why->setEnabled(!first);
    refreshSayings();
}

void ReadingCard::refreshSayings() {
    const Reading& reading = m_document.whole().readings[m_document.reading()];
    const ReadingHead& head = reading.head;
    const QSignalBlocker name(m_name);
    const QSignalBlocker claim(m_claim);
    const QSignalBlocker from(m_from_bpm);
    const QSignalBlocker to(m_to_bpm);
    m_name->setText(QString::fromStdString(head.name));
    QStringList origins;
    if (!head.made_from.empty())
        origins << tr("Made from “%1”.").arg(QString::fromStdString(head.made_from));
    for (const Origin& one : head.origins)
        origins << tr("%1–%2 s as in “%3”%4.")
                       .arg(one.span.start_s, 0, 'f', 1)
                       .arg(one.span.end_s, 0, 'f', 1)
                       .arg(QString::fromStdString(one.of),
                            one.why.empty() ? QString() : ": " + QString::fromStdString(one.why));
    m_from->setText(origins.join(" "));
    m_from->setVisible(!origins.isEmpty());
    m_claim->setCurrentIndex(head.claim ? static_cast<int>(*head.claim) + 1 : 0);
    m_from_bpm->setValue(head.tempi.from_bpm);
    m_to_bpm->setValue(head.tempi.to_bpm);
    refreshExactness();
}

void ReadingCard::refreshExactness() {
    const ExactnessStatement& said = m_derived.exactness();
    const QString against = againstList(said);
    m_exactness->setText(against.isEmpty() ? exactnessText(said.exactness) + "."
                                           : exactnessText(said.exactness) + ": " + against + ".");
}

} // namespace wirenote::app
