#include "app/benches/neck/hand_card.h"

#include "app/commands/take_commands.h"
#include "app/document/derived.h"
#include "app/document/document.h"
#include "app/document/selection.h"
#include "app/text/wording.h"

#include <QCoreApplication>
#include <QHBoxLayout>
#include <array>
#include <cmath>

namespace wirenote::app {

HandCard::HandCard(Document& document,
                   Selection& selection,
                   Derived& derived,
                   TakeCommands& commands,
                   QSettings& settings,
                   QWidget* parent)
    : Card(parent), m_document(document), m_selection(selection), m_derived(derived),
      m_school(new SchoolChoice(settings)), m_load(label({}, 9.5, false, theme().ink)),
      m_hardest(label({}, 9.5, false, theme().ink)), m_muted(label({}, 9.5, false, theme().ink)),
      m_caution(label({}, 9.0, false, theme().quiet)) {
    setObjectName("hand");
    setAccessibleName(tr("What the fretting hand does"));
    auto* row = new QHBoxLayout;
    row->setSpacing(10);
    row->addWidget(label(tr("The fretting hand"), 11, true, theme().ink));
    row->addStretch(1);
    auto* school_label = label(tr("School"), 9.5, false, theme().quiet);
    school_label->setWordWrap(false);
    school_label->setBuddy(m_school);
    row->addWidget(school_label);
    row->addWidget(m_school);
    column()->addLayout(row);
    constexpr int kLine = 560; // wide enough that a sentence seldom takes two lines
    for (QLabel* text : {m_load, m_hardest, m_muted, m_caution}) {
        text->setMinimumWidth(kLine);
        column()->addWidget(text);
    }
    column()->addStretch(1);
    column()->setSpacing(4);
    m_load->setObjectName("handLoad");
    m_hardest->setObjectName("hardest");
    m_muted->setObjectName("muted");
    m_caution->setObjectName("handCaution");
    connect(m_school, &SchoolChoice::chosen, this, [this, &commands](const FrettingManner& manner) {
        commands.setFretting(manner);
        refresh(); // a refused wish leaves it as it was
    });
    m_soon.setSingleShot(true);
    m_soon.setInterval(0);
    connect(&m_soon, &QTimer::timeout, this, &HandCard::refresh);
    const auto soon = [this] { m_soon.start(); };
    connect(&document, &Document::opened, this, soon);
    connect(&selection, &Selection::changed, this, soon);
    connect(&derived, &Derived::changed, this, soon);
    refresh();
}

void HandCard::refresh() {
    setEnabled(m_document.isOpen());
    if (!m_document.isOpen())
        return;
    m_school->show(m_document.piece().asPlayed().head.fretting);
    const NoteId chosen = m_selection.note();
    if (chosen == 0) {
        show(HandReport{});
        return;
    }
    m_derived.ask([chosen](const Piece& piece) { return handReport(piece, chosen); },
                  [this, chosen](const HandReport& said) {
                      if (chosen == m_selection.note())
                          show(said);
                  });
}

void HandCard::show(const HandReport& told) {
    const bool any = told.bar != 0 || !told.muted.empty();
    m_load->setText(any ? loadText(told)
                        : tr("Choose a note to see what its bar asks of the hand."));
    m_hardest->setText(any ? hardestText(told) : QString());
    m_muted->setText(mutedText(told.muted));
    m_caution->setText(
        told.load.strains
            ? tr("Long barres and wide stretches tire the hand: rest often, and take the easier "
                 "way while it is new. If anything hurts, stop and see a professional.")
            : QString());
    for (QLabel* text : {m_hardest, m_muted, m_caution})
        text->setVisible(!text->text().isEmpty());
}

QString HandCard::loadText(const HandReport& told) {
    const HandLoad& load = told.load;
    QStringList parts;
    parts << (load.shifts_per_s > 0.0 ? tr("%1 shifts a second over %2 mm")
                                            .arg(load.shifts_per_s, 0, 'f', 1)
                                            .arg(std::lround(load.shifted_mm))
                                      : tr("no shift"));
    if (load.widest_mm > 0.0)
        parts << tr("widest stretch %1 mm").arg(std::lround(load.widest_mm));
    if (load.longest_barre_s > 0.0)
        parts << tr("a barre for %1 s").arg(load.longest_barre_s, 0, 'f', 1);
    if (load.soonest_again_s > 0.0)
        parts << tr("a finger elsewhere after %1 s").arg(load.soonest_again_s, 0, 'f', 2);
    return tr("Bar %1: %2.").arg(told.bar).arg(parts.join(tr(", ")));
}

QString HandCard::hardestText(const HandReport& told) {
    const HandTransition& hardest = told.load.hardest;
    if (hardest.note == 0)
        return tr("Nothing in it limits the tempo.");
    const QString gap = QString::number(hardest.gap_s, 'f', 2);
    QString what;
    switch (hardest.hurdle) {
    case Hurdle::Shift:
        what = tr("a shift of %1 mm in %2 s").arg(std::lround(hardest.shift_mm)).arg(gap);
        break;
    case Hurdle::SameFinger:
        what = tr("the same finger at another place after %1 s").arg(gap);
        break;
    case Hurdle::Stretch:
        what = tr("a stretch of %1 mm").arg(std::lround(hardest.stretch_mm));
        break;
    case Hurdle::Barre:
        what = tr("a barre to be laid in %1 s").arg(gap);
        break;
    case Hurdle::None:
        break;
    }
    return tr("Hardest: %1. An ordinary hand manages it up to about %2 beats a minute.")
        .arg(what)
        .arg(std::lround(told.load.top_tempo * told.tempo_bpm));
}

QString HandCard::damperText(const MutedString& muted) {
    const QString finger = fingerText(muted.finger);
    switch (muted.damper) {
    case Damper::Fingertip:
        return tr("the tip of the %1").arg(finger);
    case Damper::FlatOfFinger:
        return tr("the flat of the %1").arg(finger);
    case Damper::SpareFinger:
        return tr("the %1, which has nothing to hold").arg(finger);
    case Damper::Thumb:
        return tr("the thumb over the edge");
    case Damper::OtherHand:
        return tr("the plucking hand");
    case Damper::Nobody:
        break;
    }
    return {};
}

QString HandCard::mutedText(const std::vector<MutedString>& muted) {
    QStringList silent;
    QStringList nobody;
    for (const MutedString& one : muted)
        if (one.state == StringState::Damped)
            silent << tr("%1 by %2").arg(one.string).arg(damperText(one));
        else if (one.state == StringState::Free && one.must)
            nobody << QString::number(one.string);
    QStringList text;
    if (!silent.isEmpty())
        text << tr("Kept silent: string %1.").arg(silent.join(tr("; ")));
    if (!nobody.isEmpty())
        text << tr("Nobody silences string %1, which would sound.").arg(nobody.join(tr(", ")));
    return text.join(' ');
}

} // namespace wirenote::app
