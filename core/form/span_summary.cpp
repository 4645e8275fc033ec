#include "form/span_summary.h"

#include "base/median.h"
#include "piece/one_stroke.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

constexpr double kRingsOn_s = 0.06;    // into what begins, at the least
constexpr double kNearlyAsWell = 0.03; // of correlation
constexpr int kApart = 7;              // semitones between a bass and a melody, at least
constexpr std::size_t kEnough = 4;     // moments to speak of a balance

std::vector<const Note*> pitchedIn(const Piece& piece, TimeRange span) {
    std::vector<const Note*> notes;
    for (const Note& note : piece.notes)
        if (note.pitched() && (span.empty() || span.contains(note.onset_s())))
            notes.push_back(&note);
    return notes;
}

// Against the bass that rings or begins with it, each note that lies well above.
std::optional<double> balance(const std::vector<const Note*>& notes) {
    std::vector<double> differences;
    for (std::size_t i = 0; i < notes.size(); ++i) {
        const Note* bass = nullptr;
        bool highest = true;
        for (std::size_t k = i > 24 ? i - 24 : 0;
             k < notes.size() && notes[k]->onset_s() <= notes[i]->onset_s() + kStrokeApart_s;
             ++k) {
            if (k == i || notes[k]->offset_s() < notes[i]->onset_s() + kRingsOn_s)
                continue;
            highest = highest && notes[k]->midi() < notes[i]->midi();
            if (!bass || notes[k]->midi() < bass->midi())
                bass = notes[k];
        }
        if (bass && highest && notes[i]->midi() - bass->midi() >= kApart)
            differences.push_back(notes[i]->loudness_db - bass->loudness_db);
    }
    return differences.size() >= kEnough ? median(std::move(differences)) : std::nullopt;
}

std::optional<double> middleLoudness(const std::vector<const Note*>& notes) {
    std::vector<double> levels;
    for (const Note* note : notes)
        levels.push_back(note->loudness_db);
    return median(std::move(levels));
}

} // namespace

SpanSummary summarise(const Piece& piece, TimeRange span) {
    SpanSummary summary;
    const auto notes = pitchedIn(piece, span);
    summary.notes = notes.size();
    PitchClasses weights{};
    for (const Note* note : notes)
        weights[static_cast<std::size_t>(note->midi() % 12)] +=
            std::min(1.0, note->time.value.length_s()) * note->velocity;
    const auto keys = keysOf(weights);
    if (!keys.empty()) {
        summary.key = keys[0];
        if (keys[0].fit - keys[1].fit < kNearlyAsWell)
            summary.other_key = keys[1];
        summary.scale = scaleOf(weights, keys[0]);
        for (const Note* note : notes)
            if (!summary.scale.has(note->midi()))
                summary.outside.push_back(note->id);
    }
    summary.melody_over_bass_db = balance(notes);
    if (!span.empty()) {
        const auto here = middleLoudness(notes);
        const auto everywhere = middleLoudness(pitchedIn(piece, {}));
        if (here && everywhere)
            summary.over_piece_db = *here - *everywhere;
    }
    return summary;
}

} // namespace wirenote
