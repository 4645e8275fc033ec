#include "app/benches/notes/span_card.h"

#include "app/commands/edit_commands.h"
#include "app/document/derived.h"
#include "app/document/document.h"
#include "app/document/selection.h"
#include "app/playing/transport.h"
#include "app/text/harmony_wording.h"
#include "app/text/wording.h"

#include <QHBoxLayout>
#include <algorithm>
#include <cmath>

namespace wirenote::app {
namespace {

QString decibels(double db) {
    return QObject::tr("%1 dB").arg(std::abs(db), 0, 'f', 1);
}

QString balanceText(const SpanSummary& summary) {
    QStringList words;
    if (const auto over = summary.melody_over_bass_db)
        words << (std::abs(*over) < 1.0 ? QObject::tr("melody and bass are equally loud")
                  : *over > 0.0
                      ? QObject::tr("the melody stands %1 above the bass").arg(decibels(*over))
                      : QObject::tr("the bass covers the melody by %1").arg(decibels(*over)));
    if (const auto over = summary.over_piece_db; over && std::abs(*over) >= 1.0)
        words << (*over > 0.0 ? QObject::tr("%1 louder than the piece").arg(decibels(*over))
                              : QObject::tr("%1 softer than the piece").arg(decibels(*over)));
    return words.join(QStringLiteral("; "));
}

} // namespace

SpanCard::SpanCard(Document& document,
                   Selection& selection,
                   Derived& derived,
                   Transport& transport,
                   EditCommands& commands,
                   QWidget* parent)
    : Card(parent), m_document(document), m_selection(selection), m_derived(derived),
      m_transport(transport), m_commands(commands), m_title(label({}, 11, true, theme().ink)),
      m_key(label({}, 9.5, false, theme().ink)), m_balance(label({}, 9.0, false, theme().quiet)),
      m_outside(new QPushButton) {
    setObjectName("span");
    setAccessibleName(tr("What sounds here"));
    m_outside->setObjectName("outside");
    m_outside->setMinimumHeight(30);
    connect(m_outside, &QPushButton::clicked, this, &SpanCard::nextOutside);
    auto* row = new QHBoxLayout;
    row->setSpacing(18);
    auto* words = new QVBoxLayout;
    words->setSpacing(3);
    words->addWidget(m_title);
    words->addWidget(m_key);
    words->addWidget(m_balance);
    words->addStretch(1);
    row->addLayout(words, 1);
    auto* parts = new QVBoxLayout;
    parts->setSpacing(5);
    parts->addWidget(label(tr("Hear of the recording"), 9.0, true, theme().ink));
    auto* buttons = new QHBoxLayout;
    m_parts = {partButton(tr("Only the note   O"), SoundPart::Note),
               partButton(tr("Only its string   Y"), SoundPart::String),
               partButton(tr("All but the note   C"), SoundPart::AllButNote)};
    for (QPushButton* button : m_parts)
        buttons->addWidget(button);
    parts->addLayout(buttons);
    auto* below = new QHBoxLayout;
    below->addWidget(m_outside);
    below->addStretch(1);
    parts->addLayout(below);
    parts->addStretch(1);
    row->addLayout(parts);
    column()->addLayout(row);
    m_soon.setSingleShot(true);
    m_soon.setInterval(0);
    connect(&m_soon, &QTimer::timeout, this, &SpanCard::summariseAnew);
    const auto soon = [this] { m_soon.start(); };
    connect(&document, &Document::opened, this, soon);
    connect(&document, &Document::changed, this, [soon](const Changes& what) {
        if (what.notes || what.timeline)
            soon();
    });
    connect(&transport, &Transport::changed, this, soon);
    connect(&selection, &Selection::changed, this, &SpanCard::refresh);
    refreshSummary();
    refresh();
}

// Worked out beside the interface; of several wishes the last one is shown.
void SpanCard::summariseAnew() {
    refresh();
    m_derived.ask([loop = m_transport.loop().value_or(TimeRange{})](
                      const Piece& piece) { return summarise(piece, loop); },
                  [this, asked = ++m_asked](SpanSummary summary) {
                      if (asked != m_asked)
                          return;
                      m_summary = std::move(summary);
                      refreshSummary();
                  });
}

QPushButton* SpanCard::partButton(const QString& text, SoundPart part) {
    auto* button = new QPushButton(text);
    button->setObjectName(QString("part%1").arg(static_cast<int>(part)));
    button->setCheckable(true);
    button->setMinimumHeight(34);
    connect(button, &QPushButton::clicked, this, [this, part] {
        m_commands.hearPart(part);
        refresh(); // a refused wish leaves nothing checked
    });
    return button;
}

void SpanCard::refreshSummary() {
    const Piece& piece = m_document.piece();
    const auto loop = m_transport.loop();
    const SpanSummary& summary = m_summary;
    m_title->setText(loop ? tr("What sounds in the loop") : tr("What sounds"));
    const Spelling spelling = piece.key.spelling();
    QString text = tr("No note yet: press E to hear the take.");
    if (summary.key) {
        text = tr("%1 · %2 · %3")
                   .arg(countText(static_cast<int>(summary.notes),
                                  QT_TRANSLATE_NOOP("wording", "%1 note"),
                                  QT_TRANSLATE_NOOP("wording", "%1 notes")),
                        keyText(*summary.key, spelling),
                        scaleText(summary.scale.kind));
        if (summary.other_key)
            text += tr(" · or %1").arg(keyText(*summary.other_key, spelling));
    } else if (!m_document.isOpen()) {
        text.clear();
    } else if (!piece.notes.empty()) {
        text = tr("No note in the loop.");
    }
    m_key->setText(text);
    m_balance->setText(balanceText(summary));
    const auto outside = static_cast<int>(summary.outside.size());
    m_outside->setText(
        outside == 0
            ? tr("no note outside the scale")
            : countText(outside,
                        QT_TRANSLATE_NOOP("wording", "%1 note outside the scale: show"),
                        QT_TRANSLATE_NOOP("wording", "%1 notes outside the scale: show the next")));
    m_outside->setEnabled(outside > 0);
}

void SpanCard::refresh() {
    const Piece& piece = m_document.piece();
    const bool recorded = m_document.media(m_transport.take()) != nullptr;
    const bool chosen = piece.note(m_selection.note()) != nullptr;
    static constexpr std::array<SoundPart, 3> kParts = {
        SoundPart::Note, SoundPart::String, SoundPart::AllButNote};
    for (std::size_t i = 0; i < m_parts.size(); ++i) {
        m_parts[i]->setChecked(m_transport.part() == kParts[i]);
        m_parts[i]->setEnabled(recorded && (chosen || m_parts[i]->isChecked()));
    }
}

void SpanCard::nextOutside() {
    const Piece& piece = m_document.piece();
    const Note* here = piece.note(m_selection.note());
    const auto next = std::ranges::find_if(m_summary.outside, [&](NoteId id) {
        const Note* note = piece.note(id);
        return note && (!here || note->onset_s() > here->onset_s());
    });
    if (m_summary.outside.empty())
        return;
    const NoteId id = next == m_summary.outside.end() ? m_summary.outside.front() : *next;
    m_selection.choose(id);
    if (const Note* note = piece.note(id))
        m_transport.seek(note->onset_s());
}

} // namespace wirenote::app
