#pragma once

#include "app/rail.h"
#include "app/strip/lane.h"

#include <memory>
#include <vector>

namespace wirenote::app {

class ChordCommands;
class Derived;
class Document;
class EditCommands;
class LessonBook;
class LessonCommands;
class PulseCommands;
class Selection;
class StrokeCommands;
class TakeCommands;
class TakeSounds;
class Transport;

// Which lanes each bench lays on the strip, from top to bottom: here a new lane is added.
class BenchLanes {
  public:
    BenchLanes(Document& document,
               Selection& selection,
               Derived& derived,
               Transport& transport,
               TakeSounds& sounds,
               EditCommands& edits,
               StrokeCommands& strokes,
               ChordCommands& chords,
               PulseCommands& pulse,
               TakeCommands& takes,
               LessonBook& book,
               LessonCommands& lesson)
        : m_document(document), m_selection(selection), m_derived(derived), m_transport(transport),
          m_sounds(sounds), m_edits(edits), m_strokes(strokes), m_chords(chords), m_pulse(pulse),
          m_takes(takes), m_book(book), m_lesson(lesson) {}

    std::vector<std::unique_ptr<Lane>> of(BenchKind bench) const;

  private:
    std::unique_ptr<Lane> wires() const;
    std::unique_ptr<Lane> strokes() const;

    Document& m_document;
    Selection& m_selection;
    Derived& m_derived;
    Transport& m_transport;
    TakeSounds& m_sounds;
    EditCommands& m_edits;
    StrokeCommands& m_strokes;
    ChordCommands& m_chords;
    PulseCommands& m_pulse;
    TakeCommands& m_takes;
    LessonBook& m_book;
    LessonCommands& m_lesson;
};

} // namespace wirenote::app
