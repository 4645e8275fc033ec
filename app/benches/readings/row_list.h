#pragma once

#include "app/card.h"

#include <QTreeWidget>
#include <functional>
#include <vector>

namespace wirenote::app {

// Rows of texts under headings, each of which leads to what it tells of: Enter or a click.
class RowList : public QWidget {
    Q_OBJECT
  public:
    RowList(const QString& name, const QStringList& headings, QWidget* parent = nullptr);

    void clear(const QString& nothing); // what is said while there is no row
    QTreeWidgetItem* add(const QStringList& cells, std::function<void()> go);
    void fit();  // columns as wide as they need, the last one takes the rest
    void wrap(); // long texts take more lines instead of an end in dots
    QTreeWidget& rows() { return *m_rows; }
    int current() const; // index of the row; −1: none

  private:
    void lead(QTreeWidgetItem* item);

    QTreeWidget* m_rows;
    QLabel* m_nothing;
    std::vector<std::function<void()>> m_go; // by row
};

} // namespace wirenote::app
