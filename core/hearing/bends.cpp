#include "hearing/bends.h"

#include "base/median.h"
#include "hearing/techniques.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace wirenote {
namespace {

constexpr double kEdge = 0.12;   // of the way: not yet moving
constexpr double kGap_s = 0.045; // points further apart do not belong to one movement

void append(Note& note, const Note& rest) {
    const double step_cents = 100.0 * (rest.pitch.value - note.pitch.value);
    for (const PitchPoint& p : rest.curve)
        note.curve.push_back({p.time_s, p.dev_cents + step_cents});
    note.time.value.end_s = rest.time.value.end_s;
    note.existence.probability = std::min(note.existence.probability, rest.existence.probability);
    note.time.probability = note.existence.probability;
    if (rest.has(Technique::Vibrato) && !note.has(Technique::Vibrato))
        note.techniques.push_back(Technique::Vibrato);
}

bool drawn(double step, double glide, const BendParameters& p) {
    const double speed = (1.0 - 2.0 * kEdge) * step / std::max(glide, 1e-6);
    return glide >= p.slow_s || (glide >= p.least_s && speed <= p.most_semitones_per_s);
}

bool slursOn(const Note& from, const Note& to, const BendParameters& p) {
    return to.slurred() && to.onset_s() - from.offset_s() < p.together_s;
}

} // namespace

double glide_s(const Note& from, const Note& to) {
    const double step_cents = 100.0 * (to.pitch.value - from.pitch.value);
    if (step_cents == 0.0)
        return 0.0;
    std::vector<double> moving;
    const auto look = [&](const Note& note, double offset_cents) {
        for (const PitchPoint& p : note.curve) {
            const double way = (p.dev_cents + offset_cents) / step_cents;
            if (way > kEdge && way < 1.0 - kEdge)
                moving.push_back(p.time_s);
        }
    };
    look(from, 0.0);
    look(to, step_cents);
    // The run of points nearest to where the notes meet.
    const auto at = std::ranges::min_element(
        moving, {}, [&to](double t) { return std::abs(t - to.onset_s()); });
    if (at == moving.end() || std::abs(*at - to.onset_s()) > kGap_s)
        return 0.0;
    auto first = at;
    auto last = at;
    while (first != moving.begin() && *first - *(first - 1) < kGap_s)
        --first;
    while (last + 1 != moving.end() && *(last + 1) - *last < kGap_s)
        ++last;
    return *last - *first;
}

void joinBends(std::vector<Note>& notes, const BendParameters& p) {
    std::vector<Note> kept;
    for (std::size_t i = 0; i < notes.size(); ++i) {
        Note note = std::move(notes[i]);
        if (i + 1 < notes.size() && slursOn(note, notes[i + 1], p)) {
            const Note& up = notes[i + 1];
            const double step = up.pitch.value - note.pitch.value;
            const double glide = glide_s(note, up);
            if (-step >= p.least_semitones && -step <= p.most_pre_bend && drawn(-step, glide, p)) {
                append(note, up);
                note.add(Technique::PreBend);
                note.add(Technique::Release);
                kept.push_back(std::move(note));
                ++i;
                continue;
            }
            const bool back =
                i + 2 < notes.size() && slursOn(up, notes[i + 2], p) &&
                std::abs(notes[i + 2].pitch.value - note.pitch.value) < p.same_semitones &&
                glide_s(up, notes[i + 2]) >= p.least_s;
            if (step >= p.least_semitones && step <= p.most_semitones &&
                (drawn(step, glide, p) || (back && glide >= p.least_s))) {
                append(note, up);
                note.techniques.push_back(Technique::Bend);
                ++i;
                if (back) {
                    append(note, notes[i + 1]);
                    note.techniques.push_back(Technique::Release);
                    ++i;
                }
            }
        }
        kept.push_back(std::move(note));
    }
    notes = std::move(kept);
}

namespace {

// The pitch at rest: medians of stretches of the curve, in cents from the note's pitch.
std::vector<double> levelsOf(const Note& note, const DrawnParameters& p) {
    std::vector<double> levels;
    std::vector<double> cents;
    for (double t = note.onset_s() + p.settle_s; t + p.level_s <= note.offset_s();
         t += 0.5 * p.level_s) {
        cents.clear();
        for (const PitchPoint& point : note.curve)
            if (point.time_s >= t && point.time_s < t + p.level_s)
                cents.push_back(point.dev_cents);
        if (cents.size() < 3)
            continue;
        levels.push_back(*median(cents));
    }
    return levels;
}

// Where the curve was going when the note ended: it may be let back no sooner than that.
double lastOf(const Note& note) {
    constexpr std::size_t kPoints = 3;
    if (note.curve.size() < kPoints)
        return 0.0;
    std::array<double, kPoints> last{};
    for (std::size_t i = 0; i < kPoints; ++i)
        last[i] = note.curve[note.curve.size() - kPoints + i].dev_cents;
    std::ranges::sort(last);
    return last[kPoints / 2];
}

} // namespace

void markDrawn(Note& note, const DrawnParameters& p) {
    if (note.has(Technique::Bend) || note.has(Technique::PreBend) || !note.pitched())
        return;
    const auto levels = levelsOf(note, p);
    if (levels.size() < 3 || std::abs(levels.front()) > p.least_up_cents)
        return;
    const auto vibrato = vibratoOf(note);
    const double swing = vibrato ? p.swings * vibrato->width_cents : 0.0;
    const double up = *std::ranges::max_element(levels) - levels.front();
    const double down = levels.front() - *std::ranges::min_element(levels);
    const double now = levels.back() - levels.front();
    if (up >= p.least_up_cents + swing && up <= p.most_cents && up > down) {
        note.add(Technique::Bend);
        if (std::min(now, lastOf(note) - levels.front()) < p.back * up)
            note.add(Technique::Release);
    } else if (down >= p.least_down_cents + swing && down <= p.most_cents && -now > 0.7 * down) {
        note.add(Technique::PreBend);
        note.add(Technique::Release);
    }
}

void markDrawn(std::vector<Note>& notes, const DrawnParameters& parameters) {
    for (Note& note : notes)
        markDrawn(note, parameters);
}

} // namespace wirenote
