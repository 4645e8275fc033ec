#pragma once

#include "base/job.h"

#include <QObject>
#include <QString>
#include <QThreadPool>
#include <atomic>
#include <deque>
#include <functional>
#include <memory>
#include <type_traits>

namespace wirenote::app {

// Runs long pieces of work off the interface thread, one after the other:
//
//   jobs.enqueue(title, [copy](const JobControl& job) { return work(copy, job); })
//       .then([this](Found found) { … });
//
// The work runs on a worker and must hold all it needs; what it returns is given to `then` on the
// interface thread, unless it was cancelled or another one took its place meanwhile. Nobody on the
// interface thread waits for a worker, but for who destroys the runner.
class JobRunner : public QObject {
    Q_OBJECT
  public:
    explicit JobRunner(QObject* parent = nullptr);
    ~JobRunner() override;

    template <class Work> class [[nodiscard]] Job {
      public:
        Job(JobRunner& runner, QString title, Work work, bool replaces)
            : m_runner(runner), m_title(std::move(title)), m_work(std::move(work)),
              m_replaces(replaces) {}

        // Starts it. `after` takes what the work returns.
        template <class After> void then(After after) && {
            using Found = std::invoke_result_t<Work, const JobControl&>;
            m_runner.add(
                m_title,
                [work = std::move(m_work),
                 after = std::move(after)](const JobControl& job) -> std::function<void()> {
                    auto found = std::make_shared<Found>(work(job));
                    return [after, found] { after(std::move(*found)); };
                },
                m_replaces);
        }

      private:
        JobRunner& m_runner;
        QString m_title;
        Work m_work;
        bool m_replaces;
    };

    // In the place of what runs and waits.
    template <class Work> Job<Work> run(const QString& title, Work work) {
        return {*this, title, std::move(work), true};
    }
    // After what runs and waits.
    template <class Work> Job<Work> enqueue(const QString& title, Work work) {
        return {*this, title, std::move(work), false};
    }
    void cancel(); // the one that runs; what waits goes on
    bool running() const { return m_running; }

  signals:
    void started(const QString& title);
    void progressed(double done_s, double total_s); // at most 25 times a second
    void finished();                                // done or cancelled
    void failed(const QString& what);               // it could not go on; nothing was changed

  private:
    using Erased = std::function<std::function<void()>(const JobControl&)>;
    void add(const QString& title, Erased work, bool replaces);
    void start(const QString& title, Erased work);
    void over(int serial, const std::function<void()>& after, bool cancelled);
    void startNext();

    QThreadPool m_worker; // one thread
    std::shared_ptr<std::atomic<bool>> m_cancel;
    bool m_running = false;
    int m_serial = 0;
    std::deque<std::pair<QString, Erased>> m_waiting;
};

} // namespace wirenote::app
