#include "session/journal_file.h"

#include "base/atomic_file.h"

#include <algorithm>
#include <atomic>
#include <cerrno>
#include <chrono>
#include <cstring>
#include <fcntl.h>
#include <sys/file.h>
#include <unistd.h>
#include <utility>

namespace wirenote {
namespace {

namespace fs = std::filesystem;

constexpr std::string_view kEnding = ".journal";
constexpr auto kSyncAtLatest = std::chrono::milliseconds(200);
constexpr std::size_t kLargestJournal = 1'000'000'000;
constexpr std::size_t kLongSteps = 64'000'000; // bytes of steps after which it begins anew

fs::path freshPath(const fs::path& folder) {
    static std::atomic<unsigned> serial{0};
    return folder / (std::to_string(::getpid()) + "-" + std::to_string(serial++) + "-" +
                     std::to_string(std::chrono::system_clock::now().time_since_epoch().count()) +
                     std::string(kEnding));
}

} // namespace

JournalFile::JournalFile(const fs::path& folder, JournalHeader header, const Piece& piece)
    : m_folder(folder), m_path(freshPath(folder)) {
    m_thread = std::thread([this] { run(); });
    restart(std::move(header), piece);
}

JournalFile::~JournalFile() {
    {
        const std::lock_guard lock(m_mutex);
        m_ending = true;
    }
    m_changed.notify_all();
    m_thread.join();
    if (m_file >= 0)
        ::close(m_file);
}

void JournalFile::put(Task task) {
    std::unique_lock lock(m_mutex);
    m_changed.wait(lock, [this] { return m_tasks.empty() && !m_busy; });
    m_tasks.push_back(std::move(task));
    lock.unlock();
    m_changed.notify_all();
}

void JournalFile::add(const PieceDelta& delta, bool forwards) {
    Task task;
    task.delta = delta;
    task.forwards = forwards;
    put(std::move(task));
}

void JournalFile::restart(JournalHeader header, const Piece& piece) {
    Task task;
    task.header = std::move(header);
    task.piece = piece;
    put(std::move(task));
}

bool JournalFile::isLong() const {
    const std::lock_guard lock(m_mutex);
    return m_broken || m_bytes > m_base_bytes + std::max(kLongSteps, 4 * m_base_bytes);
}

void JournalFile::flush() {
    std::unique_lock lock(m_mutex);
    m_changed.wait(lock,
                   [this] { return m_tasks.empty() && !m_busy && !m_syncing && !m_unsynced; });
}

void JournalFile::discard() {
    std::unique_lock lock(m_mutex);
    m_changed.wait(lock, [this] { return !m_busy && !m_syncing; });
    m_tasks.clear();
    ::unlink(m_path.c_str());
    if (m_file >= 0)
        ::close(m_file);
    m_file = -1;
    m_whole = false;
    m_unsynced = false;
}

std::optional<std::string> JournalFile::takeProblem() {
    const std::lock_guard lock(m_mutex);
    return std::exchange(m_problem, std::nullopt);
}

void JournalFile::run() {
    std::unique_lock lock(m_mutex);
    for (;;) {
        m_changed.wait_for(lock, kSyncAtLatest, [this] { return !m_tasks.empty() || m_ending; });
        if (!m_tasks.empty()) {
            const Task task = std::move(m_tasks.front());
            m_tasks.pop_front();
            m_busy = true;
            lock.unlock();
            work(task);
            lock.lock();
            m_busy = false;
            m_changed.notify_all();
            if (!m_tasks.empty())
                continue;
        }
        if (m_unsynced && m_file >= 0)
            syncNow(lock);
        if (m_ending && m_tasks.empty())
            return;
    }
}

// What is written is made to stay.
void JournalFile::syncNow(std::unique_lock<std::mutex>& lock) {
    const int file = m_file;
    m_syncing = true;
    m_unsynced = false;
    lock.unlock();
    const bool synced = ::fdatasync(file) == 0;
    const int error_number = errno;
    lock.lock();
    m_syncing = false;
    if (!synced) { // nobody knows what is on the disk: it begins anew
        m_whole = false;
        fail(std::strerror(error_number));
    }
    m_changed.notify_all();
}

// Nothing else touches the file meanwhile (m_busy).
void JournalFile::work(const Task& task) {
    try {
        const bool was_whole = isWhole();
        const bool whole = task.header
                               ? start(task)
                               : was_whole && append(journalStep(*task.delta, task.forwards));
        const std::lock_guard lock(m_mutex);
        m_whole = whole;
    } catch (const std::exception& error) { // no memory
        const std::lock_guard lock(m_mutex);
        m_whole = false;
        fail(error.what());
    }
}

bool JournalFile::isWhole() const {
    const std::lock_guard lock(m_mutex);
    return m_whole;
}

bool JournalFile::start(const Task& task) {
    const std::string text = journalStart(*task.header, *task.piece);
    const fs::path fresh = m_path.string() + ".part";
    std::error_code code;
    fs::create_directories(m_folder, code);
    const int file =
        ::open(fresh.c_str(), O_WRONLY | O_CREAT | O_TRUNC | O_CLOEXEC | O_APPEND, 0600);
    if (file >= 0)
        ::flock(file, LOCK_EX | LOCK_NB);
    const bool done = file >= 0 && writeFully(file, text) && ::fsync(file) == 0 &&
                      ::rename(fresh.c_str(), m_path.c_str()) == 0;
    int error_number = errno;
    const bool stays = done && syncFolder(m_folder);
    if (done && !stays)
        error_number = errno;
    const std::lock_guard lock(m_mutex);
    if (!done) {
        if (file >= 0)
            ::close(file);
        ::unlink(fresh.c_str());
        fail(std::strerror(error_number));
        return false;
    }
    if (m_file >= 0)
        ::close(m_file);
    m_file = file;
    m_bytes = m_base_bytes = text.size();
    m_broken = false;
    if (!stays)
        fail(std::strerror(error_number));
    return stays;
}

bool JournalFile::append(const std::string& line) {
    const bool done = writeFully(m_file, line);
    const int error_number = errno;
    const std::lock_guard lock(m_mutex);
    if (done) {
        m_bytes += line.size();
        m_unsynced = true;
        return true;
    }
    // The half line goes again, so that the lines before it stay the last.
    if (::ftruncate(m_file, static_cast<off_t>(m_bytes)) == 0)
        m_unsynced = true;
    fail(std::strerror(error_number));
    return false;
}

void JournalFile::fail(const std::string& what) {
    m_broken = true;
    m_problem = what + "; save the piece, or make room on the disk";
}

namespace {

// A journal whose program is gone: nobody holds its lock.
bool isAbandoned(const fs::path& path) {
    const int file = ::open(path.c_str(), O_RDONLY | O_NOFOLLOW | O_CLOEXEC);
    if (file < 0)
        return false;
    const bool free = ::flock(file, LOCK_EX | LOCK_NB) == 0;
    ::close(file);
    return free;
}

} // namespace

std::vector<Recoverable> recoverableIn(const fs::path& folder) {
    std::vector<std::pair<fs::file_time_type, Recoverable>> found;
    std::error_code code;
    for (fs::directory_iterator at(folder, code), end; !code && at != end; at.increment(code)) {
        const fs::path path = at->path();
        const bool half = path.extension() == ".part";
        if ((!half && path.extension() != kEnding) || !isAbandoned(path))
            continue;
        if (half) { // its journal, if it had one, is still there
            ::unlink(path.c_str());
            continue;
        }
        const auto bytes = readWholeFile(path, kLargestJournal);
        const auto header = bytes ? readJournalHeader(*bytes) : Result<JournalHeader>(Error{});
        if (!header)
            continue;
        Recoverable one{path, *header, countJournalSteps(*bytes)};
        if (one.steps == 0 && !one.header.unsaved) {
            ::unlink(path.c_str());
            continue;
        }
        found.emplace_back(at->last_write_time(code), std::move(one));
    }
    std::ranges::sort(found, [](const auto& a, const auto& b) { return a.first > b.first; });
    std::vector<Recoverable> newest_first;
    for (auto& [when, one] : found)
        newest_first.push_back(std::move(one));
    return newest_first;
}

Result<JournalReading> recoverFrom(const fs::path& journal) {
    const auto bytes = readWholeFile(journal, kLargestJournal);
    if (!bytes)
        return bytes.error();
    auto reading = readJournal(*bytes);
    if (!reading)
        return badInput(journal.string(), reading.error().message);
    return reading;
}

} // namespace wirenote
