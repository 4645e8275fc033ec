// A lane without anything of its own: nothing in the gutter, nothing to say, no use for the mouse.
#include "app/strip/lane.h"

namespace wirenote::app {

void Lane::paintGutter(QPainter&, const LaneArea&, double) const {}

QString Lane::tellAt(QPointF, const LaneArea&) const {
    return {};
}

Press Lane::press(QPointF, const LaneArea&, Qt::KeyboardModifiers) {
    return {};
}

std::optional<NoteId> Lane::noteAt(QPointF, const LaneArea&) const {
    return {};
}

Qt::CursorShape Lane::cursorAt(QPointF, const LaneArea&) const {
    return Qt::ArrowCursor;
}

std::optional<QPointF> Lane::noteCentre(NoteId, int, const LaneArea&) const {
    return {};
}

} // namespace wirenote::app
