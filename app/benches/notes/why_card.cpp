#include "app/benches/notes/why_card.h"

#include "app/benches/notes/partials_view.h"
#include "app/benches/notes/ripple_button.h"
#include "app/benches/notes/stiffness_view.h"
#include "app/commands/edit_commands.h"
#include "app/commands/pulse_commands.h"
#include "app/document/derived.h"
#include "app/document/document.h"
#include "app/document/selection.h"
#include "app/marks.h"
#include "app/playing/listen_panel.h"
#include "app/text/hand_wording.h"
#include "app/text/playing_wording.h"
#include "app/text/wording.h"
#include "base/median.h"
#include "form/harmony.h"
#include "piece/timeline_map.h"

#include <QCheckBox>
#include <QHBoxLayout>
#include <algorithm>
#include <cmath>
#include <utility>

namespace wirenote::app {
namespace {

class BasisMark : public QWidget {
  public:
    explicit BasisMark(Basis basis) : m_basis(basis) {
        setFixedSize(18, 20);
        setAccessibleName(basisText(basis));
        setToolTip(basisText(basis));
    }

  protected:
    void paintEvent(QPaintEvent*) override {
        QPainter painter(this);
        paintBasisMark(painter, m_basis, {8, 10}, theme().ink);
    }

  private:
    Basis m_basis;
};

class ShareBar : public QWidget {
  public:
    ShareBar(double share, bool chosen) : m_share(share), m_chosen(chosen) { setFixedHeight(10); }

  protected:
    void paintEvent(QPaintEvent*) override {
        QPainter painter(this);
        painter.fillRect(rect(), theme().panel);
        painter.fillRect(QRectF(0, 0, width() * m_share, height()),
                         m_chosen ? theme().ink : theme().quiet);
    }

  private:
    double m_share;
    bool m_chosen;
};

QString rippleText(const WhatIf::Ripple& ripple) {
    QStringList parts;
    if (!ripple.moved.empty())
        parts << countText(static_cast<int>(ripple.moved.size()),
                           QT_TRANSLATE_NOOP("wording", "%1 other note moves"),
                           QT_TRANSLATE_NOOP("wording", "%1 other notes move"));
    if (!ripple.refingered.empty())
        parts << countText(static_cast<int>(ripple.refingered.size()),
                           QT_TRANSLATE_NOOP("wording", "%1 gets another finger"),
                           QT_TRANSLATE_NOOP("wording", "%1 get another finger"));
    return parts.join(WhyCard::tr(", "));
}

// The median keeps slides, attacks and vibrato out of it.
double middleDeviation(const Note& note) {
    std::vector<double> cents;
    for (const PitchPoint& p : note.curve)
        cents.push_back(p.dev_cents);
    return median(cents).value_or(0.0);
}

// Reasons from one on, in a row.
QString list(const std::vector<Reason>& reasons, std::size_t from) {
    QStringList words;
    for (std::size_t i = from; i < reasons.size(); ++i)
        words << reasonTitle(reasons[i]);
    return words.join("; ");
}

} // namespace

WhyCard::WhyCard(Document& document,
                 Selection& selection,
                 EditCommands& commands,
                 Derived& derived,
                 PulseCommands& pulse,
                 QWidget* parent)
    : Card(parent), m_document(document), m_selection(selection), m_commands(commands),
      m_derived(derived), m_pulse(pulse), m_partials(document), m_what_if(document, derived) {
    setObjectName("why");
    setAccessibleName(tr("Why here: the evidence for the chosen note"));
    m_soon.setSingleShot(true);
    m_soon.setInterval(0);
    connect(&m_soon, &QTimer::timeout, this, &WhyCard::rebuild);
    const auto soon = [this] { m_soon.start(); };
    connect(&m_partials, &PartialsProbe::changed, this, soon);
    connect(&m_what_if, &WhatIf::changed, this, soon);
    connect(&document, &Document::opened, this, soon);
    connect(&document, &Document::changed, this, [this](const Changes& what) {
        const Note* note = m_document.piece().note(m_selection.note());
        const bool about_it =
            !note || (what.span.start_s <= note->offset_s() && what.span.end_s >= note->onset_s());
        if (((what.notes || what.plans) && about_it) || what.timeline || what.instrument)
            m_soon.start();
    });
    connect(&derived, &Derived::changed, this, soon);
    connect(&selection, &Selection::changed, this, [this] {
        if (m_shown == m_selection.all() && m_shown_note == m_selection.note())
            return; // something was only marked
        m_followed = 0;
        m_soon.start();
    });
    connect(&document, &Document::followed, this, [this](int notes) {
        m_followed = notes;
        m_soon.start();
    });
    rebuild();
}

void WhyCard::rebuild() {
    // Who steps through pitches or tabs through the card stays where he was.
    const QWidget* focused = m_content ? m_content->focusWidget() : nullptr;
    const QString stay = focused && focused->hasFocus() ? focused->objectName() : QString();
    if (std::exchange(m_rippling, false))
        m_selection.mark({});
    delete m_content;
    m_content = new QWidget;
    m_rows = new QVBoxLayout(m_content);
    m_rows->setContentsMargins(0, 0, 0, 0);
    m_rows->setSpacing(7);
    column()->addWidget(m_content);
    m_shown = m_selection.all();
    m_shown_note = m_selection.note();
    const Piece& piece = m_document.piece();
    const Note* note = piece.note(m_selection.note());
    const NotePlan* plan = piece.plan(m_selection.note());
    if (!note || !plan) {
        showNothing();
    } else {
        showHeading(*note, *plan);
        showEvidence(*note, *plan);
        showStiffness(*note, *plan);
        showPlaces(*plan);
        showOthers(*note, *plan);
        showSlip(*note);
        showBeat(*note);
        showButtons();
    }
    m_rows->addStretch(1);
    m_content->show();
    if (auto* again = stay.isEmpty() ? nullptr : m_content->findChild<QWidget*>(stay))
        again->setFocus();
}

void WhyCard::showNothing() {
    m_rows->addWidget(label(tr("Why here?"), 12, true, theme().ink));
    const auto doubts = static_cast<int>(m_derived.doubts().size());
    QString text = tr("Open a recording to begin.");
    if (m_document.isOpen())
        text =
            doubts > 0
                ? tr("Choose a note to see what was heard and reasoned about it, or press N: %1.")
                      .arg(countText(doubts,
                                     QT_TRANSLATE_NOOP("wording", "%1 open doubt"),
                                     QT_TRANSLATE_NOOP("wording", "%1 open doubts")))
            : m_document.piece().notes.empty()
                ? tr("Nothing was heard yet: press E to hear the take.")
            : m_derived.strokesGuessed()
                ? tr("No open doubts of notes, places and fingers; strokes are guessed. Choose a "
                     "note to see "
                     "what was heard and reasoned about it.")
                : tr("No open doubts. Choose a note to see what was heard and reasoned about "
                     "it.");
    m_rows->addWidget(label(text, 9.5, false, theme().quiet));
}

void WhyCard::showHeading(const Note& note, const NotePlan& plan) {
    const Piece& piece = m_document.piece();
    const Doubt* doubt = m_derived.doubtOf(note.id);
    const QString where = musicPlaceText(TimelineMap(piece.timeline), note.onset_s());
    m_rows->addWidget(label(doubt ? doubtText(doubt->kind) : tr("Why here?"),
                            12,
                            true,
                            doubt ? theme().accent : theme().ink));
    m_rows->addWidget(label(where, 8.5, false, theme().quiet));
    if (const auto chosen = static_cast<int>(m_selection.all().size()); chosen > 1)
        m_rows->addWidget(
            label(countText(chosen,
                            QT_TRANSLATE_NOOP("wording", "%1 note is chosen"),
                            QT_TRANSLATE_NOOP(
                                "wording",
                                "%1 notes are chosen: what you decide is decided of all of them. "
                                "This is the one you came to last.")),
                  9.0,
                  true,
                  theme().ink));
    QString text = pitchText(piece, note.pitch.value);
    if (plan.placed())
        text += ", " + placeText(plan.position.value);
    if (plan.placed() && plan.position.value.fret > 0)
        text += ", " + fingerText(plan.finger.value);
    text += ", " + strokeText(plan.stroke.value);
    if (outsideTheKey(piece.key, note.midi()))
        text += ", " + tr("outside the key");
    for (const Technique t : note.techniques)
        text += ", " + techniqueText(note, t);
    m_rows->addWidget(label(text, 9.5, false, theme().ink));
    constexpr double kNoticed_s = 0.012;
    if (const auto late = m_derived.late_s(note.id); late && std::abs(*late) >= kNoticed_s) {
        const QString by = tr("%1 ms").arg(std::lround(1000.0 * std::abs(*late)));
        m_rows->addWidget(label(*late > 0.0 ? tr("played a little late (%1)").arg(by)
                                            : tr("played a little early (%1)").arg(by),
                                8.5,
                                false,
                                theme().quiet));
    }
}

void WhyCard::addReason(Basis basis, const QString& title, const QString& detail) {
    auto* row = new QHBoxLayout;
    row->setSpacing(6);
    row->addWidget(new BasisMark(basis), 0, Qt::AlignTop);
    auto* text = new QVBoxLayout;
    text->setSpacing(1);
    text->addWidget(label(title, 9.0, true, theme().ink));
    if (!detail.isEmpty())
        text->addWidget(label(detail, 8.5, false, theme().quiet));
    row->addLayout(text, 1);
    m_rows->addLayout(row);
}

void WhyCard::showEvidence(const Note& note, const NotePlan& plan) {
    if (note.pitch.basis == Basis::Heard && !note.pitch.reasons.empty()) {
        const long off = std::lround(middleDeviation(note));
        const QString tune = note.curve.empty() || off == 0 ? tr("in tune")
                             : off == 1                     ? tr("1 cent high")
                             : off == -1                    ? tr("1 cent low")
                             : off > 0                      ? tr("%1 cents high").arg(off)
                                                            : tr("%1 cents low").arg(-off);
        addReason(Basis::Heard,
                  tr("Heard: %1").arg(reasonTitle(note.pitch.reasons.front())),
                  tr("%1; %2").arg(beginningText(note), tune));
    } else {
        addReason(note.pitch.basis,
                  note.pitch.isSet() ? tr("Set: pitch and time") : tr("From the file"),
                  list(note.pitch.reasons, 0));
    }
    showOtherPlayings(note);
    showPlace(note, plan);
    showFinger(note, plan);
}

// Why this string; set by a person, perhaps in a picture of the film.
void WhyCard::showPlace(const Note& note, const NotePlan& plan) {
    const SeenFacts* seen = note.seen();
    if (plan.position.isSet())
        addReason(
            Basis::Set,
            seen && seen->shown
                ? tr("Set: the string, shown in the film at %1").arg(timeText(seen->shown->time_s))
                : tr("Set: the string"),
            tr("no analysis will change it"));
    else if (!plan.position.reasons.empty())
        addReason(plan.position.basis,
                  tr("%1: %2").arg(basisText(plan.position.basis),
                                   reasonTitle(plan.position.reasons.front())),
                  list(plan.position.reasons, 1));
}

// Why this finger, and how its string is drawn.
void WhyCard::showFinger(const Note& note, const NotePlan& plan) {
    if (plan.finger.isSet() && plan.position.value.fret > 0) {
        addReason(Basis::Set, tr("Set: the finger"), tr("the other fingers go around it"));
    } else if (plan.finger.value == Finger::Unknown && !plan.finger.reasons.empty()) {
        addReason(Basis::Reasoned,
                  tr("No finger: %1").arg(reasonTitle(plan.finger.reasons.front())),
                  tr("move it, or what sounds with it, to another string"));
    } else if (!plan.finger.reasons.empty()) {
        addReason(Basis::Reasoned,
                  tr("%1: %2").arg(fingerText(plan.finger.value),
                                   reasonTitle(plan.finger.reasons.front())),
                  {});
    }
    if (const NoteHold* hold = m_what_if.hold(note); hold && hold->bend)
        addReason(Basis::Reasoned, tr("The bend"), bendText(*hold->bend));
}

// In how many of the playings of its place it was played, and what was played otherwise there.
void WhyCard::showOtherPlayings(const Note& note) {
    const auto& reasons = note.existence.reasons;
    const auto told = std::ranges::find(reasons, ReasonKind::PlayedInOthers, &Reason::kind);
    if (told == reasons.end())
        return;
    constexpr int kMost = 3;
    QStringList words;
    for (const Variant& one : m_derived.form().variants)
        if (std::abs(one.piece_s - note.onset_s()) < kSamePlace_s && words.size() < kMost)
            words << tr("%1 of %2: %3")
                         .arg(one.times)
                         .arg(one.of)
                         .arg(variantWords(m_document.piece(), one));
    const Doubt* doubt = m_derived.doubtOf(note.id);
    if (doubt && doubt->kind == DoubtKind::OnlyHere)
        words << tr("Enter: it is meant so, and stays; F: the performer slipped; Delete: it is no "
                    "note");
    addReason(Basis::Heard, tr("Heard: %1").arg(reasonTitle(*told)), words.join("; "));
}

void WhyCard::showStiffness(const Note& note, const NotePlan& plan) {
    const Piece& piece = m_document.piece();
    const auto expected = expectedStiffness(piece.instrument, piece.string_traits, note.midi());
    if (expected.size() < 2)
        return;
    if (note.heard().stiffness.told()) {
        auto* view =
            new StiffnessView(note.heard().stiffness, expected, plan.position.value.string);
        view->setObjectName("stiffness");
        m_rows->addWidget(view);
    }
    if (piece.lead() && !piece.lead()->path.empty())
        showPartialsOf(note, plan);
}

void WhyCard::showPartials(bool shown) {
    m_partials.setWanted(shown);
}

// The partials the stiffness was fitted to, for who asks.
void WhyCard::showPartialsOf(const Note& note, const NotePlan& plan) {
    if (m_partials.wanted()) {
        const Piece& piece = m_document.piece();
        if (const StiffnessFit* fit = m_partials.of(note))
            m_rows->addWidget(new PartialsView(
                *fit,
                expectedStiffness(piece.instrument, piece.string_traits, note.midi()),
                plan.position.value.string));
        else
            m_rows->addWidget(label(m_partials.problem().isEmpty()
                                        ? tr("Listening for its overtones …")
                                        : m_partials.problem(),
                                    8.5,
                                    false,
                                    theme().quiet));
    }
    auto* toggle = button(
        m_partials.wanted() ? tr("Hide its overtones") : tr("Show its overtones"), tr("9"), false);
    toggle->setObjectName("partialsToggle");
    toggle->setFont(uiFont(8.5));
    connect(toggle, &QPushButton::clicked, this, [this] { showPartials(!partialsShown()); });
    m_rows->addWidget(toggle);
}

void WhyCard::showPlaces(const NotePlan& plan) {
    if (!plan.placed())
        return;
    struct Row {
        Position position;
        double probability;
        bool chosen;
    };
    std::vector<Row> rows = {{plan.position.value, plan.position.probability, true}};
    for (const auto& other : plan.position.runners_up)
        rows.push_back({other.value, other.probability, false});
    if (rows.size() < 2)
        return;
    std::sort(rows.begin(), rows.end(), [](const Row& a, const Row& b) {
        return a.position.string < b.position.string;
    });
    auto* grid = new QGridLayout;
    grid->setHorizontalSpacing(8);
    grid->setVerticalSpacing(4);
    grid->setColumnStretch(1, 1);
    for (std::size_t i = 0; i < rows.size(); ++i) {
        const int r = static_cast<int>(i);
        grid->addWidget(
            label(tr("string %1").arg(rows[i].position.string), 8.5, rows[i].chosen, theme().ink),
            r,
            0);
        grid->addWidget(new ShareBar(rows[i].probability, rows[i].chosen), r, 1, Qt::AlignVCenter);
        auto* share = label(percentText(rows[i].probability), 8.5, rows[i].chosen, theme().ink);
        share->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
        share->setMinimumWidth(38);
        grid->addWidget(share, r, 2);
    }
    m_rows->addLayout(grid);
}

void WhyCard::dress(QPushButton& b, bool primary) {
    b.setMinimumHeight(34);
    b.setFont(uiFont(9.5, primary));
    b.setCursor(Qt::PointingHandCursor);
    b.setProperty("primary", primary);
}

QPushButton* WhyCard::button(const QString& text, const QString& key, bool primary) {
    auto* b = new QPushButton(key.isEmpty() ? text : QString("%1   %2").arg(text, key));
    dress(*b, primary);
    return b;
}

void WhyCard::addOther(const QString& what,
                       const QString& key,
                       const QString& name,
                       const WhatIf::Ripple* ripple,
                       const std::function<void()>& decide) {
    std::vector<NoteId> notes;
    if (ripple) {
        notes = ripple->moved;
        notes.insert(notes.end(), ripple->refingered.begin(), ripple->refingered.end());
    }
    const bool ripples = !notes.empty();
    QString text = ripple && !ripples ? tr("%1: nothing else changes").arg(what) : what;
    if (!key.isEmpty())
        text += "   " + key;
    if (ripples) // it takes a line of its own
        text += "\n" + rippleText(*ripple);
    auto* b = new RippleButton(text, [this, notes](bool shown) {
        m_selection.mark(shown ? notes : std::vector<NoteId>{});
    });
    dress(*b, false);
    b->setFont(uiFont(8.5));
    b->setObjectName(name);
    connect(b, &QPushButton::clicked, this, decide);
    m_rows->addWidget(b);
}

// What else it may be, with what would change, and under what condition it would be so.
void WhyCard::showOthers(const Note& note, const NotePlan& plan) {
    constexpr double kWorthAButton = 0.05; // of a finger
    constexpr int kMostPlaces = 3;
    constexpr int kMostFingers = 2;
    std::vector<Finger> fingers;
    for (const auto& other : plan.finger.runners_up)
        if (other.probability > kWorthAButton && fingers.size() < kMostFingers &&
            plan.finger.value != Finger::Unknown)
            fingers.push_back(other.value);
    if (!plan.position.runners_up.empty() || !fingers.empty())
        m_rows->addWidget(label(tr("If it were"), 9.5, true, theme().ink));
    int shown = 0;
    for (const auto& other : plan.position.runners_up) {
        if (++shown > kMostPlaces)
            break;
        const int string = other.value.string;
        addOther(placeText(other.value),
                 tr("press %1").arg(string),
                 QString("other%1").arg(string),
                 m_what_if.following(note, string),
                 [this, string] { m_commands.moveToString(string); });
    }
    for (const Finger finger : fingers) {
        const int number = fingerNumber(finger);
        const auto& all = plan.finger.runners_up;
        const double share = std::ranges::find(all, finger, &RunnerUp<Finger>::value)->probability;
        addOther(tr("%1 (%2)").arg(fingerText(finger), percentText(share)),
                 number > 0 ? tr("Alt+%1").arg(number) : QString(),
                 QString("otherFinger%1").arg(number),
                 m_what_if.following(note, finger),
                 [this, finger] { m_commands.setFinger(finger); });
    }
    if (const NoteHold* hold = m_what_if.hold(note); hold && !hold->conditions.empty())
        m_rows->addWidget(label(
            conditionsText(hold->conditions, plan.position.value), 8.5, false, theme().quiet));
}

// What was meant, of a note that a person marked as a slip.
void WhyCard::showSlip(const Note& note) {
    if (!note.slip)
        return;
    addReason(Basis::Set,
              tr("A slip of the performer"),
              tr("kept as played; put right where the sheet is written as meant (View)"));
    auto* row = new QHBoxLayout;
    auto* nothing = new QCheckBox(tr("a note was meant:"));
    nothing->setObjectName("meantAny");
    nothing->setChecked(note.slip->meant_midi != 0);
    auto* meant = new PitchBox;
    meant->setObjectName("meant");
    meant->setAccessibleName(tr("The note that was meant"));
    meant->setValue(note.slip->meant_midi != 0 ? note.slip->meant_midi : note.midi());
    meant->setEnabled(note.slip->meant_midi != 0);
    row->addWidget(nothing);
    row->addWidget(meant);
    row->addStretch(1);
    m_rows->addLayout(row);
    const int played = note.midi();
    connect(nothing, &QCheckBox::toggled, this, [this, played](bool any) {
        m_commands.setMeant(any ? played : 0);
    });
    connect(meant, &QSpinBox::valueChanged, this, [this](int midi) { m_commands.setMeant(midi); });
}

// A beat that may be read otherwise is offered so.
void WhyCard::showBeat(const Note& note) {
    constexpr double kWorthSaying = 0.12;
    const auto beat = m_derived.beatOf(note.id);
    if (!beat || beat->other_parts == 0 || beat->other_probability < kWorthSaying)
        return;
    const bool compound = m_document.piece().timeline.metre.compound();
    auto* other = button(tr("Read this beat as %1 (%2); now %3")
                             .arg(divisionText(beat->other_parts, compound),
                                  percentText(beat->other_probability),
                                  divisionText(beat->parts, compound)),
                         {},
                         false);
    other->setFont(uiFont(8.5));
    other->setObjectName("otherDivision");
    const int index = beat->beat;
    const int parts = beat->other_parts;
    connect(other, &QPushButton::clicked, this, [this, index, parts] {
        m_pulse.setDivision(index, parts);
    });
    m_rows->addWidget(other);
}

void WhyCard::showButtons() {
    auto* row = new QHBoxLayout;
    auto* right = button(tr("It is right"), tr("Enter"), true);
    right->setObjectName("accept");
    connect(right, &QPushButton::clicked, &m_commands, &EditCommands::accept);
    auto* hear = button(tr("Hear again"), tr("H"), false);
    hear->setObjectName("hear");
    connect(hear, &QPushButton::clicked, &m_commands, &EditCommands::hearAgain);
    row->addWidget(right, 1);
    row->addWidget(hear, 1);
    m_rows->addLayout(row);
    const auto repeats = static_cast<int>(m_pulse.repeatsOf(m_selection.note()).size());
    if (repeats > 0) {
        auto* same = button(countText(repeats,
                                      QT_TRANSLATE_NOOP("wording", "The same in %1 repeat"),
                                      QT_TRANSLATE_NOOP("wording", "The same in %1 repeats")),
                            tr("Ctrl+Enter"),
                            false);
        same->setObjectName("sameInRepeats");
        connect(same, &QPushButton::clicked, &m_pulse, &PulseCommands::sameInRepeats);
        m_rows->addWidget(same);
    }
    if (m_followed > 0)
        m_rows->addWidget(
            label(countText(m_followed,
                            QT_TRANSLATE_NOOP("wording", "%1 other note moved with your change."),
                            QT_TRANSLATE_NOOP("wording", "%1 other notes moved with your change.")),
                  8.5,
                  false,
                  theme().quiet));
}

} // namespace wirenote::app
