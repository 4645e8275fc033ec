#include "app/playing/listen_panel.h"

#include "app/document/document.h"
#include "app/playing/transport.h"
#include "media/time_stretch.h"
#include "music/pitch.h"

#include <QGridLayout>
#include <QHBoxLayout>
#include <QPushButton>
#include <cmath>

namespace wirenote::app {
namespace {

QHBoxLayout* rowOf(QWidget* holder) {
    auto* row = new QHBoxLayout(holder);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(8);
    return row;
}

} // namespace

PitchBox::PitchBox(QWidget* parent) : QSpinBox(parent) {
    setRange(23, 100);
    setMinimumWidth(66);
    setKeyboardTracking(false);
}

QString PitchBox::textFromValue(int midi) const {
    return QString::fromStdString(pitchName(midi));
}

int PitchBox::valueFromText(const QString& text) const {
    return parsePitchName(text.trimmed().toStdString()).value_or(value());
}

QValidator::State PitchBox::validate(QString& text, int&) const {
    return parsePitchName(text.trimmed().toStdString()) ? QValidator::Acceptable
                                                        : QValidator::Intermediate;
}

ListenPanel::ListenPanel(Document& document, Transport& transport, QWidget* parent)
    : Card(parent), m_document(document), m_transport(transport),
      m_speed(new QSlider(Qt::Horizontal)), m_speed_text(label({}, 9.5, true, theme().ink)),
      m_semitones(new QSpinBox), m_cents(new QSpinBox), m_band(new QCheckBox(tr("only from"))),
      m_low(new PitchBox), m_high(new PitchBox),
      m_without_drums(new QCheckBox(tr("without the drums"))),
      m_click(new QCheckBox(tr("click  K"))), m_count_in(new QSpinBox),
      m_lead_in(new QDoubleSpinBox), m_match(new QCheckBox(tr("take and tab equally loud"))),
      m_limit(new QSlider(Qt::Horizontal)), m_limit_text(label({}, 9.0, false, theme().ink)) {
    setObjectName("listen");
    auto* title = label(tr("Listening"), 12, true, theme().ink);
    column()->addWidget(title);
    auto* grid = new QGridLayout;
    grid->setHorizontalSpacing(12);
    grid->setVerticalSpacing(7);
    int row = 0;
    const auto add = [&](const QString& name, QWidget* what) {
        grid->addWidget(label(name, 9.0, false, theme().quiet), row, 0);
        grid->addWidget(what, row++, 1);
    };
    add(tr("speed"), buildSpeed());
    add(tr("pitch"), buildPitch());
    add(tr("range"), buildBand());
    add(tr("loop"), buildLoop());
    add(tr("loudness"), buildLoudness());
    grid->setColumnStretch(1, 1);
    column()->addLayout(grid);
    column()->addWidget(
        label(tr("Loud sound harms hearing. Keep long loops low, and rest your ears."),
              8.5,
              false,
              theme().quiet));
    column()->addStretch(1);
    connect(&transport, &Transport::changed, this, &ListenPanel::refresh);
    connect(&document, &Document::opened, this, &ListenPanel::refresh);
    refresh();
}

QWidget* ListenPanel::buildSpeed() {
    auto* holder = new QWidget;
    auto* row = rowOf(holder);
    m_speed->setRange(static_cast<int>(100 * kSlowest), static_cast<int>(100 * kFastest));
    m_speed->setSingleStep(5);
    m_speed->setPageStep(25);
    m_speed->setObjectName("speed");
    m_speed->setAccessibleName(tr("Speed in per cent; the pitch stays"));
    m_speed->setToolTip(tr("Slower: comma. Faster: full stop. As recorded: slash."));
    m_speed_text->setFixedWidth(48);
    row->addWidget(m_speed, 1);
    row->addWidget(m_speed_text);
    for (const int percent : {50, 75, 100}) {
        auto* button = new QPushButton(tr("%1 %").arg(percent));
        button->setMinimumHeight(28);
        button->setFixedWidth(64);
        connect(
            button, &QPushButton::clicked, this, [this, percent] { m_speed->setValue(percent); });
        row->addWidget(button);
    }
    connect(m_speed, &QSlider::valueChanged, this, &ListenPanel::apply);
    return holder;
}

QWidget* ListenPanel::buildPitch() {
    auto* holder = new QWidget;
    auto* row = rowOf(holder);
    m_semitones->setRange(-12, 12);
    m_semitones->setSuffix(tr(" semitones"));
    m_semitones->setAccessibleName(tr("Pitch in semitones; the speed stays"));
    m_cents->setRange(-99, 99);
    m_cents->setSuffix(tr(" cents"));
    m_cents->setAccessibleName(tr("Pitch in cents; the speed stays"));
    auto* tuned = new QPushButton(tr("to A4 = 440 Hz"));
    tuned->setMinimumHeight(28);
    tuned->setToolTip(
        tr("Shifts the pitch by what the take is off, so that a tuned instrument fits."));
    connect(tuned, &QPushButton::clicked, this, [this] {
        const auto& takes = m_document.piece().takes;
        const std::size_t take = m_transport.take();
        ListenSettings listen = m_transport.listen();
        if (take < takes.size())
            listen.semitones = std::round(listen.semitones) - takes[take].reference.cents() / 100.0;
        m_transport.setListen(listen);
    });
    row->addWidget(m_semitones);
    row->addWidget(m_cents);
    row->addWidget(tuned);
    row->addStretch(1);
    connect(m_semitones, &QSpinBox::valueChanged, this, &ListenPanel::apply);
    connect(m_cents, &QSpinBox::valueChanged, this, &ListenPanel::apply);
    return holder;
}

QWidget* ListenPanel::buildBand() {
    auto* holder = new QWidget;
    auto* row = rowOf(holder);
    m_band->setObjectName("band");
    m_band->setToolTip(tr("Hears one pitch range alone (R); the rest is filtered out."));
    m_low->setAccessibleName(tr("Lowest pitch of the range"));
    m_high->setAccessibleName(tr("Highest pitch of the range"));
    row->addWidget(m_band);
    row->addWidget(m_low);
    row->addWidget(label(tr("to"), 9.0, false, theme().quiet));
    row->addWidget(m_high);
    m_without_drums->setObjectName("without_drums");
    m_without_drums->setToolTip(tr("Of the take only what keeps its pitch (Shift+R); strokes lose "
                                   "their edge with the drums."));
    row->addWidget(m_without_drums);
    row->addStretch(1);
    connect(m_without_drums, &QCheckBox::toggled, this, &ListenPanel::apply);
    connect(m_band, &QCheckBox::toggled, this, &ListenPanel::apply);
    connect(m_low, &QSpinBox::valueChanged, this, &ListenPanel::apply);
    connect(m_high, &QSpinBox::valueChanged, this, &ListenPanel::apply);
    return holder;
}

QWidget* ListenPanel::buildLoop() {
    auto* holder = new QWidget;
    auto* row = rowOf(holder);
    m_lead_in->setRange(0.0, 10.0);
    m_lead_in->setSingleStep(0.5);
    m_lead_in->setDecimals(1);
    m_lead_in->setSuffix(tr(" s before it"));
    m_lead_in->setSpecialValueText(tr("no lead-in"));
    m_lead_in->setAccessibleName(tr("Seconds heard before each round of the loop"));
    m_count_in->setRange(0, 16);
    m_count_in->setSuffix(tr(" beats count-in"));
    m_count_in->setSpecialValueText(tr("no count-in"));
    m_count_in->setAccessibleName(tr("Clicks before playing starts"));
    row->addWidget(m_lead_in);
    row->addWidget(m_count_in);
    row->addWidget(m_click);
    row->addStretch(1);
    connect(m_lead_in, &QDoubleSpinBox::valueChanged, this, &ListenPanel::apply);
    connect(m_count_in, &QSpinBox::valueChanged, this, &ListenPanel::apply);
    connect(m_click, &QCheckBox::toggled, this, &ListenPanel::apply);
    return holder;
}

QWidget* ListenPanel::buildLoudness() {
    auto* holder = new QWidget;
    auto* row = rowOf(holder);
    m_limit->setRange(static_cast<int>(kLowestLimit_db), static_cast<int>(kHighestLimit_db));
    m_limit->setObjectName("limit");
    m_limit->setAccessibleName(tr("Volume limit in decibels below full scale"));
    m_limit->setToolTip(tr("Nothing louder than this leaves Wirenote."));
    m_limit->setMaximumWidth(140);
    m_limit_text->setWordWrap(false);
    row->addWidget(m_limit);
    row->addWidget(m_limit_text);
    row->addWidget(m_match);
    row->addStretch(1);
    connect(m_limit, &QSlider::valueChanged, this, &ListenPanel::apply);
    connect(m_match, &QCheckBox::toggled, this, &ListenPanel::apply);
    return holder;
}

void ListenPanel::refresh() {
    m_refreshing = true;
    const ListenSettings& listen = m_transport.listen();
    m_speed->setValue(static_cast<int>(std::lround(100 * listen.speed)));
    m_speed_text->setText(tr("%1 %").arg(std::lround(100 * listen.speed)));
    const double whole = std::round(listen.semitones);
    m_semitones->setValue(static_cast<int>(whole));
    m_cents->setValue(static_cast<int>(std::lround(100 * (listen.semitones - whole))));
    m_band->setChecked(listen.band.has_value());
    m_low->setEnabled(listen.band.has_value());
    m_high->setEnabled(listen.band.has_value());
    const ListenSettings::Band band = listen.band.value_or(ListenSettings::Band{});
    m_low->setValue(band.low_midi);
    m_high->setValue(band.high_midi);
    m_without_drums->setChecked(listen.without_drums);
    m_click->setChecked(listen.click);
    m_click->setEnabled(m_document.piece().timeline.beats_s.size() > 1);
    m_count_in->setValue(listen.count_in);
    m_lead_in->setValue(listen.lead_in_s);
    m_match->setChecked(listen.level_match);
    m_limit->setValue(static_cast<int>(std::lround(listen.limit_db)));
    m_limit_text->setText(tr("at most %1 dB").arg(std::lround(listen.limit_db)));
    m_refreshing = false;
}

void ListenPanel::apply() {
    if (m_refreshing)
        return;
    ListenSettings listen = m_transport.listen();
    listen.speed = m_speed->value() / 100.0;
    listen.semitones = std::clamp(
        m_semitones->value() + m_cents->value() / 100.0, -kMostSemitones, kMostSemitones);
    listen.band.reset();
    if (m_band->isChecked())
        listen.band = ListenSettings::Band{std::min(m_low->value(), m_high->value()),
                                           std::max(m_low->value(), m_high->value())};
    listen.without_drums = m_without_drums->isChecked();
    listen.click = m_click->isChecked();
    listen.count_in = m_count_in->value();
    listen.lead_in_s = m_lead_in->value();
    listen.level_match = m_match->isChecked();
    listen.limit_db = m_limit->value();
    m_transport.setListen(listen);
}

} // namespace wirenote::app
