#include "app/document/job_runner.h"

#include <QMetaObject>
#include <chrono>

namespace wirenote::app {

JobRunner::JobRunner(QObject* parent) : QObject(parent) {
    m_worker.setMaxThreadCount(1);
}

JobRunner::~JobRunner() {
    cancel();
    m_worker.waitForDone();
}

void JobRunner::add(const QString& title, Erased work, bool replaces) {
    if (!replaces && m_running) {
        m_waiting.emplace_back(title, std::move(work));
        return;
    }
    if (replaces)
        m_waiting.clear();
    const bool was_running = m_running;
    cancel();
    if (was_running)
        emit finished();
    start(title, std::move(work));
}

// One that was cancelled may still need the thread for a while; this one begins when it is free.
void JobRunner::start(const QString& title, Erased work) {
    const int serial = ++m_serial;
    m_cancel = std::make_shared<std::atomic<bool>>(false);
    m_running = true;
    emit started(title);
    m_worker.start([this, cancel = m_cancel, serial, work = std::move(work)] {
        JobControl job;
        job.cancel = cancel.get();
        auto last = std::chrono::steady_clock::time_point{};
        job.progress = [this, serial, last](double done_s, double total_s) mutable {
            const auto now = std::chrono::steady_clock::now();
            if (now - last < std::chrono::milliseconds(40) && done_s < total_s)
                return;
            last = now;
            QMetaObject::invokeMethod(
                this,
                [this, serial, done_s, total_s] {
                    if (serial == m_serial)
                        emit progressed(done_s, total_s);
                },
                Qt::QueuedConnection);
        };
        std::function<void()> after;
        try {
            if (!*cancel)
                after = work(job);
        } catch (const std::exception& error) { // no memory, above all
            after = [this, what = QString::fromUtf8(error.what())] { emit failed(what); };
        }
        QMetaObject::invokeMethod(
            this,
            [this, cancel, serial, after = std::move(after)] { over(serial, after, *cancel); },
            Qt::QueuedConnection);
    });
}

void JobRunner::over(int serial, const std::function<void()>& after, bool cancelled) {
    if (serial != m_serial)
        return; // another one took its place
    m_running = false;
    emit finished();
    if (!cancelled && after)
        after();
    startNext();
}

void JobRunner::startNext() {
    if (m_running || m_waiting.empty())
        return;
    auto next = std::move(m_waiting.front());
    m_waiting.pop_front();
    start(next.first, std::move(next.second));
}

void JobRunner::cancel() {
    if (m_cancel)
        *m_cancel = true;
}

} // namespace wirenote::app
