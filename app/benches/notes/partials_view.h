#pragma once

#include "signal/stiffness_meter.h"
#include "strings/string_traits.h"

#include <QWidget>
#include <vector>

namespace wirenote::app {

// How far each partial of a note lies above the whole multiple of its fundamental, with the curve
// of the string that fits, and those of the strings it might lie on. Partials that were taken for
// another sound's are hollow.
class PartialsView : public QWidget {
    Q_OBJECT
  public:
    PartialsView(StiffnessFit fit,
                 std::vector<ExpectedStiffness> expected,
                 int chosen_string,
                 QWidget* parent = nullptr);
    QSize sizeHint() const override { return {200, 150}; }
    const StiffnessFit& fit() const { return m_fit; }

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    void paintAxes(QPainter& painter) const;
    void paintStrings(QPainter& painter) const;
    double xOf(double partial) const;
    double yOf(double cents) const;

    StiffnessFit m_fit;
    std::vector<ExpectedStiffness> m_expected;
    int m_chosen;
    int m_partials = 8; // on the axis
    double m_low = -5.0;
    double m_high = 20.0; // cents on the axis
};

} // namespace wirenote::app
