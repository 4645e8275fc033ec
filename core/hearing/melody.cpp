#include "hearing/melody.h"

#include "base/median.h"
#include "base/nearby.h"
#include "hearing/note_ends.h"
#include "hearing/octave_check.h"
#include "hearing/pitch_track.h"
#include "signal/partials.h"
#include "signal/tuning_reference.h"

#include <algorithm>
#include <cmath>
#include <iterator>

namespace wirenote {
namespace {

// A stretch that may become a note.
struct Piecelet {
    TimeRange span;
    double onset_strength = 0.0; // 0: begins without an attack
    double midi = 0.0;           // median pitch against A4 = 440 Hz; 0 when it has none
    double sharpness = 0.0;      // semitones by which the tracker reads this stiff string too high
    double clarity = 0.0;
    double voiced_share = 0.0;
    NoteLevel level;
    bool slurred = false; // the pitch moved here without an attack
    double glide_s = 0.0; // how long the pitch took to move
};

double medianOf(std::vector<double> values) {
    return median(values).value_or(0.0);
}

std::vector<double> voicedMidi(const PitchTrack& track, TimeRange span) {
    std::vector<double> midi;
    const std::size_t to = track.frameFrom(span.end_s);
    for (std::size_t i = track.frameFrom(span.start_s); i < to; ++i)
        if (track.frames[i].voiced())
            midi.push_back(track.frames[i].midi);
    return midi;
}

// How loud the loud notes are, thereabouts.
Nearby loudNotes(const std::vector<Piecelet>& found) {
    constexpr double kReach_s = 8.0;
    std::vector<TimedValue> levels;
    for (const Piecelet& p : found)
        if (p.midi > 0.0)
            levels.push_back({p.span.start_s, p.level.peak_db});
    return {levels, kReach_s, [](std::vector<double>& near) { return *quantile(near, 0.9); }};
}

class MelodyHearing {
  public:
    MelodyHearing(SoundView sound,
                  const FluxTrack& flux,
                  const PitchTrack& track,
                  const HearingParameters& p)
        : m_flux(flux), m_track(track), m_p(p), m_end_s(sound.length_s()), m_octaves(sound),
          m_partials(sound) {}

    std::vector<Piecelet> run() {
        std::vector<Piecelet> found;
        PeakParameters peaks;
        peaks.threshold = m_p.onset_threshold;
        const auto onsets = pickOnsets(m_flux, peaks);
        Piecelet ringing; // what sounds already when the recording starts
        ringing.span = {0.0, onsets.empty() ? m_end_s : onsets.front().time_s};
        if (ringing.span.length_s() > 0.1)
            found.push_back(ringing);
        for (std::size_t i = 0; i < onsets.size(); ++i) {
            const double end = i + 1 < onsets.size() ? onsets[i + 1].time_s : m_end_s;
            Piecelet first;
            first.span = {onsets[i].time_s, end};
            first.onset_strength = onsets[i].strength;
            splitAtPitchSteps(first, found);
        }
        for (Piecelet& p : found)
            measure(p);
        dropUnbelievable(found);
        evenOutOctaves(found);
        joinHeldNotes(found);
        dropPassedFrets(found);
        return found;
    }

  private:
    // Where the pitch steps by more than pitch_step between the 60 ms before and the 60 ms after.
    void splitAtPitchSteps(const Piecelet& whole, std::vector<Piecelet>& out) const {
        const double window = 0.06;
        double best_step = m_p.pitch_step;
        double at_s = -1.0;
        for (double t = whole.span.start_s + m_p.slur_min_s + 0.02;
             t < whole.span.end_s - m_p.slur_min_s;
             t += m_track.hop_s) {
            const auto before = voicedMidi(m_track, {std::max(whole.span.start_s, t - window), t});
            const auto after = voicedMidi(m_track, {t, std::min(whole.span.end_s, t + window)});
            if (before.size() < 4 || after.size() < 4)
                continue;
            const double step = std::abs(medianOf(after) - medianOf(before));
            if (step > best_step && step < 9.5 &&
                !(step < m_p.trill_step &&
                  swingsBack(t,
                             medianOf(before),
                             medianOf(after)))) { // an octave is the tracker's mistake
                best_step = step;
                at_s = t;
            }
        }
        if (at_s < 0.0) {
            out.push_back(whole);
            return;
        }
        Piecelet left = whole;
        left.span.end_s = at_s;
        Piecelet right;
        right.span = {at_s, whole.span.end_s};
        right.slurred = true;
        right.glide_s = glideAt(at_s, whole.span);
        splitAtPitchSteps(left, out);
        splitAtPitchSteps(right, out);
    }

    // A wide vibrato steps up and down within a fifth of a second; a slur stays, and a trill's step
    // is larger.
    bool swingsBack(double at_s, double before, double after) const {
        const auto near = [this](double start_s, double midi) {
            const auto there = voicedMidi(m_track, {start_s, start_s + 0.04});
            return there.size() >= 3 && std::abs(medianOf(there) - midi) < 0.35;
        };
        for (double away = 0.06; away < 0.20; away += 2.0 * m_track.hop_s)
            if (near(at_s + away, before) || near(at_s - away - 0.04, after))
                return true;
        return false;
    }

    // Time the pitch spends more than a third of a semitone away from both sides of a step.
    double glideAt(double at_s, TimeRange within) const {
        const double low =
            medianOf(voicedMidi(m_track, TimeRange{at_s - 0.12, at_s - 0.04}.clippedTo(within)));
        const double high =
            medianOf(voicedMidi(m_track, TimeRange{at_s + 0.04, at_s + 0.12}.clippedTo(within)));
        double time = 0.0;
        for (std::size_t i = m_track.frameFrom(at_s - 0.08); i < m_track.frameFrom(at_s + 0.08);
             ++i) {
            const PitchFrame& f = m_track.frames[i];
            if (f.voiced() && std::abs(f.midi - low) > 0.34 && std::abs(f.midi - high) > 0.34)
                time += m_track.hop_s;
        }
        return time;
    }

    void measure(Piecelet& p) {
        // The attack blurs the first frames; the median of what follows is the pitch that was
        // meant.
        const double settle = std::min(0.03, 0.25 * p.span.length_s());
        TimeRange core{p.span.start_s + settle, std::min(p.span.end_s, p.span.start_s + 0.30)};
        auto midi = voicedMidi(m_track, core);
        const std::size_t frames = std::max<std::size_t>(
            1, m_track.frameFrom(core.end_s) - m_track.frameFrom(core.start_s));
        p.voiced_share = static_cast<double>(midi.size()) / static_cast<double>(frames);
        p.midi = midi.size() >= 2 ? medianOf(std::move(midi)) : 0.0;
        double clarity = 0.0;
        for (std::size_t i = m_track.frameFrom(core.start_s); i < m_track.frameFrom(core.end_s);
             ++i)
            clarity += m_track.frames[i].clarity / static_cast<double>(frames);
        p.clarity = clarity;
        p.level = levelOf(m_flux, p.span);
        if (p.midi > 0.0 && p.onset_strength > 0.0 &&
            m_octaves.isOctaveUp(p.midi, p.span, m_p.odd_partials))
            p.midi += 12.0;
        takeOutStiffness(p);
    }

    void takeOutStiffness(Piecelet& p) {
        const TimeRange steady{p.span.start_s + 0.03, p.span.end_s};
        if (p.midi <= 0.0 || steady.length_s() < 0.06)
            return;
        const PartialFit fit = m_partials.measure(steady, hzFromMidi(p.midi));
        const double fitted =
            fit.partials >= 3 && fit.residual_cents < 5.0 ? midiFromHz(fit.f0_hz) : p.midi;
        if (std::abs(fitted - p.midi) < 0.3) {
            p.sharpness = p.midi - fitted;
            p.midi = fitted;
        }
    }

    void dropUnbelievable(std::vector<Piecelet>& found) const {
        const Nearby loud = loudNotes(found);
        std::vector<Piecelet> kept;
        for (const Piecelet& p : found) {
            const double loud_db = loud.empty() ? 0.0 : loud.at(p.span.start_s);
            const bool quiet = p.level.peak_db < loud_db - m_p.quiet_db || p.level.peak_db < -75.0;
            const bool tiny = p.span.length_s() < m_p.note_min_s;
            const bool unheard_start = p.onset_strength <= 0.0 && !p.slurred &&
                                       (p.voiced_share < 0.7 || p.level.peak_db < loud_db - 20.0);
            if (p.midi <= 0.0 || quiet || unheard_start || p.voiced_share < 0.3)
                continue;
            if (tiny && !kept.empty() && std::abs(kept.back().span.end_s - p.span.start_s) < 1e-6 &&
                std::abs(kept.back().midi - p.midi) < 0.5) {
                kept.back().span.end_s = p.span.end_s;
                continue;
            }
            if (!tiny)
                kept.push_back(p);
        }
        found = std::move(kept);
    }

    // One pitch struck again and again, fast: a single octave among equals is a mistake of the
    // tracker. (Two octaves that alternate are none.)
    void evenOutOctaves(std::vector<Piecelet>& found) const {
        for (std::size_t i = 2; i + 2 < found.size(); ++i) {
            const double here = found[i].midi;
            const auto sameAs = [&](std::size_t at) {
                return std::abs(found[at].midi - found[i - 1].midi) < 0.4;
            };
            const bool octave = std::abs(std::abs(here - found[i - 1].midi) - 12.0) < 0.4;
            if (octave && sameAs(i - 2) && sameAs(i + 1) && sameAs(i + 2) &&
                found[i + 1].span.start_s - found[i].span.start_s < m_p.fast_s)
                found[i].midi = found[i - 1].midi;
        }
    }

    // The same pitch again without an attack is the same note.
    void joinHeldNotes(std::vector<Piecelet>& found) const {
        std::vector<Piecelet> kept;
        for (const Piecelet& p : found) {
            const bool adjoins = !kept.empty() && p.span.start_s - kept.back().span.end_s < 0.02;
            // Two planes of vibration beat, and the tracker may change its octave: neither is an
            // attack.
            const bool tremor = !kept.empty() && p.level.peak_db < kept.back().level.peak_db &&
                                p.onset_strength < m_p.tremor_share * kept.back().onset_strength;
            const bool weak = tremor || (p.onset_strength < m_p.weak_attack &&
                                         p.level.rise_db < m_p.weak_rise_db);
            const double step = adjoins ? std::abs(kept.back().midi - p.midi) : 0.0;
            if (adjoins && ((step < 0.5 && (p.onset_strength <= 0.0 || weak)) ||
                            (weak && std::abs(step - 12.0) < 0.5))) {
                kept.back().span.end_s = p.span.end_s;
                continue;
            }
            kept.push_back(p);
        }
        found = std::move(kept);
    }

    // A slide over several frets stays a moment on each: the short stations between belong to the
    // slide.
    void dropPassedFrets(std::vector<Piecelet>& found) const {
        for (std::size_t i = 1; i + 1 < found.size();) {
            const Piecelet& from = found[i - 1];
            const Piecelet& via = found[i];
            Piecelet& to = found[i + 1];
            const bool between = (via.midi - from.midi) * (to.midi - via.midi) > 0.0;
            const bool steps =
                std::abs(via.midi - from.midi) < 2.5 && std::abs(to.midi - via.midi) < 2.5;
            const bool joined = steps && to.slurred && via.span.start_s - from.span.end_s < 0.02;
            if (!between || !joined || via.span.length_s() > m_p.passed_fret_s) {
                ++i;
                continue;
            }
            to.glide_s += via.span.length_s();
            found[i - 1].span.end_s = to.span.start_s;
            found.erase(found.begin() + static_cast<std::ptrdiff_t>(i));
        }
    }

    const FluxTrack& m_flux;
    const PitchTrack& m_track;
    const HearingParameters& m_p;
    double m_end_s;
    OctaveCheck m_octaves;
    PartialMeter m_partials;
};

// Single notes that agree tell the reference best; where they do not (chords), the spectrum does.
constexpr double kAgreeing_cents = 6.0;

TuningReference
referenceOf(const std::vector<Piecelet>& found, std::optional<double> a4_hz, SoundView sound) {
    TuningReference reference;
    if (a4_hz) {
        reference.a4_hz = *a4_hz;
        reference.basis = Basis::Set;
        return reference;
    }
    std::vector<WeightedPitch> pitches;
    for (const Piecelet& p : found)
        pitches.push_back({p.midi, p.clarity * std::min(p.span.length_s(), 0.5)});
    ReferenceEstimate estimate = estimateReference(pitches);
    if (!pitches.empty() && estimate.spread_cents > kAgreeing_cents)
        if (const ReferenceEstimate spectral = spectralReference(sound); spectral.certainty > 0.0)
            estimate.cents = spectral.cents;
    if (!pitches.empty()) {
        reference.a4_hz = estimate.a4_hz();
        reference.spread_cents = estimate.spread_cents;
        reference.basis = Basis::Heard;
    }
    return reference;
}

std::vector<TimedValue> pitchesOf(const std::vector<Piecelet>& found) {
    std::vector<TimedValue> pitches;
    for (const Piecelet& p : found)
        if (p.midi > 0.0)
            pitches.push_back({p.span.start_s, p.midi});
    return pitches;
}

void nameTechniques(Note& note, const Piecelet& p, const Note* before) {
    if (!before || p.span.start_s - before->offset_s() > 0.03)
        return;
    const double step = std::abs(note.pitch.value - before->pitch.value);
    if (p.glide_s > 0.035 && step >= 1.5 && step < 9.5)
        note.techniques.push_back(Technique::Slide);
    else if (p.slurred)
        note.techniques.push_back(note.pitch.value > before->pitch.value ? Technique::HammerOn
                                                                         : Technique::PullOff);
}

double noteProbability(const Piecelet& p) {
    // A logistic of the three witnesses; the weights are working figures, checked by the
    // calibration test.
    const double attack =
        p.slurred ? 0.6 : std::min(1.5, p.onset_strength + 0.1 * std::max(0.0, p.level.rise_db));
    const double z =
        -4.0 + 5.0 * p.clarity + 2.2 * attack + 2.0 * std::min(1.0, p.span.length_s() / 0.12);
    return 1.0 / (1.0 + std::exp(-z));
}

Note toNote(const Piecelet& p,
            const PitchTrack& track,
            const FluxTrack& flux,
            const HearingParameters& parameters,
            const TuningReference& reference,
            double loud_db) {
    Note note;
    const double offset_semitones = reference.cents() / 100.0;
    note.time.value = {p.span.start_s, soundingEnd(flux, track, p.span, parameters.end_drop_db)};
    note.time.basis = Basis::Heard;
    note.existence = {true, Basis::Heard, noteProbability(p), {}, {}};
    note.time.probability = note.existence.probability; // its start is as sure as the note
    note.ownSound().attack = {p.slurred ? -1.0 : p.onset_strength, p.slurred};
    note.pitch.value = std::round(p.midi - offset_semitones);
    note.pitch.basis = Basis::Heard;
    note.pitch.probability = std::clamp(p.clarity, 0.05, 0.99);
    note.pitch.reasons = {{ReasonKind::ClearPitch, Basis::Heard, 0, 0, p.clarity}};
    note.loudness_db = p.level.peak_db;
    note.velocity = std::clamp(0.85 + (p.level.peak_db - loud_db) / 40.0, 0.05, 1.0);
    for (std::size_t i = track.frameFrom(note.onset_s()); i < track.frameFrom(note.offset_s());
         ++i) {
        const double dev =
            (track.frames[i].midi - p.sharpness - offset_semitones - note.pitch.value) * 100.0;
        if (track.frames[i].voiced() && std::abs(dev) < 350.0)
            note.curve.push_back({std::round(track.timeOf(i) * 1e4) / 1e4,
                                  std::round(dev * 10.0) / 10.0}); // as it is stored
    }
    return note;
}

// What begins at the attacks of a part, by its likeliest pitch: good enough to watch it appear.
std::vector<NearMiss> firstGuess(const PitchCandidates& candidates,
                                 const std::vector<OnsetPeak>& onsets,
                                 TimeRange part) {
    std::vector<NearMiss> notes;
    for (std::size_t i = 0; i < onsets.size(); ++i) {
        if (!part.contains(onsets[i].time_s))
            continue;
        const double end_s = i + 1 < onsets.size() ? onsets[i + 1].time_s : part.end_s;
        std::vector<double> midi;
        for (std::size_t f = 0; f < candidates.frames.size(); ++f) {
            const double t = candidates.first_s + static_cast<double>(f) * candidates.hop_s;
            if (t > onsets[i].time_s + 0.03 && t < std::min(end_s, onsets[i].time_s + 0.3) &&
                !candidates.frames[f].empty())
                midi.push_back(midiFromHz(candidates.frames[f].front().f0_hz));
        }
        if (midi.size() >= 2)
            notes.push_back({{onsets[i].time_s, end_s},
                             static_cast<int>(std::lround(medianOf(std::move(midi)))),
                             0.5,
                             {0, 0}});
    }
    return notes;
}

// The same as yinCandidates of the whole, but shown on the way.
Result<PitchCandidates> candidatesPartByPart(SoundView sound,
                                             const FluxTrack& flux,
                                             const YinParameters& yin,
                                             const HearingParameters& parameters,
                                             const JobControl& job,
                                             const HeardSoFar& so_far) {
    if (!so_far)
        return yinCandidates(sound, yin, job);
    constexpr std::size_t kPartFrames = 400; // 4 s
    PeakParameters peaks;
    peaks.threshold = parameters.onset_threshold;
    const auto onsets = pickOnsets(flux, peaks);
    const auto hop = static_cast<std::size_t>(std::lround(yin.hop_s * sound.rate_hz));
    const auto reach =
        static_cast<std::size_t>((yin.periods + 1.5) * sound.rate_hz / yin.lowest_hz);
    JobControl quiet;
    quiet.cancel = job.cancel;
    PitchCandidates all;
    for (std::size_t at = 0; at < sound.samples.size(); at += kPartFrames * hop) {
        const std::size_t length = std::min(sound.samples.size() - at, kPartFrames * hop + reach);
        auto part = yinCandidates({sound.samples.subspan(at, length), sound.rate_hz}, yin, quiet);
        if (!part)
            return part.error();
        if (part->frames.size() > kPartFrames && at + length < sound.samples.size())
            part->frames.resize(kPartFrames);
        const double from_s = static_cast<double>(at) / sound.rate_hz;
        PitchCandidates placed = *part;
        placed.first_s += from_s;
        so_far(
            firstGuess(placed,
                       onsets,
                       {from_s, from_s + static_cast<double>(kPartFrames * hop) / sound.rate_hz}));
        if (at == 0)
            all = std::move(*part);
        else
            std::ranges::move(part->frames, std::back_inserter(all.frames));
        if (all.frames.size() * hop >= sound.samples.size())
            break;
        job.report(from_s, sound.length_s());
    }
    return all;
}

} // namespace

Result<Hearing> hearMelody(SoundView sound,
                           const Instrument& instrument,
                           std::optional<double> a4_hz,
                           const HearingParameters& parameters,
                           const JobControl& job,
                           const HeardSoFar& so_far) {
    // Two passes over the sound; each reports half of the way.
    const double length = sound.length_s();
    JobControl half = job;
    half.progress = [&job, length](double done, double) { job.report(0.5 * done, length); };
    auto flux = spectralFlux(sound, FluxParameters{}, half);
    if (!flux)
        return flux.error();
    YinParameters yin;
    yin.lowest_hz = hzFromMidi(instrument.lowestMidi() - 1.5);
    yin.highest_hz = hzFromMidi(std::min(instrument.highestMidi() + 2, 100));
    half.progress = [&job, length](double done, double) {
        job.report(0.5 * (length + done), length);
    };
    auto candidates = candidatesPartByPart(sound, *flux, yin, parameters, half, so_far);
    if (!candidates)
        return candidates.error();
    const PitchTrack track = smoothPitch(*candidates, TrackParameters{});
    candidates->frames = {}; // of an hour it is much
    const auto found = MelodyHearing(sound, *flux, track, parameters).run();

    Hearing hearing;
    hearing.reference = referenceOf(found, a4_hz, sound);
    hearing.tuning =
        a4_hz ? LocalTuning(*a4_hz) : LocalTuning(hearing.reference.a4_hz, pitchesOf(found));
    const Nearby loud = loudNotes(found);
    for (const Piecelet& p : found) {
        const double loud_db = loud.at(p.span.start_s);
        Note note = toNote(p, track, *flux, parameters, hearing.reference, loud_db);
        if (note.pitch.value < instrument.lowestMidi() ||
            note.pitch.value > instrument.highestMidi() + 2)
            continue;
        nameTechniques(note, p, hearing.notes.empty() ? nullptr : &hearing.notes.back());
        note.id = static_cast<NoteId>(hearing.notes.size()) + 1;
        hearing.notes.push_back(std::move(note));
    }
    hearing.flux = std::move(*flux);
    job.report(length, length);
    return hearing;
}

} // namespace wirenote
