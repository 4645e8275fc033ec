// The lanes that tell where in the piece one is: form, count, sound.
#pragma once

#include "app/strip/lane.h"

namespace wirenote::app {

class FormLane : public Lane {
  public:
    using Lane::Lane;
    QString name() const override;
    int height() const override { return 24; }
    void paint(QPainter& painter, const LaneArea& area) const override;
};

class CountLane : public Lane {
  public:
    using Lane::Lane;
    QString name() const override;
    int height() const override { return 26; }
    void paint(QPainter& painter, const LaneArea& area) const override;
};

class SoundLane : public Lane {
  public:
    SoundLane(Workbench& bench, int height) : Lane(bench), m_height(height) {}
    QString name() const override;
    int height() const override { return m_height; }
    void paint(QPainter& painter, const LaneArea& area) const override;

  private:
    int m_height;
};

// Bar lines and beats through every lane.
void paintBarLines(QPainter& painter, const Workbench& bench, const LaneArea& area);

} // namespace wirenote::app
