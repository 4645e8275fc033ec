#pragma once

#include <QObject>
#include <optional>

namespace wirenote::app {

// The one time axis: which stretch of the piece is shown.
class TimeView : public QObject {
    Q_OBJECT
  public:
    static constexpr double kShortest_s = 2.0;

    double start_s() const { return m_start_s; }
    double span_s() const { return m_span_s; }
    double end_s() const { return m_start_s + m_span_s; }
    double length_s() const { return m_length_s; }

    void setLength(double length_s);          // of the whole piece
    void show(double start_s, double span_s); // clamped
    void zoom(double factor, double around_s);
    void pan(double seconds);
    void showAll();
    // Where the pointer is on the strip; nothing while it is elsewhere.
    std::optional<double> pointed_s() const { return m_pointed_s; }
    void point(std::optional<double> time_s) { m_pointed_s = time_s; }
    void bringIntoView(double time_s); // moves by pages, so that the eye keeps its place

  signals:
    void changed();

  private:
    double m_start_s = 0.0;
    double m_span_s = 8.0;
    double m_length_s = 8.0;
    std::optional<double> m_pointed_s;
};

} // namespace wirenote::app
