// At which level the beat is felt, and where it lies: what the notes say of each possibility.
#pragma once

#include "piece/note.h"

#include <array>
#include <cmath>
#include <vector>

namespace wirenote {

constexpr std::size_t kBeatFigures = 32;

// How a beat is divided. Swung: in two, the second late by up to a triplet.
enum class BeatFeel { Halves, Thirds, Swung };

// Beats against the present ones.
struct BeatLevel {
    double per_beat = 1.0; // new beats in one of the present
    double phase = 0.0;    // of its own, that the first lies before the first of the present
    BeatFeel feel = BeatFeel::Halves;
    // How well attacks fall on its divisions; how much lower, fuller, longer and newer in harmony
    // what falls on its beats is; whether what comes one, two, three or four beats later is the
    // same in pitch, in height, and there at all, more than at other distances; its tempo; how
    // dense the attacks are; how many beats are struck; where the first note falls; whether what
    // comes eight beats later is the same; how much more the harmony changes on every second and
    // every fourth beat; how the usual and the shortest time between attacks lie to it; how high
    // and how full all of it is, and how even.
    std::array<double, kBeatFigures> figures{};
    double score =
        0.0; // logarithm, up to what is common to all; learned (tools/training/learn_beats.py)
    bool isPresent() const { return per_beat == 1.0 && phase == 0.0; }
    // Every beat of the slower of the two is one of the other.
    bool onPresent() const {
        const double moved = phase / per_beat;
        return !ofThree() && std::abs(moved - std::round(moved)) < 1e-6;
    }
    bool compound() const { return feel == BeatFeel::Thirds; }
    // Its beats are not the present ones halved, doubled or as they are.
    bool ofThree() const { return per_beat != 0.5 && per_beat != 1.0 && per_beat != 2.0; }
};

// What the sound that the present beats were heard in says for them, beside the notes: to be added
// to their score.
constexpr double kLevelAsHeard = 1.2;

// The present level, and those at 1/2, 2/3, 3/4, 4/5, 5/4, 4/3, 3/2 and twice its tempo, each at
// several phases and in every feel, from 38 to 240 a minute. Only the first 600 strokes are asked.
// Empty for fewer than eight strokes or four beats.
std::vector<BeatLevel> beatLevels(const std::vector<Note>& notes,
                                  const std::vector<double>& beats_s);

// The beats of that level over the same time.
std::vector<double> beatsAt(const std::vector<double>& beats_s, const BeatLevel& level);

} // namespace wirenote
