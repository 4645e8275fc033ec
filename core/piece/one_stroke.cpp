#include "piece/one_stroke.h"

namespace wirenote {

std::vector<IndexSpan> strokeSpans(const std::vector<double>& onsets_s) {
    std::vector<IndexSpan> spans;
    for (std::size_t i = 0; i < onsets_s.size(); ++i) {
        const bool goes_on = !spans.empty() && beginTogether(onsets_s[i - 1], onsets_s[i]) &&
                             onsets_s[i] - onsets_s[spans.back().first] <= kWholeStroke_s;
        if (!goes_on)
            spans.push_back({i, i});
        spans.back().end = i + 1;
    }
    return spans;
}

std::vector<IndexSpan> strokeSpans(std::span<const Note> notes) {
    std::vector<double> onsets_s;
    for (const Note& note : notes)
        onsets_s.push_back(note.onset_s());
    return strokeSpans(onsets_s);
}

std::vector<std::vector<std::size_t>> strokesOf(std::span<const Note> notes) {
    std::vector<std::size_t> struck;
    std::vector<double> onsets_s;
    for (std::size_t i = 0; i < notes.size(); ++i)
        if (!notes[i].slurred()) {
            struck.push_back(i);
            onsets_s.push_back(notes[i].onset_s());
        }
    std::vector<std::vector<std::size_t>> strokes;
    for (const IndexSpan span : strokeSpans(onsets_s))
        strokes.emplace_back(struck.begin() + static_cast<std::ptrdiff_t>(span.first),
                             struck.begin() + static_cast<std::ptrdiff_t>(span.end));
    return strokes;
}

} // namespace wirenote
