#include "app/benches/lesson/lesson_lists.h"

#include "app/benches/readings/row_list.h"
#include "app/commands/lesson_commands.h"
#include "app/document/document.h"
#include "app/document/lesson_book.h"
#include "app/document/selection.h"
#include "app/playing/transport.h"
#include "app/text/lesson_wording.h"
#include "app/text/wording.h"

#include <QFileDialog>
#include <QHBoxLayout>
#include <algorithm>

namespace wirenote::app {
namespace {

// A list with a row of fields under it.
QHBoxLayout* rowUnder(QWidget* view, RowList* list, const char* name) {
    auto* column = new QVBoxLayout(view);
    column->setContentsMargins(0, 0, 0, 0);
    list->rows().setObjectName(name);
    column->addWidget(list, 1);
    auto* row = new QHBoxLayout;
    column->addLayout(row);
    return row;
}

QPushButton*
button(QWidget* view, const QString& text, const char* name, std::function<void()> run) {
    auto* one = new QPushButton(text);
    one->setObjectName(name);
    QObject::connect(one, &QPushButton::clicked, view, std::move(run));
    return one;
}

QLineEdit* field(const char* name, const QString& label) {
    auto* one = new QLineEdit;
    one->setObjectName(name);
    one->setAccessibleName(label);
    one->setPlaceholderText(label);
    one->setMaxLength(900);
    return one;
}

} // namespace

StumblesList::StumblesList(Document& document,
                           LessonBook& book,
                           LessonCommands& commands,
                           Selection& selection,
                           Transport& transport,
                           QWidget* parent)
    : QWidget(parent), m_document(document), m_book(book), m_commands(commands),
      m_selection(selection), m_transport(transport),
      m_list(new RowList(tr("Where people stumble"),
                         {tr("Likely"), tr("Pupils"), tr("What"), tr("What helps")})),
      m_kind(new QComboBox), m_remark(field("observation", tr("what pupils do here"))),
      m_pupils(new QSpinBox) {
    QHBoxLayout* row = rowUnder(this, m_list, "stumbleRows");
    m_list->wrap();
    for (std::size_t k = 0; k < kStumbleKinds; ++k)
        m_kind->addItem(stumbleKindText(static_cast<StumbleKind>(k)));
    m_kind->setCurrentIndex(static_cast<int>(StumbleKind::Seen));
    m_kind->setAccessibleName(tr("What pupils stumble over"));
    m_kind->setObjectName("observationKind");
    row->addWidget(m_kind);
    row->addWidget(m_remark, 1);
    m_pupils->setRange(1, 1000);
    m_pupils->setAccessibleName(tr("How many pupils"));
    row->addWidget(m_pupils);
    row->addWidget(button(this, tr("Note it at the playhead"), "observe", [this] {
        m_commands.observe(
            static_cast<StumbleKind>(m_kind->currentIndex()), m_remark->text(), m_pupils->value());
        m_remark->clear();
    }));
    row->addWidget(button(this, tr("Count over pieces…"), "countPupils", [this] {
        const QStringList files = QFileDialog::getOpenFileNames(
            this, tr("Pieces to count over, beside this one"), {}, tr("Pieces (*.wirenote)"));
        if (!files.isEmpty())
            m_commands.countPupils(files);
    }));
    connect(&commands,
            &LessonCommands::pupilsCounted,
            this,
            [this](const std::vector<int>& by_kind, int pieces) {
                m_over = by_kind;
                m_pieces = pieces;
                rebuild();
            });
    connect(&document, &Document::opened, this, [this] { m_over.clear(); });
    connect(&book, &LessonBook::changed, this, &StumblesList::rebuild);
    rebuild();
}

void StumblesList::rebuild() {
    constexpr int kMostRows = 200;
    m_list->clear(tr("Nothing is foreseen that people stumble over. What you see pupils do can be "
                     "noted below, at the playhead."));
    const auto state = m_book.state();
    if (!state)
        return;
    addOverPieces();
    int shown = 0;
    for (const Stumble& stumble : state->stumbles) {
        if (++shown > kMostRows)
            break;
        QString what = QString::fromStdString(state->writer.stumbleText(stumble));
        if (stumble.kind != StumbleKind::Seen && !stumble.remark.empty())
            what += " " + QString::fromStdString(stumble.remark);
        m_list->add({percentText(stumble.score),
                     stumble.pupils > 0 ? QString::number(stumble.pupils) : QString(),
                     what,
                     QString::fromStdString(state->writer.remedyText(stumble))},
                    [this, id = stumble.note, at_s = stumble.at_s] {
                        if (id != 0)
                            m_selection.choose(id);
                        m_transport.seek(at_s);
                    });
    }
    m_list->fit();
    m_list->rows().setColumnWidth(2, m_list->width() / 2);
}

// What most pupils stumbled over first.
void StumblesList::addOverPieces() {
    std::vector<std::size_t> kinds;
    for (std::size_t k = 0; k < m_over.size(); ++k)
        if (m_over[k] > 0)
            kinds.push_back(k);
    std::ranges::stable_sort(kinds, std::greater(), [this](std::size_t k) { return m_over[k]; });
    for (const std::size_t k : kinds)
        m_list->add({countText(m_pieces,
                               QT_TRANSLATE_NOOP("wording", "over %1 piece"),
                               QT_TRANSLATE_NOOP("wording", "over %1 pieces")),
                     QString::number(m_over[k]),
                     stumbleKindText(static_cast<StumbleKind>(k)),
                     {}},
                    {});
}

ClaimsList::ClaimsList(LessonBook& book,
                       LessonCommands& commands,
                       Selection& selection,
                       Transport& transport,
                       QWidget* parent)
    : QWidget(parent), m_book(book), m_commands(commands), m_selection(selection),
      m_transport(transport),
      m_list(new RowList(tr("What is said"),
                         {tr("At"), tr("Bar"), tr("Verdict"), tr("What"), tr("Where")})),
      m_shown(new QComboBox) {
    QHBoxLayout* row = rowUnder(this, m_list, "claimRows");
    m_list->wrap();
    row->addWidget(button(this, tr("Captions…"), "chooseCaptions", [this] { chooseFile(); }));
    row->addWidget(button(this, tr("None"), "noCaptions", [this] { m_commands.useCaptions({}); }));
    m_shown->addItems({tr("what contradicts"), tr("what is unclear, too"), tr("everything")});
    m_shown->setAccessibleName(tr("Which claims are shown"));
    m_shown->setObjectName("claimsShown");
    row->addWidget(m_shown);
    row->addStretch(1);
    connect(m_shown, &QComboBox::currentIndexChanged, this, &ClaimsList::rebuild);
    connect(&book, &LessonBook::changed, this, &ClaimsList::rebuild);
    rebuild();
}

void ClaimsList::chooseFile() {
    const QString file =
        QFileDialog::getOpenFileName(this,
                                     tr("Captions of what is said"),
                                     {},
                                     tr("Captions (*.srt *.vtt *.txt);;All files (*)"));
    if (!file.isEmpty())
        m_commands.useCaptions(file);
}

void ClaimsList::rebuild() {
    const auto state = m_book.state();
    m_list->clear(
        tr("No captions are chosen. Choose what is said in the leading take (SubRip, "
           "WebVTT, or a text with a sentence a line): every string, fret, finger, "
           "stroke, beat, chord and note in it is held against the tab. What other takes of the "
           "piece play otherwise stands here too."));
    if (!state || (state->piece.lesson.captions.empty() && state->shown.empty()))
        return;
    if (!state->captions_problem.isEmpty())
        m_list->clear(state->captions_problem);
    else if (!state->piece.lesson.captions.empty())
        m_list->clear(
            tr("Of %1 things that are said none contradicts the tab.").arg(state->claims.size()));
    if (!state->captions_problem.isEmpty() && !state->shown.empty()) // rows hide the sentence
        m_list->add({{}, {}, tr("not read"), state->captions_problem, {}}, {});
    addClaims(ClaimVerdict::Wrong);
    if (m_shown->currentIndex() > 0)
        addClaims(ClaimVerdict::Unclear);
    if (m_shown->currentIndex() > 1)
        addClaims(ClaimVerdict::Right);
    m_list->fit();
}

void ClaimsList::addClaims(ClaimVerdict verdict) {
    const QString word = verdict == ClaimVerdict::Wrong   ? tr("contradicts")
                         : verdict == ClaimVerdict::Right ? tr("is so")
                                                          : tr("unclear");
    for (const auto* claims : {&m_book.state()->claims, &m_book.state()->shown})
        for (const CheckedClaim& claim : *claims)
            if (claim.verdict == verdict)
                m_list->add({timeText(claim.start_s),
                             claim.bar > 0 ? QString::number(claim.bar) : QString(),
                             word,
                             claimText(claim),
                             QString::fromStdString(claim.text)},
                            [this, claim] { goTo(claim); });
}

void ClaimsList::goTo(const CheckedClaim& claim) {
    if (claim.note != 0)
        m_selection.choose(claim.note);
    if (!claim.take) {
        m_transport.seek(claim.start_s);
        return;
    }
    // What is played is heard in the take that plays it, at its place in the piece.
    const auto& takes = m_book.state()->piece.takes;
    const auto& shown = takes[*claim.take].demonstrations;
    const auto at = std::ranges::find_if(shown, [&claim](const Demonstration& one) {
        return one.inPiece() && one.span.contains(claim.start_s);
    });
    if (at != shown.end())
        m_transport.setDemonstration(*claim.take, static_cast<std::size_t>(at - shown.begin()));
    m_transport.seek(claim.hear_s);
}

PublishedList::PublishedList(Document& document,
                             LessonCommands& commands,
                             Transport& transport,
                             QWidget* parent)
    : QWidget(parent), m_document(document), m_commands(commands), m_transport(transport),
      m_list(new RowList(tr("After publishing"),
                         {tr("Where"), tr("What"), tr("State"), tr("Text"), tr("Answer")})),
      m_text(field("objection", tr("what somebody says against it, or what changed"))),
      m_who(field("objectionBy", tr("who"))) {
    addRows(rowUnder(this, m_list, "publishedRows"));
    const auto soon = [this] { rebuild(); };
    connect(&document, &Document::opened, this, soon);
    connect(&document, &Document::changed, this, [this](const Changes& what) {
        if (what.lesson)
            rebuild();
    });
    connect(&commands, &LessonCommands::outOfDate, this, [this](const QStringList& files) {
        m_old = files;
        rebuild();
    });
    rebuild();
}

void PublishedList::addRows(QHBoxLayout* row) {
    row->addWidget(m_text, 2);
    m_who->setMaximumWidth(120);
    row->addWidget(m_who);
    row->addWidget(button(this, tr("Objection at the playhead"), "object", [this] {
        if (!m_text->text().isEmpty())
            m_commands.object(m_who->text(), m_text->text());
        m_text->clear();
    }));
    row->addWidget(button(this, tr("Adopt"), "adoptObjection", [this] {
        if (const int at = chosenObjection(); at >= 0)
            m_commands.rule(static_cast<std::size_t>(at), Verdict::Adopted, m_text->text());
        m_text->clear();
    }));
    row->addWidget(button(this, tr("Answer"), "answerObjection", [this] {
        if (const int at = chosenObjection(); at >= 0)
            m_commands.rule(static_cast<std::size_t>(at), Verdict::Answered, m_text->text());
        m_text->clear();
    }));
    row->addWidget(button(this, tr("Note as a version"), "noteVersion", [this] {
        if (!m_text->text().isEmpty())
            m_commands.publish(m_text->text());
        m_text->clear();
    }));
    row->addWidget(button(this, tr("What is out of date…"), "askOutOfDate", [this] {
        const QString folder =
            QFileDialog::getExistingDirectory(this, tr("The folder of the pack"));
        if (!folder.isEmpty())
            m_commands.askOutOfDate(folder);
    }));
}

int PublishedList::chosenObjection() const {
    const int row = m_list->current();
    return row >= 0 && static_cast<std::size_t>(row) < m_objection_of.size()
               ? m_objection_of[static_cast<std::size_t>(row)]
               : -1;
}

void PublishedList::rebuild() {
    m_list->clear(tr("Nobody has objected yet, and no version is noted. An objection is kept at "
                     "the bar it is about; choose it here to adopt or to answer it."));
    m_objection_of.clear();
    const Piece& piece = m_document.piece();
    const TimelineMap map(piece.timeline);
    for (std::size_t i = 0; i < piece.lesson.objections.size(); ++i) {
        const Objection& one = piece.lesson.objections[i];
        m_list->add({tr("bar %1").arg(map.barBeatAt(one.at_s + 0.03).bar),
                     one.who.empty() ? tr("objection")
                                     : tr("objection by %1").arg(QString::fromStdString(one.who)),
                     verdictText(one.verdict),
                     QString::fromStdString(one.text),
                     QString::fromStdString(one.answer)},
                    [this, at_s = one.at_s] { m_transport.seek(at_s); });
        m_objection_of.push_back(static_cast<int>(i));
    }
    for (const PublishedVersion& version : piece.lesson.versions) {
        m_list->add({{},
                     tr("version %1").arg(version.number),
                     QString::fromStdString(version.when).left(10),
                     QString::fromStdString(version.what),
                     {}},
                    {});
        m_objection_of.push_back(-1);
    }
    for (const QString& file : m_old) {
        m_list->add({{}, tr("to be made again"), tr("out of date"), file, {}}, {});
        m_objection_of.push_back(-1);
    }
    m_list->fit();
}

} // namespace wirenote::app
