// What was measured of a note. Facts, not decisions: solvers read them, nobody is asked about them,
// and deciding something leaves them as they are. Each belongs to the take and the span that told
// it.
#pragma once

#include "base/measure.h"
#include "base/time_range.h"
#include "piece/seen.h"

#include <array>
#include <optional>
#include <vector>

namespace wirenote {

// How a note begins.
struct HeardAttack {
    double strength = -1.0; // 1 is typical thereabouts; negative: not measured
    bool soft = false;      // the pitch moved without a new attack
    double slurred = -1.0;  // how likely the fretting hand began it; negative: not measured
    std::optional<double> edge_db =
        std::nullopt; // how bright the stroke is (hearing/stroke_edges.h)
    bool operator==(const HeardAttack&) const = default;
    bool told() const { return soft || strength >= 0.0 || slurred >= 0.0; }
};

// How stiff the string behind a note sounds: the natural logarithm of the inharmonicity B, and the
// standard deviation of that. A negative deviation: not measured.
struct HeardStiffness {
    double log_b = 0.0;
    double sd = -1.0;
    bool borrowed = false; // lent by other repeats of its phrase
    bool among = false;    // while other strings sounded: it may be of another one
    bool operator==(const HeardStiffness&) const = default;
    bool told() const { return sd >= 0.0; }
};

// What beside its stiffness a note says of its string (see signal/tone_meter.h): how fast it dies,
// low and high, where its comb lies, how its partials fall.
enum class ToneFigure { DecayLow, DecayHigh, Comb, Tilt };
constexpr int kToneFigures = 4;
using HeardTone = std::array<Measure, kToneFigures>;

struct HeardFacts {
    HeardAttack attack;
    // Of a stroke over several strings: the probability (0..1) that the thick ones came first.
    std::optional<double> thick_first;
    HeardStiffness stiffness;
    HeardTone tone{};
    bool squeak_before = false; // a hand was heard to slide along a wound string before it
    bool operator==(const HeardFacts&) const = default;

    // What was measured of partials of a pitch that it turned out not to have is of no note.
    void forgetString() {
        stiffness = {};
        tone = {};
    }
};

// What one stretch of one take told of a note: its own sound, another repeat of it, another take.
struct NoteFacts {
    std::size_t take = 0; // index into Piece::takes
    TimeRange span;       // seconds in that take
    HeardFacts heard;
    SeenFacts seen;
    bool operator==(const NoteFacts&) const = default;
};
constexpr std::size_t kMaxFactsOfNote = 256;

// All of it together: each figure as the first stretch tells it that tells it at all.
HeardFacts mergedFacts(const std::vector<NoteFacts>& facts);

} // namespace wirenote
