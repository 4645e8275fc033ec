#pragma once

#include <QScrollArea>
#include <QTimer>

namespace wirenote::app {

class Derived;
class Document;
class Selection;
class SheetCommands;
class Transport;
struct SheetPoint;

// The pages as they will be printed. A click chooses a note; what is chosen and what sounds is
// shown on them.
class SheetView : public QScrollArea {
    Q_OBJECT
  public:
    SheetView(Document& document,
              Derived& derived,
              Selection& selection,
              Transport& transport,
              SheetCommands& commands,
              QWidget* parent = nullptr);

  protected:
    void resizeEvent(QResizeEvent* event) override;
    void showEvent(QShowEvent* event) override;

  private:
    class Paper;
    void layOut();
    void fit();
    void follow();
    void showChosen();
    void clicked(const SheetPoint& point, Qt::KeyboardModifiers modifiers);
    void doubleClicked(const SheetPoint& point);
    Document& m_document;
    Derived& m_derived;
    Selection& m_selection;
    Transport& m_transport;
    SheetCommands& m_commands;
    int m_asked = 0; // how many layouts were
    Paper* m_paper;
    QTimer m_soon;
};

} // namespace wirenote::app
