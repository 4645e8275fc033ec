#include "app/folding.h"

#include <algorithm>

namespace wirenote::app {

QScrollArea* scrolled(QWidget* card) {
    auto* area = new QScrollArea;
    area->setFrameShape(QFrame::NoFrame);
    area->setWidgetResizable(true);
    area->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    area->setWidget(card);
    area->setFocusPolicy(Qt::NoFocus);
    return area;
}

QScrollArea* folded(QWidget* card) {
    class Folded : public QScrollArea {
      public:
        explicit Folded(QWidget* inside) {
            setFrameShape(QFrame::NoFrame);
            setWidgetResizable(true);
            setFocusPolicy(Qt::NoFocus);
            setWidget(inside);
            setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Maximum);
        }
        QSize sizeHint() const override { return widget()->sizeHint(); }
        QSize minimumSizeHint() const override {
            return {100, std::min(60, widget()->sizeHint().height())};
        }
    };
    return new Folded(card);
}

} // namespace wirenote::app
