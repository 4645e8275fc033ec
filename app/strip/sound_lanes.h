// The lanes that show the sound of the takes: outline, pitches over time, and the takes under each
// other.
#pragma once

#include "app/strip/lane.h"

namespace wirenote::app {

// Loudness of the take that is heard.
class SoundLane : public Lane {
  public:
    SoundLane(Workbench& bench, int height) : Lane(bench), m_height(height) {}
    QString name() const override;
    int height() const override { return m_height; }
    void paint(QPainter& painter, const LaneArea& area) const override;

  private:
    int m_height;
};

// Pitch upwards, time to the right, loudness as ink; in tune with the take's own reference.
class PitchLane : public Lane {
  public:
    PitchLane(Workbench& bench, int height) : Lane(bench), m_height(height) {}
    QString name() const override { return {}; }
    int height() const override { return m_height; } // 0: takes the room that is left
    void paint(QPainter& painter, const LaneArea& area) const override;
    void paintGutter(QPainter& painter, const LaneArea& area, double gutter) const override;
    QString tellAt(QPointF at, const LaneArea& area) const override;

  private:
    struct Range {
        double low_midi = 38.0;
        double high_midi = 90.0;
    };
    Range range() const; // of the instrument, with its first partials
    double yOf(double midi, const LaneArea& area) const;
    double midiAt(double y, const LaneArea& area) const;
    void paintTiles(QPainter& painter, const LaneArea& area, int level, double fade) const;

    int m_height;
};

// Each take where it lies on the time of the piece. Drag one to move it.
class TakesLane : public Lane {
  public:
    using Lane::Lane;
    static constexpr int kRow = 46;
    QString name() const override { return {}; }
    int height() const override;
    void paint(QPainter& painter, const LaneArea& area) const override;
    void paintGutter(QPainter& painter, const LaneArea& area, double gutter) const override;
    QString tellAt(QPointF at, const LaneArea& area) const override;
    int takeAt(double y, const LaneArea& area) const; // −1: none

  private:
    void paintTake(QPainter& painter, const LaneArea& area, std::size_t take) const;
};

} // namespace wirenote::app
