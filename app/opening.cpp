#include "app/opening.h"

#include "app/banner.h"
#include "app/document.h"
#include "app/wording.h"
#include "session/demo.h"
#include "session/files.h"

#include <QFileDialog>
#include <QFileInfo>
#include <QMessageBox>
#include <QStandardPaths>
#include <optional>

namespace wirenote::app {

Opening::Opening(Document& document, JobRunner& jobs, Banner& banner, QWidget* window)
    : QObject(window), m_document(document), m_jobs(jobs), m_banner(banner), m_window(window) {}

QString Opening::demoFolder() {
    return QStandardPaths::writableLocation(QStandardPaths::AppDataLocation) + "/demo";
}

void Opening::open(const QString& path) {
    OpenOptions options;
    if (m_document.isOpen()) // the same player usually brings the same instrument
        options.instrument = m_document.piece().instrument;
    auto result = std::make_shared<std::optional<Result<OpenedPiece>>>();
    m_jobs.run(tr("Listening to %1").arg(QFileInfo(path).fileName()),
               [this, path, options, result](const JobControl& job) -> std::function<void()> {
                   result->emplace(openAny(path.toStdString(), options, job));
                   return [this, result] {
                       if (!**result) {
                           if ((*result)->error().kind != ErrorKind::Cancelled)
                               m_banner.say(sentence((*result)->error()));
                           return;
                       }
                       const QString caution = QString::fromStdString((**result)->caution);
                       m_document.open(std::move(***result));
                       if (!caution.isEmpty())
                           m_banner.say(caution);
                   };
               });
}

void Opening::askAndOpen() {
    const QString path =
        QFileDialog::getOpenFileName(m_window,
                                     tr("Open a recording or a piece"),
                                     {},
                                     tr("Recordings and pieces (*.wav *.flac *.wirenote *.json "
                                        "*.mid *.midi *.musicxml *.xml);;All files (*)"));
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
    auto result = std::make_shared<std::optional<Result<DemoFiles>>>();
    m_jobs.run(tr("Making the demo take (simulated)"),
               [this, folder, piece, result](const JobControl& job) -> std::function<void()> {
                   result->emplace(makeDemo(folder.toStdString(), job));
                   return [this, piece, result] {
                       if (**result)
                           open(piece);
                       else
                           m_banner.say(sentence((*result)->error()));
                   };
               });
}

void Opening::hearAnew() {
    if (!m_document.isOpen() || !m_document.piece().take || m_document.piece().take->path.empty()) {
        m_banner.say(tr("This tab has no recording to hear anew."));
        return;
    }
    const QString path = QString::fromStdString(m_document.piece().take->path);
    emit wanted(path, [this, path] { open(path); });
}

void Opening::askForRecording() {
    const QString path =
        QFileDialog::getOpenFileName(m_window,
                                     tr("Where is the recording?"),
                                     {},
                                     tr("Recordings (*.wav *.flac);;All files (*)"));
    if (!path.isEmpty())
        useRecording(path);
}

void Opening::useRecording(const QString& path) {
    Status moved = m_document.relocate(path, false);
    if (!moved && moved.error().kind == ErrorKind::BadInput && QFileInfo(path).isReadable()) {
        const auto answer =
            QMessageBox::question(m_window,
                                  tr("Another recording"),
                                  tr("%1 Use it all the same?").arg(sentence(moved.error())));
        if (answer != QMessageBox::Yes)
            return;
        moved = m_document.relocate(path, true);
    }
    if (!moved) {
        m_banner.say(sentence(moved.error()));
        return;
    }
    auto take = std::make_shared<std::optional<Result<TakeSound>>>();
    m_jobs.run(tr("Reading %1").arg(QFileInfo(path).fileName()),
               [this, path, take](const JobControl& job) -> std::function<void()> {
                   take->emplace(loadTake(path.toStdString(), job));
                   return [this, take] {
                       if (**take)
                           m_document.setTake(std::move(***take));
                       else
                           m_banner.say(sentence((*take)->error()));
                   };
               });
}

} // namespace wirenote::app
