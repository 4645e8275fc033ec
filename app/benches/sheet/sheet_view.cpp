#include "app/benches/sheet/sheet_view.h"

#include "app/benches/sheet/sheet_painter.h"
#include "app/document/derived.h"
#include "app/document/document.h"
#include "app/theme.h"
#include "session/resolve.h"

#include <QPainter>
#include <algorithm>

namespace wirenote::app {
namespace {
constexpr int kGap = 16;
}

class SheetView::Paper : public QWidget {
  public:
    void setPages(std::vector<TabPage> pages) {
        m_pages = std::move(pages);
        fit(width());
    }
    void fit(int width) {
        m_scale = width / PageFormat{}.width_mm;
        const int height = static_cast<int>(PageFormat{}.height_mm * m_scale);
        setFixedSize(width, std::max(1, static_cast<int>(m_pages.size())) * (height + kGap));
        update();
    }

  protected:
    void paintEvent(QPaintEvent*) override {
        QPainter painter(this);
        const double height = PageFormat{}.height_mm * m_scale;
        for (std::size_t i = 0; i < m_pages.size(); ++i) {
            painter.save();
            painter.translate(0, static_cast<double>(i) * (height + kGap));
            painter.setPen(theme().line);
            painter.setBrush(Qt::white);
            painter.drawRect(QRectF(0, 0, width() - 1, height));
            paintTabPage(painter, m_pages[i], m_scale);
            painter.restore();
        }
    }

  private:
    std::vector<TabPage> m_pages;
    double m_scale = 4.0;
};

SheetView::SheetView(Document& document, Derived& derived, QWidget* parent)
    : QScrollArea(parent), m_document(document), m_derived(derived), m_paper(new Paper) {
    setObjectName("sheet");
    setAccessibleName(tr("Sheet: the tab page as it will be printed"));
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
}

// Worked out beside the interface; of several wishes the last one is shown.
void SheetView::layOut() {
    if (!m_document.isOpen())
        return;
    m_derived.ask(
        [righted = m_document.slipsPutRight()](const Piece& piece) {
            return layOutTabPages(righted ? asMeant(piece) : piece);
        },
        [this, asked = ++m_asked](std::vector<TabPage> pages) {
            if (asked == m_asked)
                m_paper->setPages(std::move(pages));
        });
}

void SheetView::resizeEvent(QResizeEvent* event) {
    QScrollArea::resizeEvent(event);
    m_paper->fit(std::clamp(viewport()->width() - 24, 400, 900));
}

void SheetView::showEvent(QShowEvent* event) {
    QScrollArea::showEvent(event);
    m_soon.start();
}

} // namespace wirenote::app
