#include "app/document/opening.h"

#include "app/banner.h"
#include "app/commands/take_commands.h"
#include "app/document/document.h"
#include "app/playing/transport.h"
#include "app/text/playing_wording.h"
#include "app/text/wording.h"
#include "session/better_copy.h"
#include "session/demo.h"
#include "session/files.h"
#include "session/take_media.h"

#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <QMessageBox>
#include <QStandardPaths>

namespace wirenote::app {

namespace {

const QString kRecordingEndings = QStringLiteral(
    "*.wav *.flac *.mp3 *.m4a *.aac *.ogg *.oga *.opus *.mp4 *.mov *.m4v *.mkv *.webm *.avi *.aiff "
    "*.aif *.w64");

QString recordingFilter() {
    return QObject::tr("Recordings (%1);;All files (*)").arg(kRecordingEndings);
}

} // namespace

Opening::Opening(Document& document,
                 TakeCommands& takes,
                 Transport& transport,
                 JobRunner& jobs,
                 Banner& banner,
                 QWidget* window)
    : QObject(window), m_document(document), m_takes(takes), m_transport(transport), m_jobs(jobs),
      m_banner(banner), m_window(window) {}

QString Opening::demoFolder() {
    return QStandardPaths::writableLocation(QStandardPaths::AppDataLocation) + "/demo-2";
}

void Opening::open(const QString& path) {
    open(path, {});
}

void Opening::open(const QString& path, const QStringList& more) {
    OpenOptions options;
    if (m_document.isOpen()) // the same player usually brings the same instrument
        options.instrument = m_document.piece().instrument;
    m_jobs
        .run(tr("Opening %1").arg(QFileInfo(path).fileName()),
             [path, options](const JobControl& job) {
                 return openAny(path.toStdString(), options, job);
             })
        .then([this, more](Result<OpenedPiece> opened) {
            if (!opened) {
                if (opened.error().kind != ErrorKind::Cancelled)
                    m_banner.say(sentence(opened.error()));
                return;
            }
            const QString caution = QString::fromStdString(opened->caution);
            const bool unheard = opened->unheard;
            m_document.open(std::move(*opened));
            if (!caution.isEmpty())
                m_banner.say(caution);
            if (unheard)
                m_takes.heardFirst();
            m_takes.add(more);
        });
}

namespace {

// Recordings of a folder by their endings, in the order of their names; anything else as it is.
QStringList withFoldersOpened(const QStringList& paths) {
    const QStringList endings = kRecordingEndings.split(' ');
    QStringList files;
    for (const QString& path : paths) {
        if (!QFileInfo(path).isDir()) {
            files << path;
            continue;
        }
        const auto inside =
            QDir(path).entryInfoList(endings, QDir::Files | QDir::Readable, QDir::Name);
        for (qsizetype i = 0; i < std::min<qsizetype>(inside.size(), kMaxTakes); ++i)
            files << inside[i].absoluteFilePath();
    }
    return files;
}

} // namespace

void Opening::openMany(const QStringList& paths) {
    const QStringList files = withFoldersOpened(paths);
    if (files.isEmpty()) {
        m_banner.say(tr("There is no recording in it. Choose a folder that holds recordings."));
        return;
    }
    const bool all_recordings = std::all_of(files.begin(), files.end(), [](const QString& file) {
        return isRecording(file.toStdString());
    });
    if (m_document.isOpen() && all_recordings)
        m_takes.add(files);
    else
        emit wanted(files.front(), [this, files] { open(files.front(), files.mid(1)); });
}

void Opening::askAndOpen() {
    const QString path =
        QFileDialog::getOpenFileName(m_window,
                                     tr("Open a recording or a piece"),
                                     {},
                                     tr("Recordings and pieces (%1 *.wirenote *.json *.mid *.midi "
                                        "*.musicxml *.xml *.mxl *.tab *.txt);;All files (*)")
                                         .arg(kRecordingEndings));
    if (!path.isEmpty())
        emit wanted(path, [this, path] { open(path); });
}

void Opening::openDemo() {
    const QString folder = demoFolder();
    const QString piece = folder + "/heron-at-low-water.wirenote";
    if (QFileInfo::exists(piece)) {
        open(piece);
        return;
    }
    m_jobs
        .run(tr("Making the demo take (simulated)"),
             [folder](const JobControl& job) { return makeDemo(folder.toStdString(), job); })
        .then([this, piece](const Result<DemoFiles>& made) {
            if (made)
                open(piece);
            else
                m_banner.say(sentence(made.error()));
        });
}

void Opening::askAndAdd() {
    const QStringList paths = QFileDialog::getOpenFileNames(
        m_window, tr("Add takes of the same piece"), {}, recordingFilter());
    if (!paths.isEmpty())
        m_takes.add(paths);
}

void Opening::askForRecording() {
    const QString path = QFileDialog::getOpenFileName(
        m_window, tr("Where is the recording?"), {}, recordingFilter());
    if (!path.isEmpty())
        useRecording(path);
}

// What a chosen file is to a take: its recording, moved; another copy of the performance; neither.
struct ChosenRecording {
    Result<FoundRecording> found;
    std::optional<Result<BetterCopy>> copy; // of another recording
};

void Opening::useRecording(const QString& path) {
    const std::size_t take = m_transport.take();
    if (take >= m_document.piece().takes.size())
        return;
    m_jobs
        .enqueue(
            tr("Looking at %1").arg(QFileInfo(path).fileName()),
            [piece = m_document.piece(), take, path](const JobControl& job) {
                ChosenRecording chosen{findRecording(piece.takes[take], path.toStdString()), {}};
                if (chosen.found && !chosen.found->same)
                    chosen.copy = studyCopy(piece, take, path.toStdString(), job);
                return chosen;
            })
        .then([this, take, was = m_document.piece().takes[take].path](ChosenRecording chosen) {
            if (!chosen.found)
                m_banner.say(sentence(chosen.found.error()));
            else if (take < m_document.piece().takes.size() &&
                     m_document.piece().takes[take].path == was)
                adopt(take, std::move(chosen));
        });
}

void Opening::adopt(std::size_t take, ChosenRecording chosen) {
    if (!chosen.copy) {
        useFound(take, std::move(*chosen.found));
    } else if (*chosen.copy) {
        useCopy(take, std::move(**chosen.copy));
    } else if (const Error& problem = chosen.copy->error(); problem.kind != ErrorKind::Cancelled) {
        const QString name = QFileInfo(QString::fromStdString(chosen.found->take.path)).fileName();
        if (m_document.media(take)) // nothing is missing: what there is stays
            m_banner.say(sentence(problem));
        else if (QMessageBox::question(
                     m_window,
                     tr("Another recording"),
                     tr("“%1” is another recording than the one this tab was made from. "
                        "Use it all the same?")
                         .arg(name)) == QMessageBox::Yes)
            useFound(take, std::move(*chosen.found));
    }
}

void Opening::useFound(std::size_t take, FoundRecording found) {
    m_document.addMedia(
        QString::fromStdString(found.take.path), found.take.sound_stream, std::move(found.media));
    m_takes.change(take, tr("find the recording"), [&](Take& t) { t = found.take; });
}

void Opening::useCopy(std::size_t take, BetterCopy copy) {
    const QString path = QString::fromStdString(copy.take.path);
    m_document.addMedia(path, copy.take.sound_stream, std::move(copy.media));
    const auto before = static_cast<int>(m_document.piece().notes.size());
    const bool used = m_document.edit(
        tr("use another copy of the recording"),
        0.0,
        [&](PieceEditor& e) { return e.useCopy(take, copy.take, copy.clock, copy.louder_db); },
        Resolve::Nothing);
    if (!used)
        return;
    const int gone = before - static_cast<int>(m_document.piece().notes.size());
    m_banner.say(copyText(QFileInfo(path).fileName(), copy.clock, gone));
}

} // namespace wirenote::app
