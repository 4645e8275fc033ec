#include "app/top_bar.h"

#include "app/card.h"
#include "app/commands/edit_commands.h"
#include "app/commands/questions.h"
#include "app/commands/take_commands.h"
#include "app/document/derived.h"
#include "app/document/document.h"
#include "app/elided_label.h"
#include "app/playing/transport.h"
#include "app/text/form_wording.h"
#include "app/text/wording.h"
#include "piece/timeline_map.h"

#include <QHBoxLayout>
#include <QPainter>
#include <QPixmap>
#include <cmath>

namespace wirenote::app {
namespace {

QIcon playIcon(bool playing) {
    QPixmap pixmap(48, 48);
    pixmap.fill(Qt::transparent);
    QPainter painter(&pixmap);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(Qt::NoPen);
    painter.setBrush(theme().ink);
    if (playing) {
        painter.drawRect(QRectF(12, 10, 8, 28));
        painter.drawRect(QRectF(28, 10, 8, 28));
    } else {
        const QPointF triangle[] = {{13, 8}, {39, 24}, {13, 40}};
        painter.drawPolygon(triangle, 3);
    }
    return QIcon(pixmap);
}

QString listeningText(Listening what) {
    switch (what) {
    case Listening::Take:
        return QObject::tr("hear the take");
    case Listening::Tab:
        return QObject::tr("hear the tab");
    case Listening::Both:
        return QObject::tr("take left, tab right");
    }
    return {};
}

// By bars where it keeps to them, by the clock otherwise.
QString loopText(TimeRange loop, const Timeline& timeline) {
    const TimelineMap map(timeline);
    const auto from = map.barBeatAt(loop.start_s + 0.03);
    const auto to = map.barBeatAt(loop.end_s - 0.03);
    const auto after = map.barBeatAt(loop.end_s + 0.03);
    const bool whole = timeline.beats_s.size() > 1 && from.beat < 1.2 && after.beat < 1.2 &&
                       after.bar == to.bar + 1;
    if (!whole)
        return QObject::tr("loop %1–%2").arg(timeText(loop.start_s), timeText(loop.end_s));
    return QObject::tr("loop %1").arg(barsText(from.bar, to.bar));
}

} // namespace

TopBar::TopBar(Document& document,
               Derived& derived,
               Transport& transport,
               TakeCommands& takes,
               Questions& questions,
               EditCommands& commands,
               QWidget* parent)
    : QWidget(parent), m_document(document), m_derived(derived), m_transport(transport),
      m_takes(takes), m_questions(questions), m_commands(commands),
      m_title(new ElidedLabel(11, true, theme().ink)),
      m_facts(new ElidedLabel(9, false, theme().quiet)), m_play(new QToolButton),
      m_time(Card::label({}, 10.5, true, theme().ink)), m_listening(new QToolButton),
      m_loop(Card::label({}, 9, false, theme().quiet)), m_doubts(new QPushButton),
      m_start(playIcon(false)), m_stop(playIcon(true)) {
    for (QLabel* l : {m_time, m_loop})
        l->setWordWrap(false);
    m_time->setMinimumWidth(110);
    m_play->setObjectName("play");
    m_play->setIconSize({22, 22});
    m_play->setMinimumSize(38, 34);
    m_play->setAutoRaise(true);
    m_play->setToolTip(tr("Play or stop (Space)"));
    m_play->setAccessibleName(tr("Play or stop"));
    m_listening->setObjectName("listening");
    m_listening->setAutoRaise(true);
    m_listening->setMinimumHeight(34);
    m_listening->setToolTip(
        tr("What is heard: the take, the tab by the simulated instrument, or both (T)"));
    m_doubts->setObjectName("doubts");
    m_doubts->setMinimumHeight(32);
    m_doubts->setMinimumWidth(120);
    m_doubts->setFont(uiFont(9.5, true));
    m_doubts->setProperty("pill", true);

    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(12, 4, 12, 4);
    row->setSpacing(12);
    row->addWidget(m_title, 2);
    row->addWidget(m_facts, 3);
    row->addWidget(m_play);
    row->addWidget(m_time);
    row->addWidget(m_listening);
    row->addWidget(m_loop);
    row->addWidget(m_doubts);
    connect(m_play, &QToolButton::clicked, &transport, &Transport::toggle);
    connect(m_listening, &QToolButton::clicked, this, [this] {
        m_transport.setListening(
            static_cast<Listening>((static_cast<int>(m_transport.listening()) + 1) % 3));
    });
    connect(m_doubts, &QPushButton::clicked, this, [this] {
        if (!m_questions.openNext())
            m_commands.nextDoubt();
    });
    connect(&takes, &TakeCommands::hearingChanged, this, &TopBar::refresh);
    connect(&document, &Document::opened, this, &TopBar::refresh);
    connect(&derived, &Derived::changed, this, &TopBar::refresh);
    connect(&document, &Document::changed, this, [this](const Changes& what) {
        if (what.instrument || what.takes || what.timeline || what.title || what.readings)
            refresh();
    });
    connect(&document, &Document::saved, this, &TopBar::refresh);
    connect(&document.undoStack(), &QUndoStack::cleanChanged, this, &TopBar::refresh);
    connect(&transport, &Transport::changed, this, &TopBar::refresh);
    connect(&transport, &Transport::moved, this, &TopBar::refreshTime);
    refresh();
}

void TopBar::refreshTime() {
    const double t = m_transport.playhead_s();
    const auto at = TimelineMap(m_document.piece().timeline).barBeatAt(t);
    m_time->setText(
        at.bar < 0 || (at.bar == 0 && t < 0.01)
            ? timeText(t)
            : tr("%1   bar %2 · %3").arg(timeText(t)).arg(at.bar).arg(static_cast<int>(at.beat)));
}

// What differs from plain playing, so that nobody wonders why it sounds odd.
QStringList TopBar::listeningFacts() const {
    QStringList facts;
    const Transport& t = m_transport;
    const ListenSettings& listen = t.listen();
    if (m_document.piece().takes.size() > 1 && t.listening() != Listening::Tab)
        facts << tr("take %1").arg(t.take() + 1);
    if (t.listening() != Listening::Tab && t.part() != SoundPart::All)
        facts << (t.part() == SoundPart::Note     ? tr("only this note  O")
                  : t.part() == SoundPart::String ? tr("only this string  Y")
                                                  : tr("without this note  C"));
    if (listen.speed != 1.0)
        facts << percentText(listen.speed);
    if (listen.semitones != 0.0)
        facts << tr("%1 semitones")
                     .arg(listen.semitones,
                          0,
                          'f',
                          listen.semitones == std::round(listen.semitones) ? 0 : 2);
    if (listen.band)
        facts << tr("%1 to %2 only")
                     .arg(QString::fromStdString(pitchName(listen.band->low_midi)),
                          QString::fromStdString(pitchName(listen.band->high_midi)));
    if (listen.click)
        facts << tr("click");
    if (t.loop())
        facts << loopText(*t.loop(), m_document.piece().timeline);
    return facts;
}

// What is left to look at; nobody is told that nothing is while nothing was looked at.
QString TopBar::doubtsLine() const {
    if (!m_document.isOpen())
        return tr("no piece open");
    if (m_takes.hearing() == TakeCommands::Hearing::Running)
        return tr("listening to the take …");
    if (m_document.piece().notes.empty())
        return m_takes.hearing() == TakeCommands::Hearing::Stopped ? tr("hearing was stopped")
                                                                   : tr("nothing heard yet");
    const auto questions = static_cast<int>(m_derived.questions().size());
    const auto doubts = static_cast<int>(m_derived.doubts().size());
    if (questions > 0)
        return countText(questions,
                         QT_TRANSLATE_NOOP("wording", "%1 question"),
                         QT_TRANSLATE_NOOP("wording", "%1 questions")) +
               tr(", ") +
               countText(doubts,
                         QT_TRANSLATE_NOOP("wording", "%1 doubt · next  N"),
                         QT_TRANSLATE_NOOP("wording", "%1 doubts · next  N"));
    if (doubts > 0)
        return countText(doubts,
                         QT_TRANSLATE_NOOP("wording", "%1 doubt left · next  N"),
                         QT_TRANSLATE_NOOP("wording", "%1 doubts left · next  N"));
    return m_derived.strokesGuessed() ? tr("no open doubts; strokes guessed")
                                      : tr("no open doubts");
}

void TopBar::refresh() {
    const Document& document = m_document;
    const Piece& piece = document.piece();
    setEnabled(document.isOpen());
    m_title->setText(document.isOpen() ? QString("%1%2").arg(QString::fromStdString(piece.title),
                                                             document.modified() ? " •" : "")
                                       : tr("Wirenote"));
    m_title->setToolTip(document.modified() ? tr("There are changes that are not saved.")
                                            : document.file());
    QStringList facts;
    if (document.isOpen()) {
        if (document.reading() != 0)
            facts << tr("reading: %1").arg(QString::fromStdString(piece.asPlayed().head.name));
        facts << instrumentText(piece.instrument.kind);
        if (piece.instrument.capo > 0)
            facts << tr("capo %1").arg(piece.instrument.capo);
        if (piece.lead() && piece.lead()->reference.basis != Basis::Reasoned)
            facts << centsText(piece.lead()->reference.cents());
        if (m_transport.simulated())
            facts << tr("no sound device: silent, simulated");
    }
    m_facts->setText(facts.join(" · "));
    m_facts->setToolTip(m_facts->text());
    m_play->setIcon(m_transport.playing() ? m_stop : m_start);
    m_listening->setText(listeningText(m_transport.listening()));
    m_loop->setText(listeningFacts().join(QStringLiteral(" · ")));
    m_doubts->setText(doubtsLine());
    m_doubts->setEnabled(!m_derived.nothingInDoubt() &&
                         m_takes.hearing() != TakeCommands::Hearing::Running);
    m_doubts->setToolTip(m_derived.strokesGuessed()
                             ? tr("Notes, places and fingers were looked at. Strokes go by a rule "
                                  "where nothing was heard of them; they are guesses, and not "
                                  "asked about.")
                             : QString());
    refreshTime();
}

} // namespace wirenote::app
