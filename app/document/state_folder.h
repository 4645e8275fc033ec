#pragma once

#include <QDir>
#include <filesystem>

namespace wirenote::app {

// Where what outlives a crash is kept: the user's state folder (XDG Base Directory Specification
// 0.8, $XDG_STATE_HOME).
inline std::filesystem::path stateFolder() {
    const QString asked = qEnvironmentVariable("XDG_STATE_HOME");
    const QString state = QDir::isAbsolutePath(asked) ? asked : QDir::homePath() + "/.local/state";
    return (state + "/wirenote").toStdString();
}

} // namespace wirenote::app
