#pragma once

#include "app/theme.h"

#include <QFrame>
#include <QLabel>
#include <QPainter>
#include <QVBoxLayout>

namespace wirenote::app {

// A sheet of paper on the bench.
class Card : public QFrame {
  public:
    explicit Card(QWidget* parent = nullptr) : QFrame(parent) {
        setContentsMargins(16, 14, 16, 14);
        setLayout(new QVBoxLayout);
        layout()->setContentsMargins(0, 0, 0, 0);
        layout()->setSpacing(8);
    }
    QVBoxLayout* column() { return static_cast<QVBoxLayout*>(layout()); }

    static QLabel* label(const QString& text, double points, bool strong, const QColor& colour) {
        auto* label = new QLabel(text);
        label->setFont(uiFont(points, strong));
        label->setWordWrap(true);
        QPalette palette = label->palette();
        palette.setColor(QPalette::WindowText, colour);
        label->setPalette(palette);
        return label;
    }

  protected:
    void paintEvent(QPaintEvent*) override {
        QPainter painter(this);
        painter.setRenderHint(QPainter::Antialiasing);
        painter.setPen(theme().line);
        painter.setBrush(theme().paper);
        painter.drawRoundedRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), 6, 6);
    }
};

} // namespace wirenote::app
