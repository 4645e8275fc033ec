#pragma once

#include "base/result.h"
#include "piece/piece.h"

#include <string>
#include <vector>

namespace wirenote {

// Tab as text: a line for each string, and under each line of bars the rhythm (w h q e s t, dots,
// ".3" for a triplet, "r" before it for a rest, "~" where it is tied), the strokes (D U, p i m a c)
// and the fingers (1–4, T; 0 open) of what is struck together, the thickest string first. `width`:
// characters of a line, unless one bar is wider.
std::string writeAsciiTab(const Piece& piece, int width = 96);

struct TextTab {
    Piece piece;
    std::vector<std::string> unread; // what could not be read, with its line
};

// The same back, and what people type: lines of strings under one another, thinnest first, with or
// without names and rows under them. Without a rhythm each bar is divided as its characters stand.
// Errors: no lines of a tab.
Result<TextTab> readAsciiTab(const std::string& text);

} // namespace wirenote
