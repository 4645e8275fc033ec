#include "app/benches/pulse/pulse_card.h"

#include "app/commands/edit_commands.h"
#include "app/commands/pulse_commands.h"
#include "app/document/derived.h"
#include "app/document/document.h"
#include "app/playing/transport.h"
#include "app/text/wording.h"
#include "piece/timeline_map.h"

#include <QFormLayout>
#include <QHBoxLayout>
#include <algorithm>
#include <cmath>

namespace wirenote::app {

PulseCard::PulseCard(Document& document,
                     EditCommands& commands,
                     Derived& derived,
                     PulseCommands& pulse,
                     QWidget* parent)
    : Card(parent), m_document(document), m_commands(commands), m_derived(derived), m_pulse(pulse),
      m_note(label({}, 9.0, false, theme().quiet)), m_tempo(new QDoubleSpinBox),
      m_metre(new QComboBox), m_from_bar(new QSpinBox), m_pickup(new QSpinBox),
      m_swing(new QDoubleSpinBox), m_school(new QComboBox), m_tap(new QPushButton),
      m_slower(new QPushButton), m_faster(new QPushButton) {
    setObjectName("pulse");
    column()->addWidget(label(tr("The pulse"), 12, true, theme().ink));
    column()->addWidget(m_note);
    column()->addWidget(buildForm());
    column()->addWidget(buildButtons());
    column()->addWidget(label(tr("Beats found in the sound follow the player. Drag a beat or a bar "
                                 "line in the count to put it right: it stays where you put it."),
                              8.5,
                              false,
                              theme().quiet));
    connect(&document, &Document::opened, this, &PulseCard::refresh);
    connect(&document, &Document::changed, this, [this](const Changes& what) {
        if (what.timeline)
            refresh();
    });
    connect(&pulse, &PulseCommands::tapped, this, &PulseCard::refresh);
    connect(&derived, &Derived::changed, this, &PulseCard::refresh);
    refresh();
}

QWidget* PulseCard::buildForm() {
    m_tempo->setRange(20, 400);
    m_tempo->setDecimals(1);
    m_tempo->setKeyboardTracking(false);
    m_tempo->setSuffix(tr(" a minute"));
    m_tempo->setAccessibleName(tr("Tempo in beats a minute"));
    for (const char* metre : {"2/4", "3/4", "4/4", "5/4", "6/8", "7/8", "9/8", "12/8"})
        m_metre->addItem(metre);
    m_metre->setAccessibleName(tr("Metre"));
    m_from_bar->setRange(1, 100000);
    m_from_bar->setPrefix(tr("from bar "));
    m_from_bar->setAccessibleName(tr("From which bar the metre counts"));
    m_pickup->setRange(0, 23);
    m_pickup->setKeyboardTracking(false);
    m_pickup->setAccessibleName(tr("Pick-up in quavers"));
    m_pickup->setSpecialValueText(tr("none"));
    m_pickup->setSuffix(tr(" quavers"));
    m_swing->setRange(1.0, kMostSwing);
    m_swing->setDecimals(2);
    m_swing->setSingleStep(0.05);
    m_swing->setKeyboardTracking(false);
    m_swing->setSpecialValueText(tr("straight"));
    m_swing->setSuffix(tr(" to 1"));
    m_swing->setAccessibleName(tr("Swing: first half of the beat to the second"));
    m_school->addItem(tr("1 e & a"));
    m_school->addItem(tr("1 e und e"));
    m_school->addItem(tr("ta ka di mi"));
    m_school->setAccessibleName(tr("How to count"));
    auto* holder = new QWidget;
    auto* form = new QFormLayout(holder);
    form->setContentsMargins(0, 0, 0, 0);
    form->addRow(tr("Tempo"), m_tempo);
    auto* metre = new QHBoxLayout;
    metre->addWidget(m_metre);
    metre->addWidget(m_from_bar, 1);
    form->addRow(tr("Metre"), metre);
    form->addRow(tr("Pick-up"), m_pickup);
    form->addRow(tr("Swing"), m_swing);
    form->addRow(tr("Count"), m_school);
    connect(m_tempo, &QDoubleSpinBox::valueChanged, this, [this](double bpm) {
        if (!m_refreshing)
            m_pulse.setTempo(bpm);
    });
    connect(m_metre, &QComboBox::activated, this, &PulseCard::applyMetre);
    connect(m_from_bar, &QSpinBox::valueChanged, this, &PulseCard::showMetreOfBar);
    connect(m_pickup, &QSpinBox::valueChanged, this, [this](int quavers) {
        if (!m_refreshing)
            m_pulse.setPickup(quavers);
    });
    connect(m_swing, &QDoubleSpinBox::valueChanged, this, [this](double ratio) {
        if (!m_refreshing)
            m_pulse.setSwing(ratio);
    });
    connect(m_school, &QComboBox::activated, this, [this](int school) {
        m_derived.setSchool(static_cast<CountSchool>(school));
    });
    return holder;
}

QWidget* PulseCard::buildButtons() {
    auto* holder = new QWidget;
    auto* rows = new QVBoxLayout(holder);
    rows->setContentsMargins(0, 0, 0, 0);
    rows->setSpacing(6);
    for (QPushButton* button : {m_tap, m_slower, m_faster})
        button->setMinimumHeight(34);
    m_tap->setObjectName("tap");
    m_slower->setObjectName("slower");
    m_faster->setObjectName("faster");
    rows->addWidget(m_tap);
    auto* speeds = new QHBoxLayout;
    speeds->addWidget(m_slower);
    speeds->addWidget(m_faster);
    rows->addLayout(speeds);
    auto* one = new QPushButton(tr("The chosen note is “one”"));
    one->setMinimumHeight(34);
    rows->addWidget(one);
    connect(m_tap, &QPushButton::pressed, &m_pulse, &PulseCommands::tap);
    connect(m_slower, &QPushButton::clicked, &m_pulse, &PulseCommands::twiceAsSlow);
    connect(m_faster, &QPushButton::clicked, &m_pulse, &PulseCommands::twiceAsFast);
    connect(one, &QPushButton::clicked, &m_commands, &EditCommands::setDownbeat);
    return holder;
}

void PulseCard::applyMetre() {
    const auto metre = parseMetre(m_metre->currentText().toStdString());
    if (!m_refreshing && metre)
        m_pulse.setMetre(m_from_bar->value(), *metre);
}

// The metre shown is the one that counts in that bar.
void PulseCard::showMetreOfBar() {
    if (m_refreshing)
        return;
    const BarGrid grid(m_document.piece().timeline);
    m_metre->setCurrentText(QString::fromStdString(grid.bar(m_from_bar->value()).metre.text()));
}

void PulseCard::refresh() {
    m_refreshing = true;
    setEnabled(m_document.isOpen());
    const Piece& piece = m_document.piece();
    const Timeline& timeline = piece.timeline;
    const double bpm = timeline.tempo_bpm > 0.0 ? timeline.tempo_bpm : 100.0;
    m_tempo->setValue(bpm);
    m_slower->setText(tr("Twice as slow: %1").arg(std::lround(0.5 * bpm)));
    m_faster->setText(tr("Twice as fast: %1").arg(std::lround(2.0 * bpm)));
    m_metre->setCurrentText(
        QString::fromStdString(BarGrid(timeline).bar(m_from_bar->value()).metre.text()));
    m_swing->setValue(timeline.swing);
    m_school->setCurrentIndex(static_cast<int>(m_derived.school()));
    double pickup = 0.0;
    if (!piece.notes.empty())
        pickup = -TimelineMap(timeline).quartersAt(piece.notes.front().onset_s());
    m_pickup->setValue(std::max(0, static_cast<int>(std::lround(2.0 * pickup))));
    const auto taps = static_cast<int>(m_pulse.taps());
    m_tap->setText(taps == 0 ? tr("Tap the beat while it plays   Z")
                             : countText(taps,
                                         QT_TRANSLATE_NOOP("wording", "%1 beat tapped   Z"),
                                         QT_TRANSLATE_NOOP("wording", "%1 beats tapped   Z")));
    m_note->setText(timeline.beats_s.empty()
                        ? tr("No beats found: set a tempo, or tap.")
                        : tr("%1: %2").arg(basisText(timeline.basis),
                                           countText(static_cast<int>(timeline.beats_s.size()),
                                                     QT_TRANSLATE_NOOP("wording", "%1 beat"),
                                                     QT_TRANSLATE_NOOP("wording", "%1 beats"))));
    m_refreshing = false;
}

} // namespace wirenote::app
