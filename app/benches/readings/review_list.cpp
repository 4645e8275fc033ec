#include "app/benches/readings/review_list.h"

#include "app/benches/readings/row_list.h"
#include "app/document/document.h"
#include "app/document/selection.h"
#include "app/text/reading_wording.h"
#include "app/text/wording.h"
#include "piece/timeline_map.h"
#include "session/exporting.h"
#include "session/files.h"

#include <QHBoxLayout>
#include <algorithm>
#include <set>

namespace wirenote::app {

ReviewList::ReviewList(Document& document, Selection& selection, QWidget* parent)
    : QWidget(parent), m_document(document), m_selection(selection),
      m_of(Card::label({}, 9, false, theme().ink)),
      m_back(new QPushButton(tr("Put the ticked ones back"))),
      m_done(new QPushButton(tr("All are right"))),
      m_list(new RowList(tr("What new evidence changed"),
                         {tr("Bar"), tr("What"), tr("Before"), tr("After"), tr("How sure")})) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    auto* row = new QHBoxLayout;
    row->addWidget(m_of, 1);
    m_back->setObjectName("putBack");
    m_done->setObjectName("allRight");
    row->addWidget(m_back);
    row->addWidget(m_done);
    column->addLayout(row);
    column->addWidget(m_list, 1);
    m_list->rows().setObjectName("reviewRows");
    connect(&document, &Document::adopted, this, &ReviewList::review);
    connect(&document, &Document::opened, this, [this] {
        m_changes.clear();
        m_before.reset();
        show();
    });
    connect(&document, &Document::stepped, this, &ReviewList::prune);
    connect(m_back, &QPushButton::clicked, this, &ReviewList::putBack);
    connect(m_done, &QPushButton::clicked, this, [this] {
        m_changes.clear();
        m_before.reset();
        show();
    });
    show();
}

// A first hearing decides everything, and changes nothing.
void ReviewList::review(const QString& label, const std::shared_ptr<const Piece>& before) {
    if (before->notes.empty())
        return;
    auto changes = decisionChanges(*before, m_document.whole());
    if (changes.empty())
        return;
    m_before = before;
    m_changes = std::move(changes);
    const auto old = static_cast<int>(outOfDate(m_document.whole()).size());
    m_of->setText(
        tr("“%1” decided %2 otherwise.")
            .arg(label,
                 countText(count(),
                           QT_TRANSLATE_NOOP("wording", "%1 thing"),
                           QT_TRANSLATE_NOOP("wording", "%1 things"))) +
        (old == 0
             ? QString()
             : " " + countText(old,
                               QT_TRANSLATE_NOOP("wording", "%1 written file is out of date."),
                               QT_TRANSLATE_NOOP("wording", "%1 written files are out of date."))));
    show();
    emit arrived(count());
}

void ReviewList::prune() {
    if (m_changes.empty())
        return;
    const auto now = decisionChanges(*m_before, m_document.whole());
    const auto gone = std::erase_if(m_changes, [&now](const DecisionChange& one) {
        return std::ranges::none_of(now, [&one](const DecisionChange& still) {
            return still.note == one.note && still.what == one.what && still.after == one.after;
        });
    });
    if (gone > 0)
        show();
}

void ReviewList::show() {
    m_list->clear(tr("When a take, a film or a better copy decides something otherwise, it stands "
                     "here before and after, and can be put back one by one."));
    m_of->setVisible(!m_changes.empty());
    m_back->setEnabled(!m_changes.empty());
    m_done->setEnabled(!m_changes.empty());
    const TimelineMap map(m_document.whole().timeline);
    for (const DecisionChange& one : m_changes) {
        auto* item = m_list->add({QString::number(map.barBeatAt(one.onset_s + 0.03).bar),
                                  changedWhatText(one.what),
                                  QString::fromStdString(one.before),
                                  QString::fromStdString(one.after),
                                  tr("%1 %, was %2 %")
                                      .arg(std::lround(100.0 * one.probability_after))
                                      .arg(std::lround(100.0 * one.probability_before))},
                                 [this, note = one.note] {
                                     if (m_document.piece().note(note))
                                         m_selection.choose(note);
                                 });
        item->setFlags(item->flags() | Qt::ItemIsUserCheckable);
        item->setCheckState(0, Qt::Unchecked);
    }
    m_list->fit();
}

void ReviewList::putBack() {
    std::set<NoteId> refused;
    for (std::size_t i = 0; i < m_changes.size(); ++i)
        if (m_list->rows().topLevelItem(static_cast<int>(i))->checkState(0) == Qt::Checked)
            refused.insert(m_changes[i].note);
    if (refused.empty() || !m_before)
        return;
    const Piece kept = withoutChanges(*m_before,
                                      m_document.whole(),
                                      {refused.begin(), refused.end()},
                                      nowIso8601(),
                                      m_document.who().toStdString());
    m_document.replace(tr("put back"), kept); // and what is as before is no change any more
}

} // namespace wirenote::app
