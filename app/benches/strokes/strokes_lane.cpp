#include "app/benches/strokes/strokes_lane.h"

#include "app/document/document.h"
#include "app/document/selection.h"
#include "app/marks.h"
#include "app/theme.h"
#include "score/marks.h"

#include <vector>

namespace wirenote::app {

StrokesLane::StrokesLane(Document& document, Selection& selection)
    : m_document(document), m_selection(selection) {
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
    const QPointF at(area.xOf(piece.notes[together.first].onset_s()) + 8, area.rect.center().y());
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
