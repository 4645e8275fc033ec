// Places along a line that stand as frets stand.
#pragma once

#include <optional>
#include <span>

namespace wirenote::vision {

// The wire n lies at a + b·q over 1 + c·q with q = 2^(−n/12): equal temperament seen in
// perspective. Which fret is number 0 cannot be told from this: a neck without its first frets is a
// neck.
struct FretRow {
    double a = 0.0, b = 0.0, c = 0.0;
    int first = 0;      // of the wires that are there …
    int last = 0;       // … counted towards the bridge
    int wires = 0;      // between them that stand out
    double score = 0.0; // wires that are there, less what stands between them

    double at(double wire) const;
};

// The longest row of wires in the clearness along a line, pixel by pixel. Three neighbouring peaks
// whose distances shrink as frets' do begin a row; it grows peak by peak, each expected where those
// found say, over at most a hand's width without any.
std::optional<FretRow> fitFretRow(std::span<const float> clearness);

} // namespace wirenote::vision
