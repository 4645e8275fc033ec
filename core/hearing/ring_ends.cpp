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

// What the attacks say of a string that rings through them: above, it rings on, …
constexpr float kRingsOn = 0.75F;
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

bool begins(const ChordEvent& event, int midi) {
    return std::ranges::any_of(event.notes, [midi](const ChordNote& n) { return n.midi == midi; });
}

// What rings, from attack to attack.
class Rings {
  public:
    Rings(std::vector<ChordEvent>& events, double end_drop_db)
        : m_events(events), m_end_drop_db(end_drop_db) {}

    // The attacks before `t`: what they stop, and what they begin.
    void strike(double t) {
        for (; m_next < m_events.size() && m_events[m_next].onset_s < t; ++m_next) {
            stopWhatIsOver(m_events[m_next]);
            for (ChordNote& note : m_events[m_next].notes)
                begin(note);
        }
    }

    // How loud each string is at `t`; those that are over end.
    template <class LevelOf> void follow(double t, const LevelOf& level_db) {
        std::erase_if(m_ringing, [&](Ringing& r) {
            r.levels_db.push_back(level_db(*r.note));
            if (t < r.note->onset_s + kLoudest_s)
                r.note->level_db = std::max(r.note->level_db, r.levels_db.back());
            const bool over = isOver(r, t, m_end_drop_db) && !saidToRing(t, r.note->midi);
            if (over)
                r.note->offset_s = std::max(r.note->onset_s + 0.05, t + 0.25 * kWindow_s);
            return over;
        });
    }

    bool silent() const { return m_ringing.empty(); }
    void endAll(double at_s) {
        for (const Ringing& r : m_ringing)
            r.note->offset_s = at_s;
    }

  private:
    static constexpr double kLoudest_s = 0.12; // after its attack a note is at its loudest

    void stopWhatIsOver(const ChordEvent& event) {
        std::erase_if(m_ringing, [&event](const Ringing& old) {
            const bool stopped = old.note->onset_s < event.onset_s - kStep_s &&
                                 !begins(event, old.note->midi) &&
                                 event.soundsOf(old.note->midi) < kStoppedBelow;
            if (stopped)
                old.note->offset_s = event.onset_s;
            return stopped;
        });
    }

    void begin(ChordNote& note) {
        std::erase_if(m_ringing, [&note](const Ringing& old) {
            const bool again = old.note->midi == note.midi;
            if (again)
                old.note->offset_s = note.onset_s;
            return again;
        });
        note.offset_s = 0.0;
        note.level_db = -200.0;
        m_ringing.push_back({&note, {}});
    }

    // True when the last attack, or one that comes soon, says that this string rings still at `t`.
    bool saidToRing(double t, int midi) const {
        if (m_next > 0 && t < m_events[m_next - 1].onset_s + kSaidAfter_s &&
            m_events[m_next - 1].soundsOf(midi) > kRingsOn)
            return true;
        return m_next < m_events.size() && m_events[m_next].onset_s < t + kSaidSoon_s &&
               !begins(m_events[m_next], midi) && m_events[m_next].soundsOf(midi) > kRingsOn;
    }

    std::vector<ChordEvent>& m_events;
    double m_end_drop_db;
    std::vector<Ringing> m_ringing;
    std::size_t m_next = 0; // attack
};

} // namespace

Status findRingEnds(SoundView sound,
                    const Instrument& instrument,
                    const LocalTuning& tuning,
                    double end_drop_db,
                    std::vector<ChordEvent>& events,
                    const JobControl& job) {
    MomentSpectra spectra(sound);
    Rings rings(events, end_drop_db);
    for (double t = 0.0; t < sound.length_s(); t += kStep_s) {
        rings.strike(t);
        if (job.cancelRequested())
            return cancelled();
        if (rings.silent())
            continue;
        const auto spectrum = spectra.at(t, t + kWindow_s);
        rings.follow(t, [&](const ChordNote& note) {
            const double f0_hz = hzFromMidi(note.midi, tuning.a4At(note.onset_s));
            const double power =
                combLevel(spectrum, f0_hz, meanStiffness(instrument, note.midi), spectra.binHz());
            return 10.0 * std::log10(1e-14 + power);
        });
    }
    rings.endAll(sound.length_s());
    return {};
}

} // namespace wirenote
