#include "app/commands/playings.h"

#include "app/playing/transport.h"
#include "app/text/playing_wording.h"
#include "app/text/wording.h"
#include "form/versions.h"
#include "session/demonstrate.h"

#include <algorithm>

namespace wirenote::app {
namespace {

constexpr double kStart_s = 0.15; // before what is heard

} // namespace

Playings::Playings(Document& document, Transport& transport, JobRunner& jobs)
    : m_document(document), m_transport(transport), m_jobs(jobs) {}

void Playings::recognise() {
    if (m_document.piece().notes.empty()) {
        emit said(tr("Hear the take that leads first, with E."));
        return;
    }
    m_jobs
        .enqueue(tr("Hearing what every take shows"),
                 [piece = m_document.whole()](const JobControl& job) {
                     return std::pair(piece, hearEveryTake(piece, job));
                 })
        .then(
            [this, revision = m_document.revision()](const std::pair<Piece, Result<Piece>>& found) {
                adopt(found.first, found.second, revision);
            });
}

void Playings::adopt(const Piece& before, const Result<Piece>& heard, int revision) {
    if (!heard) {
        if (heard.error().kind != ErrorKind::Cancelled)
            emit warned(sentence(heard.error()));
        return;
    }
    const QString label = tr("hear what every take shows");
    if (m_document.adopt(label, difference(before, *heard), revision))
        return;
    m_document.edit( // the piece was edited meanwhile
        label,
        0.0,
        [&heard](PieceEditor& e) { return e.adoptShown(heard->takes); },
        Resolve::Versions);
}

const Demonstration* Playings::get(PlayingRef playing) const {
    const auto& takes = m_document.piece().takes;
    if (playing.take >= takes.size() ||
        playing.demonstration >= takes[playing.take].demonstrations.size())
        return nullptr;
    return &takes[playing.take].demonstrations[playing.demonstration];
}

std::size_t Playings::comparedTake() const {
    return std::max<std::size_t>(1, m_transport.take());
}

double Playings::placeInPiece(double piece_s) const {
    const Take* lead = m_document.piece().lead();
    if (lead)
        for (const Demonstration& one : lead->demonstrations)
            if (one.inPiece() && !one.isItself() && one.span.contains(piece_s))
                return inPiece(one.moments, piece_s);
    return piece_s;
}

std::vector<PlayingRef> Playings::playingsOf(double piece_s) const {
    const auto& takes = m_document.piece().takes;
    std::vector<PlayingRef> all;
    for (std::size_t t = 0; t < takes.size(); ++t)
        for (std::size_t d = 0; d < takes[t].demonstrations.size(); ++d) {
            const Demonstration& one = takes[t].demonstrations[d];
            if (one.inPiece() && one.ofPiece().contains(piece_s))
                all.push_back({t, d});
        }
    std::ranges::stable_sort(all, {}, [this](PlayingRef p) { return get(p)->tempoRatio(); });
    return all;
}

void Playings::hearNext() {
    const double place_s = placeInPiece(m_transport.playhead_s());
    const auto all = playingsOf(place_s);
    if (all.size() < 2) {
        emit said(tr("Nobody plays this place anywhere else in the takes."));
        return;
    }
    std::size_t next = 0;
    if (m_transport.demonstration()) {
        const PlayingRef now{m_transport.take(), *m_transport.demonstration()};
        const auto at = std::ranges::find(all, now);
        next = at == all.end() ? 0 : static_cast<std::size_t>(at - all.begin() + 1) % all.size();
    }
    m_transport.seek(place_s);
    hear(all[next]);
    emit said(tr("%1 of %2: %3")
                  .arg(next + 1)
                  .arg(all.size())
                  .arg(playingText(m_document.piece(), *get(all[next]), all[next].take)));
}

void Playings::hear(PlayingRef playing) {
    const Demonstration* one = get(playing);
    if (!one)
        return;
    m_transport.pause();
    if (!one->inPiece()) { // it has no place but its own
        m_transport.setTake(playing.take);
        m_transport.seek(
            m_document.piece().takes[playing.take].alignment.toPiece({one->span.start_s}).s);
        m_transport.play();
        return;
    }
    const double at_s = m_transport.playhead_s();
    m_transport.setDemonstration(playing.take, playing.demonstration);
    if (!one->ofPiece().contains(at_s))
        m_transport.seek(std::max(0.0, one->ofPiece().start_s - kStart_s * one->tempoRatio()));
    if (m_transport.loop())
        m_transport.play();
    else // what follows it in its take is something else
        m_transport.playOnce({m_transport.playhead_s(), one->ofPiece().end_s});
}

void Playings::hearDifference(std::size_t take, const FormDifference& difference) {
    m_transport.pause();
    if (difference.in_take.empty()) {
        m_transport.setTake(0);
        m_transport.playOnce(difference.of_piece);
        return;
    }
    const auto& shown = m_document.piece().takes[take].demonstrations;
    const double middle_s = 0.5 * (difference.in_take.start_s + difference.in_take.end_s);
    for (std::size_t d = 0; d < shown.size(); ++d)
        if (shown[d].span.contains(middle_s)) {
            if (shown[d].inPiece())
                m_transport.seek(inPiece(
                    shown[d].moments, std::max(difference.in_take.start_s, shown[d].span.start_s)));
            hear({take, d});
            return;
        }
}

std::optional<PlayingRef> Playings::current() const {
    if (m_transport.demonstration())
        return PlayingRef{m_transport.take(), *m_transport.demonstration()};
    const auto& takes = m_document.piece().takes;
    if (m_transport.take() >= takes.size())
        return {};
    const Take& take = takes[m_transport.take()];
    const double at_s = take.alignment.toTake({m_transport.playhead_s()}).s;
    for (std::size_t d = 0; d < take.demonstrations.size(); ++d)
        if (take.demonstrations[d].span.contains(at_s))
            return PlayingRef{m_transport.take(), d};
    return {};
}

void Playings::toggleLearn() {
    const auto playing = current();
    if (!playing) {
        emit said(tr("Put the playhead where somebody plays, or hear a playing with Shift+X."));
        return;
    }
    setLearn(*playing, !get(*playing)->learn.value);
}

void Playings::setLearn(PlayingRef playing, bool learn) {
    const Demonstration* one = get(playing);
    if (!one)
        return;
    const bool changed = m_document.edit(
        learn ? tr("learn from a playing") : tr("do not learn from a playing"),
        one->span.start_s,
        [&](PieceEditor& e) { return e.setLearn(playing.take, playing.demonstration, learn); },
        Resolve::Versions);
    if (changed)
        emit said(learn ? tr("What is played here counts.")
                        : tr("What is played here stays to be heard, and counts for nothing."));
}

TimeRange Playings::barHere() const {
    const double at_s = placeInPiece(m_transport.playhead_s());
    const std::vector<double> downbeats = m_document.piece().timeline.downbeats_s();
    const auto next = std::ranges::upper_bound(downbeats, at_s);
    return {next == downbeats.begin() ? 0.0 : *(next - 1),
            next == downbeats.end() ? m_document.length_s() : *next};
}

void Playings::followHere() {
    const Piece& piece = m_document.piece();
    const auto playing = current();
    const Demonstration* shown = playing ? get(*playing) : nullptr;
    if (!shown || !shown->inPiece()) {
        emit said(tr("Hear another playing of the bar first (Shift+X); then it can be followed."));
        return;
    }
    constexpr double kEdge_s = 0.05; // what begins with the bar is of it, early or late
    TimeRange span = m_transport.loop().value_or(barHere()).clippedTo(shown->ofPiece());
    span = {span.start_s - kEdge_s, span.end_s - kEdge_s};
    if (span.empty()) {
        emit said(tr("This playing does not have the bar."));
        return;
    }
    const auto take = shown->isItself() ? std::nullopt : std::optional(playing->take);
    const bool follows = std::ranges::any_of(
        piece.followed, [span](const FollowedTake& f) { return f.span.overlaps(span); });
    if (!take && !follows) {
        emit said(tr("It is written down as this take plays it. Hear another playing of it first "
                     "(Shift+X)."));
        return;
    }
    const auto played = playedThere(piece, playing->take, *shown, span);
    const QString places = placesText(piece, span);
    const bool done = m_document.edit(
        tr("follow another take"),
        span.start_s,
        [&](PieceEditor& e) { return e.follow(span, take, played); },
        take ? Resolve::AroundWhatIsSure : Resolve::Nothing);
    if (done)
        emit said(take ? tr("%1: written down as take %2 plays it.").arg(places).arg(*take + 1)
                       : tr("%1: take 1 leads again; what was written down stays.").arg(places));
}

void Playings::loopPlaying() {
    const auto& takes = m_document.piece().takes;
    const std::size_t t = m_transport.take();
    if (t >= takes.size() || takes[t].demonstrations.empty()) {
        emit said(tr("Nobody has listened for what is played here; press E."));
        return;
    }
    const Take& take = takes[t];
    const double at_s = take.alignment.toTake({m_transport.playhead_s()}).s;
    // The stretch the playhead stands in, or the next.
    const auto here = std::ranges::find_if(
        take.demonstrations, [at_s](const Demonstration& d) { return d.span.end_s > at_s; });
    const Demonstration& one =
        here == take.demonstrations.end() ? take.demonstrations.back() : *here;
    m_transport.setLoop(TimeRange{take.alignment.toPiece({one.span.start_s}).s,
                                  take.alignment.toPiece({one.span.end_s}).s});
    m_transport.seek(take.alignment.toPiece({one.span.start_s}).s);
}

} // namespace wirenote::app
