#include "hearing/ring_ends.h"

#include "hearing/combs.h"
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

} // namespace

void findRingEnds(SoundView sound,
                  const Instrument& instrument,
                  double a4_hz,
                  double end_drop_db,
                  std::vector<ChordEvent>& events) {
    MomentSpectra spectra(sound);
    constexpr double kStep_s = 0.03;
    constexpr double kWindow_s = 0.08;
    constexpr double kLongest_s = 6.0;
    std::vector<ChordNote*> ringing;
    std::size_t next_event = 0;
    for (double t = 0.0; t < sound.length_s(); t += kStep_s) {
        while (next_event < events.size() && events[next_event].onset_s < t) {
            for (ChordNote& note : events[next_event].notes) {
                for (ChordNote* old : ringing)
                    if (old->midi == note.midi)
                        old->offset_s = note.onset_s;
                std::erase_if(ringing, [&](const ChordNote* n) { return n->midi == note.midi; });
                note.offset_s = 0.0;
                note.level_db = -200.0;
                ringing.push_back(&note);
            }
            ++next_event;
        }
        if (ringing.empty())
            continue;
        const auto spectrum = spectra.at(t, t + kWindow_s);
        std::erase_if(ringing, [&](ChordNote* note) {
            const double b = meanStiffness(instrument, note->midi);
            const double db =
                10.0 *
                std::log10(1e-14 +
                           combLevel(spectrum, hzFromMidi(note->midi, a4_hz), b, spectra.binHz()));
            if (t < note->onset_s + 0.12)
                note->level_db = std::max(note->level_db, db);
            const bool over = (t > note->onset_s + 0.06 && db < note->level_db - end_drop_db) ||
                              t > note->onset_s + kLongest_s;
            if (over)
                note->offset_s = std::max(note->onset_s + 0.05, t + 0.25 * kWindow_s);
            return over;
        });
    }
    for (ChordNote* note : ringing)
        note->offset_s = sound.length_s();
}

} // namespace wirenote
