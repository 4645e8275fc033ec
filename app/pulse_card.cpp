#include "app/pulse_card.h"

#include "app/document.h"
#include "app/edit_commands.h"
#include "app/wording.h"

#include <QFormLayout>
#include <QPushButton>

namespace wirenote::app {

PulseCard::PulseCard(Workbench bench, QWidget* parent)
    : Card(parent), m_bench(bench), m_note(label({}, 9.0, false, theme().quiet)),
      m_tempo(new QDoubleSpinBox), m_metre(new QComboBox) {
    setObjectName("pulse");
    column()->addWidget(label(tr("The pulse"), 12, true, theme().ink));
    column()->addWidget(m_note);
    m_tempo->setRange(20, 400);
    m_tempo->setDecimals(1);
    m_tempo->setKeyboardTracking(false);
    m_tempo->setSuffix(tr(" beats a minute"));
    m_tempo->setAccessibleName(tr("Tempo in beats a minute"));
    for (const char* metre : {"4/4", "3/4", "2/4", "6/8", "12/8", "5/4"})
        m_metre->addItem(metre);
    m_metre->setAccessibleName(tr("Metre"));
    auto* form = new QFormLayout;
    form->addRow(tr("Tempo"), m_tempo);
    form->addRow(tr("Metre"), m_metre);
    column()->addLayout(form);
    auto* one = new QPushButton(tr("The chosen note is “one”"));
    one->setMinimumHeight(34);
    connect(one, &QPushButton::clicked, &m_bench.commands, &EditCommands::setDownbeat);
    column()->addWidget(one);
    column()->addWidget(label(tr("A tempo you type lays even beats from the present “one”. Beats "
                                 "found in the sound follow the player."),
                              8.5,
                              false,
                              theme().quiet));
    column()->addStretch(1);
    connect(m_tempo, &QDoubleSpinBox::valueChanged, this, &PulseCard::apply);
    connect(m_metre, &QComboBox::activated, this, &PulseCard::apply);
    connect(&bench.document, &Document::opened, this, &PulseCard::refresh);
    connect(&bench.document, &Document::changed, this, &PulseCard::refresh);
    refresh();
}

void PulseCard::apply() {
    if (m_refreshing)
        return;
    const double bpm = m_tempo->value();
    m_bench.document.edit(
        tr("set tempo"), 0.0, [&](PieceEditor& e) { return e.setTempo(bpm); }, Resolve::WholePiece);
}

void PulseCard::refresh() {
    m_refreshing = true;
    setEnabled(m_bench.document.isOpen());
    const Timeline& timeline = m_bench.document.piece().timeline;
    m_tempo->setValue(timeline.tempo_bpm > 0.0 ? timeline.tempo_bpm : 100.0);
    m_metre->setCurrentText(QString::fromStdString(timeline.metre.text()));
    m_note->setText(timeline.beats_s.empty()
                        ? tr("No beats found: set a tempo.")
                        : tr("%1: %2").arg(basisText(timeline.basis),
                                           countText(static_cast<int>(timeline.beats_s.size()),
                                                     QT_TRANSLATE_NOOP("wording", "%1 beat"),
                                                     QT_TRANSLATE_NOOP("wording", "%1 beats"))));
    m_refreshing = false;
}

} // namespace wirenote::app
