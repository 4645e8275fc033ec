#include "app/rail.h"

#include "app/document/derived.h"
#include "app/document/document.h"
#include "app/text/wording.h"
#include "app/theme.h"

#include <QPainter>
#include <QVBoxLayout>
#include <algorithm>
#include <array>

namespace wirenote::app {
namespace {

class BenchButton : public QAbstractButton {
  public:
    BenchButton(const QString& name, const QString& key) {
        setText(name);
        setCheckable(true);
        setFixedSize(80, 54);
        setAccessibleName(name);
        setToolTip(QString("%1 (%2)").arg(name, key));
        setFocusPolicy(Qt::TabFocus);
    }
    void setProgress(double done, int doubts, int questions) {
        m_done = done;
        m_doubts = doubts;
        m_questions = questions;
        update();
    }

  protected:
    void paintEvent(QPaintEvent*) override {
        QPainter painter(this);
        painter.setRenderHint(QPainter::Antialiasing);
        if (isChecked() || hasFocus()) {
            painter.setPen(hasFocus() ? QPen(theme().accent, 1.5) : QPen(Qt::NoPen));
            painter.setBrush(isChecked() ? QBrush(theme().paper) : QBrush(Qt::NoBrush));
            painter.drawRoundedRect(QRectF(rect()).adjusted(1, 1, -1, -1), 8, 8);
        }
        painter.setPen(theme().ink);
        painter.setFont(uiFont(9.5, isChecked()));
        painter.drawText(QRectF(0, 6, width(), 20), Qt::AlignCenter, text());
        painter.fillRect(QRectF(18, 30, width() - 36, 3), theme().line);
        painter.fillRect(QRectF(18, 30, (width() - 36) * m_done, 3),
                         m_done >= 1.0 ? theme().quiet : theme().ink);
        if (m_doubts + m_questions > 0) {
            painter.setPen(theme().accent);
            painter.setFont(uiFont(7.5));
            painter.drawText(QRectF(0, 35, width(), 15),
                             Qt::AlignCenter,
                             m_questions > 0
                                 ? countText(m_questions,
                                             QT_TRANSLATE_NOOP("wording", "%1 question"),
                                             QT_TRANSLATE_NOOP("wording", "%1 questions"))
                                 : countText(m_doubts,
                                             QT_TRANSLATE_NOOP("wording", "%1 doubt"),
                                             QT_TRANSLATE_NOOP("wording", "%1 doubts")));
        }
    }

  private:
    double m_done = 0.0;
    int m_doubts = 0;
    int m_questions = 0;
};

} // namespace

QString Rail::nameOf(BenchKind kind) {
    switch (kind) {
    case BenchKind::Takes:
        return tr("Takes");
    case BenchKind::Pulse:
        return tr("Pulse");
    case BenchKind::Notes:
        return tr("Notes");
    case BenchKind::Neck:
        return tr("Neck");
    case BenchKind::Strokes:
        return tr("Strokes");
    case BenchKind::Sheet:
        return tr("Sheet");
    case BenchKind::Readings:
        return tr("Readings");
    case BenchKind::Lesson:
        return tr("Lesson");
    }
    return {};
}

Rail::Rail(Document& document, Derived& derived, QWidget* parent)
    : QWidget(parent), m_document(document), m_derived(derived) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(4);
    for (int i = 0; i < kBenchCount; ++i) {
        auto* button =
            new BenchButton(nameOf(static_cast<BenchKind>(i)), QString("F%1").arg(i + 1));
        button->setObjectName(QString("bench%1").arg(i));
        m_buttons.addButton(button, i);
        column->addWidget(button);
    }
    column->addStretch(1);
    m_buttons.setExclusive(true);
    connect(&m_buttons, &QButtonGroup::idClicked, this, [this](int id) {
        emit chosen(static_cast<BenchKind>(id));
    });
    connect(&document, &Document::opened, this, &Rail::refresh);
    connect(&derived, &Derived::changed, this, &Rail::refresh);
    connect(&document, &Document::saved, this, &Rail::refresh);
}

void Rail::setCurrent(BenchKind kind) {
    m_buttons.button(static_cast<int>(kind))->setChecked(true);
}

void Rail::refresh() {
    const Piece& piece = m_document.piece();
    const auto notes = static_cast<double>(std::max<std::size_t>(1, piece.notes.size()));
    std::array<int, kBenchCount> doubts{};
    for (const Doubt& d : m_derived.doubts())
        ++doubts[static_cast<std::size_t>(d.kind == DoubtKind::Stroke ? BenchKind::Strokes
                                          : d.kind == DoubtKind::Place ||
                                                  d.kind == DoubtKind::NoPlace ||
                                                  d.kind == DoubtKind::Finger
                                              ? BenchKind::Neck
                                              : BenchKind::Notes)];
    std::array<int, kBenchCount> questions{};
    for (const Question& question : m_derived.questions())
        ++questions[static_cast<std::size_t>(
            question.kind == QuestionKind::Instrument ? BenchKind::Takes : BenchKind::Pulse)];
    std::array<double, kBenchCount> done{};
    if (m_document.isOpen() && !piece.notes.empty()) {
        double strokes = 0.0;
        for (const NotePlan& plan : piece.asPlayed().plans)
            strokes += plan.stroke.isSet() ? 1.0 : plan.stroke.probability;
        done = {piece.lead() ? 1.0 : 0.0,
                piece.timeline.beats_s.size() > 1 ? 1.0 : 0.0,
                1.0 - doubts[static_cast<std::size_t>(BenchKind::Notes)] / notes,
                1.0 - doubts[static_cast<std::size_t>(BenchKind::Neck)] / notes,
                strokes / notes,
                m_derived.nothingInDoubt() ? 1.0 : 0.5};
    }
    for (int i = 0; i < kBenchCount; ++i)
        static_cast<BenchButton*>(m_buttons.button(i))
            ->setProgress(done[static_cast<std::size_t>(i)],
                          doubts[static_cast<std::size_t>(i)],
                          questions[static_cast<std::size_t>(i)]);
}

} // namespace wirenote::app
