#include "app/benches/question_card.h"

#include "app/commands/questions.h"
#include "app/document/document.h"
#include "app/text/question_wording.h"
#include "app/text/wording.h"

#include <QHBoxLayout>
#include <QPainter>

namespace wirenote::app {
namespace {

// A choice: its number, what it is, how likely, what speaks for it. Pressed, it is heard.
class ChoiceButton : public QAbstractButton {
  public:
    ChoiceButton(int number, const QString& text, const QString& reason, double probability)
        : m_number(number), m_reason(reason), m_probability(probability) {
        setText(text);
        setAccessibleName(QStringLiteral("%1: %2, %3").arg(number).arg(text, reason));
        setFocusPolicy(Qt::TabFocus);
        setCheckable(true);
        setMinimumHeight(layOut(nullptr, 290));
        setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    }
    bool hasHeightForWidth() const override { return true; }
    int heightForWidth(int width) const override {
        return const_cast<ChoiceButton*>(this)->layOut(nullptr, width);
    }
    QSize sizeHint() const override { return {200, heightForWidth(290)}; }

  protected:
    void paintEvent(QPaintEvent*) override {
        QPainter painter(this);
        painter.setRenderHint(QPainter::Antialiasing);
        painter.setPen(
            QPen(isChecked() || hasFocus() ? theme().ink : theme().line, isChecked() ? 2.0 : 1.0));
        painter.setBrush(isChecked() ? theme().panel : theme().paper);
        painter.drawRoundedRect(QRectF(rect()).adjusted(1, 1, -1, -1), 6, 6);
        layOut(&painter, width());
    }

  private:
    // Lays the words out, and draws them where there is a painter; the height they need.
    int layOut(QPainter* painter, int width) {
        constexpr int kLeft = 40;
        constexpr int kRight = 56;
        const QFontMetrics strong(uiFont(10.5, true));
        const QFontMetrics small(uiFont(8.5));
        const auto heightOf = [](const QFontMetrics& metrics, int w, const QString& text) {
            return metrics.boundingRect(0, 0, w, 1000, Qt::TextWordWrap, text).height();
        };
        const int text_height = heightOf(strong, width - kLeft - kRight, text());
        const int reason_height =
            m_reason.isEmpty() ? 0 : heightOf(small, width - kLeft - 12, m_reason) + 2;
        if (painter) {
            painter->setPen(theme().ink);
            painter->setFont(uiFont(12, true));
            painter->drawText(QRect(12, 9, 20, 20), Qt::AlignCenter, QString::number(m_number));
            painter->setFont(uiFont(10.5, true));
            painter->drawText(
                QRect(kLeft, 8, width - kLeft - kRight, text_height), Qt::TextWordWrap, text());
            painter->setFont(uiFont(9.5));
            painter->drawText(QRect(width - kRight, 8, kRight - 12, 20),
                              Qt::AlignRight,
                              percentText(m_probability));
            painter->setPen(theme().quiet);
            painter->setFont(uiFont(8.5));
            painter->drawText(QRect(kLeft, 10 + text_height, width - kLeft - 12, reason_height),
                              Qt::TextWordWrap,
                              m_reason);
        }
        return 18 + text_height + reason_height;
    }

    int m_number;
    QString m_reason;
    double m_probability;
};

} // namespace

QuestionCard::QuestionCard(Document& document, Questions& questions, QWidget* parent)
    : Card(parent), m_document(document), m_questions(questions) {
    setObjectName("question");
    m_soon.setSingleShot(true);
    m_soon.setInterval(0);
    connect(&m_soon, &QTimer::timeout, this, &QuestionCard::rebuild);
    connect(&questions, &Questions::changed, this, [this] { m_soon.start(); });
}

void QuestionCard::rebuild() {
    delete m_content;
    m_content = new QWidget;
    m_rows = new QVBoxLayout(m_content);
    m_rows->setContentsMargins(0, 0, 0, 0);
    m_rows->setSpacing(8);
    column()->addWidget(m_content);
    if (m_questions.current())
        showQuestion();
    else if (m_questions.hearAgainOffered())
        showHearAgain();
    m_rows->addStretch(1);
}

void QuestionCard::showQuestion() {
    const Question& question = *m_questions.current();
    setAccessibleName(questionText(question.kind));
    m_rows->addWidget(label(tr("About the whole piece"), 8.5, false, theme().accent));
    m_rows->addWidget(label(questionText(question.kind), 13, true, theme().ink));
    m_rows->addWidget(label(whyItIsAsked(question.kind), 9, false, theme().quiet));
    for (int i = 0; i < static_cast<int>(question.choices.size()); ++i) {
        const Choice& choice = question.choices[static_cast<std::size_t>(i)];
        const QString text = choiceText(m_document.piece(), question, choice);
        auto* button = new ChoiceButton(i + 1,
                                        choice.now ? tr("%1 (as now)").arg(text) : text,
                                        choiceReason(m_document.piece(), question, choice),
                                        choice.probability);
        button->setObjectName(QStringLiteral("choice%1").arg(i + 1));
        button->setChecked(i == m_questions.chosen());
        connect(button, &QAbstractButton::clicked, this, [this, i] { m_questions.choose(i); });
        m_rows->addWidget(button);
    }
    auto* row = new QHBoxLayout;
    auto* take = button(tr("It is this one   ⏎"), "answer", true);
    auto* later = button(tr("Later   N"), "later", false);
    connect(take, &QPushButton::clicked, &m_questions, &Questions::accept);
    connect(later, &QPushButton::clicked, &m_questions, &Questions::openNext);
    row->addWidget(take, 2);
    row->addWidget(later, 1);
    m_rows->addLayout(row);
    m_rows->addWidget(label(tr("H hears it again, Escape goes back to the notes. If it is none of "
                               "these, the Takes and Pulse benches have everything."),
                            8.5,
                            false,
                            theme().quiet));
}

void QuestionCard::showHearAgain() {
    setAccessibleName(tr("Hear the take again?"));
    m_rows->addWidget(label(tr("About the whole piece"), 8.5, false, theme().accent));
    m_rows->addWidget(label(tr("Hear the take again?"), 13, true, theme().ink));
    m_rows->addWidget(
        label(otherInstrumentText(m_document.piece(), *m_questions.hearAgainOffered()),
              9.5,
              false,
              theme().ink));
    m_rows->addWidget(
        label(tr("Heard again, every note is looked for anew. What you set stays, and "
                 "one step back undoes it."),
              9,
              false,
              theme().quiet));
    auto* row = new QHBoxLayout;
    auto* hear = button(tr("Hear it again   ⏎"), "hearAgain", true);
    auto* leave = button(tr("Leave it   Esc"), "leaveIt", false);
    connect(hear, &QPushButton::clicked, &m_questions, &Questions::accept);
    connect(leave, &QPushButton::clicked, &m_questions, &Questions::leave);
    row->addWidget(hear, 2);
    row->addWidget(leave, 1);
    m_rows->addLayout(row);
}

QPushButton* QuestionCard::button(const QString& text, const QString& name, bool primary) {
    auto* button = new QPushButton(text);
    button->setObjectName(name);
    button->setMinimumHeight(36);
    button->setDefault(false);
    button->setProperty("primary", primary);
    return button;
}

} // namespace wirenote::app
