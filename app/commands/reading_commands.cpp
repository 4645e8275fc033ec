#include "app/commands/reading_commands.h"

#include "app/document/derived.h"
#include "app/document/job_runner.h"
#include "app/document/selection.h"
#include "app/playing/transport.h"
#include "app/text/reading_wording.h"
#include "app/text/wording.h"
#include "base/text.h"
#include "form/variants.h"
#include "piece/timeline_map.h"
#include "session/files.h"
#include "session/other_readings.h"

#include <algorithm>

namespace wirenote::app {
namespace {

struct Making {
    Result<MadeReading> made;
    PieceDelta delta;
};

Making makeIn(const Piece& piece, const ReadingRecipe& recipe, std::size_t from) {
    Piece after = piece;
    Making making{makeReading(after, recipe, nowIso8601(), from), {}};
    if (making.made)
        making.delta = difference(piece, after);
    return making;
}

} // namespace

ReadingCommands::ReadingCommands(Document& document,
                                 Selection& selection,
                                 Derived& derived,
                                 Transport& transport,
                                 JobRunner& jobs)
    : m_document(document), m_selection(selection), m_derived(derived), m_transport(transport),
      m_jobs(jobs) {}

void ReadingCommands::showNext() {
    const std::size_t count = m_document.whole().readings.size();
    if (count < 2) {
        emit said(tr("There is one reading: make another on the Readings bench."));
        return;
    }
    m_document.showReading((m_document.reading() + 1) % count);
    emit said(
        tr("“%1” is shown.").arg(QString::fromStdString(m_document.piece().asPlayed().head.name)));
}

void ReadingCommands::make(const QString& kind) {
    if (m_document.whole().notes.empty()) {
        emit said(tr("Hear the take first (E): there are no notes to make a reading of."));
        return;
    }
    const auto recipe = parseRecipe(kind.toStdString(), m_document.piece().instrument);
    if (!recipe) {
        emit said(sentence(recipe.error()));
        return;
    }
    m_jobs
        .enqueue(tr("Making the reading"),
                 [piece = m_document.whole(), recipe = *recipe, from = m_document.reading()](
                     const JobControl&) { return makeIn(piece, recipe, from); })
        .then([this, revision = m_document.revision()](Making making) {
            if (!making.made) {
                emit said(sentence(making.made.error()));
                return;
            }
            const std::size_t index = making.made->index;
            if (!m_document.adopt(tr("make a reading"), std::move(making.delta), revision)) {
                emit said(tr("The piece was changed meanwhile: make the reading again."));
                return;
            }
            m_document.showReading(index);
            emit said(madeText(*making.made));
        });
}

void ReadingCommands::makeFromScore(const QString& file) {
    if (file.contains('+'))
        emit said(tr("The name of the file holds a “+”: rename it first."));
    else
        make("score:" + file);
}

void ReadingCommands::rename(const QString& name) {
    m_document.edit(
        tr("rename the reading"),
        0.0,
        [name = cleanText(name.toStdString())](PieceEditor& e) { return e.renameReading(name); },
        Resolve::Nothing);
}

void ReadingCommands::setTempi(TempoRange tempi) {
    if (tempi == m_document.whole().readings[m_document.reading()].head.tempi)
        return;
    m_document.edit(
        tr("set its tempi"),
        0.0,
        [tempi](PieceEditor& e) { return e.setTempi(tempi); },
        Resolve::Nothing);
}

void ReadingCommands::claim(std::optional<Exactness> claim) {
    if (claim) {
        const auto statement = exactnessOf(m_document.whole(), m_document.reading());
        if (!mayClaim(statement, *claim)) {
            emit said(tr("This cannot be said of it: %1.").arg(againstList(statement)));
            return;
        }
    }
    m_document.edit(
        tr("say how exact it is"),
        0.0,
        [claim](PieceEditor& e) { return e.setClaim(claim); },
        Resolve::Nothing);
}

void ReadingCommands::remove() {
    m_document.edit(
        tr("remove the reading"),
        0.0,
        [](PieceEditor& e) { return e.removeReading(); },
        Resolve::Nothing);
}

void ReadingCommands::sayWhatIsFor(double bpm) {
    if (!m_document.isOpen())
        return;
    auto found = readingsFor(m_document.whole(), bpm);
    if (std::ranges::find(found, m_document.reading()) != found.end())
        found.clear();
    if (found == m_said_for)
        return;
    m_said_for = found;
    if (!found.empty())
        emit said(
            tr("For this tempo there is “%1” (Ctrl+R).")
                .arg(QString::fromStdString(m_document.whole().readings[found.front()].head.name)));
}

void ReadingCommands::blend(std::size_t from, const QString& why) {
    if (const auto loop = m_transport.loop()) {
        blend(*loop, from, why);
        return;
    }
    const auto& chosen = m_selection.all();
    if (chosen.empty()) {
        emit said(tr("Choose notes or set a loop first: their bars are taken."));
        return;
    }
    const TimelineMap map(m_document.piece().timeline);
    constexpr double kPlayedEarly_s = 0.05;
    const auto barOf = [&](NoteId id) {
        return map.barBeatAt(m_document.piece().note(id)->onset_s() + kPlayedEarly_s).bar;
    };
    const auto startOf = [&](int bar) {
        return map.timeAt(map.grid().bar(bar).start.toDouble()) - kPlayedEarly_s;
    };
    blend(TimeRange{startOf(barOf(chosen.front())), startOf(barOf(chosen.back()) + 1)}, from, why);
}

void ReadingCommands::blend(TimeRange span, std::size_t from, const QString& why) {
    m_document.because(QString::fromStdString(cleanText(why.toStdString(), kLongestRemark)));
    m_document.edit(
        tr("take bars from another reading"),
        span.start_s,
        [span, from, why = cleanText(why.toStdString(), kLongestRemark)](PieceEditor& e) {
            return e.blend(span, from, why);
        },
        Resolve::Nothing);
}

bool ReadingCommands::eachChosen(const QString& label,
                                 const std::function<Status(PieceEditor&, NoteId)>& change) {
    const std::vector<NoteId> all = m_selection.all();
    if (all.empty()) {
        emit said(tr("Choose a note first."));
        return false;
    }
    const Note* first = m_document.piece().note(all.front());
    return m_document.edit(label, first ? first->onset_s() : 0.0, [&](PieceEditor& e) -> Status {
        for (const NoteId id : all)
            if (const Status changed = change(e, id); !changed)
                return changed;
        return {};
    });
}

void ReadingCommands::sayWhy(SetWhy why) {
    eachChosen(tr("say why it is set"),
               [why](PieceEditor& e, NoteId id) { return e.sayWhy({id}, why); });
}

void ReadingCommands::setNeed(const Need& need) {
    const Note* note = m_document.piece().note(m_selection.note());
    const Need wanted = note && note->need == need ? Need{} : need;
    if (eachChosen(needLabel(wanted),
                   [&](PieceEditor& e, NoteId id) { return e.setNeed(id, wanted); }))
        emit said(needText(wanted));
}

void ReadingCommands::needAsCounted() {
    const Note* note = m_document.piece().note(m_selection.note());
    if (!note) {
        emit said(tr("Choose a note first."));
        return;
    }
    const auto& form = m_derived.form();
    for (const Variant& one : form.variants)
        if (one.kind == VersionDifferenceKind::Missing && one.note < form.notes.size() &&
            form.notes[one.note] == note->id) {
            setNeed(
                {Necessity::MayGo,
                 0.0,
                 tr("played %1 times of %2").arg(one.of - one.times).arg(one.of).toStdString()});
            return;
        }
    emit said(tr("No other playing of this place leaves the note out."));
}

void ReadingCommands::leaveOpen(const QString& word) {
    const std::string clean = cleanText(word.toStdString());
    std::size_t left = 0;
    const bool done = eachChosen(tr("leave it open"), [&](PieceEditor& e, NoteId id) -> Status {
        const Doubt* doubt = m_derived.doubtOf(id);
        left += doubt ? 1 : 0;
        return doubt ? e.leaveOpen(id, doubt->kind, clean) : Status{};
    });
    if (done)
        emit said(left == 0 ? tr("Nothing of it is in doubt.")
                            : tr("Left open: %1. It is listed on the Readings bench.").arg(word));
}

void ReadingCommands::askAgain() {
    eachChosen(tr("ask again"), [](PieceEditor& e, NoteId id) { return e.askAgain(id); });
}

} // namespace wirenote::app
