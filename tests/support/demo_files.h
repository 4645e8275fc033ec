// The demo piece with its takes, for a test program by itself and gone with it. Making it takes
// seconds, and every test runs in a process of its own: what one of them made is kept beside the
// program until that is built anew, and copied.
#pragma once

#include "session/demo.h"

#include <filesystem>
#include <string>
#include <sys/stat.h>
#include <system_error>
#include <unistd.h>

namespace wirenote::test {

// Where what this very build of the program made is kept.
inline std::filesystem::path keptDemo() {
    namespace fs = std::filesystem;
    std::error_code code;
    const fs::path program = fs::read_symlink("/proc/self/exe", code);
    struct stat is {};
    if (code || ::stat(program.c_str(), &is) != 0)
        return {};
    const std::string built =
        std::to_string(is.st_mtim.tv_sec) + "-" + std::to_string(is.st_mtim.tv_nsec);
    const fs::path folder = program.parent_path() / "demo-for-tests";
    for (const auto& old : fs::directory_iterator(folder, code))
        if (const std::string name = old.path().filename().string();
            name.starts_with(program.filename().string() + ".") && !name.ends_with(built) &&
            name.find(".making.") == std::string::npos)
            fs::remove_all(old.path(), code);
    return folder / (program.filename().string() + "." + built);
}

// Makes it in `folder`, or copies what another process made.
inline void putDemo(const std::filesystem::path& folder) {
    namespace fs = std::filesystem;
    std::error_code code;
    const fs::path kept = keptDemo();
    if (!kept.empty() && !fs::exists(kept, code)) {
        const fs::path making = kept.parent_path() / (kept.filename().string() + ".making." +
                                                      std::to_string(::getpid()));
        fs::create_directories(making, code);
        if (makeDemo(making, {}).ok())
            fs::rename(making, kept, code); // where another was quicker, that one stays
        fs::remove_all(making, code);
    }
    if (!kept.empty() && fs::exists(kept, code))
        fs::copy(kept, folder, code);
}

inline const DemoFiles& demoFiles() {
    struct Made {
        std::filesystem::path folder = std::filesystem::temp_directory_path() /
                                       ("wirenote-demo-" + std::to_string(::getpid()));
        DemoFiles files;
        Made() {
            putDemo(folder);
            files = demoIn(folder);
        }
        Made(const Made&) = delete;
        Made& operator=(const Made&) = delete;
        ~Made() {
            std::error_code code;
            std::filesystem::remove_all(folder, code);
        }
    };
    static const Made made;
    return made.files;
}

} // namespace wirenote::test
