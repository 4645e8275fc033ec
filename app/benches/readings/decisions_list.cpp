#include "app/benches/readings/decisions_list.h"

#include "app/benches/readings/row_list.h"
#include "app/document/document.h"
#include "app/document/selection.h"
#include "app/text/reading_wording.h"
#include "base/text.h"
#include "piece/timeline_map.h"

#include <QHBoxLayout>
#include <QSignalBlocker>

namespace wirenote::app {
namespace {

constexpr int kMostRows = 2000;

QStringList cellsOf(const LogEntry& entry, const Piece& piece, const TimelineMap& map) {
    const Note* note = piece.note(entry.note);
    QStringList evidence;
    for (const std::string& text : {entry.evidence, entry.rejected})
        if (!text.empty())
            evidence << QString::fromStdString(text);
    QStringList why;
    for (const QString& text : {setWhyText(entry.why), QString::fromStdString(entry.remark)})
        if (!text.isEmpty())
            why << text;
    const QString change =
        entry.from.empty() && entry.to.empty()
            ? QString()
            : QString("%1 → %2").arg(QString::fromStdString(entry.from),
                                     entry.to.empty() ? DecisionsList::tr("gone")
                                                      : QString::fromStdString(entry.to));
    return {QString::fromStdString(entry.when).replace('T', ' ').remove('Z'),
            QString::fromStdString(entry.who),
            note ? QString::number(map.barBeatAt(note->onset_s() + 0.03).bar) : QString(),
            QString::fromStdString(entry.what),
            change,
            why.join(": "),
            evidence.join("; ") + (entry.reading.empty()
                                       ? QString()
                                       : (evidence.isEmpty() ? "" : "; ") +
                                             DecisionsList::tr("in “%1”").arg(
                                                 QString::fromStdString(entry.reading)))};
}

} // namespace

DecisionsList::DecisionsList(Document& document, Selection& selection, QWidget* parent)
    : QWidget(parent), m_document(document), m_selection(selection), m_search(new QLineEdit),
      m_who(new QLineEdit), m_own(new QPushButton(tr("Of the chosen note"))),
      m_list(new RowList(tr("Decisions"),
                         {tr("When (UTC)"),
                          tr("Who"),
                          tr("Bar"),
                          tr("What"),
                          tr("From → to"),
                          tr("Why"),
                          tr("On which evidence")})),
      m_soon(*this, [this] { rebuild(); }) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    auto* row = new QHBoxLayout;
    m_search->setObjectName("searchDecisions");
    m_search->setAccessibleName(tr("Search decisions"));
    m_search->setPlaceholderText(tr("search: any words"));
    m_search->setClearButtonEnabled(true);
    row->addWidget(m_search, 2);
    m_own->setObjectName("historyOfNote");
    m_own->setCheckable(true);
    row->addWidget(m_own);
    row->addWidget(Card::label(tr("You are"), 9, false, theme().quiet));
    m_who->setObjectName("whoDecides");
    m_who->setAccessibleName(tr("Who decides"));
    m_who->setPlaceholderText(tr("your name, for the log"));
    m_who->setMaxLength(200);
    row->addWidget(m_who, 1);
    column->addLayout(row);
    column->addWidget(m_list, 1);
    m_list->rows().setObjectName("decisionRows");
    const auto soon = [this] { m_soon.wish(); };
    connect(m_search, &QLineEdit::textChanged, this, soon);
    connect(&document, &Document::opened, this, soon);
    connect(&document, &Document::stepped, this, soon);
    connect(m_who, &QLineEdit::editingFinished, this, [this] {
        m_document.setWho(QString::fromStdString(cleanText(m_who->text().toStdString())));
    });
    connect(m_own, &QPushButton::toggled, this, [this](bool on) {
        showHistoryOf(on ? m_selection.note() : 0);
    });
    connect(&selection, &Selection::changed, this, [this] {
        if (m_own->isChecked())
            showHistoryOf(m_selection.note());
    });
    soon();
}

void DecisionsList::showHistoryOf(NoteId note) {
    m_of = note;
    const QSignalBlocker block(m_own);
    m_own->setChecked(note != 0);
    m_soon.wish();
}

// The newest first.
void DecisionsList::rebuild() {
    m_list->clear(m_of != 0 ? tr("Nobody has decided anything of this note.")
                            : tr("Nothing was decided yet that fits."));
    m_who->setText(m_document.who());
    const Piece& piece = m_document.whole();
    const TimelineMap map(piece.timeline);
    const QStringList words = m_search->text().split(' ', Qt::SkipEmptyParts);
    int shown = 0;
    for (auto entry = piece.log.rbegin(); entry != piece.log.rend() && shown < kMostRows; ++entry) {
        if (m_of != 0 && entry->note != m_of)
            continue;
        const QStringList cells = cellsOf(*entry, piece, map);
        const QString all = cells.join(' ');
        if (!std::ranges::all_of(words, [&all](const QString& word) {
                return all.contains(word, Qt::CaseInsensitive);
            }))
            continue;
        m_list->add(cells, [this, note = entry->note] {
            if (m_document.piece().note(note))
                m_selection.choose(note);
        });
        ++shown;
    }
    m_list->fit();
}

} // namespace wirenote::app
