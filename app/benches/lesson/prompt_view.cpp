#include "app/benches/lesson/prompt_view.h"

#include "app/benches/lesson/phrase_picture.h"
#include "app/benches/lesson/wanted_while_shown.h"
#include "app/commands/lesson_commands.h"
#include "app/theme.h"
#include "lesson/filming.h"

#include <QKeyEvent>
#include <QScrollArea>
#include <QTextDocument>
#include <QVBoxLayout>
#include <algorithm>

namespace wirenote::app {
namespace {

constexpr double kSmallest = 14.0, kLargest = 72.0; // points

QLabel* large(bool strong) {
    auto* label = new QLabel;
    label->setWordWrap(true);
    label->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    QFont font = uiFont(18, strong);
    label->setFont(font);
    return label;
}

} // namespace

PromptView::PromptView(LessonBook& book, LessonCommands& commands, QWidget* parent)
    : QWidget(parent, Qt::Window), m_book(book), m_commands(commands), m_title(large(true)),
      m_text(large(false)), m_next(large(false)) {
    setObjectName("promptView");
    setWindowTitle(tr("Prompt – space: next, R: film again, Escape: end"));
    setAttribute(Qt::WA_DeleteOnClose);
    QPalette colours = palette();
    colours.setColor(QPalette::Window, theme().paper);
    colours.setColor(QPalette::WindowText, theme().ink);
    setPalette(colours);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(40, 30, 40, 30);
    m_title->setObjectName("promptTitle");
    column->addWidget(m_title);
    auto* area = new QScrollArea;
    area->setWidgetResizable(true);
    area->setFrameShape(QFrame::NoFrame);
    area->setFocusPolicy(Qt::NoFocus);
    m_text->setObjectName("promptText");
    area->setWidget(m_text);
    for (QWidget* under : {static_cast<QWidget*>(m_text), area->viewport()}) {
        under->setPalette(colours);
        under->setAutoFillBackground(true);
    }
    column->addWidget(area, 1);
    m_next->setObjectName("promptNext");
    QPalette quiet = m_next->palette();
    quiet.setColor(QPalette::WindowText, theme().quiet);
    m_next->setPalette(quiet);
    column->addWidget(m_next);
    connect(&book, &LessonBook::changed, this, &PromptView::refresh);
    connect(&book, &LessonBook::chosen, this, &PromptView::refresh);
    setFocusPolicy(Qt::StrongFocus);
    resize(1000, 700);
    new WantedWhileShown(*this, book);
    refresh();
}

void PromptView::refresh() {
    const auto state = m_book.state();
    if (!state || state->breakdown.steps.empty()) {
        m_title->setText(tr("There is nothing to say yet."));
        return;
    }
    const std::vector<PromptPage> pages = promptOf(state->writer);
    const PromptPage& page = pages[std::min(m_book.step(), pages.size() - 1)];
    m_title->setText((page.retake ? tr("FILM AGAIN – ") : QString()) +
                     QString::fromStdString(page.title));
    m_text->setText(QString::fromStdString(page.text));
    m_text->setFont(uiFont(m_points, false));
    m_next->setText(page.next.empty() ? tr("This is the last step.")
                                      : tr("Next: %1").arg(QString::fromStdString(page.next)));
}

void PromptView::keyPressEvent(QKeyEvent* event) {
    constexpr double kStep = 2.0;
    switch (event->key()) {
    case Qt::Key_Space:
    case Qt::Key_Right:
    case Qt::Key_PageDown:
        m_commands.nextStep();
        break;
    case Qt::Key_Left:
    case Qt::Key_PageUp:
        m_commands.previousStep();
        break;
    case Qt::Key_R:
        m_commands.markRetake();
        break;
    case Qt::Key_Plus:
    case Qt::Key_Equal:
        m_points = std::min(kLargest, m_points + kStep);
        refresh();
        break;
    case Qt::Key_Minus:
        m_points = std::max(kSmallest, m_points - kStep);
        refresh();
        break;
    case Qt::Key_Escape:
        close();
        break;
    default:
        QWidget::keyPressEvent(event);
    }
}

LessonPreview::LessonPreview(LessonBook& book, QWidget* parent)
    : QTextBrowser(parent), m_book(book) {
    setObjectName("lessonPreview");
    setWindowFlag(Qt::Window);
    setAttribute(Qt::WA_DeleteOnClose);
    setWindowTitle(tr("The lesson as a learner will see it"));
    setOpenLinks(false);
    resize(900, 760);
    new WantedWhileShown(*this, book);
    connect(&book, &LessonBook::changed, this, &LessonPreview::refresh);
    refresh();
}

void LessonPreview::refresh() {
    const auto state = m_book.state();
    if (!state || state->breakdown.steps.empty()) {
        setPlainText(tr("There is nothing to teach yet."));
        return;
    }
    QString html =
        QString::fromStdString(handoutHtml(state->writer, state->stumbles, state->piece.title));
    for (std::size_t p = 0; p < state->breakdown.phrases.size(); ++p) {
        const TeachPhrase& phrase = state->breakdown.phrases[p];
        const QString name = QString("tab-%1").arg(p);
        const QString head = QString("<h3>%1").arg(
            QString::fromStdString(state->writer.phraseTitle(p)).toHtmlEscaped());
        const auto at = html.indexOf(head); // the first step of the phrase
        if (phrase.left_out || at < 0)
            continue;
        document()->addResource(
            QTextDocument::ImageResource, QUrl(name), phrasePicture(state->tabs()[p], 4.5));
        html.insert(at, QString("<p><img src=\"%1\"></p>").arg(name));
    }
    setHtml(html);
}

} // namespace wirenote::app
