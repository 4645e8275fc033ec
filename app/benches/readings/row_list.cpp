#include "app/benches/readings/row_list.h"

#include <QHeaderView>
#include <QStyledItemDelegate>
#include <algorithm>

namespace wirenote::app {

namespace {

// As high as a text needs in its column.
class WrappedText : public QStyledItemDelegate {
  public:
    explicit WrappedText(QTreeWidget& rows) : QStyledItemDelegate(&rows), m_rows(rows) {}

    QSize sizeHint(const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        constexpr int kMargin = 8; // pixels, of both sides
        constexpr int kHighest = 1000;
        const int width = std::max(1, m_rows.columnWidth(index.column()) - kMargin);
        const QRect text = option.fontMetrics.boundingRect(
            {0, 0, width, kHighest}, Qt::TextWordWrap, index.data().toString());
        const QSize one_line = QStyledItemDelegate::sizeHint(option, index);
        return {one_line.width(), std::max(one_line.height(), text.height() + kMargin / 2)};
    }

  private:
    QTreeWidget& m_rows;
};

} // namespace

RowList::RowList(const QString& name, const QStringList& headings, QWidget* parent)
    : QWidget(parent), m_rows(new QTreeWidget),
      m_nothing(Card::label({}, 9, false, theme().quiet)) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    m_rows->setAccessibleName(name);
    m_rows->setHeaderLabels(headings);
    m_rows->setRootIsDecorated(false);
    m_rows->setUniformRowHeights(true);
    m_rows->setAllColumnsShowFocus(true);
    m_rows->setFrameShape(QFrame::NoFrame);
    m_rows->header()->setStretchLastSection(true);
    m_nothing->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    column->addWidget(m_nothing, 1);
    column->addWidget(m_rows, 1);
    connect(m_rows, &QTreeWidget::itemActivated, this, &RowList::lead);
    connect(m_rows, &QTreeWidget::itemClicked, this, &RowList::lead);
}

void RowList::clear(const QString& nothing) {
    m_rows->clear();
    m_go.clear();
    m_nothing->setText(nothing);
    m_nothing->setVisible(true);
    m_rows->setVisible(false);
}

QTreeWidgetItem* RowList::add(const QStringList& cells, std::function<void()> go) {
    auto* item = new QTreeWidgetItem(cells);
    for (int c = 0; c < cells.size(); ++c)
        item->setToolTip(c, cells[c]);
    m_rows->addTopLevelItem(item);
    m_go.push_back(std::move(go));
    m_nothing->setVisible(false);
    m_rows->setVisible(true);
    return item;
}

void RowList::fit() {
    constexpr int kWidest = 190; // pixels; the rest of a longer text is in its tool tip
    for (int c = 0; c + 1 < m_rows->columnCount(); ++c) {
        m_rows->resizeColumnToContents(c);
        m_rows->setColumnWidth(c, std::min(kWidest, m_rows->columnWidth(c)));
    }
}

void RowList::wrap() {
    m_rows->setWordWrap(true);
    m_rows->setUniformRowHeights(false);
    m_rows->setItemDelegate(new WrappedText(*m_rows));
    // How high a row is follows from how wide its columns are.
    connect(m_rows->header(), &QHeaderView::sectionResized, m_rows, [this] {
        m_rows->doItemsLayout();
    });
}

int RowList::current() const {
    return m_rows->indexOfTopLevelItem(m_rows->currentItem());
}

void RowList::lead(QTreeWidgetItem* item) {
    const auto row = static_cast<std::size_t>(m_rows->indexOfTopLevelItem(item));
    if (row < m_go.size() && m_go[row])
        m_go[row]();
}

} // namespace wirenote::app
