// Which notes one movement of the plucking hand begins: the only place that says so.
#pragma once

#include "piece/note.h"

#include <span>
#include <vector>

namespace wirenote {

// From note to note of one stroke, at the most, and from its first to its last (a slow strum over
// six strings). Common practice: eighths at 300 beats a minute are 100 ms apart.
constexpr double kStrokeApart_s = 0.03;
constexpr double kWholeStroke_s = 0.15;

// Whether the hand that began one note began the next one with the same movement.
inline bool beginTogether(double a_s, double b_s) {
    return b_s - a_s <= kStrokeApart_s && a_s - b_s <= kStrokeApart_s;
}

struct IndexSpan {
    std::size_t first = 0;
    std::size_t end = 0; // one behind
    std::size_t size() const { return end - first; }
};

// What begins together, of onsets in rising order.
std::vector<IndexSpan> strokeSpans(const std::vector<double>& onsets_s);
// The same of notes by onset, slurred ones too: what a page writes above one another.
std::vector<IndexSpan> strokeSpans(std::span<const Note> notes);

// Indices of the notes that each stroke begins, of notes by onset. Slurred notes are struck by
// nothing and belong to none.
std::vector<std::vector<std::size_t>> strokesOf(std::span<const Note> notes);

} // namespace wirenote
