#pragma once

#include "app/job_runner.h"

#include <QObject>
#include <QString>
#include <functional>

class QWidget;

namespace wirenote::app {

class Banner;
class Document;

// Bringing something in: a recording, a piece, a file of notes, or a recording that was moved.
class Opening : public QObject {
    Q_OBJECT
  public:
    Opening(Document& document, JobRunner& jobs, Banner& banner, QWidget* window);

    void open(const QString& path); // off the interface thread
    void askAndOpen();              // file dialog
    void openDemo();                // made on the first call
    void hearAnew();                // the take again, as the piece's instrument: a new tab
    void askForRecording();         // the moved recording of the open piece
    void useRecording(const QString& path);

    static QString demoFolder();

  signals:
    void wanted(const QString& path,
                const std::function<void()>& go_on); // asks the window to save first

  private:
    Document& m_document;
    JobRunner& m_jobs;
    Banner& m_banner;
    QWidget* m_window;
};

} // namespace wirenote::app
