#include "lesson/backing.h"

#include "sounding/plucked_string.h"

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <numbers>
#include <optional>
#include <span>

namespace wirenote {

// A wave that falls from one pitch to another and dies away.
void Backing::tone(double at_s, double hz, double end_hz, double length_s, double gain) {
    const auto start = static_cast<std::size_t>(std::lround(at_s * m_into.rate_hz));
    const auto count = static_cast<std::size_t>(length_s * m_into.rate_hz);
    double phase = 0.0;
    for (std::size_t i = 0; i < count && start + i < m_into.samples.size(); ++i) {
        const double share = static_cast<double>(i) / static_cast<double>(count);
        phase += 2.0 * std::numbers::pi * (hz + (end_hz - hz) * share) / m_into.rate_hz;
        m_into.samples[start + i] +=
            static_cast<float>(gain * std::cos(phase) * std::exp(-5.0 * share));
    }
}

void Backing::noise(double at_s, double length_s, double gain, bool bright) {
    const auto start = static_cast<std::size_t>(std::lround(at_s * m_into.rate_hz));
    const auto count = static_cast<std::size_t>(length_s * m_into.rate_hz);
    std::uint32_t state = 977U;
    double last = 0.0;
    for (std::size_t i = 0; i < count && start + i < m_into.samples.size(); ++i) {
        state = state * 1664525U + 1013904223U;
        const double white = static_cast<double>(state >> 8U) / 8388608.0 - 1.0;
        const double value = bright ? white - last : 0.5 * (white + last);
        last = white;
        m_into.samples[start + i] += static_cast<float>(
            gain * value * std::exp(-6.0 * static_cast<double>(i) / static_cast<double>(count)));
    }
}

void Backing::click(double at_s, ClickKind kind) {
    constexpr double kLength_s = 0.03;
    switch (kind) {
    case ClickKind::Bar:
        tone(at_s, 1760.0, 1760.0, kLength_s, 0.35);
        break;
    case ClickKind::Beat:
        tone(at_s, 1320.0, 1320.0, kLength_s, 0.28);
        break;
    case ClickKind::Between:
        tone(at_s, 990.0, 990.0, kLength_s, 0.14);
        break;
    case ClickKind::Again:
        tone(at_s, 2640.0, 2200.0, 2.0 * kLength_s, 0.4);
        break;
    }
}

void Backing::drum(double at_s, DrumKind kind) {
    switch (kind) {
    case DrumKind::Kick:
        tone(at_s, 120.0, 45.0, 0.16, 0.5);
        break;
    case DrumKind::Snare:
        noise(at_s, 0.14, 0.25, false);
        tone(at_s, 190.0, 170.0, 0.08, 0.15);
        break;
    case DrumKind::Hat:
        noise(at_s, 0.04, 0.08, true);
        break;
    }
}

void Backing::bass(double at_s, double length_s, int pitch_class) {
    static const Instrument kBass = standardInstrument(InstrumentKind::Bass);
    const auto start = static_cast<std::size_t>(std::lround(at_s * m_into.rate_hz));
    if (start >= m_into.samples.size())
        return;
    constexpr int kHighestFret = 6;
    StringNote note;
    for (int string = kBass.stringCount(); string >= 1; --string) {
        const int fret = (pitch_class - kBass.string(string).open_midi % 12 + 12) % 12;
        if (fret <= kHighestFret) {
            note.position = {string, fret};
            break;
        }
    }
    note.length_s = length_s;
    note.tool = Tool::Finger;
    addStringNote(
        kBass, note, kStandardA4Hz, m_into.rate_hz, std::span(m_into.samples).subspan(start));
}

namespace {

std::optional<int> rootAt(const LessonFacts& facts, double piece_s) {
    for (const ChordSpan& chord : facts.chords())
        if (chord.span.start_s <= piece_s + 0.05 && piece_s + 0.05 < chord.span.end_s) {
            if (const auto tones = parseChord(facts.chordName(chord)))
                return tones->root;
            if (chord.chord.named())
                return chord.chord.root;
        }
    return std::nullopt;
}

void drumBeat(Backing& backing, const Metre& metre, int beat, double at_s, double beat_s) {
    const bool kick = beat % 2 == 0 && (metre.feltBeats() != 3 || beat == 0);
    const bool snare = metre.feltBeats() == 3 ? beat == 2 : beat % 2 == 1;
    if (kick)
        backing.drum(at_s, DrumKind::Kick);
    if (snare)
        backing.drum(at_s, DrumKind::Snare);
    const int parts = metre.compound() ? 3 : 2;
    for (int part = 0; part < parts; ++part)
        backing.drum(at_s + part * beat_s / parts, DrumKind::Hat);
}

} // namespace

void addBand(const LessonFacts& facts,
             const PlayAlongOptions& options,
             const PlayAlong& time,
             double beat_s,
             Backing& backing) {
    const double round_s = (time.sound.length_s() - time.begins_s) / std::max(1, options.times);
    std::optional<int> last_root;
    for (const double at_s : time.beats_s) {
        if (at_s < time.begins_s - 1e-6)
            continue;
        const double in_round_s = std::fmod(at_s - time.begins_s + 1e-6, round_s);
        const Metre metre = facts.metreAt(options.from);
        const double beats = in_round_s / beat_s;
        const Rational score = options.from + metre.beatLength() * Rational(std::lround(beats));
        const SpokenPlace place = facts.placeAt(score);
        if (options.drums)
            drumBeat(backing, facts.metreAt(score), place.beat, at_s, beat_s);
        const auto root = rootAt(facts, facts.map().timeAt(score.toDouble()));
        if (options.bass && root && (root != last_root || place.beat % 2 == 0))
            backing.bass(at_s, 0.95 * beat_s, *root);
        last_root = root;
    }
}

} // namespace wirenote
