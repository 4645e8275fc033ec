#include "app/benches/takes/instrument_card.h"

#include "app/commands/take_commands.h"
#include "app/document/derived.h"
#include "app/document/document.h"
#include "app/text/question_wording.h"
#include "app/text/wording.h"
#include "hearing/tuning_guess.h"

#include <QFileDialog>
#include <QFormLayout>
#include <QPushButton>
#include <QTimer>
#include <algorithm>
#include <cmath>

namespace wirenote::app {
namespace {

constexpr double kInch_mm = 25.4;
constexpr double kWorthOffering = 0.10;

// Gauges in thousandths of an inch, thinnest string first, as string packets say them.
QString gaugesText(const Instrument& instrument) {
    QStringList words;
    for (const StringSpec& s : instrument.strings)
        words << QString::number(std::lround(s.gauge_mm / kInch_mm * 1000.0));
    return words.join(' ');
}

Status readGauges(const QString& text, Instrument& instrument) {
    const QStringList words = text.split(' ', Qt::SkipEmptyParts);
    if (words.size() != static_cast<qsizetype>(instrument.strings.size()))
        return badCall(
            "name one gauge for each string, the thinnest first, like 10 13 17 26 36 46");
    for (qsizetype i = 0; i < words.size(); ++i) {
        bool ok = false;
        const double mil = words[i].toDouble(&ok);
        if (!ok || mil < 5 || mil > 180)
            return badCall("a gauge is a number of thousandths of an inch from 5 to 180");
        instrument.strings[static_cast<std::size_t>(i)].gauge_mm = mil / 1000.0 * kInch_mm;
    }
    return {};
}

} // namespace

InstrumentCard::InstrumentCard(Document& document,
                               Derived& derived,
                               TakeCommands& takes,
                               QWidget* parent)
    : Card(parent), m_document(document), m_derived(derived), m_takes(takes), m_kind(new QComboBox),
      m_named(new QComboBox), m_tuning(new QLineEdit), m_capo(new QSpinBox), m_frets(new QSpinBox),
      m_scale(new QDoubleSpinBox), m_set(new StringsChoice), m_gauges(new QLineEdit),
      m_left(new QCheckBox(tr("left-handed"))), m_tool(new QComboBox),
      m_guess(label({}, 9.0, false, theme().ink)),
      m_calibration(label({}, 9.0, false, theme().ink)), m_forget(new QPushButton),
      m_wish(label({}, 9.0, false, theme().ink)), m_show_wish(new QPushButton),
      m_offer(new QWidget) {
    setObjectName("instrument");
    column()->addWidget(label(tr("The instrument"), 12, true, theme().ink));
    for (const InstrumentKind kind : {InstrumentKind::Guitar,
                                      InstrumentKind::Acoustic,
                                      InstrumentKind::Nylon,
                                      InstrumentKind::Guitar7,
                                      InstrumentKind::Bass,
                                      InstrumentKind::Bass5})
        m_kind->addItem(instrumentText(kind), static_cast<int>(kind));
    m_tuning->setObjectName("tuningText");
    m_tuning->setToolTip(
        tr("Open strings from the thickest to the thinnest, like E2 A2 D3 G3 B3 E4"));
    m_capo->setRange(0, 12);
    m_capo->setSpecialValueText(tr("none"));
    m_capo->setKeyboardTracking(false);
    m_frets->setRange(12, 30);
    m_frets->setKeyboardTracking(false);
    m_scale->setRange(300.0, 1000.0);
    m_scale->setSuffix(tr(" mm"));
    m_scale->setDecimals(0);
    m_scale->setKeyboardTracking(false);
    m_gauges->setToolTip(tr("Thousandths of an inch, the thinnest string first"));
    m_tool->setObjectName("tool");
    for (QComboBox* box : {m_kind, m_named, m_tool}) {
        box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        box->setMinimumContentsLength(6);
    }
    column()->addLayout(buildForm());
    column()->addWidget(m_guess);
    m_offer->setLayout(new QVBoxLayout);
    m_offer->layout()->setContentsMargins(0, 0, 0, 0);
    column()->addWidget(m_offer);
    column()->addWidget(buildCalibration());
    column()->addWidget(
        label(tr("Another instrument or tuning places the notes anew. What you set stays."),
              8.5,
              false,
              theme().quiet));
    column()->addStretch(1);
    connectFields();
    connect(&document, &Document::opened, this, &InstrumentCard::refresh);
    connect(&document, &Document::changed, this, [this](const Changes& what) {
        if (what.instrument || what.readings)
            refresh();
    });
    connect(&derived, &Derived::changed, this, &InstrumentCard::refreshGuess);
    connect(&derived, &Derived::changed, this, &InstrumentCard::refreshWish);
    refresh();
}

QFormLayout* InstrumentCard::buildForm() {
    auto* form = new QFormLayout;
    form->setFieldGrowthPolicy(QFormLayout::AllNonFixedFieldsGrow);
    form->setVerticalSpacing(6);
    const auto add = [form](const QString& name, QWidget* field) {
        field->setAccessibleName(name);
        form->addRow(name, field);
    };
    add(tr("Kind"), m_kind);
    add(tr("Tuning"), m_named);
    add(tr("Strings"), m_tuning);
    add(tr("Capo"), m_capo);
    add(tr("Scale"), m_scale);
    add(tr("Frets"), m_frets);
    add(tr("Set"), m_set);
    add(tr("Gauges"), m_gauges);
    form->addRow(QString(), m_left);
    add(tr("Played with"), m_tool);
    return form;
}

void InstrumentCard::connectFields() {
    connect(m_kind, &QComboBox::activated, this, [this] {
        m_takes.setInstrument(
            standardInstrument(static_cast<InstrumentKind>(m_kind->currentData().toInt())));
    });
    connect(m_tool, &QComboBox::activated, this, [this] {
        m_takes.setTool(static_cast<PluckingTool>(m_tool->currentData().toInt()));
    });
    connect(m_named, &QComboBox::activated, this, &InstrumentCard::applyNamed);
    connect(m_set, &StringsChoice::chosen, this, &InstrumentCard::applySet);
    connect(m_set, &StringsChoice::said, &m_takes, &TakeCommands::said);
    connect(m_set, &StringsChoice::warned, &m_takes, &TakeCommands::warned);
    connect(m_tuning, &QLineEdit::editingFinished, this, &InstrumentCard::apply);
    connect(m_gauges, &QLineEdit::editingFinished, this, &InstrumentCard::apply);
    connect(m_capo, &QSpinBox::valueChanged, this, &InstrumentCard::apply);
    connect(m_frets, &QSpinBox::valueChanged, this, &InstrumentCard::apply);
    connect(m_scale, &QDoubleSpinBox::valueChanged, this, &InstrumentCard::apply);
    connect(m_left, &QCheckBox::toggled, this, &InstrumentCard::apply);
}

void InstrumentCard::apply() {
    if (m_refreshing || !m_document.isOpen())
        return;
    Instrument instrument = m_document.piece().instrument;
    instrument.frets = m_frets->value();
    instrument.scale_mm = m_scale->value();
    instrument.left_handed = m_left->isChecked();
    Status usable = setTuning(instrument, m_tuning->text().toStdString());
    if (usable)
        usable = setCapo(instrument, m_capo->value());
    if (usable && m_gauges->text() != gaugesText(m_document.piece().instrument)) {
        usable = readGauges(m_gauges->text(), instrument);
        m_set->table().rebuild(instrument);
    }
    if (!usable)
        emit m_document.refused(sentence(usable.error()));
    else
        m_takes.setInstrument(instrument);
    refresh();
}

void InstrumentCard::applyNamed() {
    const int index = m_named->currentData().toInt();
    const auto named = namedTunings(m_document.piece().instrument);
    if (index >= 0 && index < static_cast<int>(named.size()))
        m_takes.setInstrument(named[static_cast<std::size_t>(index)].instrument);
}

void InstrumentCard::applySet(const StringSet& set) {
    Instrument instrument = m_document.piece().instrument;
    if (const Status strung = m_set->table().apply(set, instrument); !strung)
        emit m_document.refused(sentence(strung.error()));
    else
        m_takes.setInstrument(instrument);
    refresh();
}

void InstrumentCard::refresh() {
    const auto& traits = m_document.piece().string_traits;
    const bool calibrated =
        std::ranges::any_of(traits, [](const StringTrait& t) { return t.basis == Basis::Set; });
    m_calibration->setText(calibrated       ? tr("Strings: calibrated.")
                           : traits.empty() ? tr("Strings: as their gauges say.")
                                            : tr("Strings: learned from the notes."));
    m_forget->setVisible(calibrated);
    m_refreshing = true;
    setEnabled(m_document.isOpen());
    const Instrument& instrument = m_document.piece().instrument;
    m_kind->setCurrentIndex(m_kind->findData(static_cast<int>(instrument.kind)));
    m_named->clear();
    m_named->addItem(tr("as typed"), -1);
    const auto named = namedTunings(instrument);
    for (std::size_t i = 0; i < named.size(); ++i) {
        m_named->addItem(tuningNameText(named[i].name, named[i].instrument.capo),
                         static_cast<int>(i));
        if (tuningText(named[i].instrument) == tuningText(instrument) &&
            named[i].instrument.capo == instrument.capo)
            m_named->setCurrentIndex(static_cast<int>(i) + 1);
    }
    m_tuning->setText(QString::fromStdString(tuningText(instrument)));
    m_capo->setValue(instrument.capo);
    m_frets->setValue(instrument.frets);
    m_scale->setValue(instrument.scale_mm);
    m_set->show(instrument);
    m_gauges->setText(gaugesText(instrument));
    m_left->setChecked(instrument.left_handed);
    refreshTool();
    refreshGuess();
    refreshWish();
    m_refreshing = false;
}

// What was only guessed says so, and can be confirmed.
void InstrumentCard::refreshTool() {
    const auto& tool = m_document.piece().asPlayed().head.tool;
    m_tool->clear();
    if (tool.value == PluckingTool::Unknown)
        m_tool->addItem(toolText(tool.value), static_cast<int>(tool.value));
    for (const PluckingTool one : {PluckingTool::Pick, PluckingTool::Fingers, PluckingTool::Both}) {
        const bool guessed = one == tool.value && !tool.isSet();
        m_tool->addItem(guessed ? tr("%1 (guessed)").arg(toolText(one)) : toolText(one),
                        static_cast<int>(one));
    }
    m_tool->setCurrentIndex(m_tool->findData(static_cast<int>(tool.value)));
}

QWidget* InstrumentCard::buildCalibration() {
    auto* holder = new QWidget;
    auto* rows = new QVBoxLayout(holder);
    rows->setContentsMargins(0, 0, 0, 0);
    rows->setSpacing(5);
    rows->addWidget(m_calibration);
    m_wish->setObjectName("stringWish");
    m_show_wish->setObjectName("showStringWish");
    m_show_wish->setMinimumHeight(30);
    rows->addWidget(m_wish);
    rows->addWidget(m_show_wish);
    connect(m_show_wish, &QPushButton::clicked, this, [this] {
        if (const auto& wish = m_derived.stringWish(); wish && wish->note != 0)
            emit wantsNote(wish->note);
    });
    auto* hear = new QPushButton(tr("Calibrate by a recording…"));
    hear->setObjectName("calibrate");
    hear->setToolTip(
        tr("A recording of each open string, then its twelfth fret, the thickest string "
           "first: it tells how these very strings sound."));
    auto* kept = new QPushButton(tr("Use a kept calibration…"));
    kept->setObjectName("useCalibration");
    m_forget->setText(tr("Forget the calibration"));
    m_forget->setObjectName("forgetCalibration");
    for (QPushButton* button : {hear, kept, m_forget}) {
        button->setMinimumHeight(30);
        rows->addWidget(button);
    }
    connect(hear, &QPushButton::clicked, this, [this] {
        const QString file = QFileDialog::getOpenFileName(
            this, tr("A recording of the strings"), {}, tr("All files (*)"));
        if (!file.isEmpty())
            m_takes.calibrate(file);
    });
    connect(kept, &QPushButton::clicked, this, [this] {
        const QString file = QFileDialog::getOpenFileName(this,
                                                          tr("A kept calibration"),
                                                          TakeCommands::profilesFolder(),
                                                          tr("Calibrations (*.json)"));
        if (!file.isEmpty())
            m_takes.useCalibration(file);
    });
    connect(m_forget, &QPushButton::clicked, &m_takes, &TakeCommands::forgetCalibration);
    return holder;
}

// One note that a person places teaches a string; which string and which note helps most.
void InstrumentCard::refreshWish() {
    const auto& wish = m_derived.stringWish();
    m_wish->setVisible(wish.has_value());
    m_show_wish->setVisible(wish && wish->note != 0);
    if (!wish)
        return;
    const QString hangs = tr("%1 places hang on string %2.").arg(wish->places).arg(wish->string);
    m_wish->setText(
        wish->note != 0
            ? tr("%1 One note that is its open string, placed by you, tells most about them.")
                  .arg(hangs)
            : tr("%1 Pluck it open once in a take, or calibrate: that tells most about them.")
                  .arg(hangs));
    m_show_wish->setText(tr("Show what may be open string %1").arg(wish->string));
}

void InstrumentCard::refreshGuess() {
    // The buttons may be what called: they go when this is over.
    while (QLayoutItem* item = m_offer->layout()->takeAt(0)) {
        item->widget()->hide();
        item->widget()->deleteLater();
        delete item;
    }
    const Piece& piece = m_document.piece();
    std::vector<TuningGuess> guesses = m_derived.tunings();
    std::erase_if(guesses, [&piece](const TuningGuess& guess) {
        return guess.instrument.kind != piece.instrument.kind && guess.probability < kWorthOffering;
    });
    if (guesses.empty()) {
        m_guess->setText(tr("Once notes are heard, they tell how the instrument may be tuned."));
        return;
    }
    const auto isNow = [&piece](const TuningGuess& g) {
        return tuningText(g.instrument) == tuningText(piece.instrument) &&
               g.instrument.capo == piece.instrument.capo;
    };
    const TuningGuess& best = guesses.front();
    m_guess->setText(tr("Heard: %1, %2 (%3)")
                         .arg(tuningNameText(best.name, best.instrument.capo),
                              percentText(best.probability),
                              tuningReason(best)));
    int offered = 0;
    for (const TuningGuess& guess : guesses) {
        if (isNow(guess) || guess.probability < kWorthOffering || ++offered > 3)
            continue;
        auto* button = new QPushButton(tr("Use %1: %2")
                                           .arg(tuningNameText(guess.name, guess.instrument.capo),
                                                percentText(guess.probability)));
        button->setMinimumHeight(32);
        button->setFont(uiFont(9.0));
        button->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
        button->setToolTip(tuningReason(guess));
        connect(button, &QPushButton::clicked, this, [this, instrument = guess.instrument] {
            m_takes.setInstrument(instrument);
        });
        m_offer->layout()->addWidget(button);
    }
}

} // namespace wirenote::app
