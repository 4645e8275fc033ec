#pragma once

#include "piece/note.h"
#include "strings/string_traits.h"

#include <QWidget>
#include <vector>

namespace wirenote::app {

// How stiff a note sounds (a line across) against what each string would make it (a bar a string),
// each with how sure it is.
class StiffnessView : public QWidget {
    Q_OBJECT
  public:
    StiffnessView(HeardStiffness heard,
                  std::vector<ExpectedStiffness> expected,
                  int chosen_string,
                  QWidget* parent = nullptr);
    QSize sizeHint() const override;

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    double xOf(double log_b) const;

    HeardStiffness m_heard;
    std::vector<ExpectedStiffness> m_expected;
    int m_chosen;
    double m_low = 0.0; // of the axis
    double m_high = 1.0;
};

} // namespace wirenote::app
