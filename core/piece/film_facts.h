// What is known of a take's film: where the neck is in it and how it lies against the sound.
#pragma once

#include "piece/note.h"

#include <array>
#include <cstddef>
#include <vector>

namespace wirenote {

// The neck in one picture: x and y, in pixels of the film as it is, of where the nut and the wire
// of the twelfth fret meet the edges of the fingerboard.
struct NeckFrame {
    double time_s = 0.0;             // of the take
    std::array<double, 8> corners{}; // nut at the thick strings, nut at the thin, twelfth likewise
    bool operator==(const NeckFrame&) const = default;
};

// The plucking hand went over the strings and nothing begins to sound.
struct SilentPass {
    double time_s = 0.0;      // of the take, as its sound counts it
    bool down = true;         // towards the thin strings
    double probability = 1.0; // that it was a stroke's whole way
    bool operator==(const SilentPass&) const = default;
};

struct FilmFacts {
    Basis neck = Basis::Seen;       // found in the picture, or set: given by a person
    double offset_s = 0.0;          // time seen minus time heard
    Basis offset = Basis::Reasoned; // seen: measured; set: given; reasoned: taken to be none
    double followed = 0.0;          // share of the pictures looked at in which the neck was found
    double trust = 0.0;             // 0..1: how far fingertips fit what was heard
    double numbering = 1.0;         // 0..1: how likely the frets are counted rightly
    // How far the wires seen lie from where they are drawn, on the neck; negative: not measured.
    double off_mm = -1.0;
    // By time; the neck moves evenly from one to the next when they lie near in time, and is lost
    // between two that do not.
    std::vector<NeckFrame> frames;
    std::vector<SilentPass> passes; // by time
    bool operator==(const FilmFacts&) const = default;
    bool told() const { return !frames.empty(); }
};
constexpr std::size_t kMaxNeckFrames = 50000;
constexpr std::size_t kMaxSilentPasses = 20000;
constexpr double kNeckFramesNear_s = 1.25;

} // namespace wirenote
