#include "app/end_signals.h"

#include <QSocketNotifier>
#include <array>
#include <csignal>
#include <sys/socket.h>
#include <unistd.h>

namespace wirenote::app {
namespace {

std::array<int, 2> ends{-1, -1}; // written to by the handler, read by the notifier
constexpr std::array<int, 3> kSignals{SIGTERM, SIGINT, SIGHUP};

void onSignal(int) {
    const char byte = 1;
    [[maybe_unused]] const ssize_t written = ::write(ends[0], &byte, sizeof byte);
}

} // namespace

EndSignals::EndSignals(QObject* parent) : QObject(parent) {
    if (::socketpair(AF_UNIX, SOCK_STREAM | SOCK_CLOEXEC, 0, ends.data()) != 0)
        return; // the signals end the program at once, as without this; the journal is written
    m_notifier = new QSocketNotifier(ends[1], QSocketNotifier::Read, this);
    connect(m_notifier, &QSocketNotifier::activated, this, [this] {
        std::array<char, 16> bytes{};
        if (::read(ends[1], bytes.data(), bytes.size()) > 0)
            emit endWanted();
    });
    for (const int signal : kSignals)
        std::signal(signal, onSignal);
}

EndSignals::~EndSignals() {
    for (const int signal : kSignals)
        std::signal(signal, SIG_DFL);
    delete m_notifier;
    for (int& end : ends) {
        if (end >= 0)
            ::close(end);
        end = -1;
    }
}

} // namespace wirenote::app
