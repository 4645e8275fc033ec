#include "app/take_card.h"

#include "app/document.h"
#include "app/wording.h"

#include <QFileInfo>
#include <QFormLayout>
#include <QPushButton>

namespace wirenote::app {

TakeCard::TakeCard(Workbench bench, QWidget* parent)
    : Card(parent), m_bench(bench), m_facts(label({}, 9.5, false, theme().ink)),
      m_cautions(label({}, 9.0, false, theme().accent)),
      m_reference_note(label({}, 8.5, false, theme().quiet)), m_a4(new QDoubleSpinBox),
      m_kind(new QComboBox), m_tuning(new QLineEdit), m_capo(new QSpinBox) {
    setObjectName("take");
    column()->addWidget(label(tr("The take"), 12, true, theme().ink));
    column()->addWidget(m_facts);
    column()->addWidget(m_cautions);

    m_a4->setRange(kLowestA4Hz, kHighestA4Hz);
    m_a4->setDecimals(1);
    m_a4->setSuffix(tr(" Hz"));
    m_a4->setKeyboardTracking(false);
    m_a4->setAccessibleName(tr("Tuning reference: A4 in hertz"));
    for (const InstrumentKind kind : {InstrumentKind::Guitar,
                                      InstrumentKind::Acoustic,
                                      InstrumentKind::Nylon,
                                      InstrumentKind::Guitar7,
                                      InstrumentKind::Bass,
                                      InstrumentKind::Bass5})
        m_kind->addItem(instrumentText(kind), static_cast<int>(kind));
    m_kind->setAccessibleName(tr("Instrument"));
    m_tuning->setAccessibleName(tr("Open strings, thickest first"));
    m_tuning->setToolTip(
        tr("Open strings from the thickest to the thinnest, like E2 A2 D3 G3 B3 E4"));
    m_capo->setRange(0, 12);
    m_capo->setSpecialValueText(tr("none"));
    m_capo->setKeyboardTracking(false);
    m_capo->setAccessibleName(tr("Capo at fret"));

    auto* form = new QFormLayout;
    form->setRowWrapPolicy(QFormLayout::WrapLongRows);
    form->addRow(tr("A4"), m_a4);
    form->addRow(QString(), m_reference_note);
    form->addRow(tr("Instrument"), m_kind);
    form->addRow(tr("Tuning"), m_tuning);
    form->addRow(tr("Capo"), m_capo);
    column()->addLayout(form);
    column()->addWidget(
        label(tr("Another instrument or tuning places the notes anew. What you set stays."),
              8.5,
              false,
              theme().quiet));
    auto* again = new QPushButton(tr("Hear the take anew as this instrument"));
    again->setMinimumHeight(32);
    connect(again, &QPushButton::clicked, this, &TakeCard::listenAgainWanted);
    column()->addWidget(again);
    auto* find = new QPushButton(tr("Find the recording…"));
    find->setMinimumHeight(32);
    connect(find, &QPushButton::clicked, this, &TakeCard::recordingWanted);
    column()->addWidget(find);
    column()->addStretch(1);

    connect(m_a4, &QDoubleSpinBox::valueChanged, this, [this](double hz) {
        if (!m_refreshing)
            m_bench.document.edit(
                tr("set tuning reference"),
                0.0,
                [hz](PieceEditor& e) { return e.setReference(hz); },
                Document::Scope::WholePiece);
    });
    connect(m_kind, &QComboBox::activated, this, [this] {
        const Instrument usual =
            standardInstrument(static_cast<InstrumentKind>(m_kind->currentData().toInt()));
        m_tuning->setText(QString::fromStdString(tuningText(usual)));
        applyInstrument();
    });
    connect(m_tuning, &QLineEdit::editingFinished, this, &TakeCard::applyInstrument);
    connect(m_capo, &QSpinBox::valueChanged, this, &TakeCard::applyInstrument);
    connect(&bench.document, &Document::opened, this, &TakeCard::refresh);
    connect(&bench.document, &Document::changed, this, &TakeCard::refresh);
    refresh();
}

void TakeCard::applyInstrument() {
    if (m_refreshing || !m_bench.document.isOpen())
        return;
    Instrument instrument =
        standardInstrument(static_cast<InstrumentKind>(m_kind->currentData().toInt()));
    Status usable = setTuning(instrument, m_tuning->text().toStdString());
    if (usable)
        usable = setCapo(instrument, m_capo->value());
    if (usable && instrument == m_bench.document.piece().instrument)
        return;
    m_bench.document.edit(
        tr("set instrument"),
        0.0,
        [&](PieceEditor& e) { return usable ? e.setInstrument(instrument) : usable; },
        Document::Scope::WholePiece);
    refresh();
}

void TakeCard::refresh() {
    m_refreshing = true;
    const Piece& piece = m_bench.document.piece();
    setEnabled(m_bench.document.isOpen());
    QString facts = tr("No recording: a tab without sound.");
    QStringList cautions;
    if (piece.take) {
        facts = piece.take->path.empty()
                    ? QString::fromStdString(piece.take->name)
                    : tr("%1\n%2, %3 notes")
                          .arg(QFileInfo(QString::fromStdString(piece.take->path)).fileName(),
                               timeText(piece.take->length_s))
                          .arg(piece.notes.size());
        m_a4->setValue(piece.take->reference.a4_hz);
        const TuningReference& reference = piece.take->reference;
        m_reference_note->setText(reference.basis == Basis::Set
                                      ? tr("set by you: %1").arg(centsText(reference.cents()))
                                      : tr("heard: %1, notes spread ± %2 cents")
                                            .arg(centsText(reference.cents()))
                                            .arg(reference.spread_cents, 0, 'f', 0));
        for (const std::string& word : piece.take->cautions)
            cautions << cautionText(word);
    }
    m_facts->setText(facts);
    m_cautions->setText(cautions.join("\n"));
    m_cautions->setVisible(!cautions.isEmpty());
    m_a4->setEnabled(piece.take.has_value());
    m_kind->setCurrentIndex(m_kind->findData(static_cast<int>(piece.instrument.kind)));
    m_tuning->setText(QString::fromStdString(tuningText(piece.instrument)));
    m_capo->setValue(piece.instrument.capo);
    m_refreshing = false;
}

} // namespace wirenote::app
