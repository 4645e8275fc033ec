#include "app/benches/readings/open_list.h"

#include "app/benches/readings/row_list.h"
#include "app/document/document.h"
#include "app/document/selection.h"
#include "app/text/reading_wording.h"
#include "app/text/wording.h"
#include "piece/doubts.h"
#include "piece/timeline_map.h"
#include "session/exporting.h"

#include <algorithm>

namespace wirenote::app {

OpenList::OpenList(Document& document, Selection& selection, QWidget* parent)
    : QWidget(parent), m_document(document), m_selection(selection),
      m_list(new RowList(tr("Left open, optional, written"), {tr("Bar"), tr("What"), tr("Said")})),
      m_soon(*this, [this] { rebuild(); }) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->addWidget(m_list, 1);
    m_list->rows().setObjectName("openRows");
    connect(&document, &Document::opened, this, [this] { m_soon.wish(); });
    connect(&document, &Document::changed, this, [this] { m_soon.wish(); });
    m_soon.wish();
}

void OpenList::rebuild() {
    m_list->clear(
        tr("Nothing is left open on purpose (Shift+Enter at a doubt), no note was said to "
           "be optional (Shift+O), and no file was written yet."));
    addNotes();
    addFiles();
    m_list->fit();
}

void OpenList::addNotes() {
    const Piece& piece = m_document.piece();
    const TimelineMap map(piece.timeline);
    const auto add = [&](const Note& note, const QString& what, const QString& said) {
        m_list->add({QString::number(map.barBeatAt(note.onset_s() + 0.03).bar), what, said},
                    [this, id = note.id] { m_selection.choose(id); });
    };
    for (const Note& note : piece.notes) {
        for (const LeftOpen& one : note.left_open)
            add(note,
                tr("left open: %1").arg(doubtText(one.kind)),
                QString::fromStdString(one.word));
        if (note.need.kind != Necessity::Ordinary)
            add(note, needText(note.need), QString());
    }
}

void OpenList::addFiles() {
    const std::vector<Exported> old = outOfDate(m_document.whole());
    for (const Exported& file : m_document.whole().exported) {
        const bool is_old = std::ranges::find(old, file) != old.end();
        m_list->add(
            {QString(),
             is_old ? tr("written, and out of date") : tr("written"),
             tr("%1, from “%2”")
                 .arg(QString::fromStdString(file.path), QString::fromStdString(file.reading))},
            {});
    }
}

} // namespace wirenote::app
