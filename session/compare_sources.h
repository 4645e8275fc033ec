// Which two are to be compared: readings of a piece, or scores in files.
#pragma once

#include "base/result.h"
#include "readings/compare.h"

#include <string>

namespace wirenote {

struct ComparedSources {
    ReadingComparison comparison;
    std::string a; // what they are called
    std::string b;
};

// `a` and `b`: names of readings, their numbers as listed (from 1), or files that can be read; of
// another piece "as played". Error: which of them is neither, with what there is.
Result<ComparedSources>
compareSources(const Piece& piece, const std::string& a, const std::string& b);

} // namespace wirenote
