#include "app/benches/strokes/strokes_lane.h"

#include "app/document/document.h"
#include "app/document/selection.h"
#include "app/marks.h"
#include "app/theme.h"

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
    for (std::size_t i = 0; i < piece.notes.size(); ++i) {
        if (!area.sees(piece.notes[i].onset_s()))
            continue;
        const Decision<Stroke>& stroke = piece.asPlayed().plans[i].stroke;
        const bool chosen = piece.notes[i].id == m_selection.note();
        paintStrokeMark(painter,
                        stroke.value,
                        {area.xOf(piece.notes[i].onset_s()) + 8, area.rect.center().y()},
                        chosen           ? theme().accent
                        : stroke.isSet() ? theme().ink
                                         : theme().quiet);
    }
}

} // namespace wirenote::app
