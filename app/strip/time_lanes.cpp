#include "app/strip/time_lanes.h"

#include "app/commands/pulse_commands.h"
#include "app/document/derived.h"
#include "app/document/document.h"
#include "app/text/form_wording.h"
#include "app/text/wording.h"
#include "app/theme.h"

#include <algorithm>
#include <cmath>
#include <iterator>

namespace wirenote::app {
namespace {

// Calls visit(index in the bar, time, bar number) for every beat in sight.
template <class Visit> void forBeats(const Timeline& timeline, const LaneArea& area, Visit visit) {
    const BarGrid grid(timeline);
    for (std::size_t i = 0; i < timeline.beats_s.size(); ++i) {
        const double t = timeline.beats_s[i];
        if (t < area.start_s - 1.0 || t > area.end_s() + 1.0)
            continue;
        const auto place = grid.at(static_cast<int>(i));
        visit(place.beat, t, place.bar, i);
    }
}

} // namespace

FormLane::FormLane(Document& document, Derived& derived)
    : m_document(document), m_derived(derived) {
    follow(derived, &Derived::changed);
}

QString FormLane::name() const {
    return QObject::tr("form");
}

namespace {

// A section or a part of the form as a box.
void paintPart(
    QPainter& painter, const LaneArea& area, TimeRange span, const QString& label, bool kept) {
    const QRectF box(area.xOf(span.start_s) + 1.0,
                     area.rect.top() + 4,
                     span.length_s() * area.pixels_per_s - 3,
                     area.rect.height() - 8);
    if (!box.intersects(area.rect))
        return;
    painter.setPen(QPen(theme().line, 1.0, kept ? Qt::SolidLine : Qt::DashLine));
    painter.setBrush(kept ? theme().panel : Qt::transparent);
    painter.drawRoundedRect(box, 3, 3);
    // The name stays in sight as long as any of the part is.
    const QRectF seen = box.intersected(area.rect);
    painter.setPen(theme().ink);
    painter.setFont(uiFont(8.0, true));
    painter.drawText(seen.adjusted(6, 0, -2, 0), Qt::AlignVCenter | Qt::AlignLeft, label);
}

// Of a bar that is written down as another take plays it.
QString followedText(const Piece& piece, double bar_s) {
    for (const FollowedTake& one : piece.followed)
        if (one.span.contains(bar_s))
            return QObject::tr(" as in take %1").arg(one.take + 1);
    return {};
}

} // namespace

void FormLane::paint(QPainter& painter, const LaneArea& area) const {
    const Timeline& timeline = m_document.piece().timeline;
    const Derived::Form& form = m_derived.form();
    // Sections where there are some; otherwise what was found.
    for (const Section& section : timeline.sections)
        paintPart(painter, area, section.span, QString::fromStdString(section.label), true);
    if (timeline.sections.empty())
        for (std::size_t i = 0; i < form.parts.size(); ++i)
            if (form.parts.size() > 1)
                paintPart(painter, area, form.parts[i].span, partText(form.parts, i), false);
    paintBarNumbers(painter, area, !timeline.sections.empty() || form.parts.size() > 1);
    paintDifferences(painter, area);
}

// Where a repeat differs from the first time.
void FormLane::paintDifferences(QPainter& painter, const LaneArea& area) const {
    painter.setPen(Qt::NoPen);
    painter.setBrush(theme().accent);
    const Piece& piece = m_document.piece();
    const Derived::Form& form = m_derived.form();
    const auto dot = [&](const Difference& d) {
        if (d.kind == DifferenceKind::Missing || d.note_b >= form.notes.size())
            return;
        if (const Note* note = piece.note(form.notes[d.note_b]))
            painter.drawEllipse(
                QPointF(area.xOf(note->onset_s()), area.rect.bottom() - 4), 2.2, 2.2);
    };
    for (const Phrase& phrase : form.phrases)
        for (const Occurrence& occurrence : phrase.occurrences)
            for (const auto& bar : occurrence.differences)
                std::ranges::for_each(bar, dot);
}

void FormLane::paintBarNumbers(QPainter& painter, const LaneArea& area, bool short_ones) const {
    painter.setFont(uiFont(7.5));
    painter.setPen(theme().quiet);
    double last_x = -1e9;
    forBeats(m_document.piece().timeline, area, [&](int in_bar, double t, int bar, std::size_t) {
        const double x = area.xOf(t);
        if (in_bar != 0 || x - last_x < 44 || x < area.rect.left() - 30)
            return;
        last_x = x;
        if (short_ones) // beside the names of the parts
            painter.drawText(QRectF(x - 32, area.rect.top(), 28, area.rect.height()),
                             Qt::AlignVCenter | Qt::AlignRight,
                             QString::number(bar));
        else
            painter.drawText(QRectF(x + 4, area.rect.top(), 110, area.rect.height()),
                             Qt::AlignVCenter | Qt::AlignLeft,
                             QObject::tr("bar %1").arg(bar) + followedText(m_document.piece(), t));
    });
}

QString FormLane::tellAt(QPointF at, const LaneArea& area) const {
    const Derived::Form& form = m_derived.form();
    const int index = m_derived.partAt(area.timeAt(at.x()));
    if (index < 0)
        return {};
    const FormPart& part = form.parts[static_cast<std::size_t>(index)];
    QStringList words{partText(form.parts, static_cast<std::size_t>(index))};
    if (!part.label.empty())
        words << differenceText(form.bars, form.phrases[part.phrase], part.occurrence);
    return words.join("\n");
}

CountLane::CountLane(Document& document, Derived& derived, PulseCommands& pulse)
    : m_document(document), m_derived(derived), m_pulse(pulse) {
    follow(derived, &Derived::changed);
}

QString CountLane::name() const {
    return QObject::tr("count");
}

// What falls on a note is dark, what is only counted pale; a syncopation has a bar over it.
void CountLane::paint(QPainter& painter, const LaneArea& area) const {
    constexpr double kRoom = 13.0; // pixels between two syllables
    const auto& marks = m_derived.count();
    const auto first = std::ranges::lower_bound(marks, area.start_s - 1.0, {}, &CountMark::time_s);
    double last_x = -1e9;
    for (auto mark = first; mark != marks.end() && mark->time_s < area.end_s() + 0.5; ++mark) {
        const double x = area.xOf(mark->time_s);
        const auto next = std::next(mark);
        const bool crowded =
            x - last_x < kRoom || (!mark->on_beat && next != marks.end() && next->on_beat &&
                                   area.xOf(next->time_s) - x < kRoom);
        if (crowded && !mark->on_beat)
            continue;
        if (mark->on_beat && x - last_x < 0.7 * kRoom)
            continue;
        last_x = x;
        painter.setFont(uiFont(mark->on_beat ? 8.5 : 8.0, mark->on_beat && mark->sounds));
        painter.setPen(mark->sounds ? theme().ink : theme().quiet);
        painter.drawText(QRectF(x - 20, area.rect.top(), 40, area.rect.height()),
                         Qt::AlignCenter,
                         QString::fromStdString(mark->text));
        if (mark->syncopated) {
            painter.setPen(QPen(theme().ink, 1.4));
            painter.drawLine(QPointF(x - 5, area.rect.top() + 3.5),
                             QPointF(x + 5, area.rect.top() + 3.5));
        }
    }
    // Beats that a person placed.
    const Timeline& timeline = m_document.piece().timeline;
    painter.setPen(Qt::NoPen);
    painter.setBrush(theme().accent);
    for (const int beat : timeline.pinned)
        if (beat < static_cast<int>(timeline.beats_s.size()))
            painter.drawEllipse(QPointF(area.xOf(timeline.beats_s[static_cast<std::size_t>(beat)]),
                                        area.rect.bottom() - 3),
                                1.8,
                                1.8);
}

std::optional<int> CountLane::beatAt(double x, const LaneArea& area) const {
    constexpr double kNear = 7.0; // pixels
    const auto& beats = m_document.piece().timeline.beats_s;
    std::optional<int> nearest;
    double away = kNear;
    for (std::size_t i = 0; i < beats.size(); ++i)
        if (const double d = std::abs(area.xOf(beats[i]) - x); d < away) {
            away = d;
            nearest = static_cast<int>(i);
        }
    return nearest;
}

// A beat can be dragged.
Press CountLane::press(QPointF at, const LaneArea& area, Qt::KeyboardModifiers) {
    const auto beat = area.rect.contains(at) ? beatAt(at.x(), area) : std::nullopt;
    if (!beat)
        return {};
    return {
        true, [this, beat = *beat](double, double to_s) { m_pulse.pinBeat(beat, to_s); }, false};
}

QString CountLane::tellAt(QPointF at, const LaneArea& area) const {
    return beatAt(at.x(), area) ? QObject::tr("drag this beat to where it belongs") : QString();
}

void paintBarLines(QPainter& painter, const Timeline& timeline, const LaneArea& area) {
    const double beat_px =
        timeline.tempo_bpm > 0.0 ? 60.0 / timeline.tempo_bpm * area.pixels_per_s : 0.0;
    forBeats(timeline, area, [&](int in_bar, double t, int, std::size_t) {
        const double x = std::round(area.xOf(t)) + 0.5;
        if (x < area.rect.left() || x > area.rect.right() || (in_bar != 0 && beat_px < 24.0))
            return;
        painter.setPen(
            QPen(theme().line, in_bar == 0 ? 1.2 : 0.8, in_bar == 0 ? Qt::SolidLine : Qt::DotLine));
        painter.drawLine(QPointF(x, area.rect.top()), QPointF(x, area.rect.bottom()));
    });
}

} // namespace wirenote::app
