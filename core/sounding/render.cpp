#include "sounding/render.h"

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <numbers>

namespace wirenote {
namespace {

constexpr double kGlide_s = 0.10;

// Which partial of the open string a natural harmonic is; 1 when it is none.
int harmonicOf(int semitones) {
    return semitones == 12   ? 2
           : semitones == 19 ? 3
           : semitones == 24 ? 4
           : semitones == 28 ? 5
                             : 1;
}

StringNote stringNote(const Piece& piece, std::size_t i) {
    const Note& note = piece.notes[i];
    const NotePlan& plan = piece.asPlayed().plans[i];
    StringNote out;
    out.position = plan.position.value;
    out.length_s = note.time.value.length_s();
    out.velocity = note.velocity;
    const bool fingers = plan.stroke.value >= Stroke::P && plan.stroke.value <= Stroke::C;
    out.tool = fingers ? Tool::Finger : Tool::Pick;
    // No two strokes fall on the same place.
    out.pluck_share = (fingers ? 0.21 : 0.17) + 0.01 * std::sin(2.4 * static_cast<double>(i));
    out.excitation = note.has(Technique::HammerOn) || note.has(Technique::PullOff)
                         ? Excitation::Hammered
                         : Excitation::Plucked;
    if (note.has(Technique::Harmonic))
        out.harmonic = harmonicOf(note.midi() - piece.instrument.midiAt({out.position.string, 0}));
    out.palm = note.has(Technique::PalmMute) ? 1.0 : 0.0;
    out.damped = !note.pitched();
    return out;
}

bool slidesOn(const Piece& piece, std::size_t i) {
    return i + 1 < piece.notes.size() && piece.notes[i + 1].has(Technique::Slide) &&
           piece.asPlayed().plans[i].placed() &&
           piece.asPlayed().plans[i + 1].position.value.string ==
               piece.asPlayed().plans[i].position.value.string;
}

// A slide goes on with the same string: the note before sounds through it, its pitch moving fret by
// fret shortly before the new note counts.
void addSlides(const Piece& piece, std::size_t i, StringNote& out) {
    const double start_s = piece.notes[i].onset_s();
    if (slidesOn(piece, i) && out.moves.empty())
        out.moves.push_back({0.0, 0.0});
    for (; slidesOn(piece, i); ++i) {
        const double arrival_s = piece.notes[i + 1].onset_s() - start_s;
        const double before = piece.asPlayed().plans[i].position.value.fret - out.position.fret;
        const int frets = piece.asPlayed().plans[i + 1].position.value.fret -
                          piece.asPlayed().plans[i].position.value.fret;
        const double from_s = std::max(0.02, arrival_s - kGlide_s);
        const double step = (arrival_s - from_s) / std::max(1, std::abs(frets));
        for (int k = 0; k < std::abs(frets); ++k) {
            const double semitones = before + (frets > 0 ? k : -k);
            out.moves.push_back({from_s + k * step, semitones});
            out.moves.push_back({from_s + (k + 0.7) * step, semitones});
        }
        out.moves.push_back({arrival_s, before + frets});
        out.length_s = piece.notes[i + 1].offset_s() - start_s;
    }
}

void addVibrato(const Note& note, StringNote& out) {
    if (!note.has(Technique::Vibrato))
        return;
    constexpr double kRate_hz = 5.2;
    constexpr double kWidth = 0.22; // semitones, each way
    for (double t = 0.0; t < out.length_s; t += 0.01) {
        const double grown = std::clamp((t - 0.15) / 0.2, 0.0, 1.0);
        out.moves.push_back(
            {t, kWidth * grown * std::sin(2.0 * std::numbers::pi * kRate_hz * (t - 0.15))});
    }
}

// A bent string goes the way that was heard.
void addBend(const Note& note, StringNote& out) {
    if (!note.has(Technique::Bend) && !note.has(Technique::PreBend))
        return;
    const double from = note.midi() - note.frettedMidi(); // the string is drawn already
    if (note.curve.empty())
        return;
    out.moves.clear();
    for (const PitchPoint& p : note.curve)
        out.moves.push_back({p.time_s - note.onset_s(), from + p.dev_cents / 100.0});
}

void addNoise(Sound& sound, double noise_db) {
    if (noise_db < -150.0)
        return;
    const double level =
        std::pow(10.0, noise_db / 20.0) * std::sqrt(3.0); // uniform noise: RMS is 1/√3 of its peak
    std::uint32_t state = 20250U;
    for (float& v : sound.samples) {
        state = state * 1664525U + 1013904223U;
        v += static_cast<float>(level * (static_cast<double>(state >> 8U) / 8388608.0 - 1.0));
    }
}

} // namespace

Result<Sound> renderPiece(const Piece& piece, const RenderOptions& options, const JobControl& job) {
    double end_s = piece.lead() ? piece.lead()->length_s : 0.0;
    for (const Note& note : piece.notes)
        end_s = std::max(end_s, note.offset_s() + options.tail_s);
    Sound sound;
    sound.rate_hz = options.rate_hz;
    sound.samples.assign(static_cast<std::size_t>(end_s * options.rate_hz) + 1, 0.0F);
    for (std::size_t i = 0; i < piece.notes.size(); ++i) {
        if (job.cancelRequested())
            return cancelled();
        const Note& note = piece.notes[i];
        job.report(note.onset_s(), end_s);
        if (!piece.asPlayed().plans[i].placed() || (i > 0 && slidesOn(piece, i - 1)))
            continue;
        StringNote out = stringNote(piece, i);
        if (options.pluck_share > 0.0)
            out.pluck_share = options.pluck_share;
        addVibrato(note, out);
        addBend(note, out);
        addSlides(piece, i, out);
        const auto start = static_cast<std::size_t>(note.onset_s() * options.rate_hz);
        if (start < sound.samples.size())
            addStringNote(piece.instrument,
                          out,
                          options.a4_hz,
                          options.rate_hz,
                          std::span(sound.samples).subspan(start));
    }
    addNoise(sound, options.noise_db);
    job.report(end_s, end_s);
    return sound;
}

} // namespace wirenote
