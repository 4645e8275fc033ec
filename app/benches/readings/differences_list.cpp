#include "app/benches/readings/differences_list.h"

#include "app/benches/readings/row_list.h"
#include "app/commands/reading_commands.h"
#include "app/document/derived.h"
#include "app/document/document.h"
#include "app/document/selection.h"
#include "app/text/reading_wording.h"
#include "app/text/wording.h"
#include "session/files.h"
#include "session/other_readings.h"

#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QSignalBlocker>

namespace wirenote::app {
namespace {

constexpr std::size_t kMostRows = 2000;
constexpr int kScore = -1; // data of the row that is a score

} // namespace

DifferencesList::DifferencesList(Document& document,
                                 Derived& derived,
                                 Selection& selection,
                                 ReadingCommands& commands,
                                 QWidget* parent)
    : QWidget(parent), m_document(document), m_derived(derived), m_selection(selection),
      m_commands(commands), m_other(new QComboBox),
      m_throughout(Card::label({}, 9, false, theme().ink)), m_why(new QLineEdit),
      m_take(new QPushButton(tr("Take it as there"))),
      m_list(new RowList(tr("Differences"),
                         {tr("Bar"),
                          tr("Beat"),
                          tr("What"),
                          tr("Shown"),
                          tr("The other"),
                          tr("The other gains")})),
      m_soon(*this, [this] { compare(); }) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    auto* row = new QHBoxLayout;
    row->addWidget(Card::label(tr("Against"), 9, false, theme().quiet));
    m_other->setObjectName("comparedWith");
    m_other->setAccessibleName(tr("Compared with"));
    row->addWidget(m_other, 1);
    auto* score = new QPushButton(tr("A score…"));
    row->addWidget(score);
    m_why->setAccessibleName(tr("Why"));
    m_why->setPlaceholderText(tr("why, in your words"));
    row->addWidget(m_why, 1);
    m_take->setObjectName("takeDifference");
    m_take->setToolTip(tr("The stretch of the chosen row, as the other reading has it. What was "
                          "played is never written over: show another reading first."));
    row->addWidget(m_take);
    column->addLayout(row);
    column->addWidget(m_throughout);
    column->addWidget(m_list, 1);
    m_list->rows().setObjectName("differenceRows");
    connect(m_other, &QComboBox::activated, this, [this] {
        if (m_other->currentData().toInt() != kScore)
            m_score.reset();
        compare();
    });
    connect(score, &QPushButton::clicked, this, &DifferencesList::askForScore);
    connect(m_take, &QPushButton::clicked, this, &DifferencesList::take);
    const auto again = [this] {
        offerOthers();
        m_soon.wish();
    };
    connect(&document, &Document::opened, this, [this, again] {
        m_score.reset();
        again();
    });
    connect(&document, &Document::readingShown, this, again);
    connect(&document, &Document::changed, this, [this, again](const Changes& what) {
        if (what.readings)
            again();
        else if (what.notes || what.plans || what.timeline)
            m_soon.wish();
    });
    offerOthers();
    m_soon.wish();
}

void DifferencesList::offerOthers() {
    const QSignalBlocker block(m_other);
    const QString chosen = m_other->currentText();
    m_other->clear();
    const auto& readings = m_document.whole().readings;
    for (std::size_t r = 0; r < readings.size(); ++r)
        if (r != m_document.reading())
            m_other->addItem(QString::fromStdString(readings[r].head.name), static_cast<int>(r));
    if (m_score)
        m_other->addItem(m_score_name, kScore);
    m_other->setCurrentIndex(std::max(0, m_other->findText(m_score ? m_score_name : chosen)));
}

void DifferencesList::askForScore() {
    const QString file =
        QFileDialog::getOpenFileName(this,
                                     tr("The score to compare with"),
                                     {},
                                     tr("Scores (*.musicxml *.xml *.mxl *.mid *.midi *.tab *.txt "
                                        "*.json *.wirenote)"));
    if (!file.isEmpty())
        compareWithScore(file);
}

void DifferencesList::compareWithScore(const QString& file) {
    auto score = readGiven(file.toStdString());
    if (!score) {
        m_throughout->setText(sentence(score.error()));
        m_throughout->setVisible(true);
        return;
    }
    m_score = std::make_shared<const Piece>(std::move(*score));
    m_score_name = QFileInfo(file).fileName();
    offerOthers();
    compare();
}

// Worked out beside the window; what comes late is of a reading that is shown no more.
void DifferencesList::compare() {
    const int other = m_other->count() > 0 ? m_other->currentData().toInt() : kScore;
    if (!m_document.isOpen() || (other == kScore && !m_score)) {
        m_found = {};
        m_overlaid.reset();
        m_document.compareWith(nullptr);
        m_throughout->hide();
        m_take->setEnabled(false);
        m_list->clear(tr("There is no other reading yet. Make one on the right, or choose a score, "
                         "and what differs stands here."));
        return;
    }
    m_derived.ask(
        [score = m_score, shown = m_document.reading(), other, whole = m_document.whole()](
            const Piece&) {
            const auto held = std::make_shared<const Piece>(
                score ? *score : asReading(whole, static_cast<std::size_t>(other)));
            return std::pair(compareReadings(asReading(whole, shown), *held), held);
        },
        [this, score = m_score](const auto& compared) {
            m_overlaid = score ? nullptr : compared.second;
            if (isVisible())
                m_document.compareWith(m_overlaid);
            show(compared.first);
        });
}

void DifferencesList::show(const ReadingComparison& comparison) {
    m_found = comparison;
    m_throughout->setVisible(m_found.semitones != 0);
    m_throughout->setText(
        m_found.semitones > 0
            ? tr("The other sounds higher throughout, by semitones: %1.").arg(m_found.semitones)
            : tr("The other sounds lower throughout, by semitones: %1.").arg(-m_found.semitones));
    m_list->clear(tr("Nothing differs."));
    std::size_t group = m_found.groups.size();
    for (std::size_t d = 0; d < std::min(kMostRows, m_found.differences.size()); ++d) {
        const ReadingDifference& one = m_found.differences[d];
        const bool first = one.group != group;
        group = one.group;
        m_list->add({QString::number(one.bar),
                     QString::number(one.beat, 'g', 3),
                     differenceText(one.kind),
                     QString::fromStdString(one.a_text),
                     QString::fromStdString(one.b_text),
                     first ? weighedText(m_found.groups[group].weighed) : QString()},
                    [this, note = one.a] {
                        if (note != 0)
                            m_selection.choose(note);
                    });
    }
    m_list->fit();
    const bool reading = !m_score;
    m_take->setEnabled(reading && m_document.reading() != 0 && !m_found.differences.empty());
    m_why->setEnabled(m_take->isEnabled());
}

void DifferencesList::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    m_document.compareWith(m_overlaid);
}

void DifferencesList::hideEvent(QHideEvent* event) {
    QWidget::hideEvent(event);
    m_document.compareWith(nullptr);
}

void DifferencesList::take() {
    const int row = m_list->current();
    if (row < 0 || static_cast<std::size_t>(row) >= m_found.differences.size())
        return;
    const std::size_t group = m_found.differences[static_cast<std::size_t>(row)].group;
    // From its first difference to behind its last one.
    m_commands.blend(m_found.groups[group].span,
                     static_cast<std::size_t>(m_other->currentData().toInt()),
                     m_why->text());
    m_why->clear();
}

} // namespace wirenote::app
