#pragma once

#include "app/card.h"
#include "app/document/job_runner.h"
#include "piece/piece.h"

#include <QComboBox>
#include <QImage>
#include <QPushButton>
#include <QScrollArea>
#include <QSpinBox>

namespace wirenote::app {

class Document;
class Transport;

// A score on paper beside the take: its pages, pinned to bars by clicks, follow the playhead like
// any take. A click while bars are pinned says where the next one begins.
class PaperView : public QWidget {
    Q_OBJECT
  public:
    PaperView(Document& document, Transport& transport, QWidget* parent = nullptr);
    void addPages(const QString& file);
    void pinAt(QPointF share); // of the page's width and height

  private:
    class Sheet;
    QWidget* buildRow();
    void askForPages();
    const PaperScore* paper() const;
    void offerPapers();
    void showPage(int page);
    void follow(); // the playhead
    void refreshPinning();
    void jumpTo(QPointF share);

    Document& m_document;
    Transport& m_transport;
    JobRunner m_pages; // drawn beside the window, the latest wish only
    QComboBox* m_papers;
    QPushButton* m_pin;
    QSpinBox* m_bar; // to be pinned next
    QPushButton* m_unpin;
    QPushButton* m_remove;
    QPushButton* m_back;
    QPushButton* m_on;
    QLabel* m_said;
    QScrollArea* m_scroll;
    Sheet* m_sheet;
    int m_page = 0;
    int m_count = 0;
    QString m_shown; // file and page that are drawn, or on the way
};

} // namespace wirenote::app
