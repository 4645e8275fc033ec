#include "score/quantise.h"

#include "score/timeline_map.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace wirenote {
namespace {

constexpr double kTripletGain =
    0.5; // triplets must more than halve the squared error of the sixteenths

struct Raw {
    std::size_t index = 0;
    double start = 0.0; // quarters
    double end = 0.0;
};

Rational nearest(double quarters, Rational step) {
    return Rational(std::llround(quarters / step.toDouble())) * step;
}

double squaredError(const std::vector<Raw>& notes, Rational step) {
    double sum = 0.0;
    for (const Raw& note : notes) {
        const double off = note.start - nearest(note.start, step).toDouble();
        sum += off * off;
    }
    return sum;
}

// The grid of one beat: 16ths, or triplet eighths when three or more notes say so.
Rational gridFor(const std::vector<Raw>& notes, bool compound) {
    const Rational sixteenth(1, 4);
    if (compound || notes.size() < 2)
        return sixteenth;
    const Rational triplet(1, 3);
    const double straight = squaredError(notes, sixteenth);
    // A loose straight beat stays straight: the error must matter (a thirty-second) before triplets
    // are tried.
    const double worth = static_cast<double>(notes.size()) * 0.05 * 0.05;
    return straight > worth && squaredError(notes, triplet) < kTripletGain * straight ? triplet
                                                                                      : sixteenth;
}

Rational writtenLength(const ScoreNote& note,
                       Rational sounding_end,
                       const ScoreNote* next,
                       Rational step,
                       Rational bar) {
    Rational end = std::max(sounding_end, note.start + step);
    if (next) {
        const Rational gap = next->start - note.start;
        // Up to the next note unless a real rest is heard: a quarter note, or an eighth that is
        // half of the gap.
        const Rational silence = next->start - end;
        const bool rest =
            silence >= Rational(1) || (silence >= Rational(1, 2) && silence * Rational(2) >= gap);
        if (!rest || end > next->start)
            end = next->start;
    }
    return std::min(end - note.start, bar * Rational(2));
}

} // namespace

std::vector<ScoreNote> quantise(const Piece& piece) {
    const TimelineMap map(piece.timeline);
    std::map<std::int64_t, std::vector<Raw>> beats;
    const double beat = map.beatLength().toDouble();
    for (std::size_t i = 0; i < piece.notes.size(); ++i) {
        const Note& note = piece.notes[i];
        const Raw raw{i, map.quartersAt(note.onset_s()), map.quartersAt(note.offset_s())};
        // A note a little ahead of the beat belongs to it.
        beats[static_cast<std::int64_t>(std::floor(raw.start / beat + 0.13))].push_back(raw);
    }
    std::vector<ScoreNote> notes;
    std::vector<Rational> ends;
    std::vector<Rational> steps;
    for (const auto& [number, raw_notes] : beats) {
        const Rational step = gridFor(raw_notes, piece.timeline.metre.compound());
        for (const Raw& raw : raw_notes) {
            notes.push_back({raw.index, nearest(raw.start, step), step});
            ends.push_back(nearest(raw.end, step));
            steps.push_back(step);
        }
    }
    for (std::size_t i = 0; i < notes.size(); ++i) {
        std::size_t next = i + 1;
        while (next < notes.size() && notes[next].start <= notes[i].start)
            ++next;
        notes[i].length = writtenLength(notes[i],
                                        ends[i],
                                        next < notes.size() ? &notes[next] : nullptr,
                                        steps[i],
                                        piece.timeline.metre.barLength());
    }
    return notes;
}

} // namespace wirenote
