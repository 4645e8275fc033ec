// What a person writes into the sheet beside the notes.
#pragma once

#include "base/result.h"

#include <optional>
#include <string>
#include <vector>

namespace wirenote {

// A level of loudness, getting louder or softer over a stretch, a note held longer than its value,
// places to jump from and to, and any other words.
enum class MarkKind { Dynamic, Louder, Softer, Fermata, Segno, Coda, Words };

struct SheetMark {
    MarkKind kind = MarkKind::Words;
    double at_s = 0.0;     // in the leading take
    double to_s = 0.0;     // where what goes on ends; else as at_s
    std::string text = {}; // of a dynamic, one of the usual ones (isDynamic); of words, the words
    bool operator==(const SheetMark&) const = default;
};
constexpr std::size_t kMaxSheetMarks = 20000;

inline bool goesOn(MarkKind kind) {
    return kind == MarkKind::Louder || kind == MarkKind::Softer;
}

// "pppp" to "ffff", "mp", "mf", "sf", "sfz", "fp", "rf", "rfz": what MusicXML 3.0 has names for.
bool isDynamic(const std::string& text);

// What somebody types, over a stretch: "mf" a dynamic; "<", "cresc." getting louder; ">", "dim.",
// "decresc." softer; "fermata", "segno", "coda"; all else stands there as it is.
Result<SheetMark> markFromText(const std::string& text, double at_s, double to_s);

// The same in words: "mf", "louder", "fermata"; words as they are.
std::string markText(const SheetMark& mark);

// What must hold of the marks of a piece: in order, each of a known kind somewhere in it.
bool soundMarks(const std::vector<SheetMark>& marks, double longest_s);

} // namespace wirenote
