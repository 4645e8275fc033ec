#pragma once

#include <QWidget>
#include <optional>

namespace wirenote::app {

class Derived;
class Document;
class PulseCommands;
class TimeView;
class Transport;

// The whole piece on one line, to scale: its parts, bars, the stretch in sight, the loop and the
// playhead. A click goes there, a drag makes a loop, a double click loops a part.
class MapView : public QWidget {
    Q_OBJECT
  public:
    MapView(Document& document,
            TimeView& time,
            Transport& transport,
            Derived& derived,
            PulseCommands& pulse,
            QWidget* parent = nullptr);
    QSize sizeHint() const override { return {600, 30}; }

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;

  private:
    double xOf(double time_s) const;
    double timeAt(double x) const;
    void paintParts(QPainter& painter) const;
    void paintTalk(QPainter& painter) const;

    Document& m_document;
    TimeView& m_time;
    Transport& m_transport;
    Derived& m_derived;
    PulseCommands& m_pulse;
    std::optional<double> m_pressed_s;
    bool m_dragged = false;
};

} // namespace wirenote::app
