#include "app/document/job_runner.h"

#include <QMetaObject>
#include <chrono>

namespace wirenote::app {

JobRunner::JobRunner(QObject* parent) : QObject(parent) {}

JobRunner::~JobRunner() {
    join();
}

void JobRunner::join() {
    if (m_cancel)
        *m_cancel = true;
    if (m_thread.joinable())
        m_thread.join();
}

void JobRunner::run(const QString& title, Work work) {
    const bool was_running = m_running;
    join();
    m_waiting.clear();
    ++m_serial;
    if (was_running)
        emit finished();
    m_cancel = std::make_shared<std::atomic<bool>>(false);
    m_running = true;
    emit started(title);
    m_thread = std::thread([this, cancel = m_cancel, serial = m_serial, work = std::move(work)] {
        JobControl job;
        job.cancel = cancel.get();
        auto last = std::chrono::steady_clock::time_point{};
        job.progress = [this, last](double done_s, double total_s) mutable {
            const auto now = std::chrono::steady_clock::now();
            if (now - last < std::chrono::milliseconds(40) && done_s < total_s)
                return;
            last = now;
            QMetaObject::invokeMethod(
                this,
                [this, done_s, total_s] { emit progressed(done_s, total_s); },
                Qt::QueuedConnection);
        };
        std::function<void()> after;
        try {
            after = work(job);
        } catch (const std::exception& error) { // no memory, above all
            after = [this, what = QString::fromUtf8(error.what())] { emit failed(what); };
        }
        QMetaObject::invokeMethod(
            this,
            [this, cancel, serial, after = std::move(after)] {
                if (serial != m_serial)
                    return;
                m_running = false;
                emit finished();
                if (!*cancel && after)
                    after();
                startNext();
            },
            Qt::QueuedConnection);
    });
}

void JobRunner::enqueue(const QString& title, Work work) {
    m_waiting.emplace_back(title, std::move(work));
    if (!m_running)
        startNext();
}

void JobRunner::startNext() {
    if (m_running || m_waiting.empty())
        return;
    auto next = std::move(m_waiting.front());
    m_waiting.pop_front();
    auto rest = std::move(m_waiting);
    run(next.first, std::move(next.second));
    m_waiting = std::move(rest);
}

void JobRunner::cancel() {
    if (m_cancel)
        *m_cancel = true;
}

} // namespace wirenote::app
