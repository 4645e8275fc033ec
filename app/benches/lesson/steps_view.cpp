#include "app/benches/lesson/steps_view.h"

#include "app/benches/lesson/phrase_picture.h"
#include "app/commands/lesson_commands.h"
#include "app/document/lesson_book.h"
#include "app/text/lesson_wording.h"

#include <QEvent>
#include <QHBoxLayout>
#include <QSignalBlocker>
#include <cmath>

namespace wirenote::app {
namespace {

QString ambiguityText(const AmbiguousWord& word) {
    const QString said = QString::fromStdString(word.word);
    switch (word.what) {
    case Ambiguity::BareNumber:
        return StepsView::tr("“%1”: finger, fret, string or beat?").arg(said);
    case Ambiguity::BareLetter:
        return StepsView::tr("“%1”: a note, a chord or a string?").arg(said);
    case Ambiguity::LetterNumber:
        return StepsView::tr("“%1”: a chord, or a string and a fret?").arg(said);
    case Ambiguity::Direction:
        return StepsView::tr("“%1”: in pitch, or in the air?").arg(said);
    }
    return {};
}

} // namespace

StepsView::StepsView(LessonBook& book, LessonCommands& commands, QWidget* parent)
    : QWidget(parent), m_book(book), m_commands(commands), m_steps(new QListWidget),
      m_title(Card::label({}, 10, true, theme().ink)), m_picture(new QLabel),
      m_text(new QPlainTextEdit), m_remarks(Card::label({}, 9, false, theme().accent)),
      m_stumbles(Card::label({}, 9, false, theme().quiet)),
      m_as_made(new QPushButton(tr("Write it as it is made"))) {
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    m_steps->setObjectName("lessonSteps");
    m_steps->setAccessibleName(tr("Steps of the lesson"));
    m_steps->setMaximumWidth(230);
    row->addWidget(m_steps, 2);
    auto* column = new QVBoxLayout;
    m_title->setObjectName("stepTitle");
    column->addWidget(m_title);
    m_picture->setObjectName("stepPicture");
    m_picture->setAlignment(Qt::AlignLeft | Qt::AlignTop);
    m_picture->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
    column->addWidget(m_picture);
    m_text->setObjectName("stepText");
    m_text->setAccessibleName(tr("What is said at this step"));
    m_text->setTabChangesFocus(true);
    m_text->installEventFilter(this);
    column->addWidget(m_text, 1);
    m_remarks->setObjectName("stepRemarks");
    column->addWidget(m_remarks);
    m_stumbles->setObjectName("stepStumbles");
    column->addWidget(m_stumbles);
    auto* buttons = new QHBoxLayout;
    const auto button = [&](const QString& text, auto run) {
        auto* one = new QPushButton(text);
        connect(one, &QPushButton::clicked, this, run);
        buttons->addWidget(one);
        return one;
    };
    button(tr("Play this step"), [this] { m_commands.playStep(); })->setObjectName("playStep");
    m_as_made->setObjectName("writeAsMade");
    connect(m_as_made, &QPushButton::clicked, this, [this] { m_commands.writeAsMade(); });
    buttons->addWidget(m_as_made);
    buttons->addStretch(1);
    column->addLayout(buttons);
    row->addLayout(column, 3);
    connect(m_steps, &QListWidget::currentRowChanged, this, [this](int at) {
        if (at >= 0) {
            keepText();
            m_book.choose(static_cast<std::size_t>(at));
        }
    });
    connect(&book, &LessonBook::changed, this, &StepsView::refresh);
    connect(&book, &LessonBook::chosen, this, &StepsView::showStep);
    refresh();
}

void StepsView::refresh() {
    const QSignalBlocker block(m_steps);
    m_steps->clear();
    const auto state = m_book.state();
    if (!state || state->breakdown.steps.empty()) {
        m_text->setPlainText(tr("There is nothing to teach yet: hear a take on the Takes bench "
                                "(F1), or open a tab."));
        m_text->setReadOnly(true);
        m_shown = m_text->toPlainText();
        m_remarks->clear();
        m_as_made->setEnabled(false);
        return;
    }
    for (std::size_t s = 0; s < state->breakdown.steps.size(); ++s) {
        const TeachStep& step = state->breakdown.steps[s];
        QStringList letters;
        for (const std::size_t p : step.phrases)
            letters << QString::fromStdString(state->breakdown.phrases[p].letter);
        QString text =
            letters.size() > 3 ? letters.front() + " … " + letters.back() : letters.join(" + ");
        text += "   " + stepKindText(step.kind);
        if (step.kind == StepKind::Slow || step.kind == StepKind::Fast)
            text += tr(", %1 %").arg(std::lround(100.0 * step.tempo));
        if (step.kind == StepKind::Layer)
            text += QString(" %1").arg(step.layer);
        if (step.relief)
            text += tr(", to rest the hand");
        if (state->texts[s].edited)
            text += " ✎";
        if (state->texts[s].made_anew || !state->contradictions[s].empty())
            text += " !";
        m_steps->addItem(text);
    }
    showStep();
}

void StepsView::showStep() {
    const auto state = m_book.state();
    if (!state || m_book.step() >= state->texts.size())
        return;
    const QSignalBlocker block(m_steps);
    m_steps->setCurrentRow(static_cast<int>(m_book.step()));
    const StepText& text = state->texts[m_book.step()];
    const TeachStep& step = state->breakdown.steps[m_book.step()];
    m_text->setReadOnly(step.phrases.size() != 1 || step.relief);
    const QString shown = QString::fromStdString(text.text);
    if (m_text->toPlainText() != shown)
        m_text->setPlainText(shown);
    m_shown = shown;
    m_as_made->setEnabled(text.edited);
    m_title->setText(QString::fromStdString(state->writer.stepTitle(step)));
    showPicture();
    m_stumbles->setText(stumbles());
    m_stumbles->setVisible(!m_stumbles->text().isEmpty());
    m_remarks->setText(remarks());
    m_remarks->setVisible(!m_remarks->text().isEmpty());
}

void StepsView::showPicture() {
    constexpr double kDots_mm = 3.4;
    const auto state = m_book.state();
    const TeachStep& step = state->breakdown.steps[m_book.step()];
    m_picture->setVisible(step.phrases.size() == 1);
    if (step.phrases.size() != 1)
        return;
    m_tab = QPixmap::fromImage(phrasePicture(state->tabs()[step.phrases[0]], kDots_mm));
    fitPicture();
    m_picture->setAccessibleName(tr("The tab of %1").arg(m_title->text()));
}

// Never wider than there is room.
void StepsView::fitPicture() {
    if (m_tab.isNull())
        return;
    const int room = m_text->width();
    m_picture->setPixmap(m_tab.width() <= room || room < 50
                             ? m_tab
                             : m_tab.scaledToWidth(room, Qt::SmoothTransformation));
}

void StepsView::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    layout()->activate();
    fitPicture();
}

// The likeliest of its phrase.
QString StepsView::stumbles() const {
    const auto state = m_book.state();
    const TeachStep& step = state->breakdown.steps[m_book.step()];
    const TeachPhrase& phrase = state->breakdown.phrases[step.phrases.front()];
    for (const Stumble& stumble : state->stumbles)
        if (step.phrases.size() == 1 && stumble.at >= phrase.from && stumble.at < phrase.to)
            return tr("People stumble here: %1 %2")
                .arg(QString::fromStdString(state->writer.stumbleText(stumble)),
                     QString::fromStdString(state->writer.remedyText(stumble)));
    return {};
}

QString StepsView::remarks() const {
    const auto state = m_book.state();
    const StepText& text = state->texts[m_book.step()];
    QStringList said;
    if (text.made_anew)
        said << tr("The reading has changed since this text was written.");
    for (const CheckedClaim& claim : state->contradictions[m_book.step()])
        said << tr("Bar %1: %2.").arg(claim.bar).arg(claimText(claim));
    for (const AmbiguousWord& word : state->ambiguous[m_book.step()])
        said << ambiguityText(word);
    return said.join("\n");
}

void StepsView::keepText() {
    if (!m_text->isReadOnly() && m_text->toPlainText() != m_shown) {
        m_shown = m_text->toPlainText();
        m_commands.write(m_shown);
    }
}

// What was typed is kept when the field is left.
bool StepsView::eventFilter(QObject* watched, QEvent* event) {
    if (watched == m_text && event->type() == QEvent::FocusOut)
        keepText();
    return QWidget::eventFilter(watched, event);
}

} // namespace wirenote::app
