#include "app/commands/take_commands.h"

#include "app/playing/transport.h"
#include "app/text/playing_wording.h"
#include "app/text/wording.h"
#include "base/atomic_file.h"
#include "session/calibrate.h"
#include "session/demonstrate.h"
#include "session/take_media.h"

#include <QDir>
#include <QFileInfo>
#include <QStandardPaths>
#include <algorithm>
#include <optional>

namespace wirenote::app {
namespace {

constexpr double kSameEdge_s = 0.01;
constexpr double kLeastCertain = 0.5; // below this a person should look at how a take is lined up

} // namespace

TakeCommands::TakeCommands(Document& document, Transport& transport, JobRunner& jobs)
    : m_document(document), m_transport(transport), m_jobs(jobs) {
    connect(&document, &Document::opened, this, [this] {
        m_lead_moment_s.reset();
        m_pairs.clear();
        setHearing(m_document.piece().notes.empty() ? Hearing::NotAsked : Hearing::Heard);
    });
    connect(&jobs, &JobRunner::finished, this, [this] {
        // What was heard in full is adopted right after this; what was stopped never is.
        QMetaObject::invokeMethod(
            this,
            [this] {
                if (m_hearing == Hearing::Running && !m_jobs.running())
                    setHearing(Hearing::Stopped);
            },
            Qt::QueuedConnection);
        m_so_far.clear();
        emit heardMore();
    });
}

void TakeCommands::add(const QStringList& paths) {
    for (const QString& path : paths) {
        m_jobs
            .enqueue(tr("Opening %1").arg(QFileInfo(path).fileName()),
                     [path](const JobControl&) { return openTakeMedia(path.toStdString()); })
            .then([this, path](Result<TakeMedia> opened) { addOpened(path, std::move(opened)); });
    }
}

void TakeCommands::addOpened(const QString& path, Result<TakeMedia> opened) {
    if (!opened) {
        emit warned(sentence(opened.error()));
        return;
    }
    const Take take = takeOf(path.toStdString(), opened->info);
    m_document.addMedia(QString::fromStdString(take.path), -1, std::move(*opened));
    const bool added = m_document.edit(
        tr("add a take"),
        0.0,
        [&take](PieceEditor& e) { return e.addTake(take); },
        Resolve::Nothing);
    if (added)
        study(m_document.piece().takes.size() - 1,
              tr("Lining up %1").arg(QFileInfo(path).fileName()));
}

void TakeCommands::chooseStream(std::size_t take, int stream) {
    const auto& takes = m_document.piece().takes;
    if (take >= takes.size() || takes[take].sound_stream == stream)
        return;
    const std::string path = takes[take].path;
    m_jobs
        .enqueue(tr("Opening another sound stream"),
                 [path, stream](const JobControl&) { return openTakeMedia(path, stream); })
        .then([this, take, stream, path](Result<TakeMedia> opened) {
            if (!opened) {
                emit warned(sentence(opened.error()));
                return;
            }
            const auto& now = m_document.piece().takes;
            if (take >= now.size() || now[take].path != path)
                return; // removed meanwhile
            m_document.addMedia(QString::fromStdString(path), stream, std::move(*opened));
            change(
                take, tr("choose a sound stream"), [stream](Take& t) { t.sound_stream = stream; });
        });
}

void TakeCommands::remove(std::size_t take) {
    m_document.edit(
        tr("remove a take"),
        0.0,
        [take](PieceEditor& e) { return e.removeTake(take); },
        Resolve::Nothing);
}

void TakeCommands::lineUpBySound(std::size_t take) {
    if (take == 0 || take >= m_document.piece().takes.size()) {
        emit said(tr("Choose another take: this one keeps the time of the piece."));
        return;
    }
    // Asked for: what a person lined up before may be replaced now.
    change(take, tr("line up anew"), [](Take& t) { t.alignment.basis = Basis::Heard; });
    study(take,
          tr("Lining up %1").arg(QString::fromStdString(m_document.piece().takes[take].name)));
}

void TakeCommands::study(std::size_t take, const QString& title) {
    m_jobs
        .enqueue(title,
                 [piece = m_document.whole(), take](const JobControl& job) {
                     return studyTake(piece, piece.takes[take], job);
                 })
        .then([this](const Result<TakeStudy>& found) {
            if (found)
                adopt(*found, tr("line up by sound"));
            else if (found.error().kind != ErrorKind::Cancelled)
                emit warned(sentence(found.error()));
        });
}

void TakeCommands::adopt(const TakeStudy& study, const QString& label) {
    const auto& takes = m_document.piece().takes;
    const auto at = std::find_if(
        takes.begin(), takes.end(), [&](const Take& t) { return t.path == study.take.path; });
    if (at == takes.end())
        return; // removed meanwhile
    change(static_cast<std::size_t>(at - takes.begin()), label, [&](Take& take) {
        take.reference = study.take.reference;
        take.quality = study.take.quality;
        take.cautions = study.take.cautions;
        take.sha256 = study.take.sha256;
        if (take.alignment.basis != Basis::Set)
            take.alignment = study.take.alignment;
    });
    if (!m_document.piece().notes.empty())
        emit takesToHear();
    const QString name = QString::fromStdString(study.take.name);
    if (!study.lined_up)
        emit warned(
            tr("“%1” does not sound like the same music, so it was not lined up. Drag it into "
               "place, or mark the same moment in both takes with Q.")
                .arg(name));
    else if (study.take.alignment.certainty < kLeastCertain)
        emit warned(
            tr("“%1” is lined up, but only %2 of its attacks fit. Listen, and drag it or mark "
               "two moments with Q where it is off.")
                .arg(name, percentText(study.take.alignment.certainty)));
    else
        emit said(tr("“%1” is lined up: %2 of the attacks fit.")
                      .arg(name, percentText(study.take.alignment.certainty)));
}

void TakeCommands::shift(std::size_t take, double by_s) {
    if (take == 0) {
        emit said(tr("This take keeps the time of the piece; choose another one to move."));
        return;
    }
    change(take,
           tr("move a take"),
           [by_s](Take& t) {
               t.alignment.shift(by_s);
               t.alignment.basis = Basis::Set;
               t.alignment.certainty = 1.0;
           },
           {Merge::TakeShift, static_cast<NoteId>(take)});
}

void TakeCommands::markMoment() {
    const std::size_t take = m_transport.take();
    if (take >= m_document.piece().takes.size() || m_document.piece().takes.size() < 2) {
        emit said(tr("Add a second take first: the same moment is marked in both."));
        return;
    }
    if (take == 0) {
        m_lead_moment_s = m_transport.playhead_s();
        emit said(
            tr("Marked %1. Now choose the other take and press Q where the same moment sounds.")
                .arg(timeText(*m_lead_moment_s)));
        return;
    }
    if (!m_lead_moment_s) {
        emit said(tr("Mark the moment in the first take, then here."));
        return;
    }
    if (take != m_pairs_of)
        m_pairs.clear();
    m_pairs_of = take;
    const TakeAlignment now = m_document.piece().takes[take].alignment;
    m_pairs.push_back({*m_lead_moment_s, now.toTake({m_transport.playhead_s()}).s});
    m_lead_moment_s.reset();
    if (m_pairs.size() > 2)
        m_pairs.erase(m_pairs.begin());
    TakeAlignment::Stretch moments = m_pairs;
    std::sort(moments.begin(), moments.end(), [](const auto& a, const auto& b) {
        return a.piece_s < b.piece_s;
    });
    change(take, tr("line up by hand"), [&moments](Take& t) {
        t.alignment.stretches = {moments};
        t.alignment.basis = Basis::Set;
        t.alignment.certainty = 1.0;
    });
    emit said(m_pairs.size() < 2
                  ? tr("Shifted. A second moment, far from the first, gives the tempo too.")
                  : tr("Lined up by your two moments."));
}

void TakeCommands::change(std::size_t take,
                          const QString& label,
                          const std::function<void(Take&)>& change,
                          MergeKey merge) {
    m_document.edit(
        label,
        0.0,
        [&](PieceEditor& e) { return e.changeTake(take, change); },
        Resolve::Nothing,
        merge);
}

void TakeCommands::trimToLoop() {
    const auto loop = m_transport.loop();
    const auto& takes = m_document.piece().takes;
    const std::size_t take = m_transport.take();
    if (take >= takes.size())
        return;
    if (!loop && takes[take].trim.empty()) {
        emit said(tr("Drag over the part you want first; it becomes the loop."));
        return;
    }
    const TakeAlignment clock = takes[take].alignment;
    change(take, loop ? tr("keep this part") : tr("keep all of it"), [&](Take& t) {
        t.trim = loop ? TimeRange{std::clamp(clock.toTake({loop->start_s}).s, 0.0, t.length_s),
                                  std::clamp(clock.toTake({loop->end_s}).s, 0.0, t.length_s)}
                      : TimeRange{};
    });
}

void TakeCommands::loopIs(SoundKind kind) {
    const auto loop = m_transport.loop();
    const std::size_t take = m_transport.take();
    if (!loop || take >= m_document.piece().takes.size()) {
        emit said(tr("Drag over the stretch first; it becomes the loop."));
        return;
    }
    const TakeAlignment clock = m_document.piece().takes[take].alignment;
    const TimeRange stretch{std::max(0.0, clock.toTake({loop->start_s}).s),
                            clock.toTake({loop->end_s}).s};
    const bool named = m_document.edit(
        tr("here is %1").arg(soundKindText(kind)),
        loop->start_s,
        [&](PieceEditor& e) { return e.setSoundKind(take, stretch, kind); },
        Resolve::Nothing);
    if (named && isPlayed(kind) && take == 0)
        hear(*loop, Talk::Keep);
}

void TakeCommands::moveEdge(std::size_t take, double edge_s, double to_s) {
    const auto& takes = m_document.piece().takes;
    if (take >= takes.size())
        return;
    const auto& spans = takes[take].sound_spans;
    const auto after = std::ranges::find_if(spans, [edge_s](const SoundSpan& one) {
        return std::abs(one.span.start_s - edge_s) < kSameEdge_s;
    });
    if (after == spans.begin() || after == spans.end())
        return;
    to_s = std::clamp(to_s, 0.0, takes[take].length_s);
    if (std::abs(to_s - edge_s) < kSameEdge_s)
        return;
    const bool later = to_s > edge_s;
    const SoundKind kind = later ? (after - 1)->kind : after->kind;
    const TimeRange stretch{std::min(edge_s, to_s), std::max(edge_s, to_s)};
    const bool moved = m_document.edit(
        tr("move where talk or playing begins"),
        edge_s,
        [&](PieceEditor& e) { return e.setSoundKind(take, stretch, kind); },
        Resolve::Nothing);
    if (moved && isPlayed(kind) && take == 0)
        hear(stretch, Talk::Keep);
}

void TakeCommands::hear() {
    const Take* lead = m_document.piece().lead();
    if (!lead || lead->path.empty()) {
        emit said(tr("This tab has no recording to hear."));
        return;
    }
    const auto loop = m_transport.loop();
    // Who marks a stretch wants its notes, whatever it sounds like.
    loop ? hear(*loop, Talk::Keep) : hear(lead->heardSpan());
}

// What a job has heard, and the edit that puts it into the piece it started from.
struct HeardEdit {
    Result<Piece> heard;
    std::optional<PieceDelta> delta;
};

namespace {

HeardEdit hearAndPlace(const Piece& piece,
                       TimeRange span,
                       Talk talk,
                       const JobControl& job,
                       const HeardSoFar& so_far) {
    HeardEdit result{hearLead(piece, span, job, so_far, talk), {}};
    if (!result.heard)
        return result;
    // What was heard is placed already; only beside other notes it is placed anew.
    auto outcome = tryEdit(
        piece,
        span.start_s,
        [&](PieceEditor& e) { return e.adoptHearing(*result.heard, span); },
        piece.notes.empty() ? Resolve::Nothing : Resolve::WholePiece);
    if (!outcome)
        return result;
    Piece after = piece;
    apply(outcome->delta, after);
    if (recogniseDemonstrations(after, job))
        result.delta = difference(piece, after);
    return result;
}

} // namespace

void TakeCommands::hear(TimeRange span, Talk talk) {
    const auto so_far = [this](const std::vector<NearMiss>& notes) {
        QMetaObject::invokeMethod(this, [this, notes] { showSoFar(notes); });
    };
    const std::string path = m_document.piece().lead()->path;
    setHearing(Hearing::Running);
    m_jobs
        .enqueue(tr("Listening to %1").arg(QFileInfo(QString::fromStdString(path)).fileName()),
                 [span, talk, so_far, piece = m_document.whole()](const JobControl& job) {
                     return hearAndPlace(piece, span, talk, job, so_far);
                 })
        .then([this, span, path, revision = m_document.revision()](HeardEdit heard) {
            adoptHeard(std::move(heard), span, revision, path);
        });
}

void TakeCommands::setHearing(Hearing hearing) {
    if (hearing != m_hearing) {
        m_hearing = hearing;
        emit hearingChanged();
    }
}

void TakeCommands::showSoFar(const std::vector<NearMiss>& notes) {
    if (!m_jobs.running())
        return; // cancelled meanwhile
    // A later, surer hearing of the same stretch takes the place of the first guess.
    if (!notes.empty())
        std::erase_if(m_so_far, [&](const NearMiss& n) {
            return n.time.start_s > notes.front().time.start_s - 0.05 &&
                   n.time.start_s < notes.back().time.start_s + 0.05;
        });
    m_so_far.insert(m_so_far.end(), notes.begin(), notes.end());
    emit heardMore();
}

void TakeCommands::adoptHeard(HeardEdit result,
                              TimeRange span,
                              int revision,
                              const std::string& path) {
    if (!result.heard) {
        if (result.heard.error().kind != ErrorKind::Cancelled)
            emit warned(sentence(result.heard.error()));
        return;
    }
    const Piece& found = *result.heard;
    if (!m_document.piece().lead() || m_document.piece().lead()->path != path)
        return; // another piece was opened meanwhile
    const QString label = tr("hear the take");
    const bool adopted =
        result.delta && m_document.adopt(label, std::move(*result.delta), revision, Undoing::Asks);
    if (!adopted)
        m_document.edit( // the piece was edited while it was heard
            label,
            span.start_s,
            [&](PieceEditor& e) { return e.adoptHearing(found, span); },
            Resolve::WholePiece,
            {},
            Undoing::Asks);
    const auto& takes = m_document.piece().takes;
    const bool others = std::ranges::any_of(takes.begin() + 1, takes.end(), [](const Take& t) {
        return t.notes.empty() && !t.path.empty();
    });
    if (found.notes.empty())
        emit warned(talkedThroughout(found)
                        ? tr("Somebody talks all the way in this recording, and nothing is played. "
                             "Where that is wrong, drag over the playing and press E.")
                        : tr("No note was heard in this recording. Is it the right one, and "
                             "the right instrument?"));
    else if (!adopted || others)
        emit takesToHear();
    setHearing(Hearing::Heard); // what follows of it can be asked for now
}

namespace {

// A name that no profile has yet: what was kept before is not written over.
QString freeProfile(const QString& name) {
    QString file = TakeCommands::profilesFolder() + "/" + name + ".calibration.json";
    for (int k = 2; QFileInfo::exists(file); ++k)
        file =
            QString("%1/%2 %3.calibration.json").arg(TakeCommands::profilesFolder(), name).arg(k);
    return file;
}

} // namespace

QString TakeCommands::profilesFolder() {
    return QStandardPaths::writableLocation(QStandardPaths::AppDataLocation) + "/instruments";
}

void TakeCommands::calibrate(const QString& recording) {
    const Instrument instrument = m_document.piece().instrument;
    m_jobs
        .enqueue(tr("Calibrating by %1").arg(QFileInfo(recording).fileName()),
                 [recording, instrument](const JobControl& job) {
                     return wirenote::calibrate(recording.toStdString(), instrument, job);
                 })
        .then([this, recording, instrument](const Result<Calibration>& found) {
            if (!found) {
                if (found.error().kind != ErrorKind::Cancelled)
                    emit warned(sentence(found.error()));
                return;
            }
            QDir().mkpath(profilesFolder());
            const QString file = freeProfile(QFileInfo(recording).completeBaseName());
            const Status kept =
                writeFileAtomically(file.toStdString(), writeCalibrationJson(*found));
            if (!kept)
                emit warned(sentence(kept.error()));
            if (m_document.piece().instrument == instrument) // else another was opened meanwhile
                adoptCalibration(*found, tr("calibrate"));
            if (kept)
                emit said(tr("Calibrated, and kept as %1 for other pieces.")
                              .arg(QFileInfo(file).fileName()));
        });
}

void TakeCommands::useCalibration(const QString& file) {
    constexpr std::size_t kMostBytes = 1 << 20;
    const auto text = readWholeFile(file.toStdString(), kMostBytes);
    if (!text) {
        emit warned(sentence(text.error()));
        return;
    }
    const auto calibration = readCalibrationJson(*text);
    if (!calibration) {
        Error error = calibration.error();
        error.file = file.toStdString();
        emit warned(sentence(error));
        return;
    }
    adoptCalibration(*calibration, tr("use a calibration"));
}

void TakeCommands::adoptCalibration(const Calibration& calibration, const QString& label) {
    // The open strings may be tuned otherwise in this piece; the strings are the same.
    m_document.edit(
        label,
        0.0,
        [&](PieceEditor& e) { return e.setStringTraits(calibration.traits); },
        Resolve::WholePiece);
}

void TakeCommands::forgetCalibration() {
    m_document.edit(
        tr("forget the calibration"),
        0.0,
        [](PieceEditor& e) { return e.setStringTraits({}); },
        Resolve::WholePiece);
}

void TakeCommands::heardFirst() {
    const Take* lead = m_document.piece().lead();
    if (!lead)
        return;
    if (lead->length_s <= kHeardAtOnce_s)
        hear(TimeRange{0.0, std::max(lead->length_s, 1.0)});
    else
        emit warned(
            tr("This recording is %1 long. Drag over the part you want, then press E to hear "
               "its notes.")
                .arg(longTimeText(lead->length_s)));
}

// An edit after which every note is placed anew: of a long piece beside the window, with a way to
// stop it.
void TakeCommands::placeAnew(const QString& label,
                             const std::function<Status(PieceEditor&)>& change) {
    constexpr std::size_t kLongPiece = 2000; // notes
    if (m_document.piece().notes.size() < kLongPiece) {
        m_document.edit(label, 0.0, change, Resolve::WholePiece);
        return;
    }
    m_jobs
        .enqueue(tr("Placing the notes anew"),
                 [piece = m_document.whole(), change, reading = m_document.reading()](
                     const JobControl&) {
                     return tryEdit(piece, 0.0, change, Resolve::WholePiece, reading);
                 })
        .then([this, label, change, revision = m_document.revision()](Result<EditOutcome> done) {
            if (!done)
                emit warned(sentence(done.error()));
            else if (!m_document.adopt(label, std::move(done->delta), revision))
                m_document.edit(label, 0.0, change, Resolve::WholePiece); // edited meanwhile
        });
}

void TakeCommands::setInstrument(const Instrument& instrument) {
    if (instrument != m_document.piece().instrument)
        placeAnew(tr("set instrument"),
                  [instrument](PieceEditor& e) { return e.setInstrument(instrument); });
}

void TakeCommands::setFretting(const FrettingManner& manner) {
    placeAnew(tr("another school of the fretting hand"),
              [manner](PieceEditor& e) { return e.setFretting(manner); });
}

void TakeCommands::setPluckingSchool(PluckingSchool school) {
    m_document.edit(
        tr("another school of the plucking hand"),
        0.0,
        [school](PieceEditor& e) { return e.setPluckingSchool(school); },
        Resolve::Strokes);
}

void TakeCommands::setTool(PluckingTool tool) {
    m_document.edit(
        tr("set what it is played with"),
        0.0,
        [tool](PieceEditor& e) { return e.setTool(tool); },
        Resolve::Strokes);
}

} // namespace wirenote::app
