#pragma once

#include "base/job.h"

#include <QObject>
#include <QString>
#include <atomic>
#include <deque>
#include <functional>
#include <memory>
#include <thread>

namespace wirenote::app {

// Runs one long piece of work off the interface thread. A new job cancels the one that runs.
class JobRunner : public QObject {
    Q_OBJECT
  public:
    // Runs on the worker; what it returns runs on the interface thread afterwards, unless cancelled
    // meanwhile.
    using Work = std::function<std::function<void()>(const JobControl&)>;

    explicit JobRunner(QObject* parent = nullptr);
    ~JobRunner() override;
    void run(const QString& title, Work work);
    void enqueue(const QString& title, Work work); // after what runs and waits already
    void cancel();                                 // the one that runs; what waits goes on
    bool running() const { return m_running; }

  signals:
    void started(const QString& title);
    void progressed(double done_s, double total_s); // at most 25 times a second
    void finished();                                // done or cancelled
    void failed(const QString& what);               // it could not go on; nothing was changed

  private:
    void join();
    void startNext();

    std::thread m_thread;
    std::shared_ptr<std::atomic<bool>> m_cancel;
    bool m_running = false;
    int m_serial = 0;
    std::deque<std::pair<QString, Work>> m_waiting;
};

} // namespace wirenote::app
