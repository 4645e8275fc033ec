#include "app/strip/chords_lane.h"

#include "app/document/derived.h"
#include "app/document/document.h"
#include "app/text/wording.h"
#include "app/theme.h"

namespace wirenote::app {

ChordsLane::ChordsLane(Document& document, Derived& derived)
    : m_document(document), m_derived(derived) {
    follow(derived, &Derived::changed);
}

QString ChordsLane::name() const {
    return QObject::tr("chords");
}

void ChordsLane::paint(QPainter& painter, const LaneArea& area) const {
    const Piece& piece = m_document.piece();
    painter.setFont(uiFont(9.5, true));
    painter.setPen(theme().ink);
    double last_x = -1e9;
    for (const ChordSpan& span : m_derived.chords()) {
        const double x = area.xOf(span.span.start_s);
        const QString text = QString::fromStdString(chordText(span.chord, piece.key.spelling()));
        const double width = painter.fontMetrics().horizontalAdvance(text) + 6.0;
        if (x < area.rect.left() - width || x > area.rect.right() || x < last_x)
            continue;
        last_x = x + width;
        painter.drawText(QRectF(x, area.rect.top(), width, area.rect.height()),
                         Qt::AlignVCenter | Qt::AlignLeft,
                         text);
    }
}

QString ChordsLane::tellAt(QPointF at, const LaneArea& area) const {
    const Piece& piece = m_document.piece();
    const double at_s = area.timeAt(at.x());
    for (const ChordSpan& span : m_derived.chords()) {
        if (!span.span.contains(at_s))
            continue;
        const QString name = QString::fromStdString(chordText(span.chord, piece.key.spelling()));
        QStringList absent;
        for (const int pitch : span.chord.absent) {
            QString letter = pitchText(piece, 60 + pitch);
            letter.chop(1); // the octave
            absent << letter;
        }
        return absent.isEmpty() ? name : QObject::tr("%1 without %2").arg(name, absent.join(", "));
    }
    return {};
}

} // namespace wirenote::app
