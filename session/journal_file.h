// Keeping an open piece safe: its journal on disk, written and flushed by a thread of its own.
#pragma once

#include "base/result.h"
#include "formats/journal.h"

#include <condition_variable>
#include <deque>
#include <filesystem>
#include <functional>
#include <memory>
#include <mutex>
#include <optional>
#include <string>
#include <thread>
#include <vector>

namespace wirenote {

// One journal. What is added is in the file's bytes at once and flushed to the disk at the latest
// half a second later; a killed program loses at most the edit in hand. The file is locked while
// this lives, and stays behind unless it is discarded. Use from one thread.
class JournalFile {
  public:
    // In `folder`, which is made when it is not there. Nothing waits: the piece is written by the
    // thread.
    JournalFile(const std::filesystem::path& folder, JournalHeader header, const Piece& piece);
    ~JournalFile(); // everything added is on the disk
    JournalFile(const JournalFile&) = delete;
    JournalFile& operator=(const JournalFile&) = delete;

    // An edit that was made (or undone). Waits until the ones before it are written, which takes no
    // time unless the disk is stuck.
    void add(const PieceDelta& delta, bool forwards);
    // Begins anew from this state, after a save or when the journal has grown long. The old lines
    // stay until the new ones are on the disk.
    void restart(JournalHeader header, const Piece& piece);
    bool isLong() const; // worth a restart
    void flush();        // returns when all of it is on the disk, or cannot be
    void discard();      // the piece is safe elsewhere: removes the file

    // Once after something went wrong (a full disk): what, and what to do; edits since then are not
    // kept until a restart works.
    std::optional<std::string> takeProblem();
    std::filesystem::path path() const { return m_path; }

  private:
    struct Task {
        std::optional<JournalHeader> header; // a start
        std::optional<Piece> piece;
        std::optional<PieceDelta> delta; // or a step
        bool forwards = true;
    };
    void put(Task task);
    void run();
    void work(const Task& task); // without the lock
    void syncNow(std::unique_lock<std::mutex>& lock);
    bool isWhole() const;
    bool start(const Task& task);
    bool append(const std::string& line);
    void fail(const std::string& what);

    const std::filesystem::path m_folder;
    std::filesystem::path m_path;
    mutable std::mutex m_mutex;
    std::condition_variable m_changed;
    std::deque<Task> m_tasks;
    bool m_busy = false;    // the thread writes …
    bool m_syncing = false; // … or waits for the disk
    bool m_ending = false;
    bool m_whole = false;  // no step is missing from the file
    bool m_broken = false; // something failed since the last start
    bool m_unsynced = false;
    int m_file = -1;
    std::size_t m_bytes = 0;
    std::size_t m_base_bytes = 0;
    std::optional<std::string> m_problem;
    std::thread m_thread;
};

// What a program that is gone left behind.
struct Recoverable {
    std::filesystem::path journal;
    JournalHeader header;
    int steps = 0;
};
// Newest first. Journals without an edit, of pieces that lie in their files, are removed.
std::vector<Recoverable> recoverableIn(const std::filesystem::path& folder);
Result<JournalReading> recoverFrom(const std::filesystem::path& journal);

} // namespace wirenote
