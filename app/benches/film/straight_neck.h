#pragma once

#include <QWidget>

namespace wirenote::app {

class Document;
class FilmCommands;
class PictureView;

// The neck of the picture that is shown, laid straight and to scale, with the lines of frets and
// strings where they should be: what fits there fits everywhere.
class StraightNeck : public QWidget {
    Q_OBJECT
  public:
    StraightNeck(PictureView& picture, Document& document, FilmCommands& commands);
    QSize sizeHint() const override { return {420, 76}; }

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    PictureView& m_picture;
    Document& m_document;
    FilmCommands& m_commands;
};

} // namespace wirenote::app
