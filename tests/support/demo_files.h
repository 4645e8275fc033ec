// The demo piece with its takes, made once for a test program and gone with it.
#pragma once

#include "session/demo.h"

#include <filesystem>
#include <string>
#include <unistd.h>

namespace wirenote::test {

inline const DemoFiles& demoFiles() {
    struct Made {
        std::filesystem::path folder =
            std::filesystem::temp_directory_path() / ("wirenote-demo-" + std::to_string(::getpid()));
        DemoFiles files = *makeDemo(folder, {});
        Made() = default;
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
