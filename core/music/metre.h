#pragma once

#include "base/rational.h"
#include "base/result.h"

#include <string>
#include <string_view>

namespace wirenote {

// Ways of counting out loud (common practice in lessons, each in its own country or school).
enum class CountSchool {
    Numbers, // 1 e & a, triplets 1 & a, six-eight 1 2 3 4 5 6
    German,  // 1 e und e
    Takadimi // ta ka di mi, triplets ta ki da (Hoffman, Pelto & White, J. Music Theory Pedagogy 10,
             // 1996)
};
constexpr int kCountSchools = 3;

struct Metre {
    int beats = 4; // the upper number
    int unit = 4;  // the lower number: 2, 4, 8 or 16

    bool operator==(const Metre&) const = default;
    bool compound() const { return unit == 8 && beats % 3 == 0 && beats > 3; }
    Rational barLength() const { return {4 * beats, unit}; } // quarter notes
    Rational beatLength() const {
        return compound() ? Rational(3, 2) : Rational(4, unit);
    } // felt beat
    int feltBeats() const { return compound() ? beats / 3 : beats; }
    std::string text() const { return std::to_string(beats) + "/" + std::to_string(unit); }
};

// "4/4", "6/8". Refuses what cannot be counted.
Result<Metre> parseMetre(std::string_view text);

} // namespace wirenote
