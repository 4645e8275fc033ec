#pragma once

#include <QObject>

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
    void bringIntoView(double time_s); // moves by pages, so that the eye keeps its place

  signals:
    void changed();

  private:
    double m_start_s = 0.0;
    double m_span_s = 8.0;
    double m_length_s = 8.0;
};

} // namespace wirenote::app
