#pragma once

#include <QObject>

class QSocketNotifier;

namespace wirenote::app {

// Tells on the interface thread that the system wants the program to end (SIGTERM, SIGINT, SIGHUP:
// signal-safety(7) allows a handler little more than a write). One of it in a program.
class EndSignals : public QObject {
    Q_OBJECT
  public:
    explicit EndSignals(QObject* parent = nullptr);
    ~EndSignals() override;

  signals:
    void endWanted();

  private:
    QSocketNotifier* m_notifier = nullptr;
};

} // namespace wirenote::app
