// Two windows on one piece, and other programs: told before anything is overwritten.
#pragma once

#include "base/result.h"

#include <filesystem>
#include <optional>
#include <string>

namespace wirenote {

// Held while a piece is open. A program that dies lets go of it.
class PieceLock {
  public:
    PieceLock() = default;
    ~PieceLock();
    PieceLock(PieceLock&& other) noexcept;
    PieceLock& operator=(PieceLock&& other) noexcept;
    PieceLock(const PieceLock&) = delete;
    PieceLock& operator=(const PieceLock&) = delete;

    // In `folder`, which is made when it is not there. Empty when another program, or another
    // window of this one, holds the piece.
    static std::optional<PieceLock> take(const std::filesystem::path& folder,
                                         const std::filesystem::path& piece_file);

  private:
    explicit PieceLock(int file) : m_file(file) {}
    int m_file = -1;
};

// What tells one state of a file from another: the SHA-256 of its bytes, empty when there is none.
std::string fileState(const std::filesystem::path& file);

} // namespace wirenote
