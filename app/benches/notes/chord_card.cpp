#include "app/benches/notes/chord_card.h"

#include "app/document/derived.h"
#include "app/document/selection.h"
#include "app/text/wording.h"

#include <QFormLayout>

namespace wirenote::app {
namespace {

// The font would make a times sign of some of the x, and not of others.
QString shown(const Grip& grip) {
    return QString::fromStdString(gripText(grip)).replace('x', QStringLiteral("×"));
}

} // namespace

ChordCard::ChordCard(Document& document,
                     Selection& selection,
                     Derived& derived,
                     ChordCommands& commands,
                     QWidget* parent)
    : Card(parent), m_document(document), m_commands(commands), m_name(new QLineEdit),
      m_grip(new QLineEdit), m_help(label({}, 9.0, false, theme().ink)),
      m_fill(new QPushButton(tr("Put it right   G"))), m_everywhere(new QCheckBox) {
    setObjectName("chord");
    setAccessibleName(tr("The chosen chord"));
    column()->addWidget(label(tr("The chord"), 12, true, theme().ink));
    auto* form = new QFormLayout;
    form->setVerticalSpacing(5);
    m_name->setObjectName("chordName");
    m_name->setAccessibleName(tr("Name of the chord"));
    m_grip->setObjectName("grip");
    m_grip->setAccessibleName(tr("What the hand holds, the thickest string first"));
    m_grip->setToolTip(
        tr("A fret for each string, the thickest first; x for a string that is silent"));
    form->addRow(tr("Name"), m_name);
    form->addRow(tr("Held"), m_grip);
    column()->addLayout(form);
    column()->addWidget(m_help);
    m_fill->setObjectName("fillGrip");
    m_fill->setMinimumHeight(32);
    m_everywhere->setObjectName("everywhere");
    column()->addWidget(m_everywhere);
    column()->addWidget(m_fill);
    connect(m_name, &QLineEdit::editingFinished, this, [this] {
        const auto chord = m_commands.chosen();
        if (chord && m_name->isModified() && m_name->text().trimmed() != chord->name)
            m_commands.name(m_name->text(), where());
        m_name->setModified(false);
    });
    connect(m_grip, &QLineEdit::editingFinished, this, [this] {
        if (m_grip->isModified())
            m_commands.setGrip(m_grip->text(), where());
        m_grip->setModified(false);
        m_soon.start(); // what was refused stands as it was
    });
    connect(m_fill, &QPushButton::clicked, this, [this] { m_commands.fill(where()); });
    m_soon.setSingleShot(true);
    m_soon.setInterval(0);
    connect(&m_soon, &QTimer::timeout, this, &ChordCard::refresh);
    const auto soon = [this] { m_soon.start(); };
    connect(&selection, &Selection::changed, this, soon);
    connect(&derived, &Derived::changed, this, soon);
    connect(&document, &Document::opened, this, soon);
    refresh();
}

void ChordCard::writeGrip() {
    refresh();
    m_grip->setFocus();
    m_grip->selectAll();
}

ChordCommands::Where ChordCard::where() const {
    return m_everywhere->isChecked() && m_everywhere->isVisibleTo(this)
               ? ChordCommands::Where::WhereverItComesAgain
               : ChordCommands::Where::Here;
}

// What the fuller grip has that this one lacks, string by string.
QString ChordCard::helpText(const ChordCommands::Chord& chord) const {
    if (chord.whole.empty())
        return tr("No fuller grip like this one was heard.");
    const WholeGrip& whole = chord.whole.front();
    QStringList differs;
    for (int s = static_cast<int>(whole.grip.frets.size()); s >= 1; --s) {
        const int has = chord.strum.grip.fretOn(s);
        const int wanted = whole.grip.fretOn(s);
        if (has == wanted)
            continue;
        differs << (has < 0      ? tr("%1 is missing").arg(placeText({s, wanted}))
                    : wanted < 0 ? tr("%1 does not sound there").arg(placeText({s, has}))
                                 : tr("%1 instead of %2").arg(placeText({s, has})).arg(wanted));
    }
    return tr("Heard %1 as %2: here %3.")
        .arg(countText(whole.heard,
                       QT_TRANSLATE_NOOP("wording", "%1 time"),
                       QT_TRANSLATE_NOOP("wording", "%1 times")),
             shown(whole.grip),
             differs.join(tr(", ")));
}

void ChordCard::refresh() {
    const auto chord =
        m_commands.isChosenWhole() ? m_commands.chosen() : std::optional<ChordCommands::Chord>{};
    setVisible(chord.has_value());
    if (!chord)
        return;
    if (!m_name->isModified())
        m_name->setText(chord->name);
    if (!m_grip->isModified())
        m_grip->setText(shown(chord->strum.grip));
    m_help->setText(helpText(*chord));
    m_fill->setVisible(!chord->whole.empty());
    const auto again = static_cast<int>(chord->same.size()) - 1;
    m_everywhere->setVisible(again > 0);
    m_everywhere->setText(
        countText(again,
                  QT_TRANSLATE_NOOP("wording", "also at %1 other place heard like this"),
                  QT_TRANSLATE_NOOP("wording", "also at %1 other places heard like this")));
}

} // namespace wirenote::app
