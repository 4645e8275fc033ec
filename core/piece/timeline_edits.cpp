#include "piece/timeline_edits.h"

#include "piece/timeline_map.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

constexpr double kLeastPlacedBeat_s = 0.1;
constexpr std::size_t kFewestTaps = 4;
constexpr double kOnBeat_s = 0.02;
constexpr int kMostParts = 12; // of a beat

void isSet(Timeline& timeline) {
    timeline.basis = Basis::Set;
    timeline.tempo_bpm = middleTempo(timeline);
}

Status needsBeats(const Timeline& timeline) {
    return timeline.beats_s.size() < 2
               ? badCall("there are no beats yet: tap them, or type a tempo")
               : Status{};
}

// What a person said of a beat holds as long as that beat is there: where beats were laid anew, the
// one that begins and ends where it did.
void keepDivisions(const Timeline& before, Timeline& timeline) {
    constexpr double kSameBeat = 0.1; // of its length
    timeline.divisions.clear();
    const auto& old = before.beats_s;
    const auto& now = timeline.beats_s;
    for (const SetDivision& division : before.divisions) {
        const auto beat = static_cast<std::size_t>(division.beat);
        if (beat + 1 >= old.size())
            continue;
        const double near_s = kSameBeat * (old[beat + 1] - old[beat]);
        const auto at = std::ranges::lower_bound(now, old[beat] - near_s);
        if (at != now.end() && at + 1 != now.end() && *at <= old[beat] + near_s &&
            std::abs(*(at + 1) - old[beat + 1]) <= near_s)
            timeline.divisions.push_back({static_cast<int>(at - now.begin()), division.parts});
    }
}

// Two beats of as many parts each are one of twice as many.
std::vector<SetDivision> halved(const std::vector<SetDivision>& divisions, int keep) {
    std::vector<SetDivision> kept;
    for (const SetDivision& first : divisions) {
        const auto second = std::ranges::find(divisions, first.beat + 1, &SetDivision::beat);
        if ((first.beat - keep) % 2 == 0 && first.beat >= keep && second != divisions.end() &&
            second->parts == first.parts && 2 * first.parts <= kMostParts)
            kept.push_back({(first.beat - keep) / 2, 2 * first.parts});
    }
    return kept;
}

// Half of an even number of parts each; other divisions have no beat of their own any more.
std::vector<SetDivision> doubled(const std::vector<SetDivision>& divisions) {
    std::vector<SetDivision> kept;
    for (const SetDivision& one : divisions)
        if (one.parts % 2 == 0)
            for (const int half : {0, 1})
                kept.push_back({2 * one.beat + half, one.parts / 2});
    return kept;
}

int barBeats(const Timeline& timeline) {
    return std::max(1, timeline.metre.feltBeats());
}

} // namespace

void numberFrom(Timeline& timeline, double first_s) {
    if (timeline.beats_s.size() < 2 || !timeline.changes.empty())
        return;
    const TimelineMap map(timeline);
    const auto at = map.barBeatAt(first_s + kOnBeat_s);
    const int beats = barBeats(timeline);
    const bool pickup = at.beat - 1.0 > 0.5 * beats - 1e-6; // common practice: under half a bar
    timeline.first_downbeat += (at.bar - 1 + (pickup ? 1 : 0)) * beats;
}

double middleTempo(const Timeline& timeline) {
    std::vector<double> steps;
    for (std::size_t i = 0; i + 1 < timeline.beats_s.size(); ++i)
        steps.push_back(timeline.beats_s[i + 1] - timeline.beats_s[i]);
    if (steps.empty())
        return timeline.tempo_bpm;
    // The mean of the middle half: as steady as a median, as fine as a mean.
    std::ranges::sort(steps);
    const std::size_t quarter = steps.size() / 4;
    double sum = 0.0;
    for (std::size_t i = quarter; i < steps.size() - quarter; ++i)
        sum += steps[i];
    return 60.0 * static_cast<double>(steps.size() - 2 * quarter) / sum;
}

Status layTempo(Timeline& timeline, double bpm, double origin_s, double end_s) {
    if (!(bpm >= 20.0 && bpm <= 400.0))
        return badCall("the tempo must lie between 20 and 400 beats a minute");
    if (!timeline.beats_s.empty())
        origin_s = timeline.beats_s[static_cast<std::size_t>(std::clamp<int>(
            timeline.first_downbeat, 0, static_cast<int>(timeline.beats_s.size()) - 1))];
    const Timeline old = timeline;
    const double step = 60.0 / bpm;
    const int before = static_cast<int>(std::floor(origin_s / step));
    timeline.beats_s.clear();
    timeline.pinned.clear();
    for (int k = -before; origin_s + k * step <= end_s + step; ++k)
        timeline.beats_s.push_back(origin_s + k * step);
    timeline.first_downbeat = before;
    keepDivisions(old, timeline);
    isSet(timeline);
    timeline.tempo_bpm = bpm;
    return {};
}

Status setMetre(Timeline& timeline, int bar, Metre metre) {
    if (bar < 1)
        return badCall("bars are counted from 1");
    if (bar == 1 && timeline.beats_s.size() < 2) {
        timeline.metre = metre;
        timeline.basis = Basis::Set;
        return {};
    }
    if (const Status there = needsBeats(timeline); !there)
        return there;
    const Timeline old = timeline;
    const BarGrid grid(old);
    const GridBar from = grid.bar(bar);
    const Metre before = bar > 1 ? grid.bar(bar - 1).metre : Metre{};
    std::erase_if(timeline.changes, [bar](const MetreChange& c) { return c.bar == bar; });
    if (bar == 1)
        timeline.metre = metre;
    else if (metre != before)
        timeline.changes.push_back({bar, metre});
    std::ranges::sort(timeline.changes, {}, &MetreChange::bar);
    const auto last = static_cast<int>(old.beats_s.size());
    if (from.metre.beatLength() == metre.beatLength() || from.first_beat >= last) {
        isSet(timeline);
        return {};
    }
    // Another felt beat: the beats from here on are laid along the old quarter notes.
    const TimelineMap map(old);
    const double end_s = old.beats_s.back();
    const auto kept = static_cast<std::size_t>(std::max(0, from.first_beat));
    timeline.beats_s.resize(kept);
    std::erase_if(timeline.pinned, [&](int beat) { return beat >= from.first_beat; });
    const BarGrid anew(timeline);
    for (int beat = static_cast<int>(kept); timeline.beats_s.size() < kMaxBeats; ++beat) {
        const double t = map.timeAt(anew.quartersOf(beat).toDouble());
        if (t > end_s + 1e-6)
            break;
        timeline.beats_s.push_back(t);
    }
    keepDivisions(old, timeline);
    isSet(timeline);
    return {};
}

Status pinBeat(Timeline& timeline, int beat, double time_s) {
    if (beat < 0 || beat >= static_cast<int>(timeline.beats_s.size()))
        return badCall("there is no such beat");
    const int last = static_cast<int>(timeline.beats_s.size()) - 1;
    // The stretch that follows: to the nearest placed beats, at most a bar away.
    int from = std::max(0, beat - barBeats(timeline));
    int to = std::min(last, beat + barBeats(timeline));
    for (const int pinned : timeline.pinned) {
        if (pinned < beat)
            from = std::max(from, pinned);
        if (pinned > beat) {
            to = std::min(to, pinned);
            break;
        }
    }
    auto& t = timeline.beats_s;
    const auto at = [&t](int i) { return t[static_cast<std::size_t>(i)]; };
    const double low = from < beat ? at(from) + kLeastPlacedBeat_s * (beat - from) : -1e9;
    const double high = to > beat ? at(to) - kLeastPlacedBeat_s * (to - beat) : 1e9;
    if (time_s < low || time_s > high)
        return badCall("beats cannot change their order, and placed ones stay where they are");
    const double old = at(beat);
    const std::vector<double> before = t;
    for (int i = from + 1; i < to; ++i) {
        const double x = before[static_cast<std::size_t>(i)];
        const double start = before[static_cast<std::size_t>(from)];
        const double end = before[static_cast<std::size_t>(to)];
        if (i < beat)
            t[static_cast<std::size_t>(i)] = start + (x - start) * (time_s - start) / (old - start);
        else if (i > beat)
            t[static_cast<std::size_t>(i)] = end - (end - x) * (end - time_s) / (end - old);
    }
    t[static_cast<std::size_t>(beat)] = time_s;
    if (std::ranges::find(timeline.pinned, beat) == timeline.pinned.end()) {
        timeline.pinned.push_back(beat);
        std::ranges::sort(timeline.pinned);
    }
    isSet(timeline);
    return {};
}

Status tapBeats(Timeline& timeline, std::span<const double> taps_s, double end_s) {
    if (taps_s.size() < kFewestTaps)
        return badCall("tap at least four beats");
    for (std::size_t i = 0; i + 1 < taps_s.size(); ++i)
        if (taps_s[i + 1] - taps_s[i] < kLeastPlacedBeat_s)
            return badCall("these taps are too close together for beats");
    const std::size_t n = taps_s.size();
    const double first_step = (taps_s[3] - taps_s[0]) / 3.0;
    const double last_step = (taps_s[n - 1] - taps_s[n - 4]) / 3.0;
    std::vector<double> beats;
    std::vector<double> early;
    for (double t = taps_s[0] - first_step; t >= 0.0; t -= first_step)
        early.push_back(t);
    beats.assign(early.rbegin(), early.rend());
    const int one = static_cast<int>(beats.size());
    beats.insert(beats.end(), taps_s.begin(), taps_s.end());
    for (double t = taps_s[n - 1] + last_step; t <= end_s + last_step; t += last_step)
        beats.push_back(t);
    const Timeline old = timeline;
    timeline.beats_s = std::move(beats);
    timeline.pinned.clear();
    keepDivisions(old, timeline);
    for (std::size_t i = 0; i < n; ++i)
        timeline.pinned.push_back(one + static_cast<int>(i));
    timeline.first_downbeat = one;
    isSet(timeline);
    return {};
}

Status halveTempo(Timeline& timeline) {
    if (timeline.beats_s.size() < 4)
        return badCall("there are too few beats to leave out every other one");
    const int keep = timeline.first_downbeat % 2;
    std::vector<double> beats;
    for (std::size_t i = static_cast<std::size_t>(keep); i < timeline.beats_s.size(); i += 2)
        beats.push_back(timeline.beats_s[i]);
    std::vector<int> pinned;
    for (const int beat : timeline.pinned)
        if (beat % 2 == keep)
            pinned.push_back((beat - keep) / 2);
    timeline.beats_s = std::move(beats);
    timeline.pinned = std::move(pinned);
    timeline.first_downbeat = (timeline.first_downbeat - keep) / 2;
    timeline.changes.clear(); // their bars are no longer these
    timeline.divisions = halved(timeline.divisions, keep);
    isSet(timeline);
    return {};
}

Status doubleTempo(Timeline& timeline) {
    if (const Status there = needsBeats(timeline); !there)
        return there;
    std::vector<double> beats;
    for (std::size_t i = 0; i < timeline.beats_s.size(); ++i) {
        beats.push_back(timeline.beats_s[i]);
        if (i + 1 < timeline.beats_s.size())
            beats.push_back(0.5 * (timeline.beats_s[i] + timeline.beats_s[i + 1]));
    }
    timeline.beats_s = std::move(beats);
    for (int& beat : timeline.pinned)
        beat *= 2;
    timeline.first_downbeat *= 2;
    timeline.divisions = doubled(timeline.divisions);
    timeline.changes.clear();
    isSet(timeline);
    return {};
}

Status setPickup(Timeline& timeline, double first_s, Rational quarters) {
    if (const Status there = needsBeats(timeline); !there)
        return there;
    if (quarters < Rational(0) || quarters >= timeline.metre.barLength())
        return badCall("a pick-up is shorter than a bar");
    const TimelineMap map(timeline);
    const double one_s = map.timeAt(map.quartersAt(first_s) + quarters.toDouble());
    return setOne(timeline, one_s);
}

Status setOne(Timeline& timeline, double time_s) {
    if (const Status there = needsBeats(timeline); !there)
        return there;
    auto& beats = timeline.beats_s;
    const auto nearest =
        std::ranges::min_element(beats, {}, [time_s](double t) { return std::abs(t - time_s); });
    const double shift = time_s - *nearest;
    const int index = static_cast<int>(nearest - beats.begin());
    const double step = 60.0 / std::max(1.0, middleTempo(timeline));
    if (std::abs(shift) > std::max(kOnBeat_s, 0.12 * step)) {
        for (double& beat : beats)
            beat += shift;
        timeline.pinned.clear(); // they were beats of another count
    }
    timeline.first_downbeat = index;
    timeline.changes.clear();
    isSet(timeline);
    return {};
}

Status setDivision(Timeline& timeline, int beat, int parts) {
    if (beat < 0 || beat >= static_cast<int>(timeline.beats_s.size()))
        return badCall("there is no such beat");
    if (parts < 1 || parts > kMostParts)
        return badCall("a beat is divided into 1 to 12 parts");
    std::erase_if(timeline.divisions, [beat](const SetDivision& d) { return d.beat == beat; });
    timeline.divisions.push_back({beat, parts});
    std::ranges::sort(timeline.divisions, {}, &SetDivision::beat);
    timeline.basis = Basis::Set;
    return {};
}

Status setSwing(Timeline& timeline, double ratio) {
    if (!(ratio >= 1.0 && ratio <= kMostSwing))
        return badCall("swing lies between 1 (straight) and 3");
    timeline.swing = ratio;
    timeline.basis = Basis::Set;
    return {};
}

} // namespace wirenote
