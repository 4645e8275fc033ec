#include "session/piece_guard.h"

#include "formats/journal.h"
#include "media/checksum.h"

#include <fcntl.h>
#include <sys/file.h>
#include <unistd.h>
#include <utility>

namespace wirenote {

namespace fs = std::filesystem;

PieceLock::~PieceLock() {
    if (m_file >= 0)
        ::close(m_file);
}

PieceLock::PieceLock(PieceLock&& other) noexcept : m_file(std::exchange(other.m_file, -1)) {}

PieceLock& PieceLock::operator=(PieceLock&& other) noexcept {
    std::swap(m_file, other.m_file);
    return *this;
}

std::optional<PieceLock> PieceLock::take(const fs::path& folder, const fs::path& piece_file) {
    std::error_code code;
    fs::create_directories(folder, code);
    const fs::path whole = fs::weakly_canonical(fs::absolute(piece_file, code), code);
    // By its place, not by the file: saving puts another file there.
    const fs::path name = folder / (std::to_string(crc32(whole.string())) + "-" +
                                    std::to_string(whole.string().size()) + ".lock");
    const int file = ::open(name.c_str(), O_RDWR | O_CREAT | O_CLOEXEC, 0600);
    if (file < 0)
        return PieceLock(); // where no lock can be kept, the state of the file still tells
    if (::flock(file, LOCK_EX | LOCK_NB) != 0) {
        ::close(file);
        return {};
    }
    return PieceLock(file);
}

std::string fileState(const fs::path& file) {
    const auto state = mediaFingerprint(file);
    return state ? *state : std::string();
}

} // namespace wirenote
