#include "app/benches/lesson/about_form.h"

#include "app/commands/lesson_commands.h"
#include "app/document/document.h"
#include "base/text.h"

#include <QEvent>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>

namespace wirenote::app {

AboutForm::AboutForm(Document& document, LessonCommands& commands, QWidget* parent)
    : QWidget(parent), m_document(document), m_commands(commands), m_glossary(new QPlainTextEdit) {
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    auto* form = new QFormLayout;
    addLine(*form, tr("Level"), "lessonLevel", tr("for whom it is"), &LessonPlan::level);
    addLine(*form,
            tr("Presupposes"),
            "lessonPresupposes",
            tr("what a learner can do before"),
            &LessonPlan::presupposes);
    addLine(*form,
            tr("Background"),
            "lessonBackground",
            tr("where the style comes from"),
            &LessonPlan::background);
    addLine(*form,
            tr("Credits"),
            "lessonCredits",
            tr("whose ideas were borrowed"),
            &LessonPlan::credits);
    addLine(*form, tr("Series"), "lessonSeries", tr("part 2 of 5: …"), &LessonPlan::series);
    row->addLayout(form, 3);
    auto* words = new QVBoxLayout;
    auto* label = new QLabel(tr("Your own words, one a line: ours = yours"));
    label->setBuddy(m_glossary);
    words->addWidget(label);
    m_glossary->setObjectName("glossary");
    m_glossary->setAccessibleName(tr("Your own words"));
    m_glossary->setPlaceholderText(tr("down-stroke = pick downstairs"));
    m_glossary->setTabChangesFocus(true);
    m_glossary->installEventFilter(this);
    words->addWidget(m_glossary, 1);
    auto* take_over = new QPushButton(tr("Speak as in another lesson…"));
    take_over->setObjectName("mannerOf");
    take_over->setToolTip(
        tr("Takes over the words and conventions of another piece of the series"));
    connect(take_over, &QPushButton::clicked, this, [this] {
        const QString file =
            QFileDialog::getOpenFileName(this,
                                         tr("A piece whose lesson speaks as this one shall"),
                                         {},
                                         tr("Pieces (*.wirenote)"));
        if (!file.isEmpty())
            m_commands.useMannerOf(file);
    });
    words->addWidget(take_over);
    row->addLayout(words, 2);
    connect(&document, &Document::opened, this, &AboutForm::refresh);
    connect(&document, &Document::changed, this, [this](const Changes& what) {
        if (what.lesson)
            refresh();
    });
}

void AboutForm::addLine(QFormLayout& form,
                        const QString& label,
                        const char* name,
                        const QString& hint,
                        std::string LessonPlan::*of) {
    auto* line = new QLineEdit;
    line->setObjectName(name);
    line->setAccessibleName(label);
    line->setPlaceholderText(hint);
    line->setMaxLength(5000);
    form.addRow(label, line);
    m_lines.emplace_back(line, of);
    connect(line, &QLineEdit::editingFinished, this, [this, line, of] {
        m_commands.change(tr("say something about the lesson"), [&](LessonPlan& plan) {
            plan.*of = cleanText(line->text().toStdString(), kLongestRemark);
        });
    });
}

void AboutForm::refresh() {
    const LessonPlan& plan = m_document.piece().lesson;
    for (const auto& [line, of] : m_lines)
        if (!line->hasFocus())
            line->setText(QString::fromStdString(plan.*of));
    QStringList words;
    for (const GlossaryWord& word : plan.manner.glossary)
        words << QString::fromStdString(word.ours + " = " + word.own);
    if (!m_glossary->hasFocus())
        m_glossary->setPlainText(words.join("\n"));
}

void AboutForm::keepGlossary() {
    std::vector<GlossaryWord> words;
    for (const QString& line : m_glossary->toPlainText().split('\n')) {
        const auto equals = line.indexOf('=');
        const QString ours = line.left(equals).trimmed(), own = line.mid(equals + 1).trimmed();
        if (equals > 0 && !ours.isEmpty() && !own.isEmpty() && words.size() < kMaxGlossary)
            words.push_back({cleanText(ours.toStdString()), cleanText(own.toStdString())});
    }
    m_commands.change(tr("words of your own"),
                      [&](LessonPlan& plan) { plan.manner.glossary = words; });
}

bool AboutForm::eventFilter(QObject* watched, QEvent* event) {
    if (watched == m_glossary && event->type() == QEvent::FocusOut)
        keepGlossary();
    return QWidget::eventFilter(watched, event);
}

} // namespace wirenote::app
