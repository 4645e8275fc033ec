// What differs between two readings, as a file: wirenote-differences/1.
#pragma once

#include "readings/compare.h"

#include <string>

namespace wirenote {

// {"format", "a", "b" (their names), "semitones", "differences": [{"bar", "beat", "what", "a", "b",
// "note_a", "note_b" (their ids), "group" (from 1: what hangs together), "gains", "losses" (of b,
// by all of the group)}]}. Texts are English.
std::string writeDifferencesJson(const ReadingComparison& comparison,
                                 const std::string& a,
                                 const std::string& b);

} // namespace wirenote
