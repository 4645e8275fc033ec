#include "session/hand_report.h"

#include "piece/timeline_map.h"

namespace wirenote {

HandReport handReport(const Piece& piece, NoteId id) {
    constexpr double kPlayedEarly_s = 0.05; // and still of its bar
    HandReport report;
    const Note* note = piece.note(id);
    if (!note)
        return report;
    const TimelineMap map(piece.timeline);
    report.bar = map.barBeatAt(note->onset_s() + kPlayedEarly_s).bar;
    const auto startOf = [&map](int bar) {
        return map.timeAt(map.grid().bar(bar).start.toDouble()) - kPlayedEarly_s;
    };
    report.tempo_bpm = piece.timeline.tempo_bpm;
    report.load =
        handLoad(piece.instrument, piece.rows(), {startOf(report.bar), startOf(report.bar + 1)});
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
