// Calls of the system that fail, or are remembered, when a test says so. A test program that links
// this with --wrap for each of them (see tests/CMakeLists.txt) has every call of every library of
// ours pass here.
#pragma once

#include <string>
#include <vector>

namespace wirenote::test {

enum class Call { Write, Fsync, Fdatasync, Rename, Open };

// From now on the n-th call counted over all kinds (from 0) fails with this errno; -1: none does.
void failCall(int n, int error_number);
// How many calls there were since failCall.
int callsSoFar();

// What reached a file, in order: for replaying a power cut.
struct Written {
    Call call = Call::Write;
    std::string path; // of a write or sync
    std::string bytes;
    std::string to; // of a rename
};
void rememberWrites(bool on);
const std::vector<Written>& remembered();

} // namespace wirenote::test
