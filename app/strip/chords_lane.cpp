#include "app/strip/chords_lane.h"

#include "app/commands/chord_commands.h"
#include "app/document/derived.h"
#include "app/document/document.h"
#include "app/text/harmony_wording.h"
#include "app/text/wording.h"
#include "app/theme.h"
#include "form/span_summary.h"
#include "music/degrees.h"

namespace wirenote::app {

ChordsLane::ChordsLane(Document& document, Derived& derived, ChordCommands& commands)
    : m_document(document), m_derived(derived), m_commands(commands) {
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
        const QString text = QString::fromStdString(chordText(span, piece.key.spelling()));
        const double width = painter.fontMetrics().horizontalAdvance(text) + 6.0;
        if (x < area.rect.left() - width || x > area.rect.right() || x < last_x)
            continue;
        last_x = x + width;
        painter.drawText(QRectF(x, area.rect.top(), width, area.rect.height()),
                         Qt::AlignVCenter | Qt::AlignLeft,
                         text);
    }
}

const ChordSpan* ChordsLane::under(QPointF at, const LaneArea& area) const {
    const double at_s = area.timeAt(at.x());
    for (const ChordSpan& span : m_derived.chords())
        if (area.rect.contains(at) && span.span.contains(at_s))
            return &span;
    return nullptr;
}

QString ChordsLane::tellAt(QPointF at, const LaneArea& area) const {
    const Piece& piece = m_document.piece();
    const ChordSpan* span = under(at, area);
    if (!span)
        return {};
    const QString name = QString::fromStdString(chordText(*span, piece.key.spelling()));
    if (!span->said.empty())
        return QObject::tr("%1, named by you").arg(name);
    QStringList absent;
    for (const int pitch : span->chord.absent) {
        QString letter = pitchText(piece, 60 + pitch);
        letter.chop(1); // the octave
        absent << letter;
    }
    QString told =
        absent.isEmpty() ? name : QObject::tr("%1 without %2").arg(name, absent.join(", "));
    const auto key = summarise(piece, {}).key;
    const std::string function = key ? functionName(name.toStdString(), *key) : std::string();
    if (!function.empty())
        told =
            QObject::tr("%1; %2 in %3")
                .arg(told, QString::fromStdString(function), keyText(*key, piece.key.spelling()));
    return told;
}

Press ChordsLane::press(QPointF at, const LaneArea& area, Qt::KeyboardModifiers held) {
    if (held != Qt::NoModifier || !under(at, area))
        return {};
    m_commands.chooseAt(area.timeAt(at.x()));
    return {true, {}, false};
}

Qt::CursorShape ChordsLane::cursorAt(QPointF at, const LaneArea& area) const {
    return under(at, area) ? Qt::PointingHandCursor : Qt::ArrowCursor;
}

} // namespace wirenote::app
