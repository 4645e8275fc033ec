#include "base/atomic_file.h"

#include <array>
#include <atomic>
#include <cerrno>
#include <chrono>
#include <csignal>
#include <cstdlib>
#include <cstring>
#include <fcntl.h>
#include <fstream>
#include <optional>
#include <sys/file.h>
#include <sys/stat.h>
#include <unistd.h>

namespace wirenote {
namespace {

namespace fs = std::filesystem;

// Short, so that a name of 255 bytes can still be written beside itself.
constexpr std::string_view kPrefix = ".wirenote-";
constexpr std::string_view kEnding = ".part";

Error writeFailed(const fs::path& path, int error_number) {
    return badInput(path.string(),
                    std::string("cannot be written (") + std::strerror(error_number) +
                        "); what was there is unchanged. Choose another place or make room, then "
                        "try again");
}

Error refused(const fs::path& path, const std::string& why) {
    return badInput(path.string(), why + "; nothing was written");
}

struct Target {
    fs::path place;                 // with symbolic links followed
    bool stream = false;            // a pipe or device: bytes go into it
    std::optional<struct stat> old; // of the regular file that is there
};

// Follows symbolic links, also to a file that is not there yet.
Result<fs::path> followed(const fs::path& path) {
    constexpr int kMostLinks = 40;
    fs::path at = path;
    std::error_code code;
    for (int i = 0; i < kMostLinks; ++i) {
        if (!fs::is_symlink(fs::symlink_status(at, code)))
            return at;
        const fs::path to = fs::read_symlink(at, code);
        if (code)
            return writeFailed(path, code.value());
        at = to.is_absolute() ? to : at.parent_path() / to;
    }
    return refused(path, "is a chain of links that leads nowhere; choose another name");
}

Status checkOld(const fs::path& path, const struct stat& old) {
    if (old.st_nlink > 1)
        return refused(path,
                       "has " + std::to_string(old.st_nlink) +
                           " names (hard links), and replacing it would part them; choose another "
                           "name");
    if ((old.st_mode & 0222) == 0 || ::access(path.c_str(), W_OK) != 0)
        return refused(path, "is read-only; choose another name, or allow writing to it first");
    if (::geteuid() != 0 && old.st_uid != ::geteuid())
        return refused(path, "belongs to another user; choose another name");
    return {};
}

fs::path folderOf(const fs::path& path) {
    const fs::path folder = path.parent_path();
    return folder.empty() ? fs::path(".") : folder;
}

Status checkFolder(const fs::path& path) {
    const fs::path folder = folderOf(path);
    struct stat found {};
    if (::stat(folder.c_str(), &found) != 0)
        return refused(path,
                       "cannot be written: there is no folder \"" + folder.string() +
                           "\"; make it first or choose another");
    if (!S_ISDIR(found.st_mode))
        return refused(
            path, "cannot be written: \"" + folder.string() + "\" is no folder; choose another");
    if (::access(folder.c_str(), W_OK | X_OK) != 0)
        return refused(path,
                       "cannot be written: the folder \"" + folder.string() +
                           "\" may not be written to; choose another");
    return {};
}

Result<Target> targetOf(const fs::path& path) {
    if (path.empty() || path.filename().empty())
        return refused(path, "is no name for a file; give one");
    Target target;
    struct stat found {};
    if (::stat(path.c_str(), &found) == 0) {
        if (S_ISDIR(found.st_mode))
            return refused(path, "is a folder; choose a name for the file in it");
        if (S_ISFIFO(found.st_mode) || S_ISCHR(found.st_mode)) {
            target.place = path;
            target.stream = true;
            return target;
        }
        if (!S_ISREG(found.st_mode))
            return refused(path, "is not a file that can be written to; choose another name");
        target.old = found;
        if (const Status free = checkOld(path, found); !free)
            return free.error();
    } else if (errno != ENOENT) {
        return writeFailed(path, errno);
    }
    auto place = followed(path);
    if (!place)
        return place.error();
    target.place = *place;
    if (const Status folder = checkFolder(target.place); !folder)
        return badInput(path.string(), folder.error().message);
    return target;
}

// A new file beside the place, locked while this program lives.
int openBeside(const fs::path& place, std::string& name) {
    static std::atomic<unsigned> serial{0};
    constexpr int kTries = 1000;
    for (int i = 0; i < kTries; ++i) {
        name = (folderOf(place) / (std::string(kPrefix) + std::to_string(::getpid()) + "-" +
                                   std::to_string(serial++) + std::string(kEnding)))
                   .string();
        const int file = ::open(name.c_str(), O_WRONLY | O_CREAT | O_EXCL | O_CLOEXEC, 0666);
        if (file >= 0) {
            ::flock(file, LOCK_EX | LOCK_NB);
            return file;
        }
        if (errno != EEXIST)
            return -1;
    }
    return -1;
}

// The old file's owner, group and mode; false with errno set.
bool keepRights(int file, const struct stat& old) {
    struct stat now {};
    if (::fstat(file, &now) != 0)
        return false;
    if ((now.st_uid != old.st_uid || now.st_gid != old.st_gid) &&
        ::fchown(file, old.st_uid, old.st_gid) != 0)
        return false;
    return ::fchmod(file, old.st_mode & 07777) == 0;
}

// Named like what openBeside makes, by a program that is gone, or long ago.
bool isLeftover(const fs::path& path) {
    constexpr auto kYoung = std::chrono::minutes(1); // its maker may be about to lock it
    const std::string name = path.filename().string();
    if (!name.starts_with(kPrefix) || !name.ends_with(kEnding))
        return false;
    const int maker = std::atoi(name.c_str() + kPrefix.size());
    if (maker > 0 && ::kill(maker, 0) != 0 && errno == ESRCH)
        return true;
    std::error_code code;
    const auto written = fs::last_write_time(path, code);
    return !code && fs::file_time_type::clock::now() - written > kYoung;
}

} // namespace

bool writeFully(int file, std::string_view bytes) {
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

bool syncFolder(const fs::path& folder) {
    const int opened =
        ::open(folder.empty() ? "." : folder.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC);
    if (opened < 0)
        return false;
    const bool synced = ::fsync(opened) == 0 || errno == EINVAL || errno == ENOTSUP;
    const int error_number = errno;
    ::close(opened);
    errno = error_number;
    return synced;
}

bool sameFile(const fs::path& a, const fs::path& b) {
    if (a.empty() || b.empty())
        return false;
    struct stat x {};
    struct stat y {};
    const bool there_x = ::stat(a.c_str(), &x) == 0;
    const bool there_y = ::stat(b.c_str(), &y) == 0;
    if ((there_x && !S_ISREG(x.st_mode)) || (there_y && !S_ISREG(y.st_mode)))
        return false;
    if (there_x && there_y)
        return x.st_dev == y.st_dev && x.st_ino == y.st_ino;
    if (there_x != there_y)
        return false;
    std::error_code code;
    const fs::path whole_a = fs::weakly_canonical(fs::absolute(a, code), code);
    const fs::path whole_b = fs::weakly_canonical(fs::absolute(b, code), code);
    return !code && whole_a == whole_b;
}

Status checkTarget(const fs::path& path) {
    const auto target = targetOf(path);
    return target ? Status() : Status(target.error());
}

Status checkOutputs(const std::vector<fs::path>& inputs, const std::vector<fs::path>& outputs) {
    for (std::size_t i = 0; i < outputs.size(); ++i) {
        if (outputs[i].empty())
            continue;
        for (const fs::path& input : inputs)
            if (sameFile(outputs[i], input))
                return badCall(outputs[i].string() +
                               ": is read from and would be written over; give the output another "
                               "name. Nothing was written");
        for (std::size_t j = 0; j < i; ++j)
            if (sameFile(outputs[i], outputs[j]))
                return badCall(outputs[i].string() +
                               ": is asked for twice as an output; give each its own name. Nothing "
                               "was written");
        if (const Status usable = checkTarget(outputs[i]); !usable)
            return usable;
    }
    return {};
}

struct OutputFiles::Ready {
    Target target;
    fs::path asked;
    std::string temporary; // empty for a stream, and once it is in place
    std::string bytes;     // of a stream
    int file = -1;         // locked until it is in place

    Ready() = default;
    Ready(const Ready&) = delete;
    Ready& operator=(const Ready&) = delete;
    ~Ready() {
        if (!temporary.empty())
            ::unlink(temporary.c_str());
        if (file >= 0)
            ::close(file);
    }

    Status pour() const {
        const int out = ::open(target.place.c_str(), O_WRONLY | O_NONBLOCK | O_CLOEXEC);
        if (out < 0)
            return errno == ENXIO ? Status(refused(asked, "is a pipe that nobody reads from"))
                                  : Status(writeFailed(asked, errno));
        ::fcntl(out, F_SETFL, ::fcntl(out, F_GETFL) & ~O_NONBLOCK);
        const bool ok = writeFully(out, bytes);
        const int error_number = errno;
        ::close(out);
        return ok ? Status() : Status(writeFailed(asked, error_number));
    }

    Status rename() {
        if (::rename(temporary.c_str(), target.place.c_str()) != 0)
            return writeFailed(asked, errno);
        temporary.clear();
        if (!syncFolder(folderOf(target.place)))
            return badInput(asked.string(),
                            std::string("was written, but the disk did not confirm it (") +
                                std::strerror(errno) + "); write it once more elsewhere");
        return {};
    }
};

OutputFiles::OutputFiles() = default;
OutputFiles::~OutputFiles() = default;

Status OutputFiles::add(const fs::path& path, std::string_view bytes) {
    auto target = targetOf(path);
    if (!target)
        return target.error();
    auto ready = std::make_unique<Ready>();
    ready->target = std::move(*target);
    ready->asked = path;
    if (ready->target.stream) {
        ready->bytes = bytes;
        m_ready.push_back(std::move(ready));
        return {};
    }
    ready->file = openBeside(ready->target.place, ready->temporary);
    if (ready->file < 0) {
        ready->temporary.clear();
        return writeFailed(path, errno);
    }
    const bool written = writeFully(ready->file, bytes) &&
                         (!ready->target.old || keepRights(ready->file, *ready->target.old)) &&
                         ::fsync(ready->file) == 0;
    if (!written)
        return writeFailed(path, errno);
    m_ready.push_back(std::move(ready));
    return {};
}

Status OutputFiles::putInPlace() {
    std::string done;
    for (const auto& ready : m_ready) {
        const Status put = ready->target.stream ? ready->pour() : ready->rename();
        if (!put) {
            Error error = put.error();
            if (!done.empty())
                error.message += " (written before it: " + done + ")";
            m_ready.clear();
            return error;
        }
        done += (done.empty() ? "" : ", ") + ready->asked.string();
        if (!ready->target.stream)
            sweepLeftovers(folderOf(ready->target.place));
    }
    m_ready.clear();
    return {};
}

Status writeFileAtomically(const fs::path& path, std::string_view bytes) {
    OutputFiles one;
    if (const Status ready = one.add(path, bytes); !ready)
        return ready;
    return one.putInPlace();
}

int sweepLeftovers(const fs::path& folder) {
    int swept = 0;
    std::error_code code;
    for (fs::directory_iterator at(folderOf(folder / "x"), code), end; !code && at != end;
         at.increment(code)) {
        const fs::path path = at->path();
        if (!fs::is_regular_file(at->symlink_status()) || !isLeftover(path))
            continue;
        const int file = ::open(path.c_str(), O_RDONLY | O_NOFOLLOW | O_CLOEXEC);
        if (file < 0)
            continue;
        if (::flock(file, LOCK_EX | LOCK_NB) == 0) // whoever made it is gone
            swept += ::unlink(path.c_str()) == 0 ? 1 : 0;
        ::close(file);
    }
    return swept;
}

Result<std::string> readWholeFile(const fs::path& path, std::size_t max_bytes) {
    std::error_code code;
    if (!fs::exists(path, code))
        return badInput(path.string(), "there is no such file; check the name");
    if (!fs::is_regular_file(path, code))
        return badInput(path.string(), "is not a file; choose a file");
    std::ifstream in(path, std::ios::binary);
    if (!in)
        return badInput(path.string(), "cannot be read; check its permissions");
    std::string bytes;
    std::array<char, 65536> block{};
    while (in.read(block.data(), block.size()) || in.gcount() > 0) {
        bytes.append(block.data(), static_cast<std::size_t>(in.gcount()));
        if (bytes.size() > max_bytes)
            return badInput(path.string(),
                            "is larger than " + std::to_string(max_bytes / 1000000) +
                                " MB, which no file of this kind should be; choose another");
    }
    if (in.bad())
        return badInput(path.string(), "cannot be read to its end; check the disk, or copy it");
    return bytes;
}

} // namespace wirenote
