#include "support/faults.h"

#include <atomic>
#include <cerrno>
#include <cstdarg>
#include <fcntl.h>
#include <filesystem>
#include <mutex>
#include <unistd.h>

namespace wirenote::test {
namespace {

std::atomic<int> left{-1};
std::atomic<int> counted{0};
std::atomic<int> with{EIO};
std::atomic<bool> remembering{false};
std::mutex mutex;
std::vector<Written> written;

bool fails() {
    const int n = counted++;
    if (left < 0 || n != left)
        return false;
    errno = with;
    return true;
}

std::string pathOf(int file) {
    std::error_code code;
    return std::filesystem::read_symlink("/proc/self/fd/" + std::to_string(file), code).string();
}

void remember(Written what) {
    if (!remembering)
        return;
    const std::lock_guard lock(mutex);
    written.push_back(std::move(what));
}

} // namespace

void failCall(int n, int error_number) {
    counted = 0;
    with = error_number;
    left = n;
}

int callsSoFar() {
    return counted;
}

void rememberWrites(bool on) {
    const std::lock_guard lock(mutex);
    written.clear();
    remembering = on;
}

const std::vector<Written>& remembered() {
    return written;
}

} // namespace wirenote::test

using wirenote::test::Call;

extern "C" {
ssize_t __real_write(int file, const void* bytes, size_t size);
int __real_fsync(int file);
int __real_fdatasync(int file);
int __real_rename(const char* from, const char* to);

ssize_t __wrap_write(int file, const void* bytes, size_t size) {
    if (wirenote::test::fails())
        return -1;
    const ssize_t done = __real_write(file, bytes, size);
    if (done > 0)
        wirenote::test::remember({Call::Write,
                                  wirenote::test::pathOf(file),
                                  {static_cast<const char*>(bytes), static_cast<size_t>(done)},
                                  {}});
    return done;
}
int __wrap_fsync(int file) {
    if (wirenote::test::fails())
        return -1;
    wirenote::test::remember({Call::Fsync, wirenote::test::pathOf(file), {}, {}});
    return __real_fsync(file);
}
int __wrap_fdatasync(int file) {
    if (wirenote::test::fails())
        return -1;
    wirenote::test::remember({Call::Fdatasync, wirenote::test::pathOf(file), {}, {}});
    return __real_fdatasync(file);
}
int __wrap_rename(const char* from, const char* to) {
    if (wirenote::test::fails())
        return -1;
    wirenote::test::remember({Call::Rename, from, {}, to});
    return __real_rename(from, to);
}
}
