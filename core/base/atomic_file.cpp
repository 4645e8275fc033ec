#include "base/atomic_file.h"

#include <cerrno>
#include <cstring>
#include <fcntl.h>
#include <fstream>
#include <sys/stat.h>
#include <unistd.h>

namespace wirenote {
namespace {

Error writeFailed(const std::filesystem::path& path, int error_number) {
    return badInput(
        path.string(),
        std::string("cannot be written (") + std::strerror(error_number) +
            "); nothing was changed. Choose another place or make room, then try again");
}

bool writeAll(int file, std::string_view bytes) {
    while (!bytes.empty()) {
        const ssize_t written = ::write(file, bytes.data(), bytes.size());
        if (written < 0 && errno == EINTR)
            continue;
        if (written < 0)
            return false;
        bytes.remove_prefix(static_cast<std::size_t>(written));
    }
    return true;
}

} // namespace

Status writeFileAtomically(const std::filesystem::path& path, std::string_view bytes) {
    std::string temporary = path.string() + ".partXXXXXX";
    const int file = ::mkstemp(temporary.data());
    if (file < 0)
        return writeFailed(path, errno);
    struct stat old {};
    const mode_t mode = ::stat(path.c_str(), &old) == 0 ? old.st_mode & 0777 : 0644;
    bool ok = writeAll(file, bytes) && ::fchmod(file, mode) == 0 && ::fsync(file) == 0;
    int error_number = ok ? 0 : errno;
    if (::close(file) != 0 && ok) {
        ok = false;
        error_number = errno;
    }
    if (ok && ::rename(temporary.c_str(), path.c_str()) != 0) {
        ok = false;
        error_number = errno;
    }
    if (ok)
        return {};
    ::unlink(temporary.c_str());
    return writeFailed(path, error_number);
}

Result<std::string> readWholeFile(const std::filesystem::path& path, std::size_t max_bytes) {
    std::error_code code;
    if (!std::filesystem::exists(path, code))
        return badInput(path.string(), "there is no such file; check the name");
    if (!std::filesystem::is_regular_file(path, code))
        return badInput(path.string(), "is not a file; choose a file");
    std::ifstream in(path, std::ios::binary);
    if (!in)
        return badInput(path.string(), "cannot be read; check its permissions");
    std::string bytes;
    char block[65536];
    while (in.read(block, sizeof block) || in.gcount() > 0) {
        bytes.append(block, static_cast<std::size_t>(in.gcount()));
        if (bytes.size() > max_bytes)
            return badInput(path.string(),
                            "is larger than " + std::to_string(max_bytes / 1000000) +
                                " MB, which no file of this kind should be");
    }
    return bytes;
}

} // namespace wirenote
