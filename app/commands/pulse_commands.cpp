#include "app/commands/pulse_commands.h"

#include "app/document/derived.h"
#include "app/document/selection.h"
#include "app/playing/transport.h"
#include "app/text/form_wording.h"
#include "app/text/wording.h"
#include "base/text.h"
#include "piece/timeline_edits.h"

#include <algorithm>

namespace wirenote::app {
namespace {
constexpr int kTapPause_ms = 2000;
constexpr std::size_t kFewestTaps = 4;
} // namespace

PulseCommands::PulseCommands(Document& document,
                             Selection& selection,
                             Transport& transport,
                             Derived& derived,
                             QObject* parent)
    : QObject(parent), m_document(document), m_selection(selection), m_transport(transport),
      m_derived(derived) {
    connect(&document, &Document::stepped, this, &PulseCommands::rememberPlaces);
    m_tapping.setSingleShot(true);
    m_tapping.setInterval(kTapPause_ms);
    connect(&m_tapping, &QTimer::timeout, this, &PulseCommands::useTaps);
    connect(&document, &Document::opened, this, [this] {
        m_was.clear();
        m_taps.clear();
        m_tapping.stop();
        emit tapped();
    });
}

void PulseCommands::change(const QString& label,
                           const std::string& log,
                           const std::function<Status(Timeline&)>& change,
                           const Settled& says,
                           bool renumber) {
    // The hand does not care for bars: places stay, strokes follow the beat.
    m_document.edit(
        label,
        0.0,
        [&](PieceEditor& e) { return e.changeTimeline(log, change, renumber, says); },
        Resolve::Strokes);
}

void PulseCommands::tap() {
    if (!m_transport.playing()) {
        emit said(tr("Start playing, then tap the beat with it."));
        return;
    }
    const double now_s = m_transport.playhead_s();
    if (!m_taps.empty() && now_s < m_taps.back())
        m_taps.clear(); // the loop began anew
    m_taps.push_back(now_s);
    m_tapping.start();
    emit tapped();
}

void PulseCommands::useTaps() {
    const std::vector<double> taps = std::move(m_taps);
    m_taps.clear();
    emit tapped();
    if (taps.size() < kFewestTaps) {
        emit said(tr("Tap at least four beats."));
        return;
    }
    const double end_s = m_document.length_s();
    change(
        tr("tap the beat"),
        "beats tapped",
        [&](Timeline& t) { return tapBeats(t, taps, end_s); },
        {.tempo = true, .one = true},
        true);
}

void PulseCommands::setTempo(double bpm) {
    m_document.edit(
        tr("set tempo"), 0.0, [bpm](PieceEditor& e) { return e.setTempo(bpm); }, Resolve::Strokes);
}

void PulseCommands::setMetre(int bar, Metre metre) {
    change(tr("set the metre"),
           "metre set: " + metre.text(),
           [&](Timeline& t) { return wirenote::setMetre(t, bar, metre); },
           {.metre = true});
}

void PulseCommands::twiceAsSlow() {
    change(tr("twice as slow"), "tempo halved", halveTempo, {.tempo = true}, true);
}

void PulseCommands::twiceAsFast() {
    change(tr("twice as fast"), "tempo doubled", doubleTempo, {.tempo = true}, true);
}

void PulseCommands::setPickup(int quavers) {
    const auto& notes = m_document.piece().notes;
    if (notes.empty())
        return;
    const double first_s = notes.front().onset_s();
    change(tr("set the pick-up"),
           "pick-up set",
           [&](Timeline& t) { return wirenote::setPickup(t, first_s, Rational(quavers, 2)); },
           {.tempo = true, .one = true});
}

void PulseCommands::setSwing(double ratio) {
    change(tr("set the swing"),
           "swing set",
           [ratio](Timeline& t) { return wirenote::setSwing(t, ratio); },
           {.tempo = true});
}

void PulseCommands::pinBeat(int beat, double time_s) {
    change(tr("move a beat"),
           "beat placed",
           [&](Timeline& t) { return wirenote::pinBeat(t, beat, time_s); },
           {.tempo = true});
}

void PulseCommands::setDivision(int beat, int parts) {
    change(tr("read a beat anew"),
           "beat divided",
           [&](Timeline& t) { return wirenote::setDivision(t, beat, parts); },
           {.tempo = true});
}

void PulseCommands::loopIsSection() {
    const auto loop = m_transport.loop();
    if (!loop) {
        emit said(tr("Make a loop first: drag, or press L on a note."));
        return;
    }
    const auto number = m_document.piece().timeline.sections.size() + 1;
    change(tr("make a section"),
           "section made",
           [&](Timeline& t) {
               t.sections.push_back({tr("section %1").arg(number).toStdString(), *loop});
               std::ranges::stable_sort(
                   t.sections, {}, [](const Section& s) { return s.span.start_s; });
               return Status{};
           },
           {});
}

void PulseCommands::keepForm() {
    const auto& parts = m_derived.form().parts;
    if (std::ranges::all_of(parts, [](const FormPart& p) { return p.label.empty(); })) {
        emit said(tr("Nothing was found to come again."));
        return;
    }
    std::vector<Section> sections;
    for (std::size_t i = 0; i < parts.size(); ++i)
        sections.push_back({partText(parts, i).toStdString(), parts[i].span});
    change(tr("keep the form"),
           "sections kept",
           [&](Timeline& t) {
               t.sections = sections;
               return Status{};
           },
           {});
}

void PulseCommands::renameSection(std::size_t section, const QString& label) {
    change(tr("name a section"),
           "section named",
           [&](Timeline& t) -> Status {
               if (section >= t.sections.size())
                   return badCall("there is no such section");
               t.sections[section].label = cleanText(label.trimmed().toStdString());
               return {};
           },
           {});
}

void PulseCommands::removeSections() {
    change(tr("remove the sections"),
           "sections removed",
           [](Timeline& t) {
               t.sections.clear();
               return Status{};
           },
           {});
}

void PulseCommands::goToPart(int parts) {
    const auto& all = m_derived.form().parts;
    if (all.empty()) {
        emit said(tr("There are no parts yet."));
        return;
    }
    const int here = m_derived.partAt(m_transport.playhead_s() + 1e-6);
    const int next = std::clamp(here + parts, 0, static_cast<int>(all.size()) - 1);
    m_transport.seek(all[static_cast<std::size_t>(next)].span.start_s);
}

void PulseCommands::loopPart() {
    const int here = m_derived.partAt(m_transport.playhead_s() + 1e-6);
    if (here < 0) {
        emit said(tr("The playhead is in no part."));
        return;
    }
    const TimeRange span = m_derived.form().parts[static_cast<std::size_t>(here)].span;
    const bool on = m_transport.loop() &&
                    std::abs(m_transport.loop()->start_s - span.start_s) < 0.01 &&
                    std::abs(m_transport.loop()->end_s - span.end_s) < 0.01;
    m_transport.setLoop(on ? std::nullopt : std::optional(span));
}

std::vector<NoteId> PulseCommands::repeatsOf(NoteId note) const {
    const Derived::Form& form = m_derived.form();
    std::vector<NoteId> same;
    if (form.bars.empty())
        return same;
    const auto eventsOf = [&form](int number) -> const std::vector<BarContent::Event>& {
        return form.bars[static_cast<std::size_t>(number - form.bars.front().number)].events;
    };
    // Of the same event in the other occurrences at the same pitch.
    const auto take = [&](const Phrase& phrase, const Occurrence& mine, int k, const auto& event) {
        for (const Occurrence& other : phrase.occurrences)
            if (&other != &mine && other.transposed == mine.transposed)
                for (const BarContent::Event& there : eventsOf(other.first_bar + k))
                    if (there == event && m_document.piece().note(form.notes[there.note]))
                        same.push_back(form.notes[there.note]);
    };
    for (const Phrase& phrase : form.phrases)
        for (const Occurrence& mine : phrase.occurrences)
            for (int k = 0; k < phrase.bars; ++k) {
                const auto& events = eventsOf(mine.first_bar + k);
                const auto event = std::ranges::find_if(events, [&](const BarContent::Event& one) {
                    return form.notes[one.note] == note;
                });
                if (event != events.end())
                    take(phrase, mine, k, *event);
            }
    return same;
}

// Where a note lay before a person put it elsewhere: its repeats, heard alike, are wrong alike.
void PulseCommands::rememberPlaces(const PieceDelta& delta, bool forwards) {
    for (const auto& was : forwards ? delta.gone : delta.come)
        for (const auto& is : forwards ? delta.come : delta.gone)
            if (was.note.id == is.note.id && is.plans.front().position.isSet() &&
                was.plans.front().position.value != is.plans.front().position.value)
                m_was.insert(was.note.id, was.plans.front().position.value);
}

// Of each chosen note the places where it comes again, but for those that are sure of another.
PulseCommands::Repeats PulseCommands::repeatsOfChosen() const {
    Repeats repeats;
    for (const NoteId id : m_selection.all()) {
        const NotePlan* as = m_document.piece().plan(id);
        if (!as)
            continue;
        auto& [chosen, others] = repeats.of.emplace_back(id, std::vector<NoteId>{});
        for (const NoteId other : repeatsOf(id)) {
            const NotePlan& there = *m_document.piece().plan(other);
            const bool wrong_alike = m_was.contains(id) && m_was[id] == there.position.value;
            const bool sure = there.position.isSet() ||
                              (there.position.probability >= kSurePlace && !wrong_alike);
            if (sure && there.placed() && there.position.value != as->position.value) {
                ++repeats.sure;
                continue;
            }
            others.push_back(other);
            repeats.all.push_back(other);
        }
    }
    return repeats;
}

void PulseCommands::sameInRepeats() {
    const Repeats repeats = repeatsOfChosen();
    if (repeats.all.empty()) {
        emit said(repeats.sure > 0 ? tr("Where this comes again it is sure of another place; those "
                                        "stay as they are.")
                                   : tr("This note does not come again."));
        return;
    }
    const QString stay =
        repeats.sure == 0
            ? QString()
            : QStringLiteral(" ") +
                  countText(repeats.sure,
                            QT_TRANSLATE_NOOP("wording", "%1 that is sure of another stays."),
                            QT_TRANSLATE_NOOP("wording", "%1 that are sure of another stay."));
    if (m_selection.marked() != repeats.all) {
        m_selection.mark(repeats.all);
        emit said(countText(static_cast<int>(repeats.all.size()),
                            QT_TRANSLATE_NOOP("wording",
                                              "%1 other note would become the same; it is marked. "
                                              "Ctrl+Enter once more does it."),
                            QT_TRANSLATE_NOOP("wording",
                                              "%1 other notes would become the same; they are "
                                              "marked. Ctrl+Enter once more does it.")) +
                  stay);
        return;
    }
    const Piece& piece = m_document.piece();
    m_document.editShown(
        tr("the same in all repeats"),
        piece.note(m_selection.note())->onset_s(),
        [&](PieceEditor& e) -> Status {
            for (const auto& [id, others] : repeats.of)
                if (const Status done =
                        e.decideLike(*piece.plan(id), piece.note(id)->techniques, others);
                    !done)
                    return done;
            return {};
        },
        Resolve::AroundWhatIsSure);
    emit said(countText(static_cast<int>(repeats.all.size()),
                        QT_TRANSLATE_NOOP("wording", "Taken over to %1 other place."),
                        QT_TRANSLATE_NOOP("wording", "Taken over to %1 other places.")) +
              stay);
}

void PulseCommands::choosePhrase() {
    const Note* note = m_document.piece().note(m_selection.note());
    const auto& bars = m_derived.form().bars;
    if (!note || bars.empty()) {
        emit said(tr("Choose a note first: click it, or press the right arrow."));
        return;
    }
    const auto bar = std::ranges::find_if(
        bars, [note](const BarContent& b) { return b.span.contains(note->onset_s() + 0.03); });
    if (bar == bars.end())
        return;
    TimeRange span = bar->span;
    for (const Phrase& phrase : m_derived.form().phrases)
        for (const Occurrence& one : phrase.occurrences)
            if (bar->number >= one.first_bar && bar->number < one.first_bar + phrase.bars)
                for (const BarContent& b : bars)
                    if (b.number >= one.first_bar && b.number < one.first_bar + phrase.bars)
                        span = {std::min(span.start_s, b.span.start_s),
                                std::max(span.end_s, b.span.end_s)};
    const NoteId chosen = note->id;
    m_selection.choosePassage({span.start_s - 0.03, span.end_s - 0.03});
    const std::vector<NoteId> all = m_selection.all();
    if (std::ranges::find(all, chosen) != all.end())
        m_selection.chooseAll(chosen, all); // the card still tells of the same note
}

} // namespace wirenote::app
