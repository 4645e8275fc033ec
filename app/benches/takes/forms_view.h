#pragma once

#include "form/form_comparison.h"

#include <QWidget>
#include <optional>

namespace wirenote::app {

class Derived;
class Document;
class Playings;
class Transport;

// Two maps, one over the other: the piece and another take of it, each on its own time, with bands
// from what one has to where the other has it. A click hears what is there.
class FormsView : public QWidget {
    Q_OBJECT
  public:
    FormsView(Document& document,
              Derived& derived,
              Transport& transport,
              Playings& playings,
              QWidget* parent = nullptr);
    QSize sizeHint() const override { return {600, 118}; }
    const FormComparison& shown() const { return m_forms; }

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;

  private:
    void refresh();
    double pieceX(double piece_s) const;
    double takeX(double take_s) const;
    void paintPiece(QPainter& painter) const;
    void paintTake(QPainter& painter) const;
    void paintBands(QPainter& painter) const;
    void paintHeads(QPainter& painter) const;

    Document& m_document;
    Derived& m_derived;
    Transport& m_transport;
    Playings& m_playings;
    FormComparison m_forms;
    std::size_t m_take = 1;
};

} // namespace wirenote::app
