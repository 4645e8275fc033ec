#include "app/commands/sheet_commands.h"

#include "app/document/document.h"
#include "app/document/selection.h"
#include "app/playing/transport.h"
#include "base/text.h"
#include "piece/chord_chart.h"
#include "piece/one_stroke.h"
#include "score/voices.h"

#include <algorithm>
#include <cmath>

namespace wirenote::app {
namespace {
constexpr std::int64_t kFine = 48;  // parts of a quarter: bars may begin between two
constexpr double kOnTheBeat = 0.13; // of a quarter: what is played a little early belongs to it
} // namespace

SheetCommands::SheetCommands(Document& document, Selection& selection, Transport& transport)
    : m_document(document), m_selection(selection), m_transport(transport) {}

SheetStyle SheetCommands::style() const {
    return m_document.piece().sheet;
}

void SheetCommands::change(const QString& what, const std::function<void(SheetStyle&)>& change) {
    if (!m_document.isOpen())
        return;
    SheetStyle style = m_document.piece().sheet;
    change(style);
    if (style != m_document.piece().sheet)
        m_document.edit(
            what, 0.0, [&](PieceEditor& e) { return e.setSheet(style); }, Resolve::Nothing);
}

void SheetCommands::otherVoice() {
    const Piece& piece = m_document.piece();
    if (const auto index = piece.indexOf(m_selection.note())) {
        const Voice now = voicesOf(piece)[*index].voice;
        setVoice(tr("write in the other voice"), now == Voice::Upper ? Voice::Lower : Voice::Upper);
    }
}

void SheetCommands::voiceAsFound() {
    setVoice(tr("voice as it is found"), {});
}

void SheetCommands::setVoice(const QString& what, std::optional<Voice> voice) {
    const Note* first = m_document.piece().note(m_selection.note());
    if (!first)
        return;
    m_document.editShown(
        what,
        first->onset_s(),
        [&](PieceEditor& editor) -> Status {
            for (const NoteId id : m_selection.all())
                if (const Status done = editor.setVoice(id, voice); !done)
                    return done;
            return {};
        },
        Resolve::Nothing);
}

void SheetCommands::choose(NoteId note) {
    m_selection.choose(note);
    const Note* chosen = m_document.piece().note(note);
    if (chosen && !m_transport.playing())
        m_transport.seek(chosen->onset_s());
}

bool SheetCommands::typeChart(const QString& chart) {
    if (!m_document.isOpen())
        return false;
    const Piece& piece = m_document.piece();
    const TimelineMap map(piece.timeline);
    const Note* note = piece.note(m_selection.note());
    const int bar = note ? map.barBeatAt(note->onset_s() + 0.02).bar : 1;
    const auto names = chordsOfChart(piece.timeline, std::max(1, bar), chart.toStdString());
    return m_document.editShown(
        tr("type chords"),
        note ? note->onset_s() : 0.0,
        [&names](PieceEditor& editor) -> Status {
            if (!names)
                return names.error();
            for (const NamedChord& chord : *names)
                if (const Status done = editor.nameChord(chord.at_s, chord.name); !done)
                    return done;
            return {};
        },
        Resolve::Nothing);
}

std::optional<TimeRange> SheetCommands::chosenSpan() const {
    std::optional<TimeRange> span;
    for (const NoteId id : m_selection.all())
        if (const Note* note = m_document.piece().note(id))
            span = span ? TimeRange{std::min(span->start_s, note->onset_s()),
                                    std::max(span->end_s, note->onset_s())}
                        : TimeRange{note->onset_s(), note->onset_s()};
    return span;
}

bool SheetCommands::typeMark(const QString& text) {
    const auto span = chosenSpan();
    if (!span)
        return m_document.editShown(
            tr("write on the sheet"),
            0.0,
            [](PieceEditor&) -> Status {
                return badCall("choose the note at which it is to stand first");
            },
            Resolve::Nothing);
    const auto mark =
        markFromText(cleanText(text.trimmed().toStdString()), span->start_s, span->end_s);
    return m_document.editShown(
        tr("write on the sheet"),
        span->start_s,
        [&mark](PieceEditor& editor) -> Status {
            return mark ? editor.putMark(*mark) : Status{mark.error()};
        },
        Resolve::Nothing);
}

void SheetCommands::putMarks(const std::vector<SheetMark>& marks) {
    if (marks.empty())
        return;
    m_document.editShown(
        tr("write dynamics"),
        marks.front().at_s,
        [&marks](PieceEditor& editor) -> Status {
            for (const SheetMark& mark : marks)
                if (const Status done = editor.putMark(mark); !done)
                    return done;
            return {};
        },
        Resolve::Nothing);
}

void SheetCommands::clearMarks() {
    if (const auto span = chosenSpan())
        m_document.editShown(
            tr("take marks off the sheet"),
            span->start_s,
            [&span](PieceEditor& editor) { return editor.clearMarks(*span); },
            Resolve::Nothing);
}

// The first note from there on, or the last one before.
void SheetCommands::chooseFrom(double time_s, bool forwards) {
    const auto& notes = m_document.piece().notes;
    if (notes.empty())
        return;
    auto next = std::ranges::lower_bound(notes, time_s, {}, &Note::onset_s);
    if (next == notes.end() ||
        (!forwards && next != notes.begin() &&
         next->onset_s() >
             notes[m_document.piece().indexOf(m_selection.note()).value_or(0)].onset_s()))
        --next;
    choose(next->id);
}

// Where the chosen note stands, and the bar it belongs to; nothing is chosen: the first note is.
std::optional<SheetCommands::Standing> SheetCommands::standing(const TimelineMap& map) {
    const Note* note = m_document.piece().note(m_selection.note());
    if (!note) {
        m_selection.step(1);
        return {};
    }
    const double at = map.quartersAt(note->onset_s()) + kOnTheBeat;
    return Standing{
        at, map.grid().barAt(Rational(static_cast<std::int64_t>(std::floor(at * kFine)), kFine))};
}

void SheetCommands::stepBeat(int beats) {
    const TimelineMap map(m_document.piece().timeline);
    const auto here = standing(map);
    if (!here)
        return;
    const double beat = here->bar.metre.beatLength().toDouble();
    const double start = here->bar.start.toDouble();
    const double target = start + (std::floor((here->at - start) / beat) + beats) * beat;
    chooseFrom(map.timeAt(target - kOnTheBeat), beats > 0);
}

void SheetCommands::stepBar(int bars) {
    const TimelineMap map(m_document.piece().timeline);
    const auto here = standing(map);
    if (!here)
        return;
    const GridBar there = map.grid().bar(here->bar.number + bars);
    chooseFrom(map.timeAt(there.start.toDouble() - kOnTheBeat), bars > 0);
}

void SheetCommands::stepString(int strings) {
    const Piece& piece = m_document.piece();
    const auto index = piece.indexOf(m_selection.note());
    if (!index)
        return;
    for (const IndexSpan stroke : strokeSpans(piece.notes)) {
        if (*index < stroke.first || *index >= stroke.end)
            continue;
        std::vector<std::size_t> together;
        for (std::size_t i = stroke.first; i < stroke.end; ++i)
            together.push_back(i);
        std::ranges::stable_sort(together, {}, [&](std::size_t i) {
            return piece.asPlayed().plans[i].position.value.string;
        });
        const auto at = std::ranges::find(together, *index) - together.begin();
        const auto to = std::clamp<std::ptrdiff_t>(
            at + strings, 0, static_cast<std::ptrdiff_t>(together.size()) - 1);
        choose(piece.notes[together[static_cast<std::size_t>(to)]].id);
    }
}

} // namespace wirenote::app
