// The lanes that show the sound of the take that is heard: outline, pitches over time.
#pragma once

#include "app/strip/lane.h"
#include "piece/take.h"

namespace wirenote::app {

class Document;
class TakeCommands;
class TakeSounds;
class Transport;

// Loudness of the take that is heard.
class SoundLane : public Lane {
  public:
    SoundLane(Document& document,
              Transport& transport,
              TakeSounds& sounds,
              TakeCommands& takes,
              int height);
    QString name() const override;
    int height() const override { return m_height; }
    int leastHeight() const override { return m_height / 2; }
    int importance() const override { return 1; }
    void paint(QPainter& painter, const LaneArea& area) const override;
    QString tellAt(QPointF at, const LaneArea& area) const override;
    Press press(QPointF at, const LaneArea& area, Qt::KeyboardModifiers held) override;
    Qt::CursorShape cursorAt(QPointF at, const LaneArea& area) const override;

  private:
    std::optional<double> edgeAt(QPointF at, const LaneArea& area) const;
    void paintTalk(QPainter& painter, const LaneArea& area, const Take& take) const;

    Document& m_document;
    Transport& m_transport;
    TakeSounds& m_sounds;
    TakeCommands& m_takes;
    int m_height;
};

// Pitch upwards, time to the right, loudness as ink; in tune with the take's own reference.
class PitchLane : public Lane {
  public:
    PitchLane(Document& document, Transport& transport, TakeSounds& sounds, int height);
    QString name() const override { return {}; }
    int height() const override { return m_height; } // 0: takes the room that is left
    int leastHeight() const override { return m_height / 3; }
    int importance() const override { return 2; }
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

    Document& m_document;
    Transport& m_transport;
    TakeSounds& m_sounds;
    int m_height;
};

} // namespace wirenote::app
