#pragma once

#include <QObject>
#include <QString>

class QWidget;

namespace wirenote::app {

class Banner;
class Document;

// Keeping the piece, and handing it on.
class Exporting : public QObject {
    Q_OBJECT
  public:
    Exporting(Document& document, Banner& banner, QWidget* window);

    bool save(); // asks for a name the first time; false when nothing was saved
    bool saveAs();
    bool saveTo(const QString& path);
    void askAndExport(); // MusicXML, MIDI, tab as text, notes JSON, JAMS or PDF, by ending
    bool exportTo(const QString& path);

  private:
    Document& m_document;
    Banner& m_banner;
    QWidget* m_window;
};

} // namespace wirenote::app
