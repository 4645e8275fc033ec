// The lanes that tell where in the piece one is: form, count.
#pragma once

#include "app/strip/lane.h"
#include "piece/timeline.h"

#include <optional>

namespace wirenote::app {

class Derived;
class Document;
class PulseCommands;

class FormLane : public Lane {
  public:
    FormLane(Document& document, Derived& derived);
    QString name() const override;
    int height() const override { return 24; }
    void paint(QPainter& painter, const LaneArea& area) const override;
    QString tellAt(QPointF at, const LaneArea& area) const override;

  private:
    void paintDifferences(QPainter& painter, const LaneArea& area) const;
    void paintBarNumbers(QPainter& painter, const LaneArea& area, bool short_ones) const;

    Document& m_document;
    Derived& m_derived;
};

class CountLane : public Lane {
  public:
    CountLane(Document& document, Derived& derived, PulseCommands& pulse);
    QString name() const override;
    int height() const override { return 26; }
    void paint(QPainter& painter, const LaneArea& area) const override;
    QString tellAt(QPointF at, const LaneArea& area) const override;
    Press press(QPointF at, const LaneArea& area, Qt::KeyboardModifiers held) override;

  private:
    std::optional<int> beatAt(double x, const LaneArea& area) const;

    Document& m_document;
    Derived& m_derived;
    PulseCommands& m_pulse;
};

// Bar lines and beats through every lane.
void paintBarLines(QPainter& painter, const Timeline& timeline, const LaneArea& area);

} // namespace wirenote::app
