#include "app/benches/takes/forms_view.h"

#include "app/commands/playings.h"
#include "app/document/derived.h"
#include "app/document/document.h"
#include "app/playing/transport.h"
#include "app/text/form_wording.h"
#include "app/text/playing_wording.h"
#include "app/text/wording.h"
#include "app/theme.h"

#include <QMouseEvent>
#include <QPainter>
#include <QPolygonF>
#include <algorithm>

namespace wirenote::app {
namespace {

constexpr double kSide = 10.0; // pixels
constexpr double kPieceTop = 18.0;
constexpr double kTakeTop = 78.0;
constexpr double kRow = 22.0;

void paintBlock(QPainter& painter, QRectF block, const QString& text, bool counterpart) {
    block.setWidth(std::max(2.0, block.width()));
    painter.setPen(theme().line);
    painter.setBrush(theme().panel);
    painter.drawRoundedRect(block, 3, 3);
    if (!counterpart) {
        painter.setPen(Qt::NoPen);
        painter.setBrush(QBrush(theme().quiet, Qt::BDiagPattern));
        painter.drawRoundedRect(block, 3, 3);
    }
    painter.setPen(theme().ink);
    painter.setFont(uiFont(7.5));
    const QRectF room = block.adjusted(4, 0, -2, 0);
    const QString fitting =
        painter.fontMetrics().elidedText(text, Qt::ElideRight, static_cast<int>(room.width()));
    if (fitting.isEmpty() || fitting == QStringLiteral("…"))
        return;
    if (!counterpart) { // to be read over the hatching
        QRectF behind = painter.fontMetrics().boundingRect(fitting);
        behind.moveCenter(QPointF(room.left() + 0.5 * behind.width(), room.center().y()));
        painter.fillRect(behind.adjusted(-2, 0, 2, 0), theme().paper);
    }
    painter.drawText(room, Qt::AlignVCenter | Qt::AlignLeft, fitting);
}

} // namespace

FormsView::FormsView(
    Document& document, Derived& derived, Transport& transport, Playings& playings, QWidget* parent)
    : QWidget(parent), m_document(document), m_derived(derived), m_transport(transport),
      m_playings(playings) {
    setObjectName("forms");
    setAccessibleName(tr("The form of the piece over that of another take"));
    setMinimumHeight(118);
    setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Fixed);
    const auto again = [this] { refresh(); };
    connect(&document, &Document::opened, this, again);
    connect(&document, &Document::changed, this, [again](const Changes& changes) {
        if (changes.takes || changes.timeline || changes.notes)
            again();
    });
    connect(&derived, &Derived::changed, this, [this] { update(); });
    connect(&transport, &Transport::changed, this, again);
    connect(&transport, &Transport::moved, this, [this] { update(); });
    refresh();
}

void FormsView::refresh() {
    m_take = m_playings.comparedTake();
    m_forms = m_document.isOpen() ? compareForms(m_document.piece(), m_take) : FormComparison{};
    setVisible(!m_forms.ties.empty());
    update();
}

double FormsView::pieceX(double piece_s) const {
    const double length_s = std::max(0.01, m_forms.piece.length_s());
    return kSide + (piece_s - m_forms.piece.start_s) / length_s * (width() - 2.0 * kSide);
}

double FormsView::takeX(double take_s) const {
    const double length_s = std::max(0.01, m_forms.take.length_s());
    return kSide + (take_s - m_forms.take.start_s) / length_s * (width() - 2.0 * kSide);
}

void FormsView::paintPiece(QPainter& painter) const {
    const Piece& piece = m_document.piece();
    const auto block = [&](TimeRange span, const QString& text, bool counterpart) {
        span = span.clippedTo(m_forms.piece);
        if (!span.empty())
            paintBlock(painter,
                       {pieceX(span.start_s) + 1,
                        kPieceTop,
                        pieceX(span.end_s) - pieceX(span.start_s) - 2,
                        kRow},
                       text,
                       counterpart);
    };
    const auto& parts = m_derived.form().parts;
    if (!piece.timeline.sections.empty())
        for (const Section& section : piece.timeline.sections)
            block(section.span, QString::fromStdString(section.label), true);
    else if (!parts.empty())
        for (std::size_t i = 0; i < parts.size(); ++i)
            block(parts[i].span, partText(parts, i), true);
    else
        block(m_forms.piece, {}, true);
    for (const FormDifference& one : m_forms.differences)
        if (one.kind == FormDifferenceKind::Lacks || one.kind == FormDifferenceKind::Instead)
            block(one.of_piece, placesText(piece, one.of_piece), false);
}

void FormsView::paintTake(QPainter& painter) const {
    const auto block = [&](TimeRange span, const QString& text, bool counterpart) {
        paintBlock(
            painter,
            {takeX(span.start_s) + 1, kTakeTop, takeX(span.end_s) - takeX(span.start_s) - 2, kRow},
            text,
            counterpart);
    };
    for (const FormComparison::Tie& tie : m_forms.ties) {
        QString text = placesText(m_document.piece(), tie.of_piece);
        if (tie.semitones != 0)
            text += QStringLiteral(", ") + intervalText(tie.semitones);
        block(tie.in_take, text, true);
    }
    for (const FormDifference& one : m_forms.differences)
        if (one.kind == FormDifferenceKind::Adds || one.kind == FormDifferenceKind::Instead)
            block(one.in_take, tr("only here"), false);
}

void FormsView::paintBands(QPainter& painter) const {
    for (const FormComparison::Tie& tie : m_forms.ties) {
        QColor fill = tie.semitones == 0 ? theme().line : theme().accent;
        fill.setAlpha(tie.semitones == 0 ? 110 : 70);
        painter.setPen(Qt::NoPen);
        painter.setBrush(fill);
        painter.drawPolygon(QPolygonF{{pieceX(tie.of_piece.start_s) + 1, kPieceTop + kRow},
                                      {pieceX(tie.of_piece.end_s) - 1, kPieceTop + kRow},
                                      {takeX(tie.in_take.end_s) - 1, kTakeTop},
                                      {takeX(tie.in_take.start_s) + 1, kTakeTop}});
    }
}

// Where the piece is heard, and every place of the take that is the same music.
void FormsView::paintHeads(QPainter& painter) const {
    const double piece_s = m_playings.placeInPiece(m_transport.playhead_s());
    painter.setPen(QPen(theme().accent, 2.0));
    if (piece_s >= m_forms.piece.start_s && piece_s <= m_forms.piece.end_s)
        painter.drawLine(QPointF(pieceX(piece_s), kPieceTop - 2),
                         QPointF(pieceX(piece_s), kPieceTop + kRow + 2));
    const Take& take = m_document.piece().takes[m_take];
    for (const Demonstration& one : take.demonstrations)
        if (one.inPiece() && one.ofPiece().contains(piece_s)) {
            const double x = takeX(inTake(one.moments, piece_s));
            painter.drawLine(QPointF(x, kTakeTop - 2), QPointF(x, kTakeTop + kRow + 2));
        }
}

void FormsView::paintEvent(QPaintEvent*) {
    if (m_forms.ties.empty() || m_take >= m_document.piece().takes.size())
        return;
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setFont(uiFont(8.0));
    painter.setPen(theme().quiet);
    const QRectF row(kSide, 0, width() - 2.0 * kSide, 16);
    painter.drawText(row, Qt::AlignVCenter | Qt::AlignLeft, tr("The piece, as take 1 plays it"));
    painter.drawText(row.translated(0, kTakeTop + kRow + 1),
                     Qt::AlignVCenter | Qt::AlignLeft,
                     tr("Take %1, %2")
                         .arg(m_take + 1)
                         .arg(QString::fromStdString(m_document.piece().takes[m_take].name)));
    paintBands(painter);
    paintPiece(painter);
    paintTake(painter);
    paintHeads(painter);
}

void FormsView::mousePressEvent(QMouseEvent* event) {
    if (event->button() != Qt::LeftButton || m_forms.ties.empty())
        return;
    const double share = (event->position().x() - kSide) / std::max(1.0, width() - 2.0 * kSide);
    if (event->position().y() < 0.5 * (kPieceTop + kTakeTop + kRow)) {
        m_transport.seek(m_forms.piece.start_s + share * m_forms.piece.length_s());
        return;
    }
    const double take_s = m_forms.take.start_s + share * m_forms.take.length_s();
    const auto& shown = m_document.piece().takes[m_take].demonstrations;
    for (std::size_t d = 0; d < shown.size(); ++d)
        if (shown[d].span.contains(take_s)) {
            if (shown[d].inPiece())
                m_transport.seek(inPiece(shown[d].moments, take_s));
            m_playings.hear({m_take, d});
            return;
        }
}

} // namespace wirenote::app
