#include "session/hand_report.h"

#include "session/bar_of.h"

namespace wirenote {

HandReport handReport(const Piece& piece, NoteId id) {
    HandReport report;
    const Note* note = piece.note(id);
    if (!note)
        return report;
    const BarOf bar = barOf(piece, *note);
    report.bar = bar.number;
    report.tempo_bpm = piece.timeline.tempo_bpm;
    report.load = handLoad(piece.instrument, piece.rows(), bar.span);
    report.muted = muteMap(piece.instrument, piece.rows(), note->onset_s());
    return report;
}

namespace {

// One past the last for a note that is not there.
std::size_t rowOf(const Piece& piece, NoteId id) {
    const Note* note = piece.note(id);
    return note ? static_cast<std::size_t>(note - piece.notes.data()) : piece.notes.size();
}

} // namespace

NoteHold noteHold(const Piece& piece, NoteId id) {
    const auto row = rowOf(piece, id);
    return {otherConditions(
                piece.instrument, piece.rows(), piece.string_traits, piece.asPlayed().head, row),
            bendWay(piece.instrument, piece.rows(), row)};
}

GripShape gripShape(const Piece& piece, NoteId id) {
    return gripShape(piece.instrument, piece.rows(), rowOf(piece, id));
}

} // namespace wirenote
