#pragma once

#include "app/theme.h"

#include <QLabel>
#include <QPainter>

namespace wirenote::app {

// One line of words that ends in dots where there is no room for all of it; the tool tip has it
// all.
class ElidedLabel : public QLabel {
  public:
    ElidedLabel(double points, bool strong, const QColor& colour) : m_colour(colour) {
        setFont(uiFont(points, strong));
        setMinimumWidth(40);
        setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    }

  protected:
    void paintEvent(QPaintEvent*) override {
        QPainter painter(this);
        painter.setPen(m_colour);
        painter.drawText(rect(),
                         Qt::AlignVCenter | Qt::AlignLeft,
                         fontMetrics().elidedText(text(), Qt::ElideRight, width()));
        if (toolTip().isEmpty() && fontMetrics().horizontalAdvance(text()) > width())
            setToolTip(text());
    }

  private:
    QColor m_colour;
};

} // namespace wirenote::app
