#pragma once

#include <QObject>
#include <QString>
#include <functional>

class QWidget;

namespace wirenote::app {

class Banner;
class Derived;
class Document;

// Keeping the piece, and handing it on.
class Exporting : public QObject {
    Q_OBJECT
  public:
    Exporting(Document& document, Derived& derived, Banner& banner, QWidget* window);

    bool save(); // asks for a name the first time; false when nothing was saved
    bool saveAs();
    bool saveTo(const QString& path);
    // What to do when the file was changed by somebody else; asks the person unless a test answers.
    enum class Conflict { SaveAs, Overwrite, Leave };
    void setConflictAnswer(std::function<Conflict(const QString&)> answer) {
        m_answer = std::move(answer);
    }
    void askAndExport(); // MusicXML, MIDI, tab as text, notes JSON, JAMS or PDF, by ending
    bool exportTo(const QString& path);

  private:
    Document& m_document;
    Derived& m_derived;
    Banner& m_banner;
    QWidget* m_window;
    std::function<Conflict(const QString&)> m_answer;
};

} // namespace wirenote::app
