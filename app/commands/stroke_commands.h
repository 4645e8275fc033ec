#pragma once

#include "piece/note.h"

#include <QObject>
#include <utility>
#include <vector>

namespace wirenote::app {

class Document;
class Selection;

// What a person does to the plucking hand of several notes at a time; one step to undo each.
class StrokeCommands : public QObject {
    Q_OBJECT
  public:
    StrokeCommands(Document& document, Selection& selection);

    // These notes get these strokes, and are chosen.
    void setStrokes(const std::vector<std::pair<NoteId, Stroke>>& strokes);
    // The stroke of one note goes on to all struck notes up to a moment, before or after it.
    void paintFrom(NoteId from, double until_s);
    void markAccents(const std::vector<NoteId>& notes);

  private:
    Document& m_document;
    Selection& m_selection;
};

} // namespace wirenote::app
