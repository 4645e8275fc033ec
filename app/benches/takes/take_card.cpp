#include "app/benches/takes/take_card.h"

#include "app/commands/take_commands.h"
#include "app/document/document.h"
#include "app/playing/transport.h"
#include "app/text/wording.h"
#include "base/text.h"

#include <QFileInfo>
#include <QFormLayout>
#include <QGridLayout>
#include <algorithm>

namespace wirenote::app {

namespace {

QString spreadText(double cents) {
    return countText(static_cast<int>(std::lround(cents)),
                     QT_TRANSLATE_NOOP("wording", "%1 cent"),
                     QT_TRANSLATE_NOOP("wording", "%1 cents"));
}

} // namespace

TakeCard::TakeCard(Document& document, Transport& transport, TakeCommands& takes, QWidget* parent)
    : Card(parent), m_document(document), m_transport(transport), m_takes(takes),
      m_title(label({}, 12, true, theme().ink)), m_facts(label({}, 9.0, false, theme().quiet)),
      m_advice(label({}, 9.0, false, theme().accent)), m_name(new QLineEdit), m_kind(new QComboBox),
      m_stream(new QComboBox), m_channels(new QComboBox), m_gain(new QDoubleSpinBox),
      m_a4(new QDoubleSpinBox), m_reference_note(label({}, 8.5, false, theme().quiet)),
      m_origin(new QLineEdit), m_rights(new QComboBox), m_remark(new QLineEdit),
      m_hear(new QPushButton(tr("Hear the notes  E"))),
      m_trim(new QPushButton(tr("Keep the loop only"))),
      m_line_up(new QPushButton(tr("Line up by sound"))),
      m_look(new QPushButton(tr("Look at the film"))), m_remove(new QPushButton(tr("Remove"))),
      m_find(new QPushButton) {
    setObjectName("take");
    column()->addWidget(m_title);
    column()->addWidget(m_facts);
    m_advice->setObjectName("advice");
    column()->addWidget(m_advice);
    column()->addLayout(buildForm());
    column()->addLayout(buildButtons());
    column()->addWidget(
        label(tr("Recordings and scores belong to those who made them. Wirenote never "
                 "copies a recording into a piece or an export."),
              8.5,
              false,
              theme().quiet));
    connect(&document, &Document::opened, this, &TakeCard::refresh);
    connect(&document, &Document::changed, this, [this](const Changes& what) {
        if (what.takes)
            refresh();
    });
    connect(&transport, &Transport::changed, this, &TakeCard::refresh);
    refresh();
}

QLayout* TakeCard::buildForm() {
    prepareFields();
    auto* form = new QFormLayout;
    form->setFieldGrowthPolicy(QFormLayout::AllNonFixedFieldsGrow);
    form->setVerticalSpacing(6);
    const auto add = [form](const QString& name, QWidget* field) {
        field->setAccessibleName(name);
        form->addRow(name, field);
    };
    add(tr("Name"), m_name);
    add(tr("Kind"), m_kind);
    add(tr("A4"), m_a4);
    form->addRow(QString(), m_reference_note);
    add(tr("Sound"), m_stream);
    add(tr("Channels"), m_channels);
    add(tr("Level"), m_gain);
    add(tr("Origin"), m_origin);
    add(tr("Rights"), m_rights);
    add(tr("Remark"), m_remark);
    connectTexts();
    connectChoices();
    connectReference();
    return form;
}

void TakeCard::prepareFields() {
    for (const TakeKind kind : {TakeKind::Studio, TakeKind::Stage, TakeKind::Lesson, TakeKind::Own})
        m_kind->addItem(takeKindText(kind), static_cast<int>(kind));
    for (const ChannelChoice c :
         {ChannelChoice::Mix, ChannelChoice::Left, ChannelChoice::Right, ChannelChoice::Difference})
        m_channels->addItem(channelsText(c), static_cast<int>(c));
    for (const TakeRights r : {TakeRights::Unknown,
                               TakeRights::OwnRecording,
                               TakeRights::Permitted,
                               TakeRights::StudyOnly})
        m_rights->addItem(rightsText(r), static_cast<int>(r));
    for (QComboBox* box : {m_kind, m_channels, m_rights, m_stream}) {
        box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        box->setMinimumContentsLength(6);
    }
    constexpr int kBytesACharacter = 4; // of UTF-8, at the most
    m_name->setMaxLength(static_cast<int>(kLongestName) / kBytesACharacter);
    m_origin->setMaxLength(static_cast<int>(kLongestRemark) / kBytesACharacter);
    m_remark->setMaxLength(static_cast<int>(kLongestRemark) / kBytesACharacter);
    for (QLineEdit* line : {m_name, m_origin, m_remark})
        line->setMinimumWidth(60);
    m_gain->setRange(-24.0, 24.0);
    m_gain->setSuffix(tr(" dB"));
    m_gain->setDecimals(1);
    m_gain->setKeyboardTracking(false);
    m_a4->setRange(kLowestA4Hz, kHighestA4Hz);
    m_a4->setDecimals(1);
    m_a4->setSuffix(tr(" Hz"));
    m_a4->setKeyboardTracking(false);
    m_origin->setPlaceholderText(tr("where it came from"));
    m_remark->setPlaceholderText(tr("your own words"));
}

void TakeCard::connectTexts() {
    connect(m_name, &QLineEdit::editingFinished, this, [this] {
        change(tr("name the take"),
               [this](Take& t) { t.name = cleanText(m_name->text().toStdString()); });
    });
    connect(m_origin, &QLineEdit::editingFinished, this, [this] {
        change(tr("say where the take comes from"), [this](Take& t) {
            t.origin = cleanText(m_origin->text().toStdString(), kLongestRemark);
        });
    });
    connect(m_remark, &QLineEdit::editingFinished, this, [this] {
        change(tr("remark on the take"), [this](Take& t) {
            t.remark = cleanText(m_remark->text().toStdString(), kLongestRemark);
        });
    });
}

void TakeCard::connectChoices() {
    connect(m_kind, &QComboBox::activated, this, [this] {
        change(tr("set the kind of take"),
               [this](Take& t) { t.kind = static_cast<TakeKind>(m_kind->currentData().toInt()); });
    });
    connect(m_rights, &QComboBox::activated, this, [this] {
        change(tr("set the rights"), [this](Take& t) {
            t.rights = static_cast<TakeRights>(m_rights->currentData().toInt());
        });
    });
    connect(m_channels, &QComboBox::activated, this, [this] {
        change(tr("choose channels"), [this](Take& t) {
            t.channels = static_cast<ChannelChoice>(m_channels->currentData().toInt());
        });
    });
    connect(m_gain, &QDoubleSpinBox::valueChanged, this, [this](double db) {
        change(tr("set the level"), [db](Take& t) { t.gain_db = db; });
    });
    connect(m_stream, &QComboBox::activated, this, [this] {
        m_takes.chooseStream(m_transport.take(), m_stream->currentData().toInt());
    });
}

void TakeCard::connectReference() {
    connect(m_a4, &QDoubleSpinBox::valueChanged, this, [this](double hz) {
        if (m_refreshing)
            return;
        if (m_transport.take() == 0)
            m_document.edit(
                tr("set tuning reference"),
                0.0,
                [hz](PieceEditor& e) { return e.setReference(hz); },
                Resolve::WholePiece);
        else
            change(tr("set tuning reference"), [hz](Take& t) {
                t.reference.a4_hz = hz;
                t.reference.basis = Basis::Set;
            });
    });
}

QLayout* TakeCard::buildButtons() {
    auto* add = new QPushButton(tr("Add a take…"));
    auto* grid = new QGridLayout;
    int i = 0;
    m_find->setObjectName("findRecording");
    m_look->setObjectName("lookAtTake");
    for (QPushButton* button : {m_hear, add, m_line_up, m_trim, m_find, m_remove, m_look}) {
        button->setMinimumHeight(32);
        button->setFont(uiFont(9.0));
        button->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
        grid->addWidget(button, i / 2, i % 2, 1, button == m_look ? 2 : 1);
        ++i;
    }
    m_hear->setToolTip(
        tr("Hears the notes of the loop, or of the whole take. What you set stays."));
    m_look->setToolTip(
        tr("Finds the neck in this take's film, and both hands at every note; what is "
           "seen counts for strings, frets, fingers and strokes."));
    m_line_up->setToolTip(tr("Finds the same music in this take and the first one."));
    m_trim->setToolTip(tr("Only the part inside the loop is heard and lined up."));
    connect(m_hear, &QPushButton::clicked, &m_takes, qOverload<>(&TakeCommands::hear));
    connect(add, &QPushButton::clicked, this, &TakeCard::addWanted);
    connect(m_line_up, &QPushButton::clicked, this, [this] {
        m_takes.lineUpBySound(m_transport.take());
    });
    connect(m_trim, &QPushButton::clicked, &m_takes, &TakeCommands::trimToLoop);
    connect(
        m_look, &QPushButton::clicked, this, [this] { emit filmLookWanted(m_transport.take()); });
    connect(m_find, &QPushButton::clicked, this, &TakeCard::recordingWanted);
    connect(m_remove, &QPushButton::clicked, this, [this] { m_takes.remove(m_transport.take()); });
    return grid;
}

void TakeCard::change(const QString& label, const std::function<void(Take&)>& change) {
    if (!m_refreshing)
        m_takes.change(m_transport.take(), label, change);
}

void TakeCard::refreshReference(std::size_t index) {
    const TuningReference& reference = m_document.piece().takes[index].reference;
    m_a4->setValue(reference.a4_hz);
    m_reference_note->setText(
        reference.basis == Basis::Set ? tr("set by you: %1").arg(centsText(reference.cents()))
        : reference.basis == Basis::Heard
            ? tr("heard: %1, notes spread ± %2")
                  .arg(centsText(reference.cents()), spreadText(reference.spread_cents))
            : tr("not heard yet"));
}

void TakeCard::refreshTake(std::size_t index) {
    const Take& take = m_document.piece().takes[index];
    const TakeMedia* media = m_document.media(index);
    m_title->setText(tr("Take %1").arg(index + 1));
    QStringList facts{take.path.empty() ? tr("a tab without sound")
                                        : QFileInfo(QString::fromStdString(take.path)).fileName(),
                      longTimeText(take.length_s)};
    if (media && media->info.picture.exists())
        facts
            << tr("picture %1 × %2").arg(media->info.picture.width).arg(media->info.picture.height);
    if (take.quality.neck_frets > 0)
        facts << tr("%1 frets to be seen, over %2 of the picture")
                     .arg(std::lround(take.quality.neck_frets))
                     .arg(percentText(std::min(1.0, take.quality.neck_share)));
    if (index > 0 && take.alignment.semitones != 0)
        facts << (take.alignment.semitones < 0
                      ? tr("sounds %1 semitones lower than take 1").arg(-take.alignment.semitones)
                      : tr("sounds %1 semitones higher than take 1").arg(take.alignment.semitones));
    if (take.film.told())
        facts << tr("film seen, trusted to %1").arg(percentText(take.film.trust));
    if (!media && !take.path.empty())
        facts << tr("the recording is missing");
    m_facts->setText(facts.join(QStringLiteral(" · ")));
    const QStringList advice = qualityAdvice(take);
    m_advice->setText(!advice.isEmpty()         ? advice.join(QStringLiteral("\n"))
                      : take.quality.measured() ? tr("Nothing amiss: it can be trusted.")
                                                : QString());
    QPalette palette = m_advice->palette();
    palette.setColor(QPalette::WindowText, advice.isEmpty() ? theme().quiet : theme().accent);
    m_advice->setPalette(palette);
    m_advice->setVisible(!m_advice->text().isEmpty());
    m_name->setText(QString::fromStdString(take.name));
    m_kind->setCurrentIndex(m_kind->findData(static_cast<int>(take.kind)));
    m_channels->setCurrentIndex(m_channels->findData(static_cast<int>(take.channels)));
    m_rights->setCurrentIndex(m_rights->findData(static_cast<int>(take.rights)));
    m_gain->setValue(take.gain_db);
    m_origin->setText(QString::fromStdString(take.origin));
    m_remark->setText(QString::fromStdString(take.remark));
    for (QLineEdit* field : {m_name, m_origin, m_remark})
        if (!field->hasFocus())
            field->setCursorPosition(0); // a long text is read from its beginning
    m_stream->clear();
    m_stream->addItem(tr("the file's own choice"), -1);
    if (media && media->info.sounds.size() > 1)
        for (const SoundStreamInfo& s : media->info.sounds)
            m_stream->addItem(
                tr("%1 %2, %3 channels")
                    .arg(QString::fromStdString(s.title.empty() ? s.language : s.title),
                         QString::fromStdString(s.coding))
                    .arg(s.channels)
                    .trimmed(),
                s.stream);
    m_stream->setCurrentIndex(std::max(0, m_stream->findData(take.sound_stream)));
    m_stream->setEnabled(m_stream->count() > 1);
    refreshReference(index);
}

void TakeCard::refresh() {
    m_refreshing = true;
    const auto& takes = m_document.piece().takes;
    const std::size_t index = m_transport.take();
    const bool there = m_document.isOpen() && index < takes.size();
    for (QWidget* field : std::initializer_list<QWidget*>{m_name,
                                                          m_kind,
                                                          m_stream,
                                                          m_channels,
                                                          m_gain,
                                                          m_a4,
                                                          m_origin,
                                                          m_rights,
                                                          m_remark,
                                                          m_trim,
                                                          m_remove,
                                                          m_find})
        field->setEnabled(there);
    m_hear->setEnabled(there && m_document.media(0));
    m_line_up->setEnabled(there && index > 0 && m_document.media(index));
    m_look->setVisible(there && takes[index].has_picture);
    m_look->setEnabled(there && m_document.media(index));
    const bool missing = there && !m_document.media(index);
    m_find->setEnabled(there);
    m_find->setText(missing ? tr("Find the recording…") : tr("Another copy…"));
    m_find->setToolTip(
        missing ? tr("The recording is not where it was: say where it is now.")
                : tr("A better copy of the same performance, or one with a film, takes its place. "
                     "What you decided stays."));
    m_trim->setText(there && !m_transport.loop() && !takes[index].trim.empty()
                        ? tr("Keep all of it")
                        : tr("Keep the loop only"));
    if (there) {
        refreshTake(index);
    } else {
        m_title->setText(tr("No take"));
        m_facts->setText(tr("A tab without sound. Add a recording to hear it against."));
        m_advice->hide();
        m_reference_note->clear();
    }
    m_refreshing = false;
}

} // namespace wirenote::app
