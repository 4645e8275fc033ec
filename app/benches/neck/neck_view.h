#pragma once

#include "app/benches/neck/neck_harmony.h"
#include "form/scale_places.h"
#include "music/instrument.h"
#include "music/scales.h"
#include "piece/note.h"

#include <QStringList>
#include <QWidget>
#include <optional>
#include <vector>

namespace wirenote::app {

class Derived;
class Document;
class Selection;
class Transport;

// The neck, true to scale: the hand now, what still rings, where the hand goes next.
class NeckView : public QWidget {
    Q_OBJECT
  public:
    NeckView(Document& document,
             Selection& selection,
             Transport& transport,
             Derived& derived,
             QWidget* parent = nullptr);
    QSize sizeHint() const override { return {1200, 190}; }
    void showHarmony(NeckHarmony what);
    NeckHarmony harmony() const { return m_harmony; }
    QString harmonyText() const; // what lies under the hand, in words

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    struct Moment; // what the hand does at one time
    Moment momentNow() const;
    double fretX(int fret) const;         // of the fret wire, counted from the nut
    double dotX(Position position) const; // where the finger stands: a little behind its fret
    double stringY(int string) const;
    QRectF board() const;
    void paintBoard(QPainter& painter) const;
    void paintHand(QPainter& painter, const Moment& moment) const;
    void paintWords(QPainter& painter, const Moment& moment) const;
    void paintBarres(QPainter& painter, const Moment& moment) const;
    QStringList shapeTexts(const Moment& moment) const;
    void askScale();
    void layHarmony();
    void layScale();
    void layChord();
    void paintHarmony(QPainter& painter, const Moment& moment) const;
    double dotRadius() const;
    void paintDot(QPainter& painter, const NotePlan& plan, bool now, bool next) const;

    Document& m_document;
    Selection& m_selection;
    Transport& m_transport;
    Derived& m_derived;
    NeckHarmony m_harmony = NeckHarmony::None;
    std::optional<Scale> m_scale;  // of the loop, or the piece
    std::optional<KeyGuess> m_key; // of the piece
    std::vector<ScalePlace> m_marks; // of the harmony that is shown
    int m_root = 0;                  // pitch class
    QString m_harmony_text;
};

} // namespace wirenote::app
