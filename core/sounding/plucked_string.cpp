#include "sounding/plucked_string.h"

#include "music/pitch.h"
#include "music/string_physics.h"

#include <algorithm>
#include <cmath>
#include <complex>
#include <cstdint>
#include <numbers>
#include <tuple>

namespace wirenote {
namespace {

using std::numbers::pi;

constexpr int kMostPartials = 60;
constexpr std::size_t kBlock = 32; // samples between two changes of pitch
constexpr double kDamping_s = 0.03;
constexpr double kLoudness = 0.30;
constexpr double kTouch = 45.0;      // 1/s, of a finger on a node
constexpr double kPalm = 6.0;        // 1/s …
constexpr double kPalmPerKhz = 30.0; // … and more for each kHz
constexpr double kStopped = 140.0;   // 1/s, of the hand lying on the strings

struct Losses {
    double floor;   // 1/s
    double per_khz; // 1/s for each kHz
};

Losses lossesOf(StringMaterial material) {
    switch (material) {
    case StringMaterial::PlainSteel:
        return {0.9, 0.9};
    case StringMaterial::WoundSteel:
    case StringMaterial::WoundBronze:
        return {0.7, 1.5};
    case StringMaterial::PlainNylon:
        return {1.6, 3.0};
    case StringMaterial::WoundNylon:
        return {1.2, 3.5};
    }
    return {1.0, 1.0};
}

struct Partial {
    double f_hz = 0.0;
    double amplitude = 0.0;
    double loss = 0.0; // 1/s
    std::complex<double> phasor;
};

double tipWidth(Tool tool) {
    return tool == Tool::Pick ? 0.004 : 0.014;
} // metres of string a pick or fingertip covers

std::vector<Partial>
partialsOf(const Instrument& instrument, const StringNote& note, double a4_hz, double rate_hz) {
    // Over a node the whole string sounds.
    const int above = note.harmonic > 1 ? 0 : note.position.fret;
    const int fret = instrument.capo + above;
    const double f0 = hzFromMidi(instrument.midiAt({note.position.string, above}), a4_hz);
    const double b = stiffnessAt(instrument, note.position.string, fret);
    const double length = instrument.scale_mm / 1000.0 * std::exp2(-fret / 12.0);
    const bool electric = instrument.kind == InstrumentKind::Guitar ||
                          instrument.kind == InstrumentKind::Guitar7 || instrument.isBass();
    const double pickup = std::min(0.45, 0.16 * instrument.scale_mm / 1000.0 / length);
    // The plucking hand stays where it is on the body, whatever the other one presses; what the
    // other one hammers has no such place.
    const double pluck =
        note.excitation == Excitation::Plucked
            ? std::min(0.5, note.pluck_share * instrument.scale_mm / 1000.0 / length)
            : note.pluck_share;
    const Losses losses = lossesOf(instrument.string(note.position.string).material);
    const double fretted = note.position.fret > 0 ? 1.25 : 1.0;
    std::vector<Partial> partials;
    for (int n = 1; n <= kMostPartials; ++n) {
        const double f = partial_hz(f0, b, n);
        if (f > 0.45 * rate_hz || f > 12000.0)
            break;
        const double width = n * tipWidth(note.tool) / length;
        const double tip = width < 1e-6 ? 1.0 : std::sin(pi * width) / (pi * width);
        double shape = std::sin(n * pi * pluck) / n * std::abs(tip);
        shape *= electric ? std::sin(n * pi * pickup) : 1.0 / std::sqrt(static_cast<double>(n));
        if (note.excitation != Excitation::Plucked)
            shape /= std::sqrt(static_cast<double>(n)); // a fingertip on a fret is a soft hammer
        // Louder is brighter: a soft touch loses its upper partials.
        shape *= std::exp(-(1.0 - note.velocity) * 0.04 * n);
        double loss = (losses.floor + losses.per_khz * f / 1000.0) * fretted;
        if (note.harmonic > 1 && n % note.harmonic != 0)
            loss += kTouch; // the finger lies where this partial would move
        loss += note.palm * (kPalm + kPalmPerKhz * f / 1000.0) + (note.damped ? kStopped : 0.0);
        for (const auto& [share, detune, slower] :
             {std::tuple{0.78, 0.0, 1.0}, std::tuple{0.22, 0.4, 0.55}}) {
            const double phase = 0.7 * n + detune;
            partials.push_back({f * std::exp2(detune / 1200.0),
                                shape * share,
                                loss * slower,
                                std::polar(1.0, phase)});
        }
    }
    return partials;
}

double semitonesAt(const std::vector<PitchMove>& moves, double time_s) {
    if (moves.empty() || time_s <= moves.front().time_s)
        return moves.empty() ? 0.0 : moves.front().semitones;
    for (std::size_t i = 1; i < moves.size(); ++i)
        if (time_s < moves[i].time_s) {
            const double span = moves[i].time_s - moves[i - 1].time_s;
            const double part = span > 0.0 ? (time_s - moves[i - 1].time_s) / span : 1.0;
            return moves[i - 1].semitones + part * (moves[i].semitones - moves[i - 1].semitones);
        }
    return moves.back().semitones;
}

// The click of the pick or the brush of the skin: a few milliseconds of noise, the same for the
// same note.
void addAttackNoise(const StringNote& note, double rate_hz, std::span<float> out) {
    if (note.excitation != Excitation::Plucked)
        return;
    const double length_s = note.tool == Tool::Pick ? 0.006 : 0.012;
    const double level = note.velocity * (note.tool == Tool::Pick ? 0.020 : 0.008);
    std::uint32_t state = 0x9E3779B9U * static_cast<std::uint32_t>(note.position.string * 64 +
                                                                   note.position.fret + 1);
    const auto count = std::min(out.size(), static_cast<std::size_t>(length_s * rate_hz));
    for (std::size_t i = 0; i < count; ++i) {
        state = state * 1664525U + 1013904223U;
        const double noise = static_cast<double>(state >> 8U) / 8388608.0 - 1.0;
        out[i] += static_cast<float>(level * noise *
                                     (1.0 - static_cast<double>(i) / static_cast<double>(count)));
    }
}

} // namespace

void addStringNote(const Instrument& instrument,
                   const StringNote& note,
                   double a4_hz,
                   double rate_hz,
                   std::span<float> out) {
    auto partials = partialsOf(instrument, note, a4_hz, rate_hz);
    double sum = 0.0;
    for (const Partial& p : partials)
        sum += std::abs(p.amplitude);
    const double force = note.excitation == Excitation::Plucked ? 1.0 : 0.6;
    const double scale =
        sum > 0.0 ? kLoudness * force * (0.15 + 0.85 * note.velocity) / std::sqrt(sum) : 0.0;
    const auto total =
        std::min(out.size(), static_cast<std::size_t>((note.length_s + kDamping_s) * rate_hz));
    const auto damped_from = static_cast<std::size_t>(note.length_s * rate_hz);
    const double rise_s = 0.0008;
    for (std::size_t at = 0; at < total; at += kBlock) {
        const std::size_t end = std::min(total, at + kBlock);
        const double bend =
            std::exp2(semitonesAt(note.moves, static_cast<double>(at) / rate_hz) / 12.0);
        for (Partial& p : partials) {
            const double extra_loss = at >= damped_from ? 5.0 / kDamping_s : 0.0;
            const std::complex<double> turn = std::polar(std::exp(-(p.loss + extra_loss) / rate_hz),
                                                         2.0 * pi * p.f_hz * bend / rate_hz);
            for (std::size_t i = at; i < end; ++i) {
                p.phasor *= turn;
                out[i] +=
                    static_cast<float>(scale * p.amplitude * p.phasor.imag() *
                                       std::min(1.0, static_cast<double>(i) / (rise_s * rate_hz)));
            }
        }
    }
    addAttackNoise(note, rate_hz, out);
}

} // namespace wirenote
