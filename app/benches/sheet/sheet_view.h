#pragma once

#include "score/tab_page.h"

#include <QScrollArea>
#include <QTimer>

namespace wirenote::app {

class Derived;
class Document;

// The tab page as it will be printed.
class SheetView : public QScrollArea {
    Q_OBJECT
  public:
    SheetView(Document& document, Derived& derived, QWidget* parent = nullptr);

  protected:
    void resizeEvent(QResizeEvent* event) override;
    void showEvent(QShowEvent* event) override;

  private:
    class Paper;
    void layOut();
    Document& m_document;
    Derived& m_derived;
    int m_asked = 0; // how many layouts were
    Paper* m_paper;
    QTimer m_soon;
};

} // namespace wirenote::app
