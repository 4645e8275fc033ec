#include "app/benches/lesson/lesson_card.h"

#include "app/commands/lesson_commands.h"
#include "app/document/document.h"
#include "app/document/lesson_book.h"
#include "app/text/wording.h"

#include <QFileDialog>
#include <QFormLayout>
#include <QGridLayout>
#include <QSignalBlocker>
#include <algorithm>
#include <cmath>

namespace wirenote::app {

LessonCard::LessonCard(Document& document,
                       LessonBook& book,
                       LessonCommands& commands,
                       QWidget* parent)
    : Card(parent), m_document(document), m_book(book), m_commands(commands),
      m_tempi(new QLineEdit), m_title(new QLineEdit),
      m_left_out(new QPushButton(tr("Leave this phrase out"))),
      m_free(new QPushButton(tr("This phrase is free"))),
      m_sum(label({}, 9, false, theme().quiet)) {
    setObjectName("lessonCard");
    column()->addWidget(label(tr("Lesson"), 12, true, theme().ink));
    column()->addWidget(m_sum);
    addManner();
    addCutting();
    addMaking();
    column()->addStretch(1);
    connect(&book, &LessonBook::changed, this, &LessonCard::refresh);
    connect(&book, &LessonBook::chosen, this, &LessonCard::refresh);
    refresh();
}

QComboBox* LessonCard::choice(const QString& label, const char* name, const QStringList& items) {
    auto* box = new QComboBox;
    box->setObjectName(name);
    box->setAccessibleName(label);
    box->addItems(items);
    box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    static_cast<QFormLayout*>(column()->itemAt(column()->count() - 1)->layout())
        ->addRow(label, box);
    return box;
}

void LessonCard::addManner() {
    auto* form = new QFormLayout;
    form->setFieldGrowthPolicy(QFormLayout::AllNonFixedFieldsGrow);
    column()->addLayout(form);
    m_order = choice(tr("Order"),
                     "teachingOrder",
                     {tr("fretting hand first"),
                      tr("plucking hand first"),
                      tr("one hand, then the other"),
                      tr("voice by voice"),
                      tr("lick by lick"),
                      tr("in layers")});
    m_strings = choice(
        tr("Strings"), "stringNaming", {tr("by number"), tr("by letter"), tr("thick and thin")});
    m_fingers = choice(tr("Fingers"), "fingerNaming", {tr("by number"), tr("by name")});
    m_strokes = choice(tr("Strokes"), "strokeNaming", {tr("p i m a"), tr("thumb, index …")});
    m_notes = choice(tr("Notes"),
                     "noteNaming",
                     {tr("as the language does"), tr("C D E"), tr("do re mi"), tr("C D E, H")});
    m_count =
        choice(tr("Count"), "lessonCount", {tr("1 e & a"), tr("1 e und e"), tr("ta ka di mi")});
    QStringList languages;
    for (const std::string& code : shippedLanguages())
        if (const auto words = Vocabulary::shipped(code))
            languages << QString::fromStdString(words->name());
    m_language = choice(tr("Language"), "lessonLanguage", languages);
    m_tempi->setObjectName("lessonTempi");
    m_tempi->setAccessibleName(tr("Tempi of the play-alongs in per cent"));
    m_tempi->setPlaceholderText(tr("60, 80, 100"));
    form->addRow(tr("Tempi, %"), m_tempi);
    const auto set = [this](QComboBox* box, auto put) {
        connect(box, &QComboBox::activated, this, [this, put](int at) {
            m_commands.change(tr("how the lesson is taught"),
                              [&](LessonPlan& plan) { put(plan.manner, at); });
        });
    };
    set(m_order, [](TeachingManner& m, int at) { m.order = static_cast<TeachingOrder>(at); });
    set(m_strings, [](TeachingManner& m, int at) { m.strings = static_cast<StringNaming>(at); });
    set(m_fingers, [](TeachingManner& m, int at) { m.fingers = static_cast<FingerNaming>(at); });
    set(m_strokes, [](TeachingManner& m, int at) { m.strokes = static_cast<StrokeNaming>(at); });
    set(m_notes, [](TeachingManner& m, int at) {
        m.notes_as_language = at == 0;
        m.notes = static_cast<NoteNaming>(std::max(0, at - 1));
    });
    set(m_count, [](TeachingManner& m, int at) { m.count = static_cast<CountSchool>(at); });
    set(m_language, [](TeachingManner& m, int at) {
        m.language = shippedLanguages()[static_cast<std::size_t>(at)];
    });
    connect(m_tempi, &QLineEdit::editingFinished, this, &LessonCard::keepTempi);
}

void LessonCard::keepTempi() {
    constexpr double kPerCent = 100.0;
    std::vector<double> tempi;
    for (const QString& part : m_tempi->text().split(QChar(','), Qt::SkipEmptyParts)) {
        bool ok = false;
        const double share = part.trimmed().remove('%').toDouble(&ok) / kPerCent;
        if (ok && share >= kSlowestLesson && share <= kFastestLesson &&
            tempi.size() < kMostLessonTempi)
            tempi.push_back(share);
    }
    if (!tempi.empty())
        m_commands.change(tr("tempi of the play-alongs"),
                          [&](LessonPlan& plan) { plan.manner.tempi = tempi; });
    refresh();
}

void LessonCard::addCutting() {
    column()->addWidget(label(tr("Phrases"), 10, true, theme().ink));
    m_title->setObjectName("phraseTitle");
    m_title->setAccessibleName(tr("Name of the chosen phrase"));
    m_title->setPlaceholderText(tr("name of the chosen phrase"));
    m_title->setMaxLength(200);
    column()->addWidget(m_title);
    connect(m_title, &QLineEdit::editingFinished, this, [this] {
        if (m_title->isModified())
            m_commands.rename(m_title->text());
        m_title->setModified(false);
    });
    auto* grid = new QGridLayout;
    const auto add = [&](int row, int column, const QString& text, const char* name, auto run) {
        auto* button = new QPushButton(text);
        button->setObjectName(name);
        connect(button, &QPushButton::clicked, this, run);
        grid->addWidget(button, row, column);
    };
    add(0, 0, tr("Cut at playhead"), "cutPhrase", [this] { m_commands.cutHere(); });
    add(0, 1, tr("Join to the next"), "joinPhrase", [this] { m_commands.joinToNext(); });
    add(1, 0, tr("As found"), "cutsAsFound", [this] { m_commands.cutAsFound(); });
    add(1, 1, tr("Teach only the loop"), "teachLoop", [this] { m_commands.teachLoop(); });
    column()->addLayout(grid);
    m_left_out->setObjectName("leavePhraseOut");
    m_free->setObjectName("phraseFree");
    for (QPushButton* button : {m_left_out, m_free}) {
        button->setCheckable(true);
        column()->addWidget(button);
    }
    connect(m_left_out, &QPushButton::clicked, this, [this] { m_commands.leaveOut(); });
    connect(m_free, &QPushButton::clicked, this, [this] { m_commands.makeFree(); });
}

void LessonCard::addMaking() {
    const auto add = [&](const QString& text, const char* name, auto run) {
        auto* button = new QPushButton(text);
        button->setObjectName(name);
        connect(button, &QPushButton::clicked, this, run);
        column()->addWidget(button);
    };
    column()->addWidget(label(tr("What is made of it"), 10, true, theme().ink));
    add(tr("See it as a learner will"), "previewLesson", [this] { emit previewWanted(); });
    add(tr("Prompt for filming"), "promptLesson", [this] { emit promptWanted(); });
    add(tr("Make the pack…"), "makePack", [this] { askForFolder(); });
}

void LessonCard::askForFolder() {
    const QString folder =
        QFileDialog::getExistingDirectory(this, tr("An empty folder, or one with an earlier pack"));
    if (!folder.isEmpty())
        m_commands.makePack(folder);
}

void LessonCard::refresh() {
    const TeachingManner& manner = m_document.piece().lesson.manner;
    m_order->setCurrentIndex(static_cast<int>(manner.order));
    m_strings->setCurrentIndex(static_cast<int>(manner.strings));
    m_fingers->setCurrentIndex(static_cast<int>(manner.fingers));
    m_strokes->setCurrentIndex(static_cast<int>(manner.strokes));
    m_notes->setCurrentIndex(manner.notes_as_language ? 0 : static_cast<int>(manner.notes) + 1);
    m_count->setCurrentIndex(static_cast<int>(manner.count));
    const auto codes = shippedLanguages();
    m_language->setCurrentIndex(
        static_cast<int>(std::ranges::find(codes, manner.language) - codes.begin()));
    QStringList tempi;
    constexpr double kPerCent = 100.0;
    for (const double tempo : manner.tempi)
        tempi << QString::number(std::lround(kPerCent * tempo));
    if (!m_tempi->hasFocus())
        m_tempi->setText(tempi.join(", "));
    const auto state = m_book.state();
    if (!state || state->breakdown.steps.empty()) {
        m_sum->setText(tr("Nothing to teach yet."));
        return;
    }
    double minutes = 0.0;
    for (const TeachStep& step : state->breakdown.steps)
        minutes += step.minutes;
    m_sum->setText(tr("%1 in %2; about %3 minutes to teach")
                       .arg(countText(static_cast<int>(state->breakdown.phrases.size()),
                                      QT_TRANSLATE_NOOP("wording", "%1 phrase"),
                                      QT_TRANSLATE_NOOP("wording", "%1 phrases")),
                            countText(static_cast<int>(state->breakdown.steps.size()),
                                      QT_TRANSLATE_NOOP("wording", "%1 step"),
                                      QT_TRANSLATE_NOOP("wording", "%1 steps")))
                       .arg(std::lround(minutes)));
    const std::size_t step = std::min(m_book.step(), state->breakdown.steps.size() - 1);
    const TeachPhrase& phrase =
        state->breakdown.phrases[state->breakdown.steps[step].phrases.back()];
    if (!m_title->hasFocus())
        m_title->setText(QString::fromStdString(phrase.title));
    m_left_out->setChecked(phrase.left_out);
    m_free->setChecked(phrase.free);
}

} // namespace wirenote::app
