#include "app/benches/neck/school_choice.h"

#include "app/kept_entries.h"
#include "formats/words.h"

#include <QCoreApplication>
#include <QHBoxLayout>
#include <algorithm>
#include <array>
#include <utility>
#include <vector>

namespace wirenote::app {
namespace {

struct SchoolName {
    FrettingSchool school;
    const char* name;
    const char* means;
};
constexpr std::array kSchools{
    SchoolName{FrettingSchool::FingerPerFret,
               QT_TRANSLATE_NOOP("schools", "one finger a fret"),
               QT_TRANSLATE_NOOP("schools", "Each finger has its fret; the hand moves seldom.")},
    SchoolName{FrettingSchool::Box,
               QT_TRANSLATE_NOOP("schools", "three fingers"),
               QT_TRANSLATE_NOOP("schools", "The little finger rests; the ring finger draws.")},
    SchoolName{FrettingSchool::Classical,
               QT_TRANSLATE_NOOP("schools", "classical"),
               QT_TRANSLATE_NOOP("schools",
                                 "Few shifts, guided by a finger that stays on its "
                                 "string; what comes again stays down.")},
    SchoolName{FrettingSchool::BassOneTwoFour,
               QT_TRANSLATE_NOOP("schools", "1-2-4 low on the neck"),
               QT_TRANSLATE_NOOP("schools",
                                 "Three frets where they are wide; ring and little "
                                 "finger go together.")},
    SchoolName{FrettingSchool::Open,
               QT_TRANSLATE_NOOP("schools", "open strings welcome"),
               QT_TRANSLATE_NOOP("schools", "Nothing to press, and time to move.")},
    SchoolName{FrettingSchool::Closed,
               QT_TRANSLATE_NOOP("schools", "open strings avoided"),
               QT_TRANSLATE_NOOP("schools", "Every note can be held, bent and ended.")},
    SchoolName{FrettingSchool::ThumbOver,
               QT_TRANSLATE_NOOP("schools", "thumb over the neck"),
               QT_TRANSLATE_NOOP("schools", "The thumb takes the thickest string.")},
    SchoolName{FrettingSchool::AsPlayed,
               QT_TRANSLATE_NOOP("schools", "as this player does"),
               QT_TRANSLATE_NOOP("schools", "Fingers as you set them elsewhere in the piece.")}};

struct Question {
    const char* about;
    FrettingRule rule; // the other answer is its opposite
    const char* one;
    const char* other;
};
constexpr std::array kQuestions{
    Question{QT_TRANSLATE_NOOP("schools", "A barre"),
             FrettingRule::FullBarre,
             QT_TRANSLATE_NOOP("schools", "over all strings at once"),
             QT_TRANSLATE_NOOP("schools", "only over what sounds")},
    Question{QT_TRANSLATE_NOOP("schools", "Strings on one fret"),
             FrettingRule::OneFinger,
             QT_TRANSLATE_NOOP("schools", "under one finger"),
             QT_TRANSLATE_NOOP("schools", "each under its own")},
    Question{QT_TRANSLATE_NOOP("schools", "The next string on the same fret"),
             FrettingRule::Roll,
             QT_TRANSLATE_NOOP("schools", "the finger rolls over"),
             QT_TRANSLATE_NOOP("schools", "another finger")},
    Question{QT_TRANSLATE_NOOP("schools", "What comes again"),
             FrettingRule::KeepDown,
             QT_TRANSLATE_NOOP("schools", "stays down"),
             QT_TRANSLATE_NOOP("schools", "is lifted and taken again")},
    Question{QT_TRANSLATE_NOOP("schools", "High on the neck"),
             FrettingRule::ThirdHigh,
             QT_TRANSLATE_NOOP("schools", "third finger for the fourth"),
             QT_TRANSLATE_NOOP("schools", "fourth as any other")}};

QString translated(const char* text) {
    return QCoreApplication::translate("schools", text);
}

QString wordsOf(const FrettingManner& manner) {
    return QString::fromStdString(wordsFor(manner));
}

QString nameOf(FrettingSchool school) {
    for (const SchoolName& one : kSchools)
        if (one.school == school)
            return translated(one.name);
    return {};
}

QStringList answersOf(const FrettingManner& manner) {
    QStringList answers;
    for (const Question& question : kQuestions)
        for (const FrettingRule rule : {question.rule, otherAnswer(question.rule)})
            if (manner.follows(rule))
                answers << SchoolChoice::tr("%1: %2.").arg(
                    translated(question.about),
                    translated(rule == question.rule ? question.one : question.other));
    return answers;
}

struct Kept {
    QString name;
    FrettingManner manner;
};

constexpr const char* kList = "schools"; // in the settings

// What was kept earlier; what this version does not know is passed over.
std::vector<Kept> keptIn(QSettings& settings) {
    std::vector<Kept> all;
    for (const KeptEntry& kept : keptEntries(settings, kList))
        if (const auto manner = frettingMannerFrom(kept.words.toStdString()))
            all.push_back({kept.name, *manner});
    return all;
}

} // namespace

SchoolChoice::SchoolChoice(QSettings& settings, QWidget* parent)
    : QWidget(parent), m_settings(settings), m_school(new QComboBox), m_adjust(new QToolButton),
      m_rules(new QMenu(this)) {
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(10);
    setFocusProxy(m_school);
    m_school->setObjectName("frettingSchool");
    m_school->setAccessibleName(tr("School of the fretting hand"));
    m_school->setMinimumHeight(30);
    row->addWidget(m_school);
    m_adjust->setObjectName("adjustSchool");
    m_adjust->setText(tr("Adjust"));
    m_adjust->setAccessibleName(tr("Adjust the school to what you hold dear"));
    m_adjust->setToolTip(tr("What teachers argue about: answer it this way or that."));
    m_adjust->setPopupMode(QToolButton::InstantPopup);
    m_adjust->setFocusPolicy(Qt::StrongFocus);
    m_adjust->setMinimumHeight(30);
    m_adjust->setMenu(m_rules);
    row->addWidget(m_adjust);
    connect(m_school, &QComboBox::activated, this, [this] {
        if (const auto manner =
                frettingMannerFrom(m_school->currentData().toString().toStdString()))
            emit chosen(*manner);
    });
    connect(m_rules, &QMenu::aboutToShow, this, &SchoolChoice::fillRules);
    fillSchools();
}

void SchoolChoice::show(const FrettingManner& manner) {
    if (manner != m_now) {
        m_now = manner;
        fillSchools();
    }
    // Also where the person's choice was refused.
    m_school->setCurrentIndex(m_school->findData(wordsOf(m_now)));
    m_school->setToolTip(m_school->currentData(Qt::ToolTipRole).toString());
}

void SchoolChoice::fillSchools() {
    m_school->clear();
    const auto add =
        [this](const QString& name, const FrettingManner& manner, const QString& means) {
            m_school->addItem(name, wordsOf(manner));
            m_school->setItemData(m_school->count() - 1, means, Qt::ToolTipRole);
        };
    for (const SchoolName& one : kSchools)
        add(translated(one.name), {one.school, {}}, translated(one.means));
    for (const Kept& one : keptIn(m_settings))
        add(one.name,
            one.manner,
            nameOf(one.manner.school) + ". " + answersOf(one.manner).join(' '));
    if (m_school->findData(wordsOf(m_now)) < 0)
        add(tr("%1, adjusted").arg(nameOf(m_now.school)), m_now, answersOf(m_now).join(' '));
    show(m_now);
}

void SchoolChoice::fillRules() {
    m_rules->clear();
    for (const Question& question : kQuestions) {
        m_rules->addSection(translated(question.about));
        for (const FrettingRule rule : {question.rule, otherAnswer(question.rule)}) {
            QAction* answer = m_rules->addAction(
                translated(rule == question.rule ? question.one : question.other));
            answer->setObjectName(QString::fromStdString(std::string(wordFor(rule))));
            answer->setCheckable(true);
            answer->setChecked(m_now.follows(rule));
            connect(answer, &QAction::toggled, this, [this, rule](bool on) {
                FrettingManner manner = m_now;
                on ? manner.follow(rule) : manner.leaveToSchool(rule);
                emit chosen(manner);
            });
        }
    }
    m_rules->addSeparator();
    QAction* keep_it = m_rules->addAction(tr("Keep as a school of your own …"));
    keep_it->setObjectName("keepSchool");
    keep_it->setEnabled(!m_now.rules.empty());
    connect(keep_it, &QAction::triggered, this, &SchoolChoice::keep);
    const auto kept = keptIn(m_settings);
    QAction* forget_it = m_rules->addAction(tr("Do not keep this school any more"));
    forget_it->setObjectName("forgetSchool");
    forget_it->setEnabled(std::ranges::find(kept, m_now, &Kept::manner) != kept.end());
    connect(forget_it, &QAction::triggered, this, &SchoolChoice::forget);
}

void SchoolChoice::keep() {
    const QString name =
        askForName(this, tr("A school of your own"), tr("%1, adjusted").arg(nameOf(m_now.school)));
    if (name.isEmpty())
        return;
    keepEntry(m_settings, kList, {name, wordsOf(m_now)});
    fillSchools();
}

void SchoolChoice::forget() {
    forgetEntry(m_settings, kList, wordsOf(m_now));
    fillSchools();
}

} // namespace wirenote::app
