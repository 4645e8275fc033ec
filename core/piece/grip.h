// What a hand holds for one stroke: a fret for each string that sounds.
#pragma once

#include "base/result.h"
#include "music/instrument.h"

#include <string>
#include <string_view>
#include <vector>

namespace wirenote {

struct Grip {
    static constexpr int kSilent = -1;
    std::vector<int> frets; // by string, the thinnest first; kSilent: it does not sound
    bool operator==(const Grip&) const = default;
    auto operator<=>(const Grip&) const = default;

    int sounding() const; // strings
    int fretOn(int string) const { return frets[static_cast<std::size_t>(string - 1)]; }
};

// As players write it, the thickest string first: "x 3 2 0 1 0".
std::string gripText(const Grip& grip);
// The same back, also without spaces where no fret has two digits. Refuses what has another number
// of strings, what is not on the neck, and a grip of nothing.
Result<Grip> parseGrip(std::string_view text, const Instrument& instrument);

} // namespace wirenote
