#pragma once

#include <array>
#include <cstdio>
#include <string>
#include <sys/wait.h>

namespace wirenote::test {

struct ShellResult {
    int status = -1;
    std::string output; // standard output and standard error
};

inline ShellResult shell(const std::string& command) {
    ShellResult result;
    FILE* pipe = ::popen((command + " 2>&1").c_str(), "r");
    if (!pipe)
        return result;
    std::array<char, 4096> block{};
    while (const std::size_t got = std::fread(block.data(), 1, block.size(), pipe))
        result.output.append(block.data(), got);
    const int status = ::pclose(pipe);
    result.status = WIFEXITED(status) ? WEXITSTATUS(status) : -1;
    return result;
}

} // namespace wirenote::test
