#include "hearing/ring_ends.h"

#include "hearing/moment_spectra.h"
#include "music/pitch.h"
#include "music/string_physics.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

// Level of a pitch's own partials at a moment.
double
combLevel(const std::vector<float>& spectrum, double f0_hz, double stiffness_b, double bin_hz) {
    double power = 0.0;
    for (int h = 1; h <= 4; ++h) {
        const auto b =
            static_cast<std::size_t>(std::lround(partial_hz(f0_hz, stiffness_b, h) / bin_hz));
        if (b + 1 < spectrum.size() && b > 0) {
            const double v = std::max({spectrum[b - 1], spectrum[b], spectrum[b + 1]});
            power += v * v;
        }
    }
    return power;
}

constexpr double kStep_s = 0.03;
constexpr double kWindow_s = 0.08;
constexpr double kLongest_s = 6.0;
constexpr std::size_t kRecent = 4; // steps over which a stopped string falls …
constexpr double kAbrupt_db = 7.0; // … by this at least
constexpr double kDying_db = 14.0; // further than end_drop_db, one that dies away is over too

// What the attacks say of a string that rings through them: below, it was stopped there …
constexpr float kStopped = 0.25F;
constexpr float kRingsOn = 0.75F;    // … above, it rings on, …
constexpr double kSaidAfter_s = 0.1; // … at least to this long after the attack;
constexpr double kSaidSoon_s = 0.5;  // what an attack this much later says counts for now, too

struct Ringing {
    ChordNote* note;
    std::vector<double> levels_db; // at each step
};

// A string that is stopped falls at once; one that dies away by itself is heard for long.
bool isOver(const Ringing& ringing, double t, double end_drop_db) {
    const auto& levels = ringing.levels_db;
    const double db = levels.back();
    const double fallen = ringing.note->level_db - db;
    if (t > ringing.note->onset_s + kLongest_s)
        return true;
    if (t <= ringing.note->onset_s + 0.06 || fallen < end_drop_db)
        return false;
    const bool young = levels.size() <= kRecent + 2;
    return young || levels[levels.size() - 1 - kRecent] - db > kAbrupt_db ||
           fallen > end_drop_db + kDying_db;
}

float soundsAt(const ChordEvent& event, int midi) {
    const int pitch = midi - kNetworkLowestMidi;
    return pitch >= 0 && pitch < kNetworkPitches ? event.sounds[static_cast<std::size_t>(pitch)]
                                                 : 0.5F;
}

bool begins(const ChordEvent& event, int midi) {
    return std::ranges::any_of(event.notes, [midi](const ChordNote& n) { return n.midi == midi; });
}

// True when the last attack, or one that comes soon, says that this string rings still at `t`.
bool saidToRing(const std::vector<ChordEvent>& events, std::size_t next, double t, int midi) {
    if (next > 0 && t < events[next - 1].onset_s + kSaidAfter_s &&
        soundsAt(events[next - 1], midi) > kRingsOn)
        return true;
    return next < events.size() && events[next].onset_s < t + kSaidSoon_s &&
           !begins(events[next], midi) && soundsAt(events[next], midi) > kRingsOn;
}

} // namespace

Status findRingEnds(SoundView sound,
                    const Instrument& instrument,
                    const LocalTuning& tuning,
                    double end_drop_db,
                    std::vector<ChordEvent>& events,
                    const JobControl& job) {
    MomentSpectra spectra(sound);
    std::vector<Ringing> ringing;
    std::size_t next_event = 0;
    for (double t = 0.0; t < sound.length_s(); t += kStep_s) {
        for (; next_event < events.size() && events[next_event].onset_s < t; ++next_event) {
            const ChordEvent& event = events[next_event];
            std::erase_if(ringing, [&event](const Ringing& old) {
                const bool stopped = old.note->onset_s < event.onset_s - kStep_s &&
                                     !begins(event, old.note->midi) &&
                                     soundsAt(event, old.note->midi) < kStopped;
                if (stopped)
                    old.note->offset_s = event.onset_s;
                return stopped;
            });
            for (ChordNote& note : events[next_event].notes) {
                std::erase_if(ringing, [&note](const Ringing& old) {
                    const bool again = old.note->midi == note.midi;
                    if (again)
                        old.note->offset_s = note.onset_s;
                    return again;
                });
                note.offset_s = 0.0;
                note.level_db = -200.0;
                ringing.push_back({&note, {}});
            }
        }
        if (job.cancelRequested())
            return cancelled();
        if (ringing.empty())
            continue;
        const auto spectrum = spectra.at(t, t + kWindow_s);
        std::erase_if(ringing, [&](Ringing& r) {
            const double b = meanStiffness(instrument, r.note->midi);
            r.levels_db.push_back(
                10.0 *
                std::log10(1e-14 + combLevel(spectrum,
                                             hzFromMidi(r.note->midi, tuning.a4At(r.note->onset_s)),
                                             b,
                                             spectra.binHz())));
            if (t < r.note->onset_s + 0.12)
                r.note->level_db = std::max(r.note->level_db, r.levels_db.back());
            const bool over =
                isOver(r, t, end_drop_db) && !saidToRing(events, next_event, t, r.note->midi);
            if (over)
                r.note->offset_s = std::max(r.note->onset_s + 0.05, t + 0.25 * kWindow_s);
            return over;
        });
    }
    for (const Ringing& r : ringing)
        r.note->offset_s = sound.length_s();
    return {};
}

} // namespace wirenote
