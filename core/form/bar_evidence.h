// What each bar of the piece rests on.
#pragma once

#include "form/form.h"
#include "form/versions.h"
#include "piece/piece.h"

#include <cstddef>
#include <vector>

namespace wirenote {

struct BarEvidence {
    int number = 1;
    TimeRange span; // seconds
    int notes = 0;
    int set = 0;        // of them, with anything that a person decided
    double doubt = 0.0; // 0..1: how unsure its notes and places are, the worst counting most
    int playings = 1;   // of it, in all takes; the leading one among them
    int takes = 1;      // … in so many takes
    bool talked_over = false;
    bool in_film = false;    // a take with a picture shows it
    std::optional<std::size_t> follows; // a playing in that take, as a person chose
    // The playing of it that tells most: a demonstration, or the leading take itself.
    std::size_t best_take = 0;
    std::optional<std::size_t> best_demonstration;
};

// Bar by bar, the worst first; bars in which nothing begins are left out. Of several playings the
// one is best that has the bar whole, is slow, is heard without talk and in a take with a film.
std::vector<BarEvidence> barEvidence(const Piece& piece,
                                     const std::vector<BarContent>& bars,
                                     const std::vector<Version>& versions);

} // namespace wirenote
