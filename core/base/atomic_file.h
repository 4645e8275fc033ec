// Files on disk: written whole or not at all, and read within bounds.
#pragma once

#include "base/result.h"

#include <cstddef>
#include <filesystem>
#include <memory>
#include <string>
#include <string_view>
#include <vector>

namespace wirenote {

// True when both name the same file: by device and inode where both exist, by their path otherwise
// (symbolic links followed). Devices and pipes are never the same file as anything.
bool sameFile(const std::filesystem::path& a, const std::filesystem::path& b);

// What can be said about writing there before there is anything to write: the folder exists, the
// file is an ordinary one that may be replaced, or a pipe or device that takes bytes. One sentence
// otherwise.
Status checkTarget(const std::filesystem::path& path);

// Refuses a call in which one output is an input or another output, before any work is done. Empty
// paths are passed over. Each output is also checked like checkTarget.
Status checkOutputs(const std::vector<std::filesystem::path>& inputs,
                    const std::vector<std::filesystem::path>& outputs);

// Several files made ready beside their places, flushed to the disk, and put in place together.
// Whatever is not put in place is removed again.
//
// A regular file is replaced through symbolic links and keeps its mode and owner; a new one gets
// what the umask leaves. A file with several hard links, a read-only one, or one that would change
// its owner is refused. Pipes and character devices are written to when the others are ready.
class OutputFiles {
  public:
    OutputFiles();
    ~OutputFiles();
    OutputFiles(const OutputFiles&) = delete;
    OutputFiles& operator=(const OutputFiles&) = delete;

    // Makes one more ready. After an error nothing of this file is left behind.
    Status add(const std::filesystem::path& path, std::string_view bytes);
    // Puts all in place, in the order they were added. The sentence of an error says which ones
    // were written before it.
    Status putInPlace();

  private:
    struct Ready;
    std::vector<std::unique_ptr<Ready>> m_ready;
};

// One file, whole or not at all. An earlier file of that name stays untouched when anything fails.
Status writeFileAtomically(const std::filesystem::path& path, std::string_view bytes);

// Removes what a killed program left half-made in this folder. Files that a living program is still
// making stay. Returns how many were removed.
int sweepLeftovers(const std::filesystem::path& folder);

// Reads a whole file of at most `max_bytes`; anything longer is refused, as is a folder.
Result<std::string> readWholeFile(const std::filesystem::path& path, std::size_t max_bytes);

// Makes what was created, renamed or removed in a folder outlast a power cut. False with errno set
// when the disk did not confirm; file systems that cannot are passed over.
bool syncFolder(const std::filesystem::path& folder);

// All bytes, through interruptions. False with errno set.
bool writeFully(int file, std::string_view bytes);

} // namespace wirenote
