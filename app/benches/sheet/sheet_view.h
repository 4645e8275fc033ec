#pragma once

#include "app/workbench.h"
#include "score/tab_page.h"

#include <QScrollArea>
#include <QTimer>

namespace wirenote::app {

// The tab page as it will be printed.
class SheetView : public QScrollArea {
    Q_OBJECT
  public:
    explicit SheetView(Workbench bench, QWidget* parent = nullptr);

  protected:
    void resizeEvent(QResizeEvent* event) override;
    void showEvent(QShowEvent* event) override;

  private:
    class Paper;
    void layOut();
    Workbench m_bench;
    Paper* m_paper;
    QTimer m_soon;
};

} // namespace wirenote::app
