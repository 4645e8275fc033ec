#include "app/benches/strokes/strokes_card.h"

#include "app/commands/edit_commands.h"
#include "app/commands/stroke_commands.h"
#include "app/commands/stroke_keys.h"
#include "app/commands/take_commands.h"
#include "app/document/derived.h"
#include "app/document/document.h"
#include "app/document/selection.h"
#include "app/playing/transport.h"
#include "app/text/pluck_wording.h"
#include "app/text/wording.h"

#include <QGridLayout>
#include <QHBoxLayout>

namespace wirenote::app {
namespace {

// In a row of buttons.
QString shortText(Stroke stroke) {
    switch (stroke) {
    case Stroke::Down:
        return StrokesCard::tr("down");
    case Stroke::Up:
        return StrokesCard::tr("up");
    case Stroke::P:
        return StrokesCard::tr("thumb");
    case Stroke::I:
        return StrokesCard::tr("index");
    case Stroke::M:
        return StrokesCard::tr("middle");
    case Stroke::A:
        return StrokesCard::tr("ring");
    case Stroke::C:
        return StrokesCard::tr("little");
    case Stroke::None:
        return StrokesCard::tr("not struck");
    case Stroke::Ghost:
        return StrokesCard::tr("ghost");
    case Stroke::Unknown:
        break;
    }
    return {};
}

} // namespace

StrokesCard::StrokesCard(Document& document,
                         Selection& selection,
                         Derived& derived,
                         Transport& transport,
                         EditCommands& commands,
                         StrokeCommands& strokes,
                         TakeCommands& takes,
                         QWidget* parent)
    : Card(parent), m_document(document), m_selection(selection), m_derived(derived),
      m_transport(transport), m_strokes(strokes), m_school(new QComboBox),
      m_why(label({}, 9.5, false, theme().ink)), m_bar_title(label({}, 9.5, false, theme().quiet)),
      m_hand(label({}, 9.5, false, theme().ink)),
      m_piece_title(label(tr("Piece"), 9.5, false, theme().quiet)),
      m_whole(label({}, 9.5, false, theme().ink)),
      m_begin_down(offer(tr("&Begin the next bar on a down-stroke"),
                         "beginDown",
                         tr("Two downs in a row line up the next group."))),
      m_other_way(offer(tr("Ta&ke the other way"),
                        "otherWay",
                        tr("The strokes of this bar by the best way that is another one."))),
      m_accents(offer({}, "markAccents", tr("Strokes 4 dB and more above those like them."))),
      m_dynamics(
          offer(tr("Write the &echoes as p"),
                "writeDynamics",
                tr("What comes again softer as p on the sheet, and what it echoes as mf or f."))),
      m_basis(label({}, 9.0, false, theme().quiet)),
      m_caution(label({}, 9.0, false, theme().quiet)) {
    setObjectName("strokes");
    setAccessibleName(tr("Strokes of the plucking hand"));
    column()->addLayout(buildTitle(takes));
    column()->addLayout(buildButtons(commands));
    column()->addWidget(m_why);
    column()->addLayout(buildSaid());
    column()->addLayout(buildOffers());
    column()->addWidget(m_basis);
    column()->addWidget(m_caution);
    column()->setSpacing(5);
    m_why->setObjectName("strokeWhy");
    m_hand->setObjectName("strokeHand");
    m_whole->setObjectName("strokePiece");
    m_soon.setSingleShot(true);
    m_soon.setInterval(0);
    connect(&m_soon, &QTimer::timeout, this, &StrokesCard::refresh);
    const auto soon = [this] { m_soon.start(); };
    connect(&document, &Document::opened, this, soon);
    connect(&document, &Document::changed, this, [soon](const Changes& what) {
        if (what.plans || what.notes || what.readings || what.timeline)
            soon();
    });
    connect(&selection, &Selection::changed, this, soon);
    connect(&transport, &Transport::changed, this, [this, soon] {
        if (m_transport.loop() != m_loop)
            soon();
    });
    connect(&derived, &Derived::changed, this, soon);
    refresh();
}

// Room for what there is to say of most notes, so that the work above keeps its place.
QSize StrokesCard::sizeHint() const {
    constexpr int kUsual = 232; // pixels
    return Card::sizeHint().expandedTo({0, kUsual});
}

QLayout* StrokesCard::buildTitle(TakeCommands& takes) {
    auto* row = new QHBoxLayout;
    row->setSpacing(10);
    row->addWidget(label(tr("The plucking hand"), 11, true, theme().ink));
    row->addStretch(1);
    auto* name = label(tr("School"), 9.5, false, theme().quiet);
    name->setWordWrap(false);
    name->setBuddy(m_school);
    row->addWidget(name);
    m_school->setObjectName("pluckingSchool");
    m_school->setAccessibleName(tr("School of the plucking hand"));
    m_school->setMinimumHeight(30);
    for (std::size_t s = 0; s <= kPluckingSchools; ++s) {
        const auto school = static_cast<PluckingSchool>(s);
        m_school->addItem(schoolText(school), static_cast<int>(s));
        m_school->setItemData(static_cast<int>(s), schoolMeaning(school), Qt::ToolTipRole);
    }
    row->addWidget(m_school);
    connect(m_school, &QComboBox::activated, this, [this, &takes] {
        takes.setPluckingSchool(static_cast<PluckingSchool>(m_school->currentData().toInt()));
        showSchool(); // a refused wish leaves it as it was
    });
    return row;
}

QLayout* StrokesCard::buildButtons(EditCommands& commands) {
    auto* row = new QHBoxLayout;
    row->setSpacing(6);
    for (const auto& [stroke, key] : strokeKeys()) {
        auto* button = new QPushButton(
            QString("%1  %2").arg(shortText(stroke), key.toString(QKeySequence::NativeText)));
        button->setToolTip(strokeText(stroke));
        button->setAccessibleName(strokeText(stroke));
        button->setFont(uiFont(9.0));
        button->setObjectName(QString("stroke%1").arg(static_cast<int>(stroke)));
        button->setCheckable(true);
        button->setMinimumHeight(32);
        connect(button, &QPushButton::clicked, this, [this, &commands, s = stroke] {
            commands.setStroke(s);
            refresh(); // a refused wish leaves the buttons as they were
        });
        m_buttons.insert(static_cast<int>(stroke), button);
        row->addWidget(button);
    }
    row->addStretch(1);
    return row;
}

// What there is to say of the bar and of the piece, each beside its name.
QLayout* StrokesCard::buildSaid() {
    auto* grid = new QGridLayout;
    grid->setHorizontalSpacing(10);
    grid->setVerticalSpacing(3);
    grid->setColumnStretch(1, 1);
    for (auto* title : {m_bar_title, m_piece_title})
        title->setWordWrap(false);
    grid->addWidget(m_bar_title, 0, 0, Qt::AlignTop);
    grid->addWidget(m_hand, 0, 1);
    grid->addWidget(m_piece_title, 1, 0, Qt::AlignTop);
    grid->addWidget(m_whole, 1, 1);
    return grid;
}

QPushButton* StrokesCard::offer(const QString& text, const char* name, const QString& tip) {
    auto* button = new QPushButton(text, this);
    button->setObjectName(name);
    button->setFont(uiFont(9.0));
    button->setToolTip(tip);
    return button;
}

QLayout* StrokesCard::buildOffers() {
    auto* row = new QHBoxLayout;
    row->setSpacing(10);
    for (auto* button : {m_begin_down, m_other_way, m_accents, m_dynamics})
        row->addWidget(button);
    row->addStretch(1);
    connect(m_begin_down, &QPushButton::clicked, this, [this] {
        if (m_told.join)
            m_strokes.setStrokes({{m_told.join->next_note, Stroke::Down}});
    });
    connect(m_other_way, &QPushButton::clicked, this, [this] {
        std::vector<std::pair<NoteId, Stroke>> strokes;
        for (const BarStroke& one : m_told.next_best)
            if (one.differs)
                strokes.emplace_back(one.note, one.stroke);
        m_strokes.setStrokes(strokes);
    });
    connect(m_accents, &QPushButton::clicked, this, [this] {
        m_strokes.markAccents(m_told.balance.accents);
    });
    connect(m_dynamics, &QPushButton::clicked, this, [this] {
        emit dynamicsWanted(m_told.balance.dynamics);
    });
    return row;
}

QString StrokesCard::basisOfStrokes() const {
    const auto& tool = m_document.piece().asPlayed().head.tool;
    if (!m_document.isOpen() || m_document.piece().notes.empty())
        return {};
    if (tool.value == PluckingTool::Unknown)
        return tr("There are too few notes to tell what it is played with.");
    if (tool.isSet())
        return tr("Played with: %1.").arg(toolText(tool.value));
    const QString why =
        tool.reasons.empty() ? tr("by what is played") : reasonTitle(tool.reasons.front());
    return tr("Played with: %1, which is a guess (%2: %3). Say it on the instrument's card, under "
              "Takes.")
        .arg(toolText(tool.value), percentText(tool.probability), why);
}

QString StrokesCard::whyText() const {
    const NotePlan* plan = m_document.piece().plan(m_selection.note());
    if (!plan)
        return tr(
            "Choose a note to see how it is struck and why; Shift and an arrow take several.");
    QStringList why;
    for (const Reason& reason : plan->stroke.reasons)
        why << reasonTitle(reason);
    QString line =
        plan->stroke.isSet()
            ? tr("%1: decided by you.").arg(strokeText(plan->stroke.value))
            : tr("%1, sure to %2: %3.")
                  .arg(strokeText(plan->stroke.value),
                       percentText(plan->stroke.probability),
                       why.isEmpty() ? tr("it follows from those about it") : why.join("; "));
    line[0] = line[0].toUpper();
    if (!plan->stroke.isSet() && !plan->stroke.runners_up.empty() &&
        plan->stroke.runners_up.front().probability > 0.05)
        line += ' ' + tr("Else: %1, %2.")
                          .arg(strokeText(plan->stroke.runners_up.front().value),
                               percentText(plan->stroke.runners_up.front().probability));
    return line;
}

void StrokesCard::showSchool() {
    const auto& school = m_document.piece().asPlayed().head.plucking_school;
    const PluckingSchool shown = school.isSet() ? school.value : PluckingSchool::Unknown;
    m_school->setCurrentIndex(m_school->findData(static_cast<int>(shown)));
    m_school->setToolTip(schoolMeaning(shown));
}

void StrokesCard::refresh() {
    setEnabled(m_document.isOpen());
    m_basis->setText(basisOfStrokes());
    showSchool();
    const NotePlan* plan = m_document.piece().plan(m_selection.note());
    for (auto at = m_buttons.constBegin(); at != m_buttons.constEnd(); ++at) {
        at.value()->setEnabled(plan != nullptr);
        at.value()->setChecked(plan && static_cast<int>(plan->stroke.value) == at.key());
    }
    m_why->setText(m_document.isOpen() ? whyText() : QString());
    const NoteId chosen = m_selection.note();
    if (!plan) {
        show(PluckReport{});
        return;
    }
    m_loop = m_transport.loop();
    m_derived.ask(
        [chosen, loop = m_loop](const Piece& piece) { return pluckReport(piece, chosen, loop); },
        [this, chosen](const PluckReport& said) {
            if (chosen == m_selection.note())
                show(said);
        });
}

namespace {

// What there is of some lines; the row goes where there is nothing.
void say(QLabel* title, QLabel* text, const QStringList& lines) {
    QStringList said = lines;
    said.removeAll(QString());
    text->setText(said.join(' '));
    title->setVisible(!said.isEmpty());
    text->setVisible(!said.isEmpty());
}

} // namespace

void StrokesCard::show(const PluckReport& told) {
    m_told = told;
    const NotePlan* plan = m_document.piece().plan(m_selection.note());
    const Stroke stroke = plan ? plan->stroke.value : Stroke::Unknown;
    if (plan) {
        const QStringList own = {whyText(), departureLine(told, stroke), strumLine(told)};
        m_why->setText(own.join(' ').simplified());
    }
    m_bar_title->setText(tr("Bar %1").arg(told.bar));
    say(m_bar_title,
        m_hand,
        {cellLine(told),
         loadLine(told),
         pathLine(told),
         thumbLine(told),
         pickMoveLine(told),
         joinLine(told),
         roundLine(told),
         roomLine(told),
         nextBestLine(told)});
    say(m_piece_title,
        m_whole,
        {fitLine(told), levelLine(told), balanceLine(told), scratchLine(told)});
    showOffers();
    m_caution->setText(told.load.sustained_s > 2.0
                           ? tr("Faster than is comfortable for so long: rest often, slow down "
                                "until it is easy, and if anything hurts stop and see a "
                                "professional.")
                           : QString());
    m_caution->setVisible(!m_caution->text().isEmpty());
}

void StrokesCard::showOffers() {
    m_begin_down->setVisible(m_told.join && m_told.join->begins_up);
    m_other_way->setVisible(!m_told.next_best.empty());
    const auto accents = static_cast<int>(m_told.balance.accents.size());
    m_accents->setVisible(accents > 0);
    m_dynamics->setVisible(!m_told.balance.dynamics.empty());
    m_accents->setText(countText(accents,
                                 QT_TRANSLATE_NOOP("wording", "&Mark %1 loud stroke as an accent"),
                                 QT_TRANSLATE_NOOP("wording", "&Mark %1 loud strokes as accents")));
}

} // namespace wirenote::app
