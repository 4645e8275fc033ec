#include "app/commands/chord_commands.h"

#include "app/document/derived.h"
#include "app/document/selection.h"
#include "app/text/wording.h"
#include "base/text.h"

#include <algorithm>

namespace wirenote::app {
namespace {

constexpr double kEarly_s = 0.06; // a span begins with the first note of its stroke

} // namespace

ChordCommands::ChordCommands(Document& document, Selection& selection, Derived& derived)
    : m_document(document), m_selection(selection), m_derived(derived) {}

std::optional<ChordCommands::Chord> ChordCommands::chosen() const {
    const NoteId note = m_selection.note();
    if (note == 0)
        return {};
    const auto strums = strumsOf(m_document.piece());
    const auto here = std::ranges::find_if(strums, [note](const Strum& strum) {
        return std::ranges::find(strum.notes, note) != strum.notes.end();
    });
    if (here == strums.end())
        return {};
    Chord chord{*here, wholeGripsOf(strums, here->grip), sameStrums(strums, here->grip), {}, false};
    for (const ChordSpan& span : m_derived.chords())
        if (here->onset_s >= span.span.start_s - kEarly_s && here->onset_s < span.span.end_s) {
            chord.name = QString::fromStdString(chordText(span, m_document.piece().key.spelling()));
            chord.name_is_said = !span.said.empty();
        }
    return chord;
}

bool ChordCommands::isChosenWhole() const {
    const auto& all = m_selection.all();
    if (all.size() < 2)
        return false;
    const auto chord = chosen();
    return chord && std::ranges::all_of(all, [&chord](NoteId id) {
               return std::ranges::find(chord->strum.notes, id) != chord->strum.notes.end();
           });
}

void ChordCommands::hold(const Chord& chord, const Grip& grip, Where where) {
    const std::vector<Strum> strums =
        where == Where::Here ? std::vector<Strum>{chord.strum} : chord.same;
    const bool held = m_document.editShown(
        where == Where::Here ? tr("set the grip") : tr("set the grip wherever it comes again"),
        chord.strum.onset_s,
        [&](PieceEditor& e) -> Status {
            for (const Strum& strum : strums)
                if (const Status done = e.setGrip(strum.notes, grip); !done)
                    return done;
            return {};
        },
        Resolve::AroundWhatIsSure);
    if (!held)
        return;
    // The chord stays chosen, with what came to it.
    for (const Note& note : m_document.piece().notes)
        if (note.onset_s() >= chord.strum.onset_s - 1e-6) {
            m_selection.chooseStroke(note.id);
            break;
        }
    emit said(tr("%1, in %2.")
                  .arg(QString::fromStdString(gripText(grip)).replace('x', QStringLiteral("×")),
                       countText(static_cast<int>(strums.size()),
                                 QT_TRANSLATE_NOOP("wording", "%1 place"),
                                 QT_TRANSLATE_NOOP("wording", "%1 places"))));
}

void ChordCommands::setGrip(const QString& text, Where where) {
    const auto chord = chosen();
    if (!chord)
        return;
    const auto grip = parseGrip(text.toStdString(), m_document.piece().instrument);
    if (!grip)
        emit said(sentence(grip.error()));
    else
        hold(*chord, *grip, where);
}

void ChordCommands::fill(Where where) {
    const auto chord = chosen();
    if (!chord)
        emit said(tr("Choose a note of a chord first, or click its name."));
    else if (chord->whole.empty())
        emit said(tr("No fuller grip like this one was heard."));
    else
        hold(*chord, chord->whole.front().grip, where);
}

void ChordCommands::name(const QString& name, Where where) {
    const auto chord = chosen();
    if (!chord)
        return;
    const std::string said = cleanText(name.trimmed().toStdString());
    const std::vector<Strum> strums =
        where == Where::Here ? std::vector<Strum>{chord->strum} : chord->same;
    m_document.editShown(
        tr("name a chord"),
        chord->strum.onset_s,
        [&](PieceEditor& e) -> Status {
            for (const Strum& strum : strums)
                if (const Status done = e.nameChord(strum.onset_s, said); !done)
                    return done;
            return {};
        },
        Resolve::Nothing);
}

void ChordCommands::chooseAt(double time_s) {
    NoteId last = 0;
    for (const Strum& strum : strumsOf(m_document.piece()))
        if (strum.onset_s <= time_s + kEarly_s)
            last = strum.notes.front();
    if (last != 0)
        m_selection.chooseStroke(last);
}

} // namespace wirenote::app
