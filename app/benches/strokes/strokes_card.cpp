#include "app/benches/strokes/strokes_card.h"

#include "app/commands/edit_commands.h"
#include "app/commands/stroke_keys.h"
#include "app/document/document.h"
#include "app/document/selection.h"
#include "app/text/wording.h"

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
                         EditCommands& commands,
                         QWidget* parent)
    : Card(parent), m_document(document), m_selection(selection),
      m_basis(label({}, 9.0, false, theme().quiet)) {
    setObjectName("strokes");
    setAccessibleName(tr("Strokes of the plucking hand"));
    column()->addWidget(label(tr("How the chosen note is struck"), 11, true, theme().ink));
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
    column()->addLayout(row);
    column()->addWidget(m_basis);
    connect(&document, &Document::opened, this, &StrokesCard::refresh);
    connect(&document, &Document::changed, this, [this](const Changes& what) {
        if (what.plans || what.notes || what.readings)
            refresh();
    });
    connect(&selection, &Selection::changed, this, &StrokesCard::refresh);
    refresh();
}

QString StrokesCard::basisOfStrokes() const {
    const auto& tool = m_document.piece().asPlayed().head.tool;
    if (!m_document.isOpen() || m_document.piece().notes.empty())
        return {};
    if (tool.value == PluckingTool::Unknown)
        return tr("There are too few notes to tell what it is played with.");
    return tool.isSet() ? tr("Played with: %1.").arg(toolText(tool.value))
                        : tr("Played with: %1, which is a guess (%2). Say it on the instrument's "
                             "card, under Takes.")
                              .arg(toolText(tool.value), percentText(tool.probability));
}

void StrokesCard::refresh() {
    m_basis->setText(basisOfStrokes());
    const NotePlan* plan = m_document.piece().plan(m_selection.note());
    for (auto at = m_buttons.constBegin(); at != m_buttons.constEnd(); ++at) {
        at.value()->setEnabled(plan != nullptr);
        at.value()->setChecked(plan && static_cast<int>(plan->stroke.value) == at.key());
    }
}

} // namespace wirenote::app
