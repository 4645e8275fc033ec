#pragma once

#include "app/benches/readings/when_seen.h"
#include "app/card.h"

namespace wirenote::app {

class Document;
class RowList;
class Selection;

// What stays open on purpose, what may be left out or must land, and which written files are out of
// date: all that is said of the piece and asked of nobody.
class OpenList : public QWidget {
    Q_OBJECT
  public:
    OpenList(Document& document, Selection& selection, QWidget* parent = nullptr);

  private:
    void rebuild();
    void addNotes();
    void addFiles();

    Document& m_document;
    Selection& m_selection;
    RowList* m_list;
    WhenSeen m_soon;
};

} // namespace wirenote::app
