#include "strings/measuring.h"

#include "base/parallel.h"
#include "music/pitch.h"
#include "signal/stiffness_meter.h"
#include "signal/tone_meter.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

constexpr double kSettle_s = 0.02; // the attack itself is noise
constexpr double kLongest_s = 0.42;
constexpr double kShortest_s = 0.08;
constexpr double kEnough_s = 0.16; // with so much alone, what begins later is left out
constexpr double kAmong_sd = 0.06;
constexpr double kUsualB = 5e-5;
constexpr std::size_t kReach = 40; // notes that may sound together with one

// The stretch of a note that tells most: from its attack (and that of the rest of its stroke) until
// it ends, or until another begins when that leaves enough.
TimeRange tellingStretch(const std::vector<Note>& notes, std::size_t i) {
    const Note& note = notes[i];
    TimeRange span{note.onset_s() + kSettle_s,
                   std::min(note.offset_s(), note.onset_s() + kLongest_s)};
    for (std::size_t j = i + 1; j < notes.size() && notes[j].onset_s() < span.end_s; ++j) {
        if (notes[j].onset_s() < span.start_s + kEnough_s - kSettle_s &&
            notes[j].onset_s() < note.onset_s() + 0.1)
            span.start_s = notes[j].onset_s() + kSettle_s;
        else if (notes[j].onset_s() >= span.start_s + kEnough_s) {
            span.end_s = notes[j].onset_s();
            break;
        }
    }
    // The pitch must stand: a bent string is measured before it is drawn.
    for (const PitchPoint& p : note.curve)
        if (p.time_s > span.start_s + kShortest_s && std::abs(p.dev_cents) > 40.0) {
            span.end_s = std::min(span.end_s, p.time_s);
            break;
        }
    return span;
}

// The tone may be followed until the note ends or the next is struck.
double toneEnd(const std::vector<Note>& notes, std::size_t i) {
    double end = notes[i].offset_s();
    for (std::size_t j = i + 1; j < notes.size() && notes[j].onset_s() < end; ++j)
        if (notes[j].onset_s() > notes[i].onset_s() + 0.1)
            end = notes[j].onset_s();
    return end;
}

bool worthMeasuring(const Note& note, TimeRange span) {
    return !note.has(Technique::GhostStroke) && !note.has(Technique::Dead) &&
           !note.has(Technique::Harmonic) && span.length_s() >= kShortest_s;
}

// The fundamentals of what sounds with a note.
std::vector<double>
othersIn(TimeRange span, double a4_hz, const std::vector<Note>& notes, std::size_t i) {
    std::vector<double> others_hz;
    for (std::size_t j = i > kReach ? i - kReach : 0;
         j < notes.size() && notes[j].onset_s() < span.end_s;
         ++j)
        if (j != i && notes[j].offset_s() > span.start_s + 0.03)
            others_hz.push_back(hzFromMidi(notes[j].pitch.value, a4_hz));
    return others_hz;
}

} // namespace

namespace {

// One thread's meters.
struct Meters {
    explicit Meters(SoundView sound) : stiffness(sound), tone(sound) {}
    StiffnessMeter stiffness;
    ToneMeter tone;
};

void measure(Meters& meters, double a4_hz, std::vector<Note>& notes, std::size_t i) {
    Note& note = notes[i];
    note.forgetString();
    const TimeRange span = tellingStretch(notes, i);
    if (!worthMeasuring(note, span))
        return;
    const auto others_hz = othersIn(span, a4_hz, notes, i);
    const StiffnessFit fit =
        meters.stiffness.measure(span, hzFromMidi(note.pitch.value, a4_hz), others_hz);
    // With other strings sounding, partials are taken for each other now and then.
    if (fit.told())
        note.ownSound().stiffness = {fit.log_b,
                                     std::hypot(fit.sd, others_hz.empty() ? 0.0 : kAmong_sd),
                                     false,
                                     !others_hz.empty()};
    if (note.has(Technique::Vibrato) || note.bendSemitones() > 0.0)
        return; // its partials move through the windows: levels would mean nothing
    const ToneFit tone = meters.tone.measure({span.start_s, toneEnd(notes, i)},
                                             fit.f0_hz,
                                             fit.told() ? std::exp(fit.log_b) : kUsualB,
                                             others_hz);
    note.ownSound().tone = {tone.decay_low, tone.decay_high, tone.comb, tone.tilt};
}

} // namespace

Status
measureStrings(SoundView sound, double a4_hz, std::vector<Note>& notes, const JobControl& job) {
    constexpr std::size_t kBatch = 64; // notes, between two looks at `job`
    std::vector<Meters> meters;
    for (std::size_t w = 0; w < workerCount(); ++w)
        meters.emplace_back(sound);
    for (std::size_t first = 0; first < notes.size(); first += kBatch) {
        if (job.cancelRequested())
            return cancelled();
        const std::size_t count = std::min(kBatch, notes.size() - first);
        // What is written is the note's own; what is read of the others is not written here.
        inParallel(count, meters.size(), [&](std::size_t worker, std::size_t from, std::size_t to) {
            for (std::size_t i = first + from; i < first + to; ++i)
                measure(meters[worker], a4_hz, notes, i);
        });
    }
    return {};
}

StiffnessFit
fitPartials(SoundView sound, double a4_hz, const std::vector<Note>& notes, std::size_t index) {
    const TimeRange span = tellingStretch(notes, index);
    if (!worthMeasuring(notes[index], span))
        return {};
    StiffnessMeter meter(sound);
    return meter.measure(
        span, hzFromMidi(notes[index].pitch.value, a4_hz), othersIn(span, a4_hz, notes, index));
}

} // namespace wirenote
