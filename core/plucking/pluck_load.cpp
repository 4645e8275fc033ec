#include "plucking/pluck_load.h"

#include "base/median.h"

#include <algorithm>
#include <array>
#include <map>

namespace wirenote {
namespace {

constexpr double kWindow_s = 0.5;
constexpr double kAlternating_per_s = 10.0;
constexpr double kOneWay_per_s = 5.0;
constexpr double kFinger_per_s = 5.0;
constexpr int kFewestNotes = 3;

bool isFinger(Stroke stroke) {
    return stroke >= Stroke::P && stroke <= Stroke::C;
}

std::vector<StrokeLevel> levelsOf(const PluckedLine& line, IndexSpan attacks) {
    std::map<Stroke, std::vector<double>> of;
    for (std::size_t i = attacks.first; i < attacks.end; ++i)
        for (const std::size_t n : line.at(i).notes)
            of[line.rows()[n].plan.stroke.value].push_back(line.rows()[n].note.loudness_db);
    std::vector<StrokeLevel> levels;
    for (auto& [stroke, values] : of)
        if (const auto count = static_cast<int>(values.size());
            stroke != Stroke::Unknown && count >= kFewestNotes)
            levels.push_back({stroke, count, *median(std::move(values))});
    return levels;
}

// How far over its comfortable rate one step is; at most 1 is comfortable.
double haste(Stroke before, Stroke now, double gap_s) {
    if (gap_s <= 0.0)
        return 0.0;
    if (isFinger(now))
        return now == before ? 1.0 / gap_s / kFinger_per_s : 0.0;
    return 1.0 / gap_s / (now == before ? kOneWay_per_s : kAlternating_per_s);
}

} // namespace

PluckLoad pluckLoad(const PluckedLine& line, IndexSpan attacks) {
    PluckLoad load;
    double most = 0.0;
    double over_since_s = -1.0;
    std::map<Stroke, double> last_s;
    const auto strokeAt = [&line](std::size_t i) {
        return line.rows()[line.at(i).notes.front()].plan.stroke.value;
    };
    for (std::size_t i = attacks.first; i < attacks.end; ++i) {
        const double at_s = line.at(i).onset_s;
        std::size_t within = 0;
        for (std::size_t k = i; k < attacks.end && line.at(k).onset_s < at_s + kWindow_s; ++k)
            ++within;
        load.strokes_per_s = std::max(load.strokes_per_s, static_cast<double>(within) / kWindow_s);
        for (const std::size_t n : line.at(i).notes) {
            const Stroke stroke = line.rows()[n].plan.stroke.value;
            if (!isFinger(stroke))
                continue;
            if (const auto before = last_s.find(stroke);
                before != last_s.end() && at_s > before->second &&
                (load.soonest_again_s == 0.0 || at_s - before->second < load.soonest_again_s)) {
                load.soonest_again_s = at_s - before->second;
                load.again = stroke;
            }
            last_s[stroke] = at_s;
        }
        if (i == attacks.first)
            continue;
        const Stroke before = strokeAt(i - 1);
        const Stroke now = strokeAt(i);
        const int moved = line.at(i - 1).string() - line.at(i).string(); // +: to a thinner string
        if (isFinger(before) && isFinger(now) && now != before && moved != 0 &&
            line.at(i).single() && line.at(i - 1).single() && (now > before) != (moved > 0))
            ++load.crossings;
        const double over = haste(before, now, line.at(i).gap_s);
        most = std::max(most, over);
        if (over <= 1.0) {
            over_since_s = -1.0;
            continue;
        }
        if (over_since_s < 0.0)
            over_since_s = line.at(i - 1).onset_s;
        load.sustained_s = std::max(load.sustained_s, at_s - over_since_s);
    }
    load.top_tempo = most > 0.0 ? 1.0 / most : 0.0;
    load.levels = levelsOf(line, attacks);
    return load;
}

} // namespace wirenote
