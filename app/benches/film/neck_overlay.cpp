#include "app/benches/film/neck_overlay.h"

#include "app/benches/takes/picture_view.h"
#include "app/commands/film_commands.h"
#include "app/document/document.h"
#include "app/document/selection.h"
#include "app/theme.h"
#include "seeing/neck_way.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

namespace wirenote::app {
namespace {

constexpr double kHandle = 6.0; // pixels, of a point that can be dragged
constexpr double kGrip = 16.0;  // … and from how far
constexpr int kLastFret = 22;

// Readable on any picture: light on a dark rim.
void line(QPainter& painter, QPointF from, QPointF to, const QColor& colour, double width) {
    painter.setPen(QPen(QColor(0, 0, 0, 110), width + 1.4));
    painter.drawLine(from, to);
    painter.setPen(QPen(colour, width));
    painter.drawLine(from, to);
}

void words(QPainter& painter, QPointF at, const QString& text) {
    QPainterPath path;
    path.addText(at, uiFont(8.0, true), text);
    painter.strokePath(path, QPen(QColor(0, 0, 0, 170), 2.5));
    painter.fillPath(path, Qt::white);
}

} // namespace

NeckOverlay::NeckOverlay(PictureView& picture,
                         Document& document,
                         Selection& selection,
                         FilmCommands& commands)
    : QWidget(&picture), m_picture(picture), m_document(document), m_selection(selection),
      m_commands(commands) {
    setObjectName("neckOverlay");
    setAccessibleName(tr("Neck in the film"));
    setMouseTracking(true);
    setFocusPolicy(Qt::ClickFocus);
    setGeometry(picture.rect());
    picture.installEventFilter(this);
    const auto anew = [this] { update(); };
    connect(&picture, &PictureView::shown, this, anew);
    connect(&selection, &Selection::changed, this, anew);
    connect(&document, &Document::changed, this, anew);
    connect(&document, &Document::opened, this, [this] { setMode(Mode::Look); });
}

bool NeckOverlay::eventFilter(QObject* watched, QEvent* event) {
    if (watched == &m_picture && event->type() == QEvent::Resize)
        setGeometry(m_picture.rect());
    return QWidget::eventFilter(watched, event);
}

NeckPlane NeckOverlay::plane() const {
    return NeckPlane(m_document.piece().instrument);
}

bool NeckOverlay::shows() const {
    return m_picture.take() && !m_picture.pictureRect().isEmpty();
}

std::optional<Homography> NeckOverlay::neckShown() const {
    return m_picture.take() ? m_commands.neckAt(*m_picture.take(), m_picture.shown_s())
                            : std::nullopt;
}

QPointF NeckOverlay::toWidget(PicturePoint at) const {
    const QRectF rect = m_picture.pictureRect();
    const QSizeF film = m_picture.filmSize();
    return {rect.left() + at.x * rect.width() / film.width(),
            rect.top() + at.y * rect.height() / film.height()};
}

PicturePoint NeckOverlay::toFilm(QPointF at) const {
    const QRectF rect = m_picture.pictureRect();
    const QSizeF film = m_picture.filmSize();
    return {(at.x() - rect.left()) * film.width() / rect.width(),
            (at.y() - rect.top()) * film.height() / rect.height()};
}

void NeckOverlay::setMode(Mode mode) {
    if (mode == Mode::Give && !shows())
        mode = Mode::Look;
    if (mode == Mode::Give && m_mode != Mode::Give)
        layPoints();
    m_mode = mode;
    setCursor(mode == Mode::Show ? Qt::CrossCursor : Qt::ArrowCursor);
    if (mode != Mode::Look)
        setFocus();
    update();
    emit modeChanged();
}

void NeckOverlay::setWires(int first, int second) {
    if (first == second)
        return;
    m_wires = {std::min(first, second), std::max(first, second)};
    update();
}

void NeckOverlay::layPoints() {
    m_point = 0;
    if (const auto neck = neckShown()) {
        for (std::size_t i = 0; i < m_points.size(); ++i)
            m_points[i] = project(*neck, plane().edge(m_wires[i / 2], i % 2 == 1));
        return;
    }
    const QSizeF film = m_picture.filmSize();
    for (std::size_t i = 0; i < m_points.size(); ++i)
        m_points[i] = {film.width() * (i < 2 ? 0.7 : 0.35),
                       film.height() * (i % 2 == 0 ? 0.44 : 0.56)};
}

std::optional<NeckFrame> NeckOverlay::given() const {
    std::array<PlanePoint, 4> marks;
    for (std::size_t i = 0; i < marks.size(); ++i)
        marks[i] = plane().edge(m_wires[i / 2], i % 2 == 1);
    const auto neck = homographyBetween(marks, m_points);
    if (!neck)
        return std::nullopt;
    return neckFrame(plane(), *neck, std::max(0.0, m_picture.shown_s()));
}

void NeckOverlay::paintEvent(QPaintEvent*) {
    if (!shows())
        return;
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setClipRect(m_picture.pictureRect());
    if (m_mode == Mode::Give) {
        if (const auto frame = given())
            if (const auto neck = neckOf(plane(), *frame))
                paintNeck(painter, *neck);
        paintPoints(painter);
        return;
    }
    if (const auto neck = neckShown()) {
        paintNeck(painter, *neck);
        paintSeen(painter, *neck);
    }
}

void NeckOverlay::paintNeck(QPainter& painter, const Homography& neck) const {
    const NeckPlane board = plane();
    const auto at = [&](double fret, bool thin) {
        return toWidget(project(neck, board.edge(fret, thin)));
    };
    const QColor grid(255, 255, 255, 150);
    for (int fret = 0; fret <= kLastFret; ++fret)
        line(painter, at(fret, false), at(fret, true), grid, fret == 0 ? 2.6 : 1.0);
    for (const bool thin : {false, true})
        line(painter, at(0, thin), at(kLastFret, thin), grid, 1.0);
    constexpr double kApart = 16.0; // pixels: nearer numbers would be written over one another
    QPointF last(-1000.0, 0.0);
    for (const int fret : {3, 5, 7, 9, 12, 15, 17, 19}) {
        const QPointF here = at(fret - 0.5, false) + QPointF(-4, -4);
        if (std::hypot(here.x() - last.x(), here.y() - last.y()) < kApart)
            continue;
        words(painter, here, QString::number(fret));
        last = here;
    }
}

void NeckOverlay::paintSeen(QPainter& painter, const Homography& neck) const {
    constexpr double kAbout_s = 0.4;
    const Note* note = m_document.piece().note(m_selection.note());
    const Take& take = m_document.piece().takes[*m_picture.take()];
    if (!note || std::abs(take.alignment.toTake({note->onset_s()}).s + take.film.offset_s -
                          m_picture.shown_s()) > kAbout_s)
        return;
    const NeckPlane board = plane();
    const auto place = [&](double along_mm, double across_mm) {
        return toWidget(project(neck, {along_mm, across_mm}));
    };
    // Where it is written, as a ring over the string behind its wire.
    const NotePlan* plan = m_document.piece().plan(note->id);
    if (plan && plan->placed() && plan->position.value.fret > 0) {
        const Position where = plan->position.value;
        const double along_mm =
            board.wire_mm(where.fret + m_document.piece().instrument.capo - 0.35);
        const QPointF centre = place(along_mm, board.string_mm(where.string, along_mm));
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(QColor(0, 0, 0, 140), 4.0));
        painter.drawEllipse(centre, 8, 8);
        painter.setPen(QPen(theme().accent, 2.4));
        painter.drawEllipse(centre, 8, 8);
    }
    // In this picture, whatever other takes show.
    if (const NoteFacts* facts = note->factsOf(*m_picture.take())) {
        paintTips(painter, neck, facts->seen);
        paintStroke(painter, neck, facts->seen);
    }
}

// What presses is a full dot, what waits a ring; whose finger a tip is, several of them tell.
void NeckOverlay::paintTips(QPainter& painter,
                            const Homography& neck,
                            const SeenFacts& seen) const {
    constexpr double kDoubt_mm = 5.0; // of a tip, standard deviation
    constexpr double kEven = 0.5;
    const NeckPlane board = plane();
    const auto numbered =
        std::ranges::count_if(seen.tips, [](const SeenTip& tip) { return tip.finger > 0; });
    for (const SeenTip& tip : seen.tips) {
        const double along_mm = board.wire_mm(tip.fret);
        const double across_mm = board.string_mm(tip.string, along_mm);
        const QPointF centre = toWidget(project(neck, {along_mm, across_mm}));
        const QPointF aside = toWidget(project(neck, {along_mm + kDoubt_mm, across_mm})) - centre;
        const double doubt = std::max(4.0, std::hypot(aside.x(), aside.y()));
        painter.setPen(QPen(QColor(0, 0, 0, 150), 1.0));
        painter.setBrush(tip.pressed.value_or(1.0) < kEven ? QBrush(Qt::NoBrush)
                                                           : QBrush(QColor(255, 255, 255, 190)));
        painter.drawEllipse(centre, 3.0, 3.0);
        if (tip.finger > 0 && numbered > 1)
            words(painter, centre + QPointF(5, -5), QString::number(tip.finger));
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(QColor(255, 255, 255, 170), 1.0, Qt::DotLine));
        painter.drawEllipse(centre, doubt, doubt);
    }
}

// Which way the plucking hand went, and where.
void NeckOverlay::paintStroke(QPainter& painter,
                              const Homography& neck,
                              const SeenFacts& seen) const {
    if (!seen.down)
        return;
    constexpr double kPlucked = 0.86; // of the scale, where it is not known
    constexpr double kWay_mm = 34.0;
    const NeckPlane board = plane();
    const double way_mm = *seen.down > 0.5 ? kWay_mm : -kWay_mm;
    const double along_mm =
        board.scale_mm() - seen.plucked_mm.value_or((1.0 - kPlucked) * board.scale_mm());
    const QPointF from = toWidget(project(neck, {along_mm, -way_mm}));
    const QPointF to = toWidget(project(neck, {along_mm, way_mm}));
    line(painter, from, to, theme().accent, 2.0);
    const QPointF step = (to - from) / std::max(1.0, std::hypot((to - from).x(), (to - from).y()));
    const QPointF side(-step.y(), step.x());
    line(painter, to, to - 9.0 * step + 5.0 * side, theme().accent, 2.0);
    line(painter, to, to - 9.0 * step - 5.0 * side, theme().accent, 2.0);
}

void NeckOverlay::paintPoints(QPainter& painter) const {
    for (std::size_t i = 0; i < m_points.size(); ++i) {
        const QPointF at = toWidget(m_points[i]);
        painter.setPen(QPen(QColor(0, 0, 0, 170), 1.5));
        painter.setBrush(static_cast<int>(i) == m_point ? theme().accent : QColor(Qt::white));
        painter.drawEllipse(at, kHandle, kHandle);
        const QString wire = m_wires[i / 2] == 0 ? tr("nut") : tr("fret %1").arg(m_wires[i / 2]);
        words(painter,
              at + QPointF(9, i % 2 == 0 ? -6 : 14),
              i % 2 == 0 ? tr("%1, thick strings").arg(wire) : tr("%1, thin strings").arg(wire));
    }
}

void NeckOverlay::mousePressEvent(QMouseEvent* event) {
    const QPointF at = event->position();
    if (event->button() != Qt::LeftButton || !m_picture.pictureRect().contains(at)) {
        event->ignore();
        return;
    }
    if (m_mode == Mode::Show && shows())
        emit pointed(m_picture.shown_s(), toFilm(at));
    if (m_mode != Mode::Give)
        return;
    double nearest = kGrip;
    for (std::size_t i = 0; i < m_points.size(); ++i) {
        const QPointF off = toWidget(m_points[i]) - at;
        if (const double far = std::hypot(off.x(), off.y()); far < nearest) {
            nearest = far;
            m_point = static_cast<int>(i);
            m_dragging = true;
        }
    }
    update();
}

void NeckOverlay::mouseMoveEvent(QMouseEvent* event) {
    if (!m_dragging)
        return;
    m_points[static_cast<std::size_t>(m_point)] = toFilm(event->position());
    update();
}

void NeckOverlay::mouseReleaseEvent(QMouseEvent*) {
    m_dragging = false;
}

// While points are moved, keys that mean something elsewhere move them.
bool NeckOverlay::event(QEvent* event) {
    if (event->type() == QEvent::ShortcutOverride) {
        constexpr std::array kPointKeys = {Qt::Key_Space,
                                           Qt::Key_Left,
                                           Qt::Key_Right,
                                           Qt::Key_Up,
                                           Qt::Key_Down,
                                           Qt::Key_Return,
                                           Qt::Key_Enter};
        const int key = static_cast<QKeyEvent*>(event)->key();
        if ((m_mode != Mode::Look && key == Qt::Key_Escape) ||
            (m_mode == Mode::Give && std::ranges::find(kPointKeys, key) != kPointKeys.end())) {
            event->accept();
            return true;
        }
    }
    return QWidget::event(event);
}

void NeckOverlay::keyPressEvent(QKeyEvent* event) {
    if (m_mode == Mode::Look) {
        event->ignore();
        return;
    }
    if (event->key() == Qt::Key_Escape) {
        setMode(Mode::Look);
        return;
    }
    if (m_mode != Mode::Give) {
        event->ignore();
        return;
    }
    const double step = event->modifiers().testFlag(Qt::ShiftModifier) ? 10.0 : 1.0;
    PicturePoint& point = m_points[static_cast<std::size_t>(m_point)];
    switch (event->key()) {
    case Qt::Key_Space:
        m_point = (m_point + 1) % static_cast<int>(m_points.size());
        break;
    case Qt::Key_Left:
        point.x -= step;
        break;
    case Qt::Key_Right:
        point.x += step;
        break;
    case Qt::Key_Up:
        point.y -= step;
        break;
    case Qt::Key_Down:
        point.y += step;
        break;
    case Qt::Key_Return:
    case Qt::Key_Enter:
        emit accepted();
        break;
    default:
        event->ignore();
        return;
    }
    update();
}

} // namespace wirenote::app
