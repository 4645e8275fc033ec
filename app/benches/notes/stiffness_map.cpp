#include "app/benches/notes/stiffness_map.h"

#include "app/commands/edit_commands.h"
#include "app/document/derived.h"
#include "app/document/document.h"
#include "app/document/selection.h"
#include "app/text/wording.h"
#include "app/theme.h"
#include "strings/string_traits.h"

#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

namespace wirenote::app {
namespace {

constexpr double kDot = 3.6;
constexpr double kNear = 12.0; // pixels from a click to the note it means
constexpr double kOffCurve_sd = 3.0;

} // namespace

StiffnessMap::StiffnessMap(Document& document,
                           Selection& selection,
                           EditCommands& commands,
                           Derived& derived,
                           QWidget* parent)
    : QWidget(parent), m_document(document), m_selection(selection), m_commands(commands),
      m_derived(derived) {
    setObjectName("stiffnessMap");
    setAccessibleName(tr("Stiffness of all notes against their pitch"));
    setMinimumSize(400, 260);
    const auto soon = [this] {
        fitAxes();
        update();
    };
    connect(&document, &Document::opened, this, soon);
    connect(&document, &Document::changed, this, [soon](const Changes& what) {
        if (what.notes || what.plans || what.instrument)
            soon();
    });
    connect(&derived, &Derived::changed, this, [this] { update(); });
    connect(&selection, &Selection::changed, this, [this] { update(); });
    fitAxes();
}

void StiffnessMap::fitAxes() {
    const Piece& piece = m_document.piece();
    m_low_midi = piece.instrument.lowestMidi() - 1.0;
    m_high_midi = piece.instrument.highestMidi() + 1.0;
    m_low_b = 0.0;
    m_high_b = -30.0;
    const auto take = [this](double b) {
        m_low_b = std::min(m_low_b, b);
        m_high_b = std::max(m_high_b, b);
    };
    for (int midi = piece.instrument.lowestMidi(); midi <= piece.instrument.highestMidi(); ++midi)
        for (const ExpectedStiffness& e :
             expectedStiffness(piece.instrument, piece.string_traits, midi))
            take(e.log_b);
    for (const Note& note : piece.notes)
        if (note.heard().stiffness.told())
            take(note.heard().stiffness.log_b);
    if (m_low_b > m_high_b) {
        m_low_b = -12.0;
        m_high_b = -6.0;
    }
    m_low_b -= 0.3;
    m_high_b += 0.3;
}

QRectF StiffnessMap::field() const {
    return QRectF(rect()).adjusted(56, 40, -18, -40);
}

QPointF StiffnessMap::at(double midi, double log_b) const {
    const QRectF f = field();
    return {f.left() + (midi - m_low_midi) / (m_high_midi - m_low_midi) * f.width(),
            f.bottom() - (log_b - m_low_b) / (m_high_b - m_low_b) * f.height()};
}

std::optional<QPointF> StiffnessMap::placeOf(NoteId id) const {
    const Note* note = m_document.piece().note(id);
    if (!note || !note->heard().stiffness.told())
        return {};
    return at(note->pitch.value, note->heard().stiffness.log_b);
}

void StiffnessMap::paintAxes(QPainter& painter) const {
    const Piece& piece = m_document.piece();
    painter.setFont(uiFont(12, true));
    painter.setPen(theme().ink);
    painter.drawText(QRectF(16, 10, width() - 32, 22),
                     Qt::AlignLeft | Qt::AlignVCenter,
                     tr("How stiff every note sounds"));
    painter.setFont(uiFont(8.0));
    painter.setPen(theme().quiet);
    painter.drawText(QRectF(16, 10, width() - 32, 22),
                     Qt::AlignRight | Qt::AlignVCenter,
                     tr("a line is a string, a dot a note; click one to hear it, press a number to "
                        "decide its string"));
    const QRectF f = field();
    for (int midi = static_cast<int>(std::ceil(m_low_midi)); midi <= m_high_midi; ++midi)
        if (midi % 12 == 0 || midi % 12 == 5) {
            const double x = at(midi, 0.0).x();
            painter.setPen(QPen(theme().line, 1.0, Qt::DotLine));
            painter.drawLine(QPointF(x, f.top()), QPointF(x, f.bottom()));
            painter.setPen(theme().quiet);
            painter.drawText(
                QRectF(x - 20, f.bottom() + 4, 40, 14), Qt::AlignCenter, pitchText(piece, midi));
        }
    painter.drawText(QRectF(4, f.top() - 4, 48, 16), Qt::AlignRight, tr("stiff"));
    painter.drawText(QRectF(4, f.bottom() - 12, 48, 16), Qt::AlignRight, tr("supple"));
}

void StiffnessMap::paintCurves(QPainter& painter) const {
    const Piece& piece = m_document.piece();
    const Instrument& instrument = piece.instrument;
    std::vector<QPolygonF> lines(instrument.strings.size());
    std::vector<QPolygonF> upper(lines.size());
    std::vector<QPolygonF> lower(lines.size());
    for (int midi = instrument.lowestMidi(); midi <= instrument.highestMidi(); ++midi)
        for (const ExpectedStiffness& e :
             expectedStiffness(instrument, piece.string_traits, midi)) {
            const auto s = static_cast<std::size_t>(e.place.string - 1);
            lines[s] << at(midi, e.log_b);
            upper[s] << at(midi, e.log_b + e.sd);
            lower[s] << at(midi, e.log_b - e.sd);
        }
    for (std::size_t s = 0; s < lines.size(); ++s) {
        if (lines[s].size() < 2)
            continue;
        QPolygonF band = upper[s];
        for (auto p = lower[s].rbegin(); p != lower[s].rend(); ++p)
            band << *p;
        QColor shade = theme().wire;
        shade.setAlpha(34);
        painter.setPen(Qt::NoPen);
        painter.setBrush(shade);
        painter.drawPolygon(band);
        // As thick as the string is: that is how strings are told apart everywhere.
        painter.setPen(QPen(theme().wire, 0.8 + instrument.strings[s].gauge_mm));
        painter.setBrush(Qt::NoBrush);
        painter.drawPolyline(lines[s]);
        painter.setFont(uiFont(9.0, true));
        painter.setPen(theme().ink);
        painter.drawText(QRectF(lines[s].back() + QPointF(2, -9), QSizeF(16, 18)),
                         Qt::AlignCenter,
                         QString::number(s + 1));
    }
}

void StiffnessMap::paintNotes(QPainter& painter) const {
    QPointF chosen_at;
    QString chosen_text;
    const Piece& piece = m_document.piece();
    for (std::size_t i = 0; i < piece.notes.size(); ++i) {
        const Note& note = piece.notes[i];
        const auto place = placeOf(note.id);
        if (!place)
            continue;
        const int string = piece.asPlayed().plans[i].position.value.string;
        bool off = m_derived.doubtOf(note.id) != nullptr;
        for (const ExpectedStiffness& e :
             expectedStiffness(piece.instrument, piece.string_traits, note.midi()))
            if (e.place.string == string)
                off = off || std::abs(note.heard().stiffness.log_b - e.log_b) >
                                 kOffCurve_sd * std::hypot(e.sd, note.heard().stiffness.sd);
        painter.setPen(QPen(off ? theme().accent : theme().ink, 1.2));
        painter.setBrush(off ? theme().paper : theme().ink);
        painter.drawEllipse(*place, kDot, kDot);
        if (note.id == m_selection.note()) {
            painter.setBrush(Qt::NoBrush);
            painter.setPen(QPen(theme().accent, 2.0));
            painter.drawEllipse(*place, 2.2 * kDot, 2.2 * kDot);
            painter.setFont(uiFont(8.5, true));
            chosen_at = *place;
            chosen_text = tr("%1, string %2").arg(pitchText(piece, note.pitch.value)).arg(string);
        }
    }
    if (chosen_text.isEmpty())
        return;
    // Its name stands over the other dots, on paper of its own.
    const QRectF text(chosen_at + QPointF(10, -24),
                      painter.fontMetrics().size(0, chosen_text) + QSizeF(8, 2));
    painter.fillRect(text, theme().paper);
    painter.setPen(theme().accent);
    painter.drawText(text, Qt::AlignCenter, chosen_text);
}

void StiffnessMap::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(theme().line);
    painter.setBrush(theme().paper);
    painter.drawRoundedRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), 6, 6);
    paintAxes(painter);
    const auto& notes = m_document.piece().notes;
    const bool any =
        std::ranges::any_of(notes, [](const Note& n) { return n.heard().stiffness.told(); });
    if (!any) {
        painter.setPen(theme().quiet);
        painter.setFont(uiFont(10));
        painter.drawText(rect(),
                         Qt::AlignCenter,
                         notes.empty() ? tr("No note yet: hear the take first (E).")
                                       : tr("The stiffness of these notes could not be measured."));
        return;
    }
    paintCurves(painter);
    paintNotes(painter);
}

void StiffnessMap::mousePressEvent(QMouseEvent* event) {
    NoteId nearest = 0;
    double away = kNear;
    for (const Note& note : m_document.piece().notes)
        if (const auto place = placeOf(note.id)) {
            const double d =
                std::hypot(place->x() - event->position().x(), place->y() - event->position().y());
            if (d < away) {
                away = d;
                nearest = note.id;
            }
        }
    if (nearest == 0)
        return;
    m_selection.choose(nearest);
    m_commands.hearAgain();
}

} // namespace wirenote::app
