#include "plucking/alternation.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

constexpr double kAlternationTrust = 0.62;
constexpr double kFingerTrust = 0.55;
constexpr double kNewStart_s = 0.9; // after a rest the hand starts anew

// Beats since the first beat, interpolated; beats_s has at least two.
double beatPosition(const std::vector<double>& beats_s, double time_s) {
    auto next = std::upper_bound(beats_s.begin(), beats_s.end(), time_s);
    next = std::clamp(next, beats_s.begin() + 1, beats_s.end() - 1);
    const auto before = next - 1;
    return static_cast<double>(before - beats_s.begin()) +
           (time_s - *before) / std::max(1e-6, *next - *before);
}

Stroke pickStroke(const Piece& piece, std::size_t i, Stroke last) {
    const auto& beats = piece.timeline.beats_s;
    if (beats.size() < 2)
        return last == Stroke::Down ? Stroke::Up : Stroke::Down;
    const double at = beatPosition(beats, piece.notes[i].onset_s());
    const auto gapTo = [&](std::size_t other) {
        return std::abs(beatPosition(beats, piece.notes[other].onset_s()) - at);
    };
    double gap = 1.0;
    if (i > 0)
        gap = std::min(gap, gapTo(i - 1));
    if (i + 1 < piece.notes.size())
        gap = std::min(gap, gapTo(i + 1));
    // Sixteenth motion counts four strokes to the beat, anything slower two; triplets three in
    // turn.
    const double parts = piece.timeline.metre.compound() ? (gap < 0.25 ? 6.0 : 3.0)
                         : gap < 0.3                     ? 4.0
                         : gap < 0.4                     ? 3.0
                                                         : 2.0;
    const auto step = static_cast<long>(std::lround(at * parts));
    if (parts == 3.0)
        return last == Stroke::Down && gap < 0.5 ? Stroke::Up : Stroke::Down;
    return step % 2 == 0 ? Stroke::Down : Stroke::Up;
}

Stroke fingerStroke(const Piece& piece, std::size_t i, Stroke last, bool rested) {
    const int string = piece.reading.plans[i].position.value.string;
    if (!piece.instrument.isBass() && string > piece.instrument.stringCount() - 3)
        return Stroke::P;
    if (rested)
        return Stroke::I;
    return last == Stroke::I ? Stroke::M : Stroke::I;
}

} // namespace

PluckingTool usualTool(InstrumentKind kind) {
    const bool fingers = kind == InstrumentKind::Nylon || kind == InstrumentKind::Bass ||
                         kind == InstrumentKind::Bass5;
    return fingers ? PluckingTool::Fingers : PluckingTool::Pick;
}

void alternateStrokes(Piece& piece, PluckingTool tool) {
    Stroke last = Stroke::Unknown;
    for (std::size_t i = 0; i < piece.notes.size(); ++i) {
        Decision<Stroke>& stroke = piece.reading.plans[i].stroke;
        const bool rested =
            i == 0 || piece.notes[i].onset_s() - piece.notes[i - 1].onset_s() > kNewStart_s;
        if (!stroke.isSet()) {
            stroke = {};
            if (piece.notes[i].slurred()) {
                stroke.value = Stroke::None;
                stroke.probability = 0.8;
                stroke.reasons = {{ReasonKind::NotStruck, Basis::Reasoned, 0, 0, 0.0}};
            } else if (tool == PluckingTool::Pick) {
                stroke.value = pickStroke(piece, i, last);
                stroke.probability = kAlternationTrust;
                stroke.runners_up = {{stroke.value == Stroke::Down ? Stroke::Up : Stroke::Down,
                                      1.0 - kAlternationTrust}};
                stroke.reasons = {{ReasonKind::AlternatesOnBeat, Basis::Reasoned, 0, 0, 0.0}};
            } else {
                stroke.value = fingerStroke(piece, i, last, rested);
                stroke.probability = kFingerTrust;
                stroke.reasons = {{ReasonKind::FingersAlternate, Basis::Reasoned, 0, 0, 0.0}};
            }
        }
        if (stroke.value != Stroke::None)
            last = stroke.value;
    }
}

} // namespace wirenote
