#include "hearing/palm_mutes.h"

#include "piece/one_stroke.h"
#include "signal/fft.h"
#include "signal/hann.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

constexpr int kFft = 2048; // the stretches are shorter: padded
constexpr double kFirst_s = 0.010;
constexpr double kStretch_s = 0.040;
constexpr double kLow_hz = 60.0;
constexpr double kUpper_hz = 800.0;
constexpr double kTop_hz = 6000.0;
constexpr double kLongest_s = 1.5;

struct Levels {
    double whole_db;
    double upper_db;
};

Levels levelsOf(SoundView sound, RealFft& fft, double from_s) {
    putHann(sound,
            std::lround(from_s * sound.rate_hz),
            static_cast<std::ptrdiff_t>(kStretch_s * sound.rate_hz),
            fft.time());
    fft.forward();
    const double bin_hz = sound.rate_hz / kFft;
    double whole = 1e-10;
    double upper = 1e-10;
    for (std::size_t b = 1; b < fft.spectrum().size(); ++b) {
        const double hz = static_cast<double>(b) * bin_hz;
        const double power = std::norm(fft.spectrum()[b]);
        whole += hz > kLow_hz && hz < kTop_hz ? power : 0.0;
        upper += hz > kUpper_hz && hz < kTop_hz ? power : 0.0;
    }
    return {10.0 * std::log10(whole), 10.0 * std::log10(upper)};
}

// When the muted note is no longer heard.
double mutedEnd(SoundView sound, RealFft& fft, double onset_s, double next_s, double drop_db) {
    const double peak_db = levelsOf(sound, fft, onset_s + kFirst_s).whole_db;
    const double until_s = std::min(next_s, onset_s + kLongest_s);
    for (double t = onset_s + kFirst_s; t + kStretch_s < until_s; t += 0.01)
        if (levelsOf(sound, fft, t).whole_db < peak_db - drop_db)
            return t + 0.5 * kStretch_s;
    return until_s;
}

EarlyDecay decayOf(SoundView sound, RealFft& fft, double onset_s) {
    const Levels at_once = levelsOf(sound, fft, onset_s + kFirst_s);
    const Levels then = levelsOf(sound, fft, onset_s + kFirst_s + kStretch_s);
    return {at_once.upper_db - then.upper_db, at_once.whole_db - then.whole_db};
}

} // namespace

EarlyDecay earlyDecay(SoundView sound, double onset_s) {
    RealFft fft(kFft);
    return decayOf(sound, fft, onset_s);
}

void markPalmMutes(SoundView sound, std::vector<Note>& notes, const PalmMuteParameters& p) {
    RealFft fft(kFft);
    for (const auto [i, end] : strokeSpans(notes)) {
        const double next_s = end < notes.size() ? notes[end].onset_s() : sound.length_s();
        const double last_s = notes[end - 1].onset_s();
        const bool struck = !notes[i].slurred() && !notes[i].has(Technique::GhostStroke) &&
                            notes[i].pitch.value <= p.highest_midi;
        const EarlyDecay decay = decayOf(sound, fft, last_s);
        if (struck && next_s - last_s >= p.least_room_s && decay.upper_db >= p.least_upper_db &&
            decay.whole_db >= p.least_whole_db && decay.whole_db <= p.most_whole_db)
            for (std::size_t n = i; n < end; ++n) {
                notes[n].techniques.push_back(Technique::PalmMute);
                notes[n].time.value.end_s =
                    std::max(notes[n].offset_s(),
                             mutedEnd(sound, fft, notes[n].onset_s(), next_s, p.end_drop_db));
            }
    }
}

} // namespace wirenote
