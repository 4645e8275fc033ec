#include "plucking/plucked_line.h"

#include "base/interpolate.h"
#include "music/fifths.h"

#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <utility>

namespace wirenote {
namespace {

constexpr double kOver_s = 0.05;        // a note that sounds on this long under the next rings
constexpr double kFromString_s = 0.003; // a pick takes at least so long from string to string
constexpr double kOrderTrust = 0.93;    // of an order that the times themselves have
constexpr double kSweepWithin_s = 0.35; // from note to note

// What the beats are, or would be by the tempo from the first note on.
std::vector<double> beatsOf(const Timeline& timeline, const std::vector<Attack>& attacks) {
    if (timeline.beats_s.size() >= 2 || timeline.tempo_bpm <= 0.0 || attacks.empty())
        return timeline.beats_s;
    const double beat_s = 60.0 / timeline.tempo_bpm;
    std::vector<double> beats_s;
    for (double t = attacks.front().onset_s;
         t <= attacks.back().onset_s + beat_s && beats_s.size() < kMaxBeats;
         t += beat_s)
        beats_s.push_back(t);
    if (beats_s.size() < 2)
        beats_s.push_back(attacks.front().onset_s + beat_s);
    return beats_s;
}

// Whether thick strings come first, as far as the notes' own times say: they do where they are some
// milliseconds apart, in order.
std::optional<double> orderByTimes(const Rows& rows, const Pluck& pluck) {
    const auto count = static_cast<double>(pluck.notes.size());
    if (pluck.strings.size() < 2 || pluck.spread_s < kFromString_s * (count - 1.0))
        return std::nullopt;
    int down = 0;
    int pairs = 0;
    for (std::size_t k = 1; k < pluck.notes.size(); ++k) {
        const int before = rows[pluck.notes[k - 1]].plan.position.value.string;
        const int now = rows[pluck.notes[k]].plan.position.value.string;
        if (before == now)
            continue;
        ++pairs;
        down += now < before ? 1 : 0;
    }
    if (pairs == 0)
        return std::nullopt;
    const double share = static_cast<double>(down) / pairs;
    return 0.5 + (share - 0.5) * (2.0 * kOrderTrust - 1.0);
}

bool strikesFifth(const Rows& rows, const Pluck& pluck) {
    std::vector<int> pitches;
    for (const std::size_t n : pluck.notes)
        pitches.push_back(rows[n].note.frettedMidi());
    return isFifth(std::move(pitches));
}

bool isDamped(const Note& note) {
    return note.has(Technique::PalmMute) || note.has(Technique::Dead);
}

Pluck pluckOf(const Instrument& instrument, const Rows& rows, const Attack& attack) {
    Pluck pluck;
    static_cast<Attack&>(pluck) = attack;
    double last_s = attack.onset_s;
    for (const std::size_t n : pluck.notes) {
        const auto& [note, plan] = rows[n];
        last_s = std::max(last_s, note.onset_s());
        if (instrument.hasString(plan.position.value.string))
            pluck.strings.push_back(plan.position.value.string);
    }
    std::ranges::sort(pluck.strings, std::ranges::greater{});
    pluck.strings.erase(std::unique(pluck.strings.begin(), pluck.strings.end()),
                        pluck.strings.end());
    pluck.spread_s = last_s - attack.onset_s;

    pluck.damped =
        std::ranges::all_of(pluck.notes, [&rows](std::size_t n) { return isDamped(rows[n].note); });
    pluck.ghost = std::ranges::any_of(
        pluck.notes, [&rows](std::size_t n) { return rows[n].note.has(Technique::GhostStroke); });
    if (pluck.ghost)
        pluck.strings.clear(); // its string means nothing
    pluck.fifth = strikesFifth(rows, pluck);
    if (!pluck.heard)
        if (const auto down = orderByTimes(rows, pluck)) {
            pluck.heard = pluck.by_times = true;
            pluck.down = *down;
        }
    return pluck;
}

} // namespace

PluckedLine::PluckedLine(const Instrument& instrument, const Timeline& timeline, const Rows& rows)
    : m_instrument(instrument), m_rows(rows), m_compound(timeline.metre.compound()) {
    const auto attacks = attacksOf(rows.notes());
    const auto beats_s = beatsOf(timeline, attacks);
    const auto downbeats_s = timeline.downbeats_s();
    m_has_beats = beats_s.size() >= 2;
    constexpr double kOnBeat_s = 0.08;
    for (const Attack& attack : attacks) {
        Pluck pluck = pluckOf(instrument, rows, attack);
        if (m_has_beats)
            pluck.beat = placeAmong(beats_s, pluck.onset_s);
        const auto bar = std::ranges::lower_bound(downbeats_s, pluck.onset_s - kOnBeat_s);
        pluck.downbeat = bar != downbeats_s.end() && *bar < pluck.onset_s + kOnBeat_s;
        if (!m_plucks.empty()) {
            const Pluck& before = m_plucks.back();
            pluck.gap_s = pluck.onset_s - before.onset_s;
            if (m_has_beats)
                pluck.beats_since = pluck.beat - before.beat;
            for (std::size_t n = before.notes.back(); n < pluck.notes.front(); ++n)
                pluck.slurred_into |= rows[n].note.slurred();
        }
        m_plucks.push_back(std::move(pluck));
    }
    markRings();
    markSlots();
    markSweeps();
}

PluckedLine PluckedLine::withoutOrder() const {
    PluckedLine line = *this;
    for (Pluck& pluck : line.m_plucks) {
        pluck.heard = pluck.by_times = false;
        pluck.down = 0.5;
    }
    return line;
}

// A bass that is held under a tune does not make the tune a broken chord.
void PluckedLine::markRings() {
    for (std::size_t i = 0; i + 1 < m_plucks.size(); ++i) {
        Pluck& now = m_plucks[i];
        double until_s = 0.0; // to which it sounds above the bass
        for (const std::size_t n : now.notes)
            if (const int string = m_rows[n].plan.position.value.string;
                string > 0 && !onBass(string))
                until_s = std::max(until_s, m_rows[n].note.offset_s());
        std::size_t to = i + 1; // the next one above the bass
        while (to < m_plucks.size() && m_plucks[to].onset_s < until_s &&
               (m_plucks[to].strings.empty() || onBass(m_plucks[to].strings.back())))
            ++to;
        if (to == m_plucks.size() || m_plucks[to].onset_s >= until_s)
            continue;
        const int above = m_plucks[to].strings.back();
        const bool over = std::ranges::any_of(now.notes, [&](std::size_t n) {
            const auto& [note, plan] = m_rows[n];
            const int string = plan.position.value.string;
            return string > 0 && !onBass(string) && string != above &&
                   note.offset_s() > m_plucks[to].onset_s + kOver_s;
        });
        now.rings |= over;
        m_plucks[to].rings |= over;
    }
}

// How many strokes the hand makes to a beat about an attack: sixteenth motion counts four,
// anything slower two; triplets three.
void PluckedLine::markSlots() {
    for (std::size_t i = 0; i < m_plucks.size(); ++i) {
        double gap = std::min(1.0, m_plucks[i].beats_since);
        if (i + 1 < m_plucks.size())
            gap = std::min(gap, m_plucks[i + 1].beats_since);
        if (m_compound) {
            m_plucks[i].slot = gap < 0.25 ? 1.0 / 6.0 : 1.0 / 3.0;
            continue;
        }
        constexpr double kNear = 0.06; // of a beat
        const double halves = 2.0 * m_plucks[i].beat;
        const double off = std::abs(halves - std::round(halves)) / 2.0; // a quarter at the most
        m_plucks[i].slot = gap < 0.3 || off > 0.25 - kNear ? 0.25 : gap < 0.4 ? 1.0 / 3.0 : 0.5;
    }
}

void PluckedLine::markSweeps() {
    m_sweeps.assign(m_plucks.size(), {});
    const auto step = [this](std::size_t i) { // to this attack: +1 thinner, −1 thicker, 0 neither
        const Pluck& before = m_plucks[i - 1];
        const Pluck& now = m_plucks[i];
        if (!before.single() || !now.single() || before.string() == 0 || now.string() == 0 ||
            now.slurred_into || now.gap_s > kSweepWithin_s)
            return 0;
        const int moved = before.string() - now.string();
        return std::abs(moved) == 1 ? moved : 0;
    };
    std::size_t first = 0;
    while (first + 1 < m_plucks.size()) {
        const int way = step(first + 1);
        std::size_t last = first;
        while (way != 0 && last + 1 < m_plucks.size() && step(last + 1) == way)
            ++last;
        const auto length = static_cast<int>(last - first) + 1;
        if (length >= 3)
            for (std::size_t i = first; i <= last; ++i)
                if (m_sweeps[i].length == 0) // the note where it turns round belongs to the first
                    m_sweeps[i] = {length, way > 0};
        first = std::max(last, first + 1);
    }
}

} // namespace wirenote
