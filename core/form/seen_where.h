// Where films show the hands, bar by bar: what was seen, which take shows it, what is still to be
// filmed.
#pragma once

#include "form/form.h"
#include "form/versions.h"
#include "piece/piece.h"

#include <optional>
#include <vector>

namespace wirenote {

enum class HandVisible { Seen, Half, Hidden };

// Of one hand in one bar: at how many of the notes that need it a film told anything of it.
struct HandInBar {
    int notes = 0;
    int seen = 0;
    // Of no note: as seen, since nothing of it is to be shown.
    HandVisible visible() const;
};
// Of the notes: fewer than the one are half seen, fewer than the other hidden.
constexpr double kMostlySeen = 0.8;
constexpr double kBarelySeen = 0.25;

struct SeenBar {
    int number = 1;
    TimeRange span;     // seconds
    HandInBar fretting; // at stopped notes: fingertips
    HandInBar plucking; // at struck notes: the way of the hand, or which finger
    // Takes with a picture that show the bar, the leading one first. Two cameras of one performance
    // are two takes with pictures: what either of them shows is seen.
    std::vector<std::size_t> films;
    // What a picture of it must show: frets of stopped notes (0: none) and strings.
    int lowest_fret = 0, highest_fret = 0;
    int thinnest = 0, thickest = 0;
    bool lacks() const {
        return fretting.visible() != HandVisible::Seen || plucking.visible() != HandVisible::Seen;
    }
};

// Every bar in which something begins, by time.
std::vector<SeenBar> seenWhere(const Piece& piece,
                               const std::vector<BarContent>& bars,
                               const std::vector<Version>& versions);

// One picture that is still to be taken: bars on end that lack the same hands, and where on the
// neck they are played.
struct WantedShot {
    int first_bar = 1, last_bar = 1;
    TimeRange span; // seconds
    bool fretting = false, plucking = false;
    int lowest_fret = 0, highest_fret = 0;
    // A take with a picture that shows all of them and may only have to be looked at.
    std::optional<std::size_t> film;
};
std::vector<WantedShot> wantedShots(const std::vector<SeenBar>& bars);

} // namespace wirenote
