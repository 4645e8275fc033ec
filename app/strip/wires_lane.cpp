#include "app/strip/wires_lane.h"

#include "app/commands/edit_commands.h"
#include "app/commands/take_commands.h"
#include "app/document/derived.h"
#include "app/document/document.h"
#include "app/document/selection.h"
#include "app/marks.h"
#include "app/text/wording.h"
#include "app/theme.h"
#include "score/marks.h"

#include <QPainterPath>
#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>
#include <utility>

namespace wirenote::app {
namespace {

constexpr double kFretWidth = 17.0;
constexpr double kFretHeight = 19.0;
constexpr double kBead = 22.0;    // pixels from node to node of the drawn vibration
constexpr double kLoudBead = 9.0; // its half height for the loudest note
constexpr double kPixelsPerCent = 0.11;
constexpr double kSounding = 1.8; // thickness of a wire that sounds
// Where a swinging wire is seen, as a part of its swing, and how strongly.
constexpr std::array<std::pair<double, double>, 2> kSwings = {{{1.0, 0.75}, {0.5, 0.32}}};
constexpr double kSag_cents = 30.0;  // no bend: the drift of a string that dies away
constexpr double kMissesFrom = 60.0; // pixels a second; smaller, near misses would hide the notes

double wireThickness(const StringSpec& spec) {
    return std::clamp(spec.gauge_mm * 2.9, 0.9, 5.0);
}

// Mean pitch deviation near a time, for the line that rises with a bend.
double deviationAt(const Note& note, double time_s) {
    if (note.curve.empty())
        return 0.0;
    const auto next = std::lower_bound(note.curve.begin(),
                                       note.curve.end(),
                                       time_s,
                                       [](const PitchPoint& p, double t) { return p.time_s < t; });
    if (next == note.curve.begin())
        return next->dev_cents;
    if (next == note.curve.end())
        return note.curve.back().dev_cents;
    const auto before = next - 1;
    const double part = (time_s - before->time_s) / std::max(1e-6, next->time_s - before->time_s);
    return before->dev_cents + part * (next->dev_cents - before->dev_cents);
}

// What is drawn of it: where nobody bends or shakes the string, a slow drift of a few cents is none
// of the player's doing.
double shownDeviation(const Note& note, double time_s) {
    const double cents = deviationAt(note, time_s);
    for (const Technique moved : {Technique::Bend,
                                  Technique::PreBend,
                                  Technique::Release,
                                  Technique::Vibrato,
                                  Technique::Slide})
        if (note.has(moved))
            return cents;
    return std::copysign(std::max(0.0, std::abs(cents) - kSag_cents), cents);
}

} // namespace

WiresLane::WiresLane(Document& document,
                     Selection& selection,
                     Derived& derived,
                     EditCommands& commands,
                     TakeCommands& takes)
    : m_document(document), m_selection(selection), m_derived(derived), m_commands(commands),
      m_takes(takes) {
    follow(selection, &Selection::changed);
    follow(derived, &Derived::changed); // which notes are in doubt
    follow(takes, &TakeCommands::heardMore);
    follow(document, &Document::comparedChanged);
    connect(&document, &Document::changed, this, [this](const Changes& what) {
        if (what.instrument || what.misses)
            emit stale({});
        else if (what.notes || what.plans)
            emit stale(what.span);
    });
}

double WiresLane::wireY(int string, const LaneArea& area) const {
    const int strings = std::max(1, m_document.piece().instrument.stringCount());
    const double room = area.rect.height() / strings;
    return area.rect.top() + room * (string - 0.5);
}

void WiresLane::paintGutter(QPainter& painter, const LaneArea& area, double gutter) const {
    const Piece& piece = m_document.piece();
    for (int s = 1; s <= piece.instrument.stringCount(); ++s) {
        const double y = wireY(s, area);
        painter.setFont(uiFont(8.5, true));
        painter.setPen(theme().ink);
        painter.drawText(
            QRectF(area.rect.left() - gutter, y - 10, 22, 20), Qt::AlignCenter, QString::number(s));
        painter.setFont(uiFont(7.5));
        painter.setPen(theme().quiet);
        painter.drawText(QRectF(area.rect.left() - gutter + 22, y - 10, gutter - 24, 20),
                         Qt::AlignVCenter | Qt::AlignLeft,
                         pitchText(piece, piece.instrument.string(s).open_midi));
    }
}

void WiresLane::paint(QPainter& painter, const LaneArea& area) const {
    painter.setRenderHint(QPainter::Antialiasing);
    paintWires(painter, area);
    const Piece& piece = m_document.piece();
    std::optional<std::size_t> chosen;
    for (std::size_t i = 0; i < piece.notes.size(); ++i) {
        const Note& note = piece.notes[i];
        if (note.offset_s() < area.start_s - 1.0 || note.onset_s() > area.end_s() + 0.5)
            continue;
        if (note.slurred())
            paintSlur(painter, area, i);
        paintNote(painter, area, i);
        if (m_document.compared())
            paintCompared(painter, area, i);
        if (note.id == m_selection.note())
            chosen = i;
    }
    paintMisses(painter, area);
    paintSoFar(painter, area);
    if (chosen)
        paintGhosts(painter, area, *chosen);
}

void WiresLane::paintWires(QPainter& painter, const LaneArea& area) const {
    const Instrument& instrument = m_document.piece().instrument;
    for (int s = 1; s <= instrument.stringCount(); ++s) {
        const StringSpec& spec = instrument.string(s);
        const double y = wireY(s, area);
        const double thick = wireThickness(spec);
        painter.setPen(QPen(theme().wire, thick));
        painter.drawLine(QPointF(area.rect.left(), y), QPointF(area.rect.right(), y));
        if (!spec.wound())
            continue;
        QPen hatching(theme().panel, thick * 0.6); // the winding
        hatching.setDashPattern({1.2, 1.8});
        hatching.setCapStyle(Qt::FlatCap);
        painter.setPen(hatching);
        painter.drawLine(QPointF(area.rect.left(), y), QPointF(area.rect.right(), y));
    }
}

void WiresLane::paintNote(QPainter& painter, const LaneArea& area, std::size_t index) const {
    const Piece& piece = m_document.piece();
    const Note& note = piece.notes[index];
    const NotePlan& plan = piece.asPlayed().plans[index];
    if (!plan.placed()) {
        paintUnplaced(painter, area, note);
        return;
    }
    const bool doubtful = m_derived.doubtOf(note.id) != nullptr;
    const bool chosen = m_selection.isChosen(note.id);
    const double y = wireY(plan.position.value.string, area);
    const double x = area.xOf(note.onset_s());
    const double end = std::max(x + kFretWidth, area.xOf(note.offset_s()));
    if (chosen) {
        painter.setPen(QPen(theme().accent, 2.0));
        painter.setBrush(Qt::NoBrush);
        painter.drawRoundedRect(QRectF(x - 4, y - 16, end - x + 8, 32), 6, 6);
    }
    if (std::ranges::find(m_selection.marked(), note.id) != m_selection.marked().end()) {
        painter.setPen(QPen(theme().accent, 1.6, Qt::DashLine));
        painter.setBrush(Qt::NoBrush);
        painter.drawRoundedRect(QRectF(x - 4, y - 16, end - x + 8, 32), 6, 6);
    }
    paintVibration(painter, area, note, y, doubtful);
    paintFret(painter,
              {x, y},
              note.pitched() ? QString::fromStdString(fretMark(note, plan.position.value))
                             : QStringLiteral("×"),
              doubtful,
              true);
    if (note.slip) { // struck through, as one strikes out a word
        painter.setPen(QPen(theme().accent, 1.6));
        painter.drawLine(QPointF(x - 2, y + kFretHeight / 2),
                         QPointF(x + kFretWidth + 2, y - kFretHeight / 2));
    }
    if (note.has(Technique::Staccato)) {
        painter.setPen(QPen(theme().ink, 1.6));
        painter.drawLine(QPointF(end, y - 7), QPointF(end, y + 7));
    }
    paintTechniques(painter, area, index);
    // Two marks below: how the note is known, and how its place is.
    if (area.pixels_per_s * note.time.value.length_s() > 16.0) {
        const double mark_y = y + 15.5;
        paintBasisMark(painter, note.pitch.basis, {x + 5, mark_y}, theme().quiet);
        paintBasisMark(painter, plan.position.basis, {x + 5 + kMarkWidth, mark_y}, theme().quiet);
    }
}

// Above the note what its shape does not show; a run of the same says it once.
void WiresLane::paintTechniques(QPainter& painter, const LaneArea& area, std::size_t index) const {
    const Piece& piece = m_document.piece();
    const Note& note = piece.notes[index];
    QStringList words;
    for (const std::string& mark : techniqueMarks(note))
        if (mark != "·" && mark != "~~") // the wire stops short, or wriggles
            words << QString::fromStdString(mark);
    if (words.isEmpty())
        return;
    const auto before = noteBeforeOnString(piece, index);
    const bool said = before && techniqueMarks(piece.notes[*before]) == techniqueMarks(note) &&
                      note.onset_s() - piece.notes[*before].offset_s() < 1.0;
    const double x = area.xOf(note.onset_s());
    const double y = wireY(piece.asPlayed().plans[index].position.value.string, area);
    painter.setPen(theme().ink);
    painter.setFont(uiFont(7.5));
    painter.drawText(QRectF(x - 3, y - kFretHeight / 2 - 13, 90, 12),
                     Qt::AlignLeft | Qt::AlignVCenter,
                     said && words.size() == 1 && words.front().size() > 2 ? QStringLiteral("–")
                                                                           : words.join(' '));
}

// The wire itself follows the pitch; fine lines about it are where it swings, wider the louder it
// sounds. Nothing solid: number, wire and movement of pitch are what one sees.
void WiresLane::paintVibration(
    QPainter& painter, const LaneArea& area, const Note& note, double y, bool doubtful) const {
    const double x0 = area.xOf(note.onset_s()) + kFretWidth;
    const double x1 = std::max(x0 + 2.0, area.xOf(note.offset_s()) - 1.0);
    const double length = std::max(kBead, x1 - x0);
    const double height = kLoudBead * (0.35 + 0.65 * note.velocity);
    const auto wireAt = [&](double x) {
        return y - std::clamp(kPixelsPerCent * shownDeviation(note, area.timeAt(x)), -18.0, 18.0);
    };
    const auto swingAt = [&](double x) {
        return height * std::exp(-2.2 * (x - x0) / length) *
               std::sin(std::numbers::pi * (x - x0) / kBead + 0.25);
    };
    painter.setBrush(Qt::NoBrush);
    for (const auto& [part, strength] : kSwings) {
        QColor fine = theme().ink;
        fine.setAlphaF(strength);
        painter.setPen(QPen(fine, 0.8));
        for (const double side : {part, -part}) {
            QPainterPath swing(QPointF(x0, wireAt(x0) + side * swingAt(x0)));
            for (double x = x0; x <= x1; x += 1.5)
                swing.lineTo(x, wireAt(x) + side * swingAt(x));
            painter.drawPath(swing);
        }
    }
    QPainterPath wire(QPointF(x0, wireAt(x0)));
    for (double x = x0; x < x1; x += 1.5)
        wire.lineTo(x, wireAt(x));
    wire.lineTo(x1, wireAt(x1));
    QPen pen(theme().ink, kSounding);
    if (doubtful)
        pen.setDashPattern({2.4, 2.0});
    painter.setPen(pen);
    painter.drawPath(wire);
}

void WiresLane::paintFret(
    QPainter& painter, QPointF at, const QString& text, bool hollow, bool strong) const {
    const QRectF box(at.x(), at.y() - kFretHeight / 2, kFretWidth, kFretHeight);
    painter.setPen(hollow ? QPen(theme().ink, 1.0) : QPen(Qt::NoPen));
    painter.setBrush(theme().paper);
    painter.drawRoundedRect(box, 4, 4);
    painter.setPen(theme().ink);
    painter.setFont(uiFont(10.5, strong));
    painter.drawText(box, Qt::AlignCenter, text);
}

void WiresLane::paintSlur(QPainter& painter, const LaneArea& area, std::size_t index) const {
    const Piece& piece = m_document.piece();
    const auto from = noteBeforeOnString(piece, index);
    if (!from || !piece.asPlayed().plans[index].placed())
        return;
    const Note& before = piece.notes[*from];
    const Note& note = piece.notes[index];
    const double y = wireY(piece.asPlayed().plans[index].position.value.string, area);
    const double x0 = area.xOf(before.onset_s()) + kFretWidth / 2;
    const double x1 = area.xOf(note.onset_s()) + kFretWidth / 2;
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(theme().ink, 1.3));
    painter.setFont(uiFont(7.5));
    if (note.has(Technique::Slide)) { // the wire slants from fret to fret
        const bool up = note.pitch.value > before.pitch.value;
        painter.setPen(QPen(theme().ink, 2.0));
        painter.drawLine(QPointF(x1 - 26, y + (up ? 9 : -9)),
                         QPointF(x1 - kFretWidth / 2 - 2, y + (up ? -6 : 6)));
        painter.drawText(QRectF(x1 - 34, y - 26, 30, 14), Qt::AlignCenter, QObject::tr("sl"));
        return;
    }
    QPainterPath arc(QPointF(x0, y - 12));
    arc.quadTo(QPointF((x0 + x1) / 2, y - 24), QPointF(x1, y - 12));
    painter.drawPath(arc);
    painter.drawText(QRectF((x0 + x1) / 2 - 10, y - 31, 20, 12),
                     Qt::AlignCenter,
                     QString::fromStdString(slurMark(note)));
}

// Where the reading it is held against takes the note, behind a thread from here to there.
void WiresLane::paintCompared(QPainter& painter, const LaneArea& area, std::size_t index) const {
    const Piece& piece = m_document.piece();
    const Note& note = piece.notes[index];
    const NotePlan& plan = piece.asPlayed().plans[index];
    const NotePlan* other = m_document.compared()->plan(note.id);
    if (!other || !other->placed() || other->position.value == plan.position.value ||
        !piece.instrument.hasString(other->position.value.string))
        return;
    const double x = area.xOf(note.onset_s());
    const double y = wireY(other->position.value.string, area);
    const bool same_string = other->position.value.string == plan.position.value.string;
    const QRectF box(x + (same_string ? kFretWidth + 1.0 : 0.0),
                     y - kFretHeight / 2 + 2,
                     kFretWidth - 3,
                     kFretHeight - 4);
    painter.setPen(QPen(theme().quiet, 1.0, Qt::DotLine));
    if (plan.placed() && !same_string)
        painter.drawLine(QPointF(x + kFretWidth / 2, wireY(plan.position.value.string, area)),
                         QPointF(x + kFretWidth / 2, y));
    painter.setPen(QPen(theme().quiet, 1.0));
    painter.setBrush(theme().panel);
    painter.drawRoundedRect(box, 4, 4);
    painter.setFont(uiFont(8.5));
    painter.drawText(box, Qt::AlignCenter, QString::number(other->position.value.fret));
}

void WiresLane::paintGhosts(QPainter& painter, const LaneArea& area, std::size_t index) const {
    const Piece& piece = m_document.piece();
    const double x = area.xOf(piece.notes[index].onset_s());
    for (const auto& other : piece.asPlayed().plans[index].position.runners_up) {
        const double y = wireY(other.value.string, area);
        painter.setPen(QPen(theme().quiet, 1.2, Qt::DashLine));
        painter.setBrush(theme().paper);
        painter.drawRoundedRect(QRectF(x, y - kFretHeight / 2, kFretWidth, kFretHeight), 4, 4);
        painter.setPen(theme().quiet);
        painter.setFont(uiFont(10.0));
        painter.drawText(QRectF(x, y - kFretHeight / 2, kFretWidth, kFretHeight),
                         Qt::AlignCenter,
                         QString::number(other.value.fret));
        painter.setFont(uiFont(7.5));
        painter.drawText(QRectF(x + kFretWidth + 4, y - 18, 60, 14),
                         Qt::AlignLeft | Qt::AlignVCenter,
                         percentText(other.probability));
    }
}

void WiresLane::paintMisses(QPainter& painter, const LaneArea& area) const {
    if (area.pixels_per_s < kMissesFrom)
        return;
    for (const NearMiss& miss : m_document.piece().misses) {
        if (miss.place.string == 0 || miss.time.start_s < area.start_s - 0.5 ||
            miss.time.start_s > area.end_s() + 0.5)
            continue;
        const QRectF box(area.xOf(miss.time.start_s),
                         wireY(miss.place.string, area) - kFretHeight / 2,
                         kFretWidth,
                         kFretHeight);
        painter.setPen(QPen(theme().quiet, 1.0, Qt::DotLine));
        painter.setBrush(theme().paper);
        painter.drawEllipse(box);
        painter.setPen(theme().quiet);
        painter.setFont(uiFont(8.5));
        painter.drawText(box, Qt::AlignCenter, QString::number(miss.place.fret));
    }
}

// Notes that the running job has heard so far, pale.
void WiresLane::paintSoFar(QPainter& painter, const LaneArea& area) const {
    for (const NearMiss& note : m_takes.heardSoFar()) {
        if (note.place.string == 0 || note.time.end_s < area.start_s ||
            note.time.start_s > area.end_s())
            continue;
        const double x = area.xOf(note.time.start_s);
        const double y = wireY(note.place.string, area);
        const double end = std::max(x + kFretWidth, area.xOf(note.time.end_s) - 3.0);
        painter.setPen(QPen(theme().quiet, 2.0));
        painter.drawLine(QPointF(x + kFretWidth, y), QPointF(end, y));
        painter.setPen(QPen(theme().quiet, 1.0));
        painter.setBrush(theme().paper);
        const QRectF box(x, y - kFretHeight / 2, kFretWidth, kFretHeight);
        painter.drawRoundedRect(box, 4, 4);
        painter.setFont(uiFont(9.0));
        painter.drawText(box, Qt::AlignCenter, QString::number(note.place.fret));
    }
}

QString WiresLane::tellAt(QPointF at, const LaneArea& area) const {
    const auto under = hit(at, area);
    if (!under || under->part != Part::Miss)
        return {};
    const NearMiss& miss = m_document.piece().misses[under->miss];
    return QObject::tr("%1 may have been played here too (%2); click to take it")
        .arg(pitchText(m_document.piece(), miss.midi), percentText(miss.probability));
}

void WiresLane::paintUnplaced(QPainter& painter, const LaneArea& area, const Note& note) const {
    const QRectF box(area.xOf(note.onset_s()), area.rect.top() + 2, 44, 16);
    painter.setPen(QPen(theme().accent, 1.2, Qt::DashLine));
    painter.setBrush(theme().paper);
    painter.drawRoundedRect(box, 4, 4);
    painter.setFont(uiFont(8.0));
    painter.drawText(box, Qt::AlignCenter, pitchText(m_document.piece(), note.pitch.value) + "?");
}

// The part of a note under a point: of its fret number only, or of all of it.
std::optional<WiresLane::Part>
WiresLane::partAt(std::size_t index, QPointF at, const LaneArea& area, bool number_only) const {
    const Note& note = m_document.piece().notes[index];
    const NotePlan& plan = m_document.piece().asPlayed().plans[index];
    const double x0 = area.xOf(note.onset_s());
    const double x1 =
        number_only ? x0 + kFretWidth : std::max(x0 + kFretWidth, area.xOf(note.offset_s()));
    const double y = plan.placed() ? wireY(plan.position.value.string, area) : area.rect.top() + 10;
    if (!QRectF(x0 - 4, y - 14, x1 - x0 + (number_only ? 4 : 8), 28).contains(at))
        return {};
    // Edges can be dragged on the chosen note only, so that a click never moves anything by
    // accident.
    const bool is_chosen = note.id == m_selection.note();
    return is_chosen && at.x() < x0 + 3                   ? Part::Start
           : is_chosen && !number_only && at.x() > x1 - 4 ? Part::End
                                                          : Part::Body;
}

std::optional<std::size_t> WiresLane::missAt(QPointF at, const LaneArea& area) const {
    const auto& misses = m_document.piece().misses;
    for (std::size_t i = 0; area.pixels_per_s >= kMissesFrom && i < misses.size(); ++i) {
        const NearMiss& miss = misses[i];
        if (miss.place.string > 0 && QRectF(area.xOf(miss.time.start_s) - 3,
                                            wireY(miss.place.string, area) - 12,
                                            kFretWidth + 6,
                                            24)
                                         .contains(at))
            return i;
    }
    return {};
}

std::optional<WiresLane::Hit> WiresLane::hit(QPointF at, const LaneArea& area) const {
    const Piece& piece = m_document.piece();
    const auto chosen = piece.indexOf(m_selection.note());
    if (chosen) {
        const double x = area.xOf(piece.notes[*chosen].onset_s());
        for (const auto& other : piece.asPlayed().plans[*chosen].position.runners_up)
            if (QRectF(x - 3, wireY(other.value.string, area) - 12, kFretWidth + 6, 24)
                    .contains(at))
                return Hit{piece.notes[*chosen].id, Part::Ghost, other.value.string, 0};
    }
    // A fret number before a nearly heard note, and that before the tail of a note.
    for (const bool numbers : {true, false}) {
        for (std::size_t i = piece.notes.size(); i-- > 0;)
            if (const auto part = partAt(i, at, area, numbers))
                return Hit{piece.notes[i].id, *part, 0, 0};
        if (const auto miss = numbers ? missAt(at, area) : std::nullopt)
            return Hit{0, Part::Miss, 0, *miss};
    }
    return {};
}

std::optional<QPointF>
WiresLane::noteCentre(NoteId note, int ghost_string, const LaneArea& area) const {
    const auto index = m_document.piece().indexOf(note);
    if (!index)
        return {};
    const int string = ghost_string > 0
                           ? ghost_string
                           : m_document.piece().asPlayed().plans[*index].position.value.string;
    return QPointF(area.xOf(m_document.piece().notes[*index].onset_s()) + 8, wireY(string, area));
}

Press WiresLane::press(QPointF at, const LaneArea& area, Qt::KeyboardModifiers held) {
    const auto under = area.rect.contains(at) ? hit(at, area) : std::nullopt;
    if (!under)
        return {};
    const NoteId id = under->note;
    if (id != 0 && under->part != Part::Ghost && (held & Qt::ShiftModifier)) {
        m_selection.extendTo(id);
        return {true, {}, false};
    }
    if (id != 0 && under->part != Part::Ghost && (held & Qt::ControlModifier)) {
        m_selection.toggle(id);
        return {true, {}, false};
    }
    switch (under->part) {
    case Part::Ghost:
        m_commands.moveToString(under->string);
        return {true, {}, false};
    case Part::Miss:
        m_commands.takeMiss(under->miss);
        return {true, {}, false};
    case Part::Body:
        m_selection.choose(id);
        return {true, {}, false};
    case Part::Start:
        return {true,
                [this, id](double, double to_s) {
                    if (const Note* note = m_document.piece().note(id))
                        m_commands.setTime(id, {to_s, note->offset_s()});
                },
                false};
    case Part::End:
        return {true,
                [this, id](double, double to_s) {
                    if (const Note* note = m_document.piece().note(id))
                        m_commands.setTime(id, {note->onset_s(), to_s});
                },
                false};
    }
    return {};
}

std::optional<NoteId> WiresLane::noteAt(QPointF at, const LaneArea& area) const {
    const auto under = area.rect.contains(at) ? hit(at, area) : std::nullopt;
    return under && under->note != 0 ? std::optional(under->note) : std::nullopt;
}

Qt::CursorShape WiresLane::cursorAt(QPointF at, const LaneArea& area) const {
    const auto under = hit(at, area);
    return under && (under->part == Part::Start || under->part == Part::End) ? Qt::SizeHorCursor
                                                                             : Qt::ArrowCursor;
}

} // namespace wirenote::app
