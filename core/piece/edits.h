// What a person can do to a piece. Each edit changes the piece it is given or refuses with one
// sentence; a refused edit changes nothing. The caller keeps the difference for undo, and re-solves
// the neighbourhood. What is decided here has basis "set".
#pragma once

#include "piece/piece.h"

#include <string>

namespace wirenote {

class PieceEditor {
  public:
    // `when` is the time written into the decision log (ISO 8601, UTC).
    PieceEditor(Piece& piece, std::string when) : m_piece(piece), m_when(std::move(when)) {}

    Status moveToString(NoteId id, int string); // same pitch on another string
    Status setFret(NoteId id, int fret);        // same string, pitch follows
    Status setPitch(NoteId id, int midi);       // the placement is open again
    Status setTime(NoteId id, TimeRange time);  // at least 10 ms, not before 0
    Status setFinger(NoteId id, Finger finger);
    Status setStroke(NoteId id, Stroke stroke);
    Status toggleTechnique(NoteId id, Technique technique);
    Status split(NoteId id, double at_s); // the second half is struck again
    Status joinWithNext(NoteId id);       // the next note is taken into this one
    Result<NoteId> add(TimeRange time, int midi, std::optional<Position> position);
    Status remove(NoteId id);
    Status accept(NoteId id);                 // it is right as it stands
    Status setReference(double a4_hz);        // 380–480 Hz; the notes keep what they sound
    Status setTempo(double bpm, Metre metre); // evenly spaced beats from the present beat 1
    Status setDownbeat(NoteId id);            // this note is "1" of bar 1
    Status
    setInstrument(const Instrument& instrument); // placements off the new neck are open again

  private:
    Status located(NoteId id, std::size_t& index) const;
    void log(std::string what, NoteId id);
    void keepOrder();

    Piece& m_piece;
    std::string m_when;
};

} // namespace wirenote
