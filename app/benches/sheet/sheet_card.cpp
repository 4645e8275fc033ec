#include "app/benches/sheet/sheet_card.h"

#include "app/benches/sheet/style_choice.h"
#include "app/commands/sheet_commands.h"
#include "app/document/document.h"
#include "app/document/selection.h"
#include "base/text.h"
#include "score/voices.h"

#include <QGridLayout>
#include <QHBoxLayout>

namespace wirenote::app {

SheetCard::SheetCard(Document& document,
                     Selection& selection,
                     SheetCommands& commands,
                     QSettings& settings,
                     QWidget* parent)
    : Card(parent), m_document(document), m_selection(selection), m_commands(commands),
      m_styles(new StyleChoice(settings)), m_chart(new QLineEdit),
      m_voice(label({}, 8.5, false, theme().quiet)) {
    setObjectName("sheetStyle");
    auto* head = new QHBoxLayout;
    QLabel* heading = label(tr("On the sheet"), 12, true, theme().ink);
    heading->setWordWrap(false);
    head->addWidget(heading);
    head->addWidget(m_styles, 1);
    column()->addLayout(head);
    connect(m_styles, &StyleChoice::chosen, this, [this](const SheetStyle& style) {
        m_commands.change(tr("change the sheet"), [&](SheetStyle& s) { s = style; });
    });
    addChoices();
    addTicks();
    addChart();
    m_voice->setWordWrap(true);
    column()->addWidget(m_voice);
    connect(&document, &Document::opened, this, &SheetCard::refresh);
    connect(&document, &Document::changed, this, [this](const Changes& what) {
        if (what.title)
            refresh();
        if (what.notes || what.plans)
            refreshVoice();
    });
    connect(&selection, &Selection::changed, this, &SheetCard::refreshVoice);
    refresh();
}

void SheetCard::addChoices() {
    choice(
        tr("Staves"),
        {tr("Tab"), tr("Notation over tab")},
        [](const SheetStyle& s) { return static_cast<int>(s.staves); },
        [](SheetStyle& s, int i) { s.staves = static_cast<SheetStaves>(i); });
    choice(
        tr("Size"),
        {tr("Hand-out"), tr("Music stand"), tr("Screen")},
        [](const SheetStyle& s) { return static_cast<int>(s.size); },
        [](SheetStyle& s, int i) { s.size = static_cast<SheetSize>(i); });
    choice(
        tr("Repeats"),
        {tr("Written out"), tr("Repeat signs"), tr("By bar number"), tr("With cells ×4")},
        [](const SheetStyle& s) { return static_cast<int>(s.repeats); },
        [](SheetStyle& s, int i) { s.repeats = static_cast<SheetRepeats>(i); });
}

void SheetCard::addTicks() {
    auto* grid = new QGridLayout;
    grid->setHorizontalSpacing(6);
    grid->setVerticalSpacing(2);
    column()->addLayout(grid);
    tick(tr("Fingers"), &SheetStyle::fingers, tr("A row of fingers under the tab"));
    tick(tr("Holds"), &SheetStyle::holds, tr("A lane for each finger: how long it stays down"));
    tick(tr("Positions"), &SheetStyle::positions, tr("Positions and barres over the staff"));
    tick(tr("Strokes"), &SheetStyle::strokes, tr("Pick strokes and plucking fingers"));
    tick(tr("Count"),
         &SheetStyle::count,
         tr("The count under the notes; silent counts in brackets"));
    tick(tr("Chords"), &SheetStyle::chords, tr("Names of chords over the staff"));
    tick(tr("Grips"), &SheetStyle::grips, tr("Pictures of the grips under the title"));
    tick(tr("Techniques"), &SheetStyle::techniques, tr("Bends, mutes, slurs and the like"));
    tick(tr("Two voices"), &SheetStyle::voices, tr("A bass under a tune with lengths of its own"));
    tick(tr("Doubts"), &SheetStyle::doubts, tr("Dashed where they are; else counted at the end"));
    tick(tr("Known by"),
         &SheetStyle::basis,
         tr("How each place is known: a wave by ear, a ring by "
            "eye, a caret by reason, a pin by a person"));
    tick(tr("How exact"), &SheetStyle::exactness, tr("Note for note, the essence or adapted"));
    tick(tr("Key to signs"), &SheetStyle::key_to_signs, tr("What the signs mean, at the end"));
    for (std::size_t i = 0; i < m_ticks.size(); ++i)
        grid->addWidget(m_ticks[i].first, static_cast<int>(i / 2), static_cast<int>(i % 2));
}

void SheetCard::addChart() {
    m_chart->setAccessibleName(tr("Chords from the chosen bar on"));
    m_chart->setPlaceholderText(tr("Chords from here: C | G7 | Am F"));
    m_chart->setToolTip(
        tr("Bar by bar, from the bar of the chosen note on; several of a bar share it, "
           "- goes on. For harmony that does not sound in this part, too."));
    m_chart->setMaxLength(static_cast<int>(kLongestName));
    connect(m_chart, &QLineEdit::returnPressed, this, [this] {
        if (m_commands.typeChart(m_chart->text()))
            m_chart->clear();
    });
    column()->addWidget(m_chart);
}

QComboBox* SheetCard::choice(const QString& name,
                             const QStringList& words,
                             std::function<int(const SheetStyle&)> get,
                             std::function<void(SheetStyle&, int)> set) {
    auto* box = new QComboBox;
    box->addItems(words);
    box->setAccessibleName(name);
    box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    box->setMinimumContentsLength(6);
    auto* row = new QHBoxLayout;
    auto* title = label(name, 9, false, theme().quiet);
    title->setBuddy(box);
    row->addWidget(title, 1);
    row->addWidget(box, 2);
    column()->addLayout(row);
    connect(box, &QComboBox::activated, this, [this, set](int index) {
        m_commands.change(tr("change the sheet"), [&](SheetStyle& s) { set(s, index); });
    });
    m_choices.emplace_back(box, std::move(get));
    return box;
}

void SheetCard::tick(const QString& name, bool SheetStyle::*what, const QString& tip) {
    auto* box = new QCheckBox(name);
    box->setToolTip(tip);
    connect(box, &QCheckBox::clicked, this, [this, what](bool on) {
        m_commands.change(tr("change the sheet"), [&](SheetStyle& s) { s.*what = on; });
    });
    m_ticks.emplace_back(box, what);
}

void SheetCard::refresh() {
    setEnabled(m_document.isOpen());
    const SheetStyle style = m_commands.style();
    m_styles->show(style);
    for (const auto& [box, get] : m_choices)
        box->setCurrentIndex(get(style));
    for (const auto& [box, what] : m_ticks)
        box->setChecked(style.*what);
    refreshVoice();
}

void SheetCard::refreshVoice() {
    const Piece& piece = m_document.piece();
    const auto index = piece.indexOf(m_selection.note());
    if (!index) {
        m_voice->setText(tr("Click a number to choose its note: every key of the Notes bench works "
                            "here too. Ctrl+M writes dynamics and words at it."));
        return;
    }
    const VoiceOfNote voice = voicesOf(piece)[*index];
    const QString which =
        voice.voice == Voice::Lower ? tr("the lower voice") : tr("the upper voice");
    m_voice->setText(
        piece.notes[*index].voice
            ? tr("The chosen note is written in %1, as you said. Shift+V: the other.").arg(which)
            : tr("The chosen note belongs to %1, sure to %2 %. Shift+V: the other.")
                  .arg(which)
                  .arg(qRound(100.0 * voice.probability)));
}

} // namespace wirenote::app
