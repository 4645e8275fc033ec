// The ways to lay the notes of one moment on the strings, before it is asked what else sounds then.
#pragma once

#include "fretting/hand_state.h"
#include "fretting/shape_table.h"

#include <optional>
#include <vector>

namespace wirenote {

struct Laying {
    std::vector<std::optional<Position>> places; // of each note of the moment; nothing: nowhere
    unsigned unheld = 0; // bit n: string n lies where a person put it, and no finger can take it
    double placed = 0.0; // what speaks against these places, …
    double cost = 0.0;   // … and with the cheapest way to hold them
};

// The likeliest, best first: every one of them can be held by a hand. A note is left without a
// place only where the others leave none. Empty where what is given cannot be held at all.
std::vector<Laying> layingsOf(const HandLine& line, const Moment& moment, ShapeTable& shapes);

} // namespace wirenote
