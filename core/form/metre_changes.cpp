#include "form/metre_changes.h"

#include "base/best_path.h"
#include "form/downbeats.h"

#include <algorithm>
#include <array>
#include <limits>

namespace wirenote {
namespace {

constexpr double kChange = 4.0;
constexpr std::size_t kFewestBeats = 16;
constexpr std::size_t kMostBeats = 20000;

struct BarLength {
    int beats = 4;
    double seldom = 0.0; // what a beat of it costs
};
constexpr std::array<BarLength, 4> kLengths{BarLength{2, 0.25}, {3, 0.0}, {4, 0.0}, {5, 0.15}};

// A beat within a bar of some length.
struct Place {
    BarLength bar;
    int beat = 0;
    bool last() const { return beat + 1 == bar.beats; }
};

std::vector<Place> placesOf(const std::vector<BarLength>& lengths) {
    std::vector<Place> places;
    for (const BarLength& length : lengths)
        for (int beat = 0; beat < length.beats; ++beat)
            places.push_back({length, beat});
    return places;
}

struct Way {
    std::vector<Place> places; // of each beat
    double cost = 0.0;
};

double costOf(double salience, const Place& place) {
    return place.bar.seldom + (place.beat == 0 ? -salience : salience / (place.bar.beats - 1));
}

double stepCost(const Place& from, const Place& to) {
    constexpr double kNever = std::numeric_limits<double>::infinity();
    const bool same = from.bar.beats == to.bar.beats;
    if (!from.last())
        return same && to.beat == from.beat + 1 ? 0.0 : kNever;
    return to.beat != 0 ? kNever : same ? 0.0 : kChange;
}

Way wayThrough(const std::vector<double>& salience, const std::vector<BarLength>& lengths) {
    const auto places = placesOf(lengths);
    const auto own = [&](std::size_t b) {
        std::vector<double> costs;
        for (const Place& place : places)
            costs.push_back(costOf(salience[b], place));
        return costs;
    };
    const auto steps = [&places](std::size_t, StepCosts& costs) {
        costs.fill(places.size(), places.size(), [&places](std::size_t i, std::size_t j) {
            return stepCost(places[i], places[j]);
        });
    };
    Way way;
    for (const std::size_t state : bestPath(salience.size(), own, steps))
        way.places.push_back(places[state]);
    for (std::size_t b = 0; b < salience.size(); ++b)
        way.cost += costOf(salience[b], way.places[b]) +
                    (b > 0 ? stepCost(way.places[b - 1], way.places[b]) : 0.0);
    return way;
}

// Bar 1 is the first whole bar; what lies before it is a pick-up.
Timeline counted(const Timeline& timeline, const Way& way) {
    Timeline laid = timeline;
    laid.changes.clear();
    int bar = 0;
    int beats = 0; // of the bars before
    for (std::size_t b = 0; b < way.places.size(); ++b) {
        if (way.places[b].beat != 0)
            continue;
        const int now = way.places[b].bar.beats;
        if (++bar == 1) {
            laid.first_downbeat = static_cast<int>(b);
            laid.metre = {now, 4};
        } else if (now != beats) {
            laid.changes.push_back({bar, {now, 4}});
        }
        beats = now;
    }
    return laid;
}

} // namespace

std::optional<ChangingBars> changingBars(const std::vector<Note>& notes, const Timeline& timeline) {
    const std::size_t count = timeline.beats_s.size();
    if (count < kFewestBeats || count > kMostBeats || notes.size() < kFewestBeats ||
        timeline.metre.compound() || timeline.metre.unit != 4)
        return {};
    const auto salience = beatSalience(notes, timeline.beats_s);
    const Way way = wayThrough(salience, {kLengths.begin(), kLengths.end()});
    ChangingBars found{counted(timeline, way), std::numeric_limits<double>::infinity()};
    if (found.timeline.changes.empty())
        return {};
    for (const BarLength& length : kLengths)
        found.ahead = std::min(found.ahead, wayThrough(salience, {length}).cost - way.cost);
    return found;
}

} // namespace wirenote
