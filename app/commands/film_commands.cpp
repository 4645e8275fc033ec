#include "app/commands/film_commands.h"

#include "app/document/document.h"
#include "app/document/job_runner.h"
#include "app/document/selection.h"
#include "app/text/wording.h"
#include "seeing/neck_way.h"
#include "session/watch_film.h"

#include <algorithm>

namespace wirenote::app {
namespace {

// What a job has seen, and the edit that puts it into the piece it started from.
struct FilmEdit {
    Result<FilmFacts> seen;
    std::vector<Note> notes;
    std::optional<PieceDelta> delta;
};

FilmEdit lookedAt(const Piece& piece, std::size_t index, const JobControl& job) {
    Piece after = piece;
    const Take& take = piece.takes[index];
    FilmEdit edit{watchTake(index, take.path, asBefore(take.film), after, job), {}, {}};
    if (!edit.seen)
        return edit;
    edit.notes = std::move(after.notes);
    auto outcome = tryEdit(
        piece,
        0.0,
        [&edit, index](PieceEditor& e) { return e.adoptFilm(index, *edit.seen, edit.notes); },
        Resolve::WholePiece);
    if (outcome)
        edit.delta = std::move(outcome->delta);
    return edit;
}

} // namespace

FilmCommands::FilmCommands(Document& document, Selection& selection, JobRunner& jobs)
    : m_document(document), m_selection(selection), m_jobs(jobs) {
    connect(&document, &Document::opened, this, [this] { tryCount(0); });
}

const Take* FilmCommands::takeAt(std::size_t take) const {
    const auto& takes = m_document.piece().takes;
    return take < takes.size() ? &takes[take] : nullptr;
}

std::optional<Homography> FilmCommands::neckAt(std::size_t take, double film_s) const {
    const Take* of = takeAt(take);
    if (!of)
        return std::nullopt;
    const NeckPlane plane(m_document.piece().instrument);
    const auto neck = wirenote::neckAt(plane, of->film, film_s);
    return neck && m_tried != 0 ? neckOf(plane, recounted(plane, *neck, m_tried, film_s)) : neck;
}

bool FilmCommands::countInDoubt(std::size_t take) const {
    constexpr double kSure = 0.9;
    const Take* of = takeAt(take);
    return of && of->film.told() && of->film.neck == Basis::Seen && of->film.numbering < kSure;
}

void FilmCommands::tryCount(int frets) {
    m_tried = frets;
    emit countTried();
}

void FilmCommands::acceptCount(std::size_t take, double film_s) {
    const NeckPlane plane(m_document.piece().instrument);
    const auto neck = neckAt(take, film_s);
    tryCount(0);
    if (neck)
        giveNeck(take, neckFrame(plane, *neck, std::max(0.0, film_s)));
}

void FilmCommands::look(std::size_t take) {
    const auto& takes = m_document.piece().takes;
    if (take >= takes.size() || !takes[take].has_picture || !m_document.media(take)) {
        emit said(tr("This take has no film to look at."));
        return;
    }
    if (m_document.piece().notes.empty()) {
        emit said(tr("Hear the take first (E): the film is looked at note by note."));
        return;
    }
    m_jobs
        .enqueue(tr("Looking at the film"),
                 [piece = m_document.whole(), take](const JobControl& job) {
                     return lookedAt(piece, take, job);
                 })
        .then([this, take, revision = m_document.revision(), path = takes[take].path](
                  FilmEdit edit) {
            if (!edit.seen) {
                if (edit.seen.error().kind != ErrorKind::Cancelled)
                    emit warned(sentence(edit.seen.error()));
                return;
            }
            const auto& now = m_document.piece().takes;
            if (take >= now.size() || now[take].path != path)
                return; // another piece was opened meanwhile, or the take is gone
            const QString label = tr("look at the film");
            if (edit.delta && m_document.adopt(label, std::move(*edit.delta), revision))
                return;
            m_document.edit( // the piece was edited meanwhile
                label,
                0.0,
                [&edit, take](PieceEditor& e) { return e.adoptFilm(take, *edit.seen, edit.notes); },
                Resolve::WholePiece);
        });
}

void FilmCommands::giveNeck(std::size_t take, const NeckFrame& frame) {
    const bool given = m_document.edit(
        tr("give the neck"),
        0.0,
        [&frame, take](PieceEditor& e) { return e.giveNeck(take, frame); },
        Resolve::Nothing);
    if (given && !m_document.piece().notes.empty())
        look(take);
}

void FilmCommands::setOffset(std::size_t take, double seconds) {
    const Take* of = takeAt(take);
    if (!of || (of->film.offset == Basis::Set && of->film.offset_s == seconds))
        return;
    const bool set = m_document.edit(
        tr("set how late the film is"),
        0.0,
        [seconds, take](PieceEditor& e) {
            return e.changeTake(take, [seconds](Take& changed) {
                changed.film.offset_s = seconds;
                changed.film.offset = Basis::Set;
            });
        },
        Resolve::Nothing);
    if (set && !m_document.piece().notes.empty())
        look(take);
}

std::optional<PlanePoint> FilmCommands::onNeck(std::size_t take, double film_s, PicturePoint at) {
    if (!m_document.piece().note(m_selection.note())) {
        emit said(tr("Choose a note first; Right goes from note to note."));
        return {};
    }
    const auto neck = neckAt(take, film_s);
    const auto back = neck ? inverse(*neck) : std::nullopt;
    if (!back) {
        emit said(tr("The neck is not known in this picture: give it by four points first."));
        return {};
    }
    return unproject(*back, at);
}

bool FilmCommands::showStroke(std::size_t take, double film_s, PicturePoint at, Stroke stroke) {
    const auto point = onNeck(take, film_s, at);
    if (!point)
        return false;
    const Piece& piece = m_document.piece();
    const Note& note = *piece.note(m_selection.note());
    const auto place =
        pluckedShown(piece.instrument, NeckPlane(piece.instrument), *point, note.frettedMidi());
    const bool done =
        m_document.edit(tr("show a stroke"), note.onset_s(), [&](PieceEditor& e) -> Status {
            if (place)
                if (const Status shown = e.showPlace(
                        note.id, take, place->string, Finger::Unknown, {film_s, at.x, at.y});
                    !shown)
                    return shown;
            return e.setStroke(note.id, stroke);
        });
    if (done && !place)
        emit said(tr("The string under that point has no %1: only the stroke is set.")
                      .arg(pitchText(piece, note.frettedMidi())));
    return done && place.has_value();
}

bool FilmCommands::showPlace(std::size_t take, double film_s, PicturePoint at, Finger finger) {
    const auto point = onNeck(take, film_s, at);
    if (!point)
        return false;
    const Piece& piece = m_document.piece();
    const Note* note = piece.note(m_selection.note());
    const NeckPlane plane(piece.instrument);
    const auto place = placeShown(piece.instrument, plane, *point, note->frettedMidi());
    if (!place) {
        emit said(tr("There is no %1 on the neck near that point.")
                      .arg(pitchText(piece, note->frettedMidi())));
        return false;
    }
    return m_document.edit(tr("show a place"), note->onset_s(), [&](PieceEditor& e) {
        return e.showPlace(note->id, take, place->string, finger, {film_s, at.x, at.y});
    });
}

} // namespace wirenote::app
