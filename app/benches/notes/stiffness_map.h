#pragma once

#include "piece/note.h"

#include <QWidget>
#include <optional>

namespace wirenote::app {

class Derived;
class Document;
class EditCommands;
class Selection;

// How stiff every note of the piece sounds against its pitch, with the curves of the strings
// through it: what stands off its string's curve is in doubt. A click chooses the note and plays
// it; the number keys decide its string, as everywhere.
class StiffnessMap : public QWidget {
    Q_OBJECT
  public:
    StiffnessMap(Document& document,
                 Selection& selection,
                 EditCommands& commands,
                 Derived& derived,
                 QWidget* parent = nullptr);
    // Where a note stands, or nothing when its stiffness could not be measured.
    std::optional<QPointF> placeOf(NoteId note) const;

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;

  private:
    QRectF field() const;
    QPointF at(double midi, double log_b) const;
    void fitAxes();
    void paintCurves(QPainter& painter) const;
    void paintNotes(QPainter& painter) const;
    void paintAxes(QPainter& painter) const;

    Document& m_document;
    Selection& m_selection;
    EditCommands& m_commands;
    Derived& m_derived;
    double m_low_midi = 40.0;
    double m_high_midi = 86.0;
    double m_low_b = -12.0;
    double m_high_b = -6.0;
};

} // namespace wirenote::app
