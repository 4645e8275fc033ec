// What a film showed at a note. Facts, not decisions.
#pragma once

#include <array>
#include <cstddef>
#include <optional>
#include <vector>

namespace wirenote {

// A fingertip of the fretting hand over the neck.
struct SeenTip {
    int finger = 0;    // 1 index … 4 little; 0: not known which
    double fret = 0.0; // along the neck: 4.6 lies a little behind the wire of fret 5
    double string =
        0.0; // across: 2.4 lies between strings 2 and 3; beyond the edge where it may be
    // How likely (0..1) it presses a string, sounding or not, rather than waits above it.
    std::optional<double> pressed = std::nullopt;
    bool operator==(const SeenTip&) const = default;
};

// A picture in which a person showed where this note is pressed or plucked.
struct ShownIn {
    double time_s = 0.0;     // of the take
    double x = 0.0, y = 0.0; // in pixels of the film as it is
    bool operator==(const ShownIn&) const = default;
};

struct SeenFacts {
    std::vector<SeenTip> tips; // from the nut on
    double trust = 0.0;        // 0..1: how far the film as a whole agrees with what was heard
    // How likely (0..1) the plucking hand went from the thick strings to the thin ones.
    std::optional<double> down = std::nullopt;
    // How likely thumb, index, middle, ring and little finger plucked it; all 0: not told.
    std::array<double, 5> plucked{};
    // How likely (0..1) the plucking hand did nothing at it.
    std::optional<double> unplucked = std::nullopt;
    // Where along the strings the plucking hand moved, in mm from the bridge, and how far it went
    // across them from the picture before the attack to the one after it.
    std::optional<double> plucked_mm = std::nullopt;
    std::optional<double> swing_mm = std::nullopt;
    // How far the heel of the plucking hand and its forearm went across the strings meanwhile: a
    // hand that rests keeps its heel where it is, one that turns from the wrist its forearm.
    std::optional<double> heel_mm = std::nullopt;
    std::optional<double> forearm_mm = std::nullopt;
    std::optional<ShownIn> shown = std::nullopt; // what is set of the place rests on it
    bool operator==(const SeenFacts&) const = default;
    bool told() const { return !tips.empty() || down || shown; }
    // Of several films of a note the one is believed that a person showed something in, or else
    // the one that is trusted most; fingertips are worth more than the way of the other hand.
    double worth() const { return (shown ? 2.0 : 0.0) + trust * (tips.empty() ? 0.5 : 1.0); }
};
constexpr std::size_t kMaxSeenTips = 8;

} // namespace wirenote
