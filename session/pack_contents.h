// What a lesson pack holds, as its contents.json says.
#pragma once

#include "base/result.h"

#include <string>
#include <vector>

namespace wirenote {

struct PackContents {
    struct Entry {
        std::string file; // relative, within the folder
        std::string what; // in words
        std::string key;  // of what it was made of
    };
    struct Change {
        int version = 1;
        std::string when; // ISO 8601, UTC
        std::vector<std::string> files;
    };
    int version = 1;
    std::string title;
    std::string exactness;
    std::vector<Entry> entries;
    std::vector<std::string> left_out;
    std::vector<Change> changes; // the newest last
};

// "wirenote-lesson/1".
std::string writePackContents(const PackContents& contents);
// Errors: another format, damaged, a file outside the folder.
Result<PackContents> readPackContents(const std::string& text);

} // namespace wirenote
