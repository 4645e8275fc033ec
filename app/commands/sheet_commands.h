#pragma once

#include "piece/note.h"
#include "piece/sheet_marks.h"
#include "piece/sheet_style.h"
#include "piece/timeline_map.h"

#include <QObject>
#include <functional>
#include <optional>
#include <vector>

namespace wirenote::app {

class Document;
class Selection;
class Transport;

// What a person does to the sheet: what stands on it, in which voice notes are written, and going
// over it from beat to beat, bar to bar and string to string. One step to undo each edit.
class SheetCommands : public QObject {
    Q_OBJECT
  public:
    SheetCommands(Document& document, Selection& selection, Transport& transport);

    SheetStyle style() const;
    void change(const QString& what, const std::function<void(SheetStyle&)>& change);

    // The chosen notes go to the other voice than the first of them is written in.
    void otherVoice();
    void voiceAsFound();

    void stepBeat(int beats); // to the first note that begins at or after it
    void stepBar(int bars);
    void stepString(int strings); // among what is struck together; +1: to a thicker one

    // A note that is chosen on the page: what is heard next begins there.
    void choose(NoteId note);
    // Names of chords from the bar of the chosen note on (from bar 1 where none is), bar by bar:
    // "C | G7 | Am F | C"; several of a bar share it evenly, "-" goes on. An empty text of a bar
    // leaves it as it is. Says no with one sentence.
    bool typeChart(const QString& chart);

    // A mark over the chosen notes, as it is typed (piece/sheet_marks): what goes on, from the
    // first to the last of them; all else at the first.
    bool typeMark(const QString& text);
    void putMarks(const std::vector<SheetMark>& marks);
    // Those that begin at the chosen notes go.
    void clearMarks();

  private:
    struct Standing {
        double at = 0.0; // quarter notes from bar 1
        GridBar bar;
    };
    std::optional<Standing> standing(const TimelineMap& map);
    std::optional<TimeRange> chosenSpan() const; // from the first onset to the last
    void setVoice(const QString& what, std::optional<Voice> voice);
    void chooseFrom(double time_s, bool forwards);

    Document& m_document;
    Selection& m_selection;
    Transport& m_transport;
};

} // namespace wirenote::app
