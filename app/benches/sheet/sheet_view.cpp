#include "app/benches/sheet/sheet_view.h"

#include "app/benches/sheet/sheet_places.h"
#include "app/commands/sheet_commands.h"
#include "app/document/derived.h"
#include "app/document/document.h"
#include "app/document/selection.h"
#include "app/playing/transport.h"
#include "app/theme.h"
#include "painting/paint_page.h"
#include "piece/timeline_map.h"
#include "session/resolve.h"
#include "session/sheet.h"

#include <QMouseEvent>
#include <QPainter>
#include <QScrollBar>
#include <algorithm>
#include <map>

namespace wirenote::app {
namespace {
constexpr int kGap_px = 16;
constexpr int kNarrowest_px = 400;
constexpr int kWidest_px = 1100;
} // namespace

class SheetView::Paper : public QWidget {
  public:
    explicit Paper(SheetView& view) : m_view(view) {
        setFocusPolicy(Qt::NoFocus);
        setMouseTracking(true);
    }
    void setPages(std::vector<SheetPage> pages) {
        m_pages = std::move(pages);
        m_drawn.clear();
        fit(width());
    }
    void fit(int width) {
        const double scale = m_pages.empty() ? 1.0 : width / m_pages.front().width;
        const int height =
            m_pages.empty() ? 1 : static_cast<int>(m_pages.front().height * scale) + kGap_px;
        if (scale != m_scale)
            m_drawn.clear();
        m_scale = scale;
        m_page_px = height;
        setFixedSize(width, std::max(1, static_cast<int>(m_pages.size()) * height));
        update();
    }
    void setChosen(std::vector<SheetSpot> spots) {
        m_chosen = std::move(spots);
        update();
    }
    const std::vector<SheetPage>& pages() const { return m_pages; }
    QRect toScreen(const SheetSpot& spot) const {
        const wirenote::Box& b = spot.box;
        return QRectF(b.left * m_scale,
                      b.top * m_scale + static_cast<double>(spot.page) * m_page_px,
                      std::max(1.0, b.width() * m_scale),
                      b.height() * m_scale)
            .toAlignedRect();
    }
    void setPlayhead(std::optional<SheetSpot> spot) {
        for (const auto& one : {m_playhead, spot})
            if (one)
                update(toScreen(*one).adjusted(-3, -3, 3, 3));
        m_playhead = spot;
    }

  protected:
    void paintEvent(QPaintEvent* event) override {
        QPainter painter(this);
        forgetFarPages();
        for (std::size_t p = 0; p < m_pages.size(); ++p) {
            const QRect place(0, static_cast<int>(p) * m_page_px, width(), m_page_px - kGap_px);
            if (!place.intersects(event->rect()))
                continue;
            painter.drawPixmap(place, pixmapOf(p));
            painter.setPen(theme().line);
            painter.drawRect(place.adjusted(0, 0, -1, -1));
        }
        chosen(painter);
        if (m_playhead) {
            painter.setPen(QPen(theme().accent, 2.0));
            const QRect at = toScreen(*m_playhead);
            painter.drawLine(at.topLeft(), at.bottomLeft());
        }
    }
    void mousePressEvent(QMouseEvent* event) override {
        if (event->button() == Qt::LeftButton)
            m_view.clicked(spotAt(event->pos()), event->modifiers());
    }
    void mouseDoubleClickEvent(QMouseEvent* event) override {
        m_view.doubleClicked(spotAt(event->pos()));
    }

  private:
    SheetPoint spotAt(QPoint at) const {
        const int page = std::max(0, at.y() / std::max(1, m_page_px));
        return {static_cast<std::size_t>(page),
                at.x() / m_scale,
                (at.y() - page * m_page_px) / m_scale};
    }
    // A page is painted once and kept while it is the same: scrolling and playing paint nothing
    // new.
    const QPixmap& pixmapOf(std::size_t page) {
        QPixmap& kept = m_drawn[page];
        if (kept.isNull()) {
            const double ratio = devicePixelRatioF();
            kept = QPixmap(QSizeF(width() * ratio, (m_page_px - kGap_px) * ratio).toSize());
            kept.setDevicePixelRatio(ratio);
            kept.fill(Qt::white);
            QPainter painter(&kept);
            paintPage(painter, m_pages[page], m_scale);
        }
        return kept;
    }
    // Paper is large: what is far from the part that is seen is painted again when it is wanted.
    void forgetFarPages() {
        const QRect seen = visibleRegion().boundingRect().adjusted(0, -m_page_px, 0, m_page_px);
        std::erase_if(m_drawn, [&](const auto& kept) {
            return !QRect(0, static_cast<int>(kept.first) * m_page_px, width(), m_page_px)
                        .intersects(seen);
        });
    }
    // A wash over the numbers and heads of what is chosen.
    void chosen(QPainter& painter) const {
        for (const SheetSpot& spot : m_chosen) {
            QColor wash = theme().accent;
            wash.setAlpha(spot.note == m_view.m_selection.note() ? 110 : 60);
            painter.setPen(Qt::NoPen);
            painter.setBrush(wash);
            painter.drawRoundedRect(toScreen(spot).adjusted(-3, -3, 3, 3), 3, 3);
        }
    }

    SheetView& m_view;
    std::vector<SheetPage> m_pages;
    std::map<std::size_t, QPixmap> m_drawn;
    std::vector<SheetSpot> m_chosen;
    std::optional<SheetSpot> m_playhead;
    double m_scale = 4.0;
    int m_page_px = 1;
};

SheetView::SheetView(Document& document,
                     Derived& derived,
                     Selection& selection,
                     Transport& transport,
                     SheetCommands& commands,
                     QWidget* parent)
    : QScrollArea(parent), m_document(document), m_derived(derived), m_selection(selection),
      m_transport(transport), m_commands(commands), m_paper(new Paper(*this)) {
    setObjectName("sheet");
    setAccessibleName(tr("Sheet: the pages as they will be printed"));
    setFrameShape(QFrame::NoFrame);
    setAlignment(Qt::AlignHCenter);
    setWidget(m_paper);
    m_soon.setSingleShot(true);
    m_soon.setInterval(0);
    connect(&m_soon, &QTimer::timeout, this, &SheetView::layOut);
    const auto soon = [this] {
        if (isVisible())
            m_soon.start();
    };
    connect(&document, &Document::opened, this, soon);
    connect(&document, &Document::changed, this, [soon](const Changes& what) {
        if (what.notes || what.plans || what.timeline || what.instrument || what.title)
            soon();
    });
    connect(&document, &Document::writingChanged, this, soon);
    connect(&derived, &Derived::changed, this, [this, soon, school = derived.school()]() mutable {
        if (m_derived.school() != school) { // of the count
            school = m_derived.school();
            soon();
        }
    });
    connect(&selection, &Selection::changed, this, [this] {
        if (isVisible())
            showChosen();
    });
    connect(&transport, &Transport::moved, this, [this] {
        if (isVisible())
            follow();
    });
}

// Worked out beside the interface; of several wishes the last one is shown.
void SheetView::layOut() {
    if (!m_document.isOpen())
        return;
    m_derived.ask(
        [righted = m_document.slipsPutRight(), school = m_derived.school()](const Piece& piece) {
            return pagesOf(righted ? asMeant(piece) : piece, school);
        },
        [this, asked = ++m_asked](std::vector<SheetPage> pages) {
            if (asked != m_asked)
                return;
            m_paper->setPages(std::move(pages));
            m_paper->setChosen(spotsOf(m_paper->pages(), m_selection.all()));
            fit();
            follow();
        });
}

void SheetView::fit() {
    m_paper->fit(std::clamp(viewport()->width() - 24, kNarrowest_px, kWidest_px));
}

void SheetView::showChosen() {
    const auto spots = spotsOf(m_paper->pages(), {m_selection.note()});
    if (!spots.empty()) {
        const QRect at = m_paper->toScreen(spots.front());
        ensureVisible(at.center().x(), at.center().y(), 60, 120);
    }
    m_paper->setChosen(spotsOf(m_paper->pages(), m_selection.all()));
}

void SheetView::clicked(const SheetPoint& point, Qt::KeyboardModifiers modifiers) {
    const NoteId note = noteAt(m_paper->pages(), point);
    if (note == 0) {
        if (const auto quarters = quartersAt(m_paper->pages(), point))
            m_transport.seek(TimelineMap(m_document.piece().timeline).timeAt(*quarters));
        return;
    }
    if (modifiers & Qt::ShiftModifier)
        m_selection.extendTo(note);
    else if (modifiers & Qt::ControlModifier)
        m_selection.toggle(note);
    else
        m_commands.choose(note);
}

void SheetView::doubleClicked(const SheetPoint& point) {
    if (const NoteId note = noteAt(m_paper->pages(), point); note != 0)
        m_selection.chooseStroke(note);
}

// Where the playhead stands; while it plays, the page goes along.
void SheetView::follow() {
    if (!m_document.isOpen() || m_paper->pages().empty())
        return;
    const double quarters =
        TimelineMap(m_document.piece().timeline).quartersAt(m_transport.playhead_s());
    const auto spot = spotAtQuarters(m_paper->pages(), quarters);
    m_paper->setPlayhead(spot);
    if (spot && m_transport.playing()) {
        const QRect at = m_paper->toScreen(*spot);
        ensureVisible(at.center().x(), at.center().y(), 60, at.height() / 2 + 60);
    }
}

void SheetView::resizeEvent(QResizeEvent* event) {
    QScrollArea::resizeEvent(event);
    fit();
}

void SheetView::showEvent(QShowEvent* event) {
    QScrollArea::showEvent(event);
    m_soon.start();
}

} // namespace wirenote::app
