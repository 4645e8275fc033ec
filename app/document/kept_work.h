#pragma once

#include <QObject>
#include <filesystem>
#include <functional>

class QWidget;

namespace wirenote::app {

class Banner;
class Document;
class JournalKeeper;

// Offers what a program that ended without saving left behind.
class KeptWork : public QObject {
    Q_OBJECT
  public:
    KeptWork(Document& document, JournalKeeper& keeper, Banner& banner, QWidget* window);

    // Asks when there is something; false when there is nothing to ask about.
    bool offer();
    void open(const std::filesystem::path& journal);
    void throwAway(const std::filesystem::path& journal);

  signals:
    void wanted(const std::function<void()>& go_on); // asks the window to save first

  private:
    Document& m_document;
    JournalKeeper& m_keeper;
    Banner& m_banner;
    QWidget* m_window;
};

} // namespace wirenote::app
