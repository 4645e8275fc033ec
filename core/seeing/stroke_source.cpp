#include "seeing/stroke_source.h"

#include <algorithm>
#include <array>
#include <functional>

namespace wirenote {
namespace {

using Habit = StrokeHabit;

constexpr double kLongest_s = 10.0; // the last stroke's gap
constexpr int kFewest = 4;          // strokes of a kind
constexpr double kHolds = 0.8;      // of the strokes of each kind
constexpr double kWorthIt = 0.1;    // of all strokes, that a rule of two kinds says beyond one

Habit::Kind mostOf(const std::vector<SourcedStroke>& strokes,
                   const std::function<bool(const SourcedStroke&)>& wanted) {
    std::array<int, 3> counts{};
    Habit::Kind kind;
    for (const SourcedStroke& stroke : strokes)
        if (wanted(stroke)) {
            ++counts[static_cast<std::size_t>(stroke.source)];
            ++kind.of;
        }
    const auto most = std::ranges::max_element(counts);
    kind.source = static_cast<StrokeSource>(most - counts.begin());
    kind.agree = *most;
    return kind;
}

bool holds(const Habit::Kind& kind) {
    return kind.of >= kFewest && kind.agree >= kHolds * kind.of;
}

int agree(const Habit& habit) {
    return habit.first.agree + habit.second.agree;
}

// The gap that parts quick strokes from slow ones best.
Habit byGap(const std::vector<SourcedStroke>& strokes) {
    std::vector<double> gaps;
    for (const SourcedStroke& stroke : strokes)
        gaps.push_back(stroke.gap_s);
    std::ranges::sort(gaps);
    Habit best;
    for (std::size_t k = 1; k < gaps.size(); ++k) {
        constexpr double kDiffer = 1.25; // times; nearer ones are the same value, played unevenly
        if (gaps[k] < kDiffer * gaps[k - 1])
            continue;
        Habit habit;
        habit.by = Habit::By::Gap;
        habit.gap_s = 0.5 * (gaps[k - 1] + gaps[k]);
        const auto quick = [&](const SourcedStroke& s) { return s.gap_s < habit.gap_s; };
        habit.first = mostOf(strokes, quick);
        habit.second = mostOf(strokes, std::not_fn(quick));
        if (agree(habit) > agree(best))
            best = habit;
    }
    return best;
}

} // namespace

std::optional<StrokeSource> strokeSource(const SeenFacts& seen) {
    constexpr double kMoves_mm = 3.0;   // of a hand that strokes
    constexpr double kForearm_mm = 4.0; // of a forearm that goes along …
    constexpr double kStill_mm = 2.0;   // … and of one that stays: between them it is not told
    constexpr double kStill = 0.25;     // of the swing
    constexpr double kHeel_mm = 1.5;    // of a heel that stays
    if (!seen.swing_mm || !seen.heel_mm || !seen.forearm_mm)
        return std::nullopt;
    if (*seen.forearm_mm >= kForearm_mm)
        return StrokeSource::Arm;
    if (*seen.heel_mm < kHeel_mm) // fingers that pluck hardly move what is behind them
        return seen.plucked_mm && seen.unplucked.value_or(0.0) < 0.5
                   ? std::optional(StrokeSource::Resting)
                   : std::nullopt;
    const bool still = *seen.forearm_mm < std::min(kStill_mm, kStill * *seen.swing_mm) &&
                       *seen.swing_mm >= kMoves_mm;
    return still ? std::optional(StrokeSource::Wrist) : std::nullopt;
}

std::vector<SourcedStroke> sourcedStrokes(const Piece& piece, std::size_t take) {
    constexpr double kTogether_s = 0.06; // notes of one stroke
    std::vector<const NoteFacts*> shown;
    for (const Note& note : piece.notes)
        if (const NoteFacts* facts = note.factsOf(take))
            shown.push_back(facts);
    const auto start_s = [](const NoteFacts* facts) { return facts->span.start_s; };
    std::ranges::stable_sort(shown, {}, start_s);
    std::vector<SourcedStroke> strokes;
    for (std::size_t first = 0; first < shown.size();) {
        std::size_t end = first + 1;
        while (end < shown.size() && start_s(shown[end]) < start_s(shown[first]) + kTogether_s)
            ++end;
        if (const auto source = strokeSource(shown[first]->seen))
            strokes.push_back(
                {*source,
                 end > first + 1,
                 end < shown.size() ? start_s(shown[end]) - start_s(shown[first]) : kLongest_s});
        first = end;
    }
    return strokes;
}

std::optional<StrokeHabit> strokeHabit(const std::vector<SourcedStroke>& strokes) {
    constexpr std::size_t kEnough = 8;
    if (strokes.size() < kEnough)
        return std::nullopt;
    Habit all;
    all.first = mostOf(strokes, [](const SourcedStroke&) { return true; });
    std::optional<Habit> best;
    if (holds(all.first))
        best = all;
    Habit strums;
    strums.by = Habit::By::Strums;
    strums.first = mostOf(strokes, [](const SourcedStroke& s) { return !s.strum; });
    strums.second = mostOf(strokes, [](const SourcedStroke& s) { return s.strum; });
    const double worth = kWorthIt * static_cast<double>(strokes.size());
    int said = all.first.agree;
    for (const Habit& habit : {strums, byGap(strokes)}) {
        const bool two =
            habit.first.source != habit.second.source && holds(habit.first) && holds(habit.second);
        // A second rule of two kinds has to say more than the first as well.
        if (!two || agree(habit) < said + worth)
            continue;
        best = habit;
        said = agree(habit);
    }
    return best;
}

} // namespace wirenote
