#include "app/benches/strokes/strokes_lane.h"

#include "app/commands/stroke_commands.h"
#include "app/document/document.h"
#include "app/document/selection.h"
#include "app/marks.h"
#include "app/text/wording.h"
#include "app/theme.h"
#include "score/marks.h"

#include <cmath>
#include <vector>

namespace wirenote::app {
namespace {
constexpr double kMarkAt = 8.0; // pixels from its moment to the middle of a mark
constexpr double kMark = 9.0;   // from there to its edge
} // namespace

StrokesLane::StrokesLane(Document& document, Selection& selection, StrokeCommands& commands)
    : m_document(document), m_selection(selection), m_commands(commands) {
    follow(selection, &Selection::changed);
    connect(&document, &Document::changed, this, [this](const Changes& what) {
        if (what.notes || what.plans)
            emit stale(what.span);
    });
}

QString StrokesLane::name() const {
    return QObject::tr("strokes");
}

void StrokesLane::paint(QPainter& painter, const LaneArea& area) const {
    const Piece& piece = m_document.piece();
    for (const IndexSpan together : strokeSpans(piece.notes))
        if (area.sees(piece.notes[together.first].onset_s()))
            paintTogether(painter, area, together);
}

std::optional<NoteId> StrokesLane::noteAt(QPointF at, const LaneArea& area) const {
    const Piece& piece = m_document.piece();
    for (const IndexSpan together : strokeSpans(piece.notes)) {
        const Note& note = piece.notes[together.first];
        if (std::abs(area.xOf(note.onset_s()) + kMarkAt - at.x()) < kMark)
            return note.id;
    }
    return std::nullopt;
}

// Without a move it only chooses; Shift chooses a passage as elsewhere.
Press StrokesLane::press(QPointF at, const LaneArea& area, Qt::KeyboardModifiers held) {
    const auto note = noteAt(at, area);
    if (!note || held != Qt::NoModifier)
        return {};
    m_selection.choose(*note);
    Press press;
    press.taken = true;
    press.shows_beginning = true;
    // The mark that it is let go of on is meant as well; marks stand beside their moments.
    press.drop = [this, from = *note, pixel_s = 1.0 / area.pixels_per_s](double from_s,
                                                                         double to_s) {
        const double on = to_s > from_s ? kMark : -kMark;
        m_commands.paintFrom(from, to_s + (on - kMarkAt) * pixel_s);
    };
    return press;
}

QString StrokesLane::tellAt(QPointF at, const LaneArea& area) const {
    const auto note = noteAt(at, area);
    const NotePlan* plan = note ? m_document.piece().plan(*note) : nullptr;
    return plan && plan->stroke.value != Stroke::Unknown
               ? QObject::tr("%1; pull it along the row to give it to others")
                     .arg(strokeText(plan->stroke.value))
               : QString();
}

// What begins at once has one place: the pick's mark, or the letters of the fingers; what else
// there is (a slur, a ghost stroke) shows where nothing of that kind is.
void StrokesLane::paintTogether(QPainter& painter, const LaneArea& area, IndexSpan together) const {
    const Piece& piece = m_document.piece();
    std::vector<std::size_t> notes;
    bool chosen = false;
    bool set = false;
    Stroke mark = Stroke::Unknown;
    for (std::size_t i = together.first; i < together.end; ++i) {
        const Decision<Stroke>& stroke = piece.asPlayed().plans[i].stroke;
        notes.push_back(i);
        chosen = chosen || m_selection.isChosen(piece.notes[i].id);
        set = set || stroke.isSet();
        const bool picked = stroke.value == Stroke::Down || stroke.value == Stroke::Up;
        if (picked || mark == Stroke::Unknown || mark == Stroke::None)
            mark = stroke.value;
    }
    const QColor colour = chosen ? theme().accent : set ? theme().ink : theme().quiet;
    const QPointF at(area.xOf(piece.notes[together.first].onset_s()) + kMarkAt,
                     area.rect.center().y());
    const QString letters = QString::fromStdString(pluckedLetters(piece.rows(), notes));
    const bool picked = mark == Stroke::Down || mark == Stroke::Up;
    if (picked || letters.isEmpty())
        paintStrokeMark(painter, mark, letters.isEmpty() ? at : at - QPointF(0, 8), colour);
    if (letters.isEmpty())
        return;
    painter.setPen(colour);
    painter.setFont(uiFont(9.5));
    painter.drawText(
        QRectF(at.x() - 24, at.y() - (picked ? 1 : 9), 48, 18), Qt::AlignCenter, letters);
}

} // namespace wirenote::app
