#include "hearing/slurs.h"

#include "base/median.h"
#include "base/nearby.h"
#include "signal/fft.h"
#include "signal/hann.h"

#include <algorithm>
#include <cmath>
#include <utility>

namespace wirenote {
namespace {

constexpr int kFft = 128;
constexpr double kLowest_hz = 2500.0;
constexpr double kHighest_hz = 9000.0;
constexpr double kStep_s = 0.002;
constexpr double kBefore_s = 0.030;
constexpr double kApart_s = 0.012; // where "before" ends
constexpr double kAfter_s = 0.020;

// Level above the lowest frequency in the short stretch from a moment on.
double levelFrom(SoundView sound, RealFft& fft, double at_s) {
    putHann(sound, std::lround(at_s * sound.rate_hz), kFft, fft.time());
    fft.forward();
    const double bin_hz = sound.rate_hz / kFft;
    double power = 0.0;
    for (auto b = static_cast<std::size_t>(kLowest_hz / bin_hz);
         b < std::min<std::size_t>(kFft / 2, static_cast<std::size_t>(kHighest_hz / bin_hz));
         ++b)
        power += std::norm(fft.spectrum()[b]);
    return 10.0 * std::log10(power + 1e-9);
}

// What is usual among the notes near each.
Nearby usual(const std::vector<TimedValue>& figures) {
    constexpr double kReach_s = 6.0;
    return {figures, kReach_s, [](std::vector<double>& near) { return *quantile(near, 0.5); }};
}

double noiseAbout_db(SoundView sound, RealFft& fft, double onset_s) {
    std::vector<double> before;
    double loudest = -200.0;
    for (double t = onset_s - kBefore_s; t < onset_s + kAfter_s; t += kStep_s) {
        const double level = levelFrom(sound, fft, t);
        if (t < onset_s - kApart_s)
            before.push_back(level);
        else
            loudest = std::max(loudest, level);
    }
    return loudest - *median(before);
}

} // namespace

double strokeNoise_db(SoundView sound, double onset_s) {
    RealFft fft(kFft);
    return noiseAbout_db(sound, fft, onset_s);
}

double dipBefore_db(SoundView sound, double onset_s) {
    const auto mean_db = [&](double from_s, double to_s) {
        const auto last = static_cast<double>(sound.samples.size());
        const auto from = static_cast<std::size_t>(std::clamp(from_s * sound.rate_hz, 0.0, last));
        const auto to = static_cast<std::size_t>(std::clamp(to_s * sound.rate_hz, 0.0, last));
        double power = 0.0;
        for (std::size_t i = from; i < to; ++i)
            power += static_cast<double>(sound.samples[i]) * sound.samples[i];
        return 10.0 *
               std::log10(power / std::max<double>(1.0, static_cast<double>(to - from)) + 1e-12);
    };
    return std::max(
        0.0, mean_db(onset_s - 0.045, onset_s - 0.02) - mean_db(onset_s - 0.015, onset_s - 0.003));
}

void markSlurs(SoundView sound, std::vector<Note>& notes, const SlurParameters& p) {
    // What a stroke is like differs from take to take: most notes are struck.
    RealFft fft(kFft);
    std::vector<TimedValue> noise;
    std::vector<TimedValue> strength;
    for (const Note& note : notes) {
        noise.push_back({note.onset_s(), noiseAbout_db(sound, fft, note.onset_s())});
        strength.push_back({note.onset_s(), std::max(0.0, note.heard().attack.strength)});
    }
    const Nearby usual_noise = usual(noise);
    const Nearby usual_strength = usual(strength);
    for (std::size_t i = 1; i < notes.size(); ++i) {
        Note& note = notes[i];
        const Note& before = notes[i - 1];
        const int step = note.midi() - before.midi();
        const double most_noise_db =
            std::min(p.most_noise_db, p.share * usual_noise.at(note.onset_s()));
        const double most_strength = p.strength_share * usual_strength.at(note.onset_s());
        if (note.slurred() || step == 0 || std::abs(step) > p.most_semitones ||
            note.onset_s() - before.offset_s() > p.together_s ||
            strength[i].value > most_strength || noise[i].value > most_noise_db ||
            dipBefore_db(sound, note.onset_s()) > p.most_dip_db)
            continue;
        note.techniques.push_back(step > 0 ? Technique::HammerOn : Technique::PullOff);
        note.ownSound().attack.soft = true;
    }
}

namespace {

// True when something else rings on past the beginning of the note.
bool amongOthers(const std::vector<Note>& notes, std::size_t i, std::size_t before) {
    constexpr std::size_t kFar = 32;
    for (std::size_t k = i > kFar ? i - kFar : 0; k < i; ++k)
        if (k != before && notes[k].pitched() && notes[k].offset_s() > notes[i].onset_s() + 0.05)
            return true;
    return false;
}

} // namespace

int markSlursOnStrings(SoundView sound, Piece& piece, const SlurParameters& p) {
    RealFft fft(kFft);
    auto& notes = piece.notes;
    std::vector<double> noise;
    std::vector<TimedValue> struck;
    std::vector<std::size_t> last(static_cast<std::size_t>(piece.instrument.stringCount()) + 1,
                                  notes.size());
    for (const Note& note : notes) {
        noise.push_back(noiseAbout_db(sound, fft, note.onset_s()));
        if (!note.slurred() && note.pitched())
            struck.push_back({note.onset_s(), noise.back()});
    }
    const Nearby usual_noise = usual(struck);
    int marked = 0;
    for (std::size_t i = 0; i < notes.size(); ++i) {
        const int string = piece.asPlayed().plans[i].position.value.string;
        if (string == 0)
            continue;
        const std::size_t before = std::exchange(last[static_cast<std::size_t>(string)], i);
        Note& note = notes[i];
        const bool alone =
            (i == 0 || note.onset_s() - notes[i - 1].onset_s() > p.alone_s) &&
            (i + 1 == notes.size() || notes[i + 1].onset_s() - note.onset_s() > p.alone_s);
        if (before == notes.size() || note.slurred() || !note.pitched() || !alone ||
            !amongOthers(notes, i, before))
            continue;
        const int step = note.midi() - notes[before].midi();
        const double most_noise_db =
            std::min(p.most_noise_db, p.clear_share * usual_noise.at(note.onset_s()));
        if (step == 0 || std::abs(step) > p.most_semitones || !notes[before].pitched() ||
            note.onset_s() - notes[before].offset_s() > p.together_s || noise[i] > most_noise_db)
            continue;
        note.add(step > 0 ? Technique::HammerOn : Technique::PullOff);
        note.ownSound().attack.soft = true;
        ++marked;
    }
    return marked;
}

} // namespace wirenote
