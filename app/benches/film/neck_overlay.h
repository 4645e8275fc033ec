#pragma once

#include "piece/film_facts.h"
#include "piece/seen.h"
#include "seeing/neck_plane.h"

#include <QWidget>
#include <array>
#include <optional>

namespace wirenote::app {

class Document;
class FilmCommands;
class PictureView;
class Selection;

// Over the picture of a film: where the neck is taken to lie, what is seen at the chosen note, and
// the points by which a person gives the neck or shows a place.
class NeckOverlay : public QWidget {
    Q_OBJECT
  public:
    enum class Mode { Look, Show, Give };

    NeckOverlay(PictureView& picture,
                Document& document,
                Selection& selection,
                FilmCommands& commands);

    Mode mode() const { return m_mode; }
    void setMode(Mode mode);
    // Which wires the points are on, while the neck is given; the nut may be out of the picture.
    void setWires(int first, int second);
    // The four points as they lie, as a frame; nothing where they are no neck.
    std::optional<NeckFrame> given() const;
    // Points of the film on the widget, and back.
    QPointF toWidget(PicturePoint at) const;
    PicturePoint toFilm(QPointF at) const;

  signals:
    void pointed(double film_s, PicturePoint at); // in mode Show
    void accepted();                              // Return, in mode Give
    void modeChanged();

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    bool event(QEvent* event) override;
    bool eventFilter(QObject* watched, QEvent* event) override;

  private:
    NeckPlane plane() const;
    bool shows() const; // a picture of a take
    std::optional<Homography> neckShown() const;
    void layPoints(); // where the neck is taken to lie, or across the middle
    void paintNeck(QPainter& painter, const Homography& neck) const;
    void paintSeen(QPainter& painter, const Homography& neck) const;
    void paintTips(QPainter& painter, const Homography& neck, const SeenFacts& seen) const;
    void paintStroke(QPainter& painter, const Homography& neck, const SeenFacts& seen) const;
    void paintPoints(QPainter& painter) const;

    PictureView& m_picture;
    Document& m_document;
    Selection& m_selection;
    FilmCommands& m_commands;
    Mode m_mode = Mode::Look;
    std::array<int, 2> m_wires = {0, 12};
    std::array<PicturePoint, 4> m_points{}; // first wire: thick, thin; second wire likewise
    int m_point = 0;                        // the one that keys move
    bool m_dragging = false;
};

} // namespace wirenote::app
