#include "app/benches/readings/paper_view.h"

#include "app/document/document.h"
#include "app/playing/transport.h"
#include "app/text/wording.h"
#include "base/text.h"
#include "painting/paper_pages.h"
#include "piece/timeline_map.h"
#include "readings/paper_places.h"

#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QSignalBlocker>
#include <cmath>

namespace wirenote::app {

// The page, with its pins and where the playhead is.
class PaperView::Sheet : public QWidget {
  public:
    explicit Sheet(PaperView& view) : m_view(view) {
        setObjectName("paperPage");
        setAccessibleName(PaperView::tr("Page"));
        setToolTip(PaperView::tr("Arrows move the cross, with Shift by a little; Enter pins the "
                                 "bar there, or goes to it"));
        setFocusPolicy(Qt::StrongFocus);
    }

    QImage page;
    std::vector<PagePin> pins; // of this page
    std::optional<PaperPlace> head;

  protected:
    void paintEvent(QPaintEvent*) override {
        QPainter painter(this);
        painter.setRenderHint(QPainter::Antialiasing);
        if (page.isNull())
            return;
        painter.drawImage(rect(), page);
        painter.setFont(uiFont(8, true));
        for (const PagePin& pin : pins) {
            const QPointF at(pin.x * width(), pin.y * height());
            const QRectF flag(at.x(), at.y() - 16, 26, 15);
            painter.fillRect(flag, theme().accent);
            painter.setPen(theme().paper);
            painter.drawText(flag, Qt::AlignCenter, QString::number(pin.bar));
            painter.setPen(QPen(theme().accent, 1.5));
            painter.drawLine(at, at + QPointF(0, 22));
        }
        if (head) {
            painter.setPen(QPen(theme().accent, 3));
            const QPointF at(head->x * width(), head->y * height());
            painter.drawLine(at - QPointF(0, 6), at + QPointF(0, 40));
        }
        if (hasFocus())
            paintCross(painter);
    }
    void mousePressEvent(QMouseEvent* event) override {
        m_cross = {event->position().x() / width(), event->position().y() / height()};
        choose();
    }
    bool event(QEvent* event) override {
        // The window has shortcuts with these keys.
        if (event->type() == QEvent::ShortcutOverride &&
            isMine(static_cast<QKeyEvent*>(event)->key())) {
            event->accept();
            return true;
        }
        return QWidget::event(event);
    }
    void keyPressEvent(QKeyEvent* event) override {
        constexpr double kStep = 0.02, kLittle = 0.002; // of the page
        const double step = event->modifiers() & Qt::ShiftModifier ? kLittle : kStep;
        switch (event->key()) {
        case Qt::Key_Left:
            return move({-step, 0.0});
        case Qt::Key_Right:
            return move({step, 0.0});
        case Qt::Key_Up:
            return move({0.0, -step});
        case Qt::Key_Down:
            return move({0.0, step});
        case Qt::Key_Return:
        case Qt::Key_Enter:
            return choose();
        default:
            QWidget::keyPressEvent(event);
        }
    }
    void focusInEvent(QFocusEvent*) override { update(); }
    void focusOutEvent(QFocusEvent*) override { update(); }

  private:
    static bool isMine(int key) {
        return key == Qt::Key_Left || key == Qt::Key_Right || key == Qt::Key_Up ||
               key == Qt::Key_Down || key == Qt::Key_Return || key == Qt::Key_Enter;
    }
    void move(QPointF by) {
        m_cross = {std::clamp(m_cross.x() + by.x(), 0.0, 1.0),
                   std::clamp(m_cross.y() + by.y(), 0.0, 1.0)};
        m_view.m_scroll->ensureVisible(static_cast<int>(m_cross.x() * width()),
                                       static_cast<int>(m_cross.y() * height()));
        update();
    }
    void choose() {
        m_view.m_pin->isChecked() ? m_view.pinAt(m_cross) : m_view.jumpTo(m_cross);
        update();
    }
    void paintCross(QPainter& painter) const {
        constexpr double kArm = 10.0; // pixels
        const QPointF at(m_cross.x() * width(), m_cross.y() * height());
        painter.setPen(QPen(theme().accent, 2));
        painter.drawLine(at - QPointF(kArm, 0), at + QPointF(kArm, 0));
        painter.drawLine(at - QPointF(0, kArm), at + QPointF(0, kArm));
    }

    PaperView& m_view;
    QPointF m_cross = {0.1, 0.1}; // share of the page
};

PaperView::PaperView(Document& document, Transport& transport, QWidget* parent)
    : QWidget(parent), m_document(document), m_transport(transport), m_papers(new QComboBox),
      m_pin(new QPushButton(tr("Pin bar"))), m_bar(new QSpinBox),
      m_unpin(new QPushButton(tr("Unpin"))), m_remove(new QPushButton(tr("Remove"))),
      m_back(new QPushButton(tr("Page back"))), m_on(new QPushButton(tr("Page on"))),
      m_said(Card::label({}, 9, false, theme().quiet)), m_scroll(new QScrollArea),
      m_sheet(new Sheet(*this)) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->addWidget(buildRow());
    column->addWidget(m_said);
    m_scroll->setWidget(m_sheet);
    m_scroll->setAlignment(Qt::AlignHCenter);
    m_scroll->setFrameShape(QFrame::NoFrame);
    column->addWidget(m_scroll, 1);
    connect(&document, &Document::opened, this, &PaperView::offerPapers);
    connect(&document, &Document::changed, this, [this](const Changes& what) {
        if (what.papers)
            offerPapers();
    });
    connect(&transport, &Transport::moved, this, &PaperView::follow);
    offerPapers();
}

QWidget* PaperView::buildRow() {
    auto* holder = new QWidget;
    auto* row = new QHBoxLayout(holder);
    row->setContentsMargins(0, 0, 0, 0);
    auto* add = new QPushButton(tr("Add pages…"));
    m_papers->setAccessibleName(tr("Scores on paper"));
    m_pin->setObjectName("pinBars");
    m_pin->setCheckable(true);
    m_pin->setToolTip(
        tr("While this is down, each click on the page says where the next bar begins: "
           "the first bar of every line is enough"));
    m_bar->setObjectName("barToPin");
    m_bar->setRange(0, kMostBars);
    m_bar->setAccessibleName(tr("Bar to pin"));
    for (QWidget* one : {static_cast<QWidget*>(add),
                         static_cast<QWidget*>(m_papers),
                         static_cast<QWidget*>(m_back),
                         static_cast<QWidget*>(m_on),
                         static_cast<QWidget*>(m_pin),
                         static_cast<QWidget*>(m_bar),
                         static_cast<QWidget*>(m_unpin),
                         static_cast<QWidget*>(m_remove)})
        row->addWidget(one, one == m_papers ? 1 : 0);
    connect(add, &QPushButton::clicked, this, &PaperView::askForPages);
    connect(m_papers, &QComboBox::activated, this, [this] {
        m_count = 0;
        showPage(0);
        refreshPinning();
    });
    connect(m_back, &QPushButton::clicked, this, [this] { showPage(m_page - 1); });
    connect(m_on, &QPushButton::clicked, this, [this] { showPage(m_page + 1); });
    connect(m_unpin, &QPushButton::clicked, this, [this] {
        const auto paper = static_cast<std::size_t>(m_papers->currentIndex());
        m_document.edit(
            tr("unpin a bar"),
            0.0,
            [paper, bar = m_bar->value()](PieceEditor& e) { return e.unpin(paper, bar); },
            Resolve::Nothing);
    });
    connect(m_remove, &QPushButton::clicked, this, [this] {
        const auto paper = static_cast<std::size_t>(m_papers->currentIndex());
        m_document.edit(
            tr("remove a score on paper"),
            0.0,
            [paper](PieceEditor& e) { return e.removePaper(paper); },
            Resolve::Nothing);
    });
    return holder;
}

void PaperView::askForPages() {
    const QString file =
        QFileDialog::getOpenFileName(this,
                                     tr("Pages of a score"),
                                     {},
                                     tr("Pages (*.pdf *.png *.jpg *.jpeg *.tif *.tiff *.webp)"));
    if (!file.isEmpty())
        addPages(file);
}

void PaperView::addPages(const QString& file) {
    const auto count = countPages(file.toStdString());
    if (!count) {
        m_said->setText(sentence(count.error()));
        m_said->show();
        return;
    }
    PaperScore paper;
    paper.name = cleanText(QFileInfo(file).fileName().toStdString());
    paper.path = file.toStdString();
    m_document.edit(
        tr("add a score on paper"),
        0.0,
        [&paper](PieceEditor& e) { return e.addPaper(paper); },
        Resolve::Nothing);
    m_papers->setCurrentIndex(m_papers->count() - 1);
    m_count = 0;
    showPage(0);
    refreshPinning();
}

const PaperScore* PaperView::paper() const {
    const auto& papers = m_document.whole().papers;
    const int chosen = m_papers->currentIndex();
    return chosen >= 0 && static_cast<std::size_t>(chosen) < papers.size()
               ? &papers[static_cast<std::size_t>(chosen)]
               : nullptr;
}

void PaperView::offerPapers() {
    const QSignalBlocker block(m_papers);
    const int chosen = m_papers->currentIndex();
    m_papers->clear();
    for (const PaperScore& one : m_document.whole().papers)
        m_papers->addItem(QString::fromStdString(one.name));
    m_papers->setCurrentIndex(
        std::clamp(chosen, m_papers->count() > 0 ? 0 : -1, m_papers->count() - 1));
    const bool any = paper() != nullptr;
    for (QWidget* one : {static_cast<QWidget*>(m_pin),
                         static_cast<QWidget*>(m_bar),
                         static_cast<QWidget*>(m_unpin),
                         static_cast<QWidget*>(m_remove),
                         static_cast<QWidget*>(m_papers),
                         static_cast<QWidget*>(m_scroll)})
        one->setVisible(any);
    m_said->setVisible(!any);
    m_said->setText(
        tr("Add the pages of a score – a PDF, or a picture –, press Pin bar, and click "
           "where the first bar of each line begins: the pages then follow the playhead. "
           "The pages themselves stay where they are and are never sent along."));
    refreshPinning();
    showPage(m_page);
}

void PaperView::refreshPinning() {
    const PaperScore* one = paper();
    if (one)
        m_bar->setValue(nextBarToPin(*one));
    m_sheet->pins.clear();
    if (one)
        for (const PagePin& pin : one->pins)
            if (pin.page == m_page)
                m_sheet->pins.push_back(pin);
    m_sheet->update();
}

void PaperView::showPage(int page) {
    const PaperScore* one = paper();
    m_page = std::max(0, m_count > 0 ? std::min(page, m_count - 1) : page);
    m_back->setVisible(one && m_count > 1);
    m_on->setVisible(one && m_count > 1);
    m_back->setEnabled(m_page > 0);
    m_on->setEnabled(m_page + 1 < m_count);
    if (!one) {
        m_sheet->page = {};
        m_shown.clear();
        return;
    }
    const QString wanted = QString("%1#%2").arg(QString::fromStdString(one->path)).arg(m_page);
    if (wanted == m_shown)
        return;
    m_shown = wanted;
    const int width = std::max(400, m_scroll->viewport()->width() - 8);
    struct Drawn {
        Result<int> count;
        Result<QImage> page;
    };
    m_pages
        .run({},
             [file = std::filesystem::path(one->path), number = m_page, width](const JobControl&) {
                 return Drawn{countPages(file), drawPage(file, number, width)};
             })
        .then([this, wanted](Drawn drawn) {
            if (wanted != m_shown)
                return;
            if (!drawn.page) {
                m_said->setText(sentence(drawn.page.error()));
                m_said->show();
                m_sheet->page = {};
                return;
            }
            m_count = *drawn.count;
            m_sheet->page = std::move(*drawn.page);
            m_sheet->resize(m_sheet->page.size());
            refreshPinning();
            showPage(m_page); // whether there are others
            follow();
        });
}

void PaperView::pinAt(QPointF share) {
    const auto paper = static_cast<std::size_t>(std::max(0, m_papers->currentIndex()));
    const PagePin pin{
        m_bar->value(), m_page, std::clamp(share.x(), 0.0, 1.0), std::clamp(share.y(), 0.0, 1.0)};
    m_document.edit(
        tr("pin a bar"),
        0.0,
        [paper, pin](PieceEditor& e) { return e.pin(paper, pin); },
        Resolve::Nothing);
}

// To the bar of the nearest pin before the click.
void PaperView::jumpTo(QPointF share) {
    const PaperScore* one = paper();
    if (!one || one->pins.empty())
        return;
    const TimelineMap map(m_document.piece().timeline);
    double nearest = 1e9;
    int bar = one->pins.front().bar;
    const int last = one->pins.back().bar + 8;
    for (int b = one->pins.front().bar; b <= last; ++b)
        if (const auto place = placeOnPaper(*one, b); place && place->page == m_page) {
            const double away = std::hypot(share.x() - place->x, 3.0 * (share.y() - place->y));
            if (away < nearest) {
                nearest = away;
                bar = b;
            }
        }
    m_transport.seek(map.timeAt(map.grid().bar(bar).start.toDouble()));
}

void PaperView::follow() {
    const PaperScore* one = paper();
    if (!one || !isVisible())
        return;
    const TimelineMap map(m_document.piece().timeline);
    const double quarters = map.quartersAt(m_transport.playhead_s());
    const GridBar bar = map.grid().barAt(Rational(static_cast<std::int64_t>(std::floor(quarters))));
    const double within = (quarters - bar.start.toDouble()) / bar.metre.barLength().toDouble();
    m_sheet->head = placeOnPaper(*one, bar.number + std::clamp(within, 0.0, 1.0));
    if (m_sheet->head && m_sheet->head->page != m_page && m_transport.playing())
        showPage(m_sheet->head->page);
    if (m_sheet->head && m_sheet->head->page != m_page)
        m_sheet->head.reset();
    if (m_sheet->head && m_transport.playing())
        m_scroll->ensureVisible(static_cast<int>(m_sheet->head->x * m_sheet->width()),
                                static_cast<int>(m_sheet->head->y * m_sheet->height()),
                                80,
                                80);
    m_sheet->update();
}

} // namespace wirenote::app
