#pragma once

#include "app/document/job_runner.h"

#include <QObject>
#include <QString>
#include <QStringList>
#include <functional>

class QWidget;

namespace wirenote {
struct BetterCopy;
struct FoundRecording;
} // namespace wirenote

namespace wirenote::app {

class Banner;
class Document;
class TakeCommands;
class Transport;
struct ChosenRecording;

// Bringing something in: a recording, a piece, a file of notes, or a recording that was moved.
class Opening : public QObject {
    Q_OBJECT
  public:
    Opening(Document& document,
            TakeCommands& takes,
            Transport& transport,
            JobRunner& jobs,
            Banner& banner,
            QWidget* window);

    void open(const QString& path);                          // off the interface thread
    void open(const QString& path, const QStringList& more); // more: recordings, as its takes
    // Recordings dropped or chosen together, or a folder of them: with a piece open they become its
    // takes; otherwise the first opens and the others are added.
    void openMany(const QStringList& paths);
    void askAndAdd();  // file dialog: more takes of the open piece
    void askAndOpen(); // file dialog
    void openDemo();   // made on the first call
    // The recording of the take that is heard, where it was moved to, or another copy of it: a
    // better one, one with a film.
    void askForRecording();
    void useRecording(const QString& path);

    static QString demoFolder();

  signals:
    void wanted(const QString& path,
                const std::function<void()>& go_on); // asks the window to save first

  private:
    void adopt(std::size_t take, ChosenRecording chosen);
    void useFound(std::size_t take, FoundRecording found);
    void useCopy(std::size_t take, BetterCopy copy);

    Document& m_document;
    TakeCommands& m_takes;
    Transport& m_transport;
    JobRunner& m_jobs;
    Banner& m_banner;
    QWidget* m_window;
};

} // namespace wirenote::app
