#include "score/voices.h"

#include "piece/timeline.h"

#include <algorithm>
#include <array>
#include <map>

namespace wirenote {
namespace {

// Working figures: how sure the voice is by what is known of a note.
constexpr double kByThumb = 0.92;
constexpr double kByFinger = 0.97;
constexpr double kByThickString = 0.7;
constexpr double kByThinString = 0.85;
constexpr double kEnoughBars = 0.25; // of those that have both, with a bass that goes on

VoiceOfNote found(const Row& row, int strings) {
    const Stroke stroke = row.plan.stroke.value;
    if (stroke == Stroke::P)
        return {Voice::Lower, kByThumb};
    if (stroke >= Stroke::I && stroke <= Stroke::C)
        return {Voice::Upper, kByFinger};
    if (row.plan.placed() && row.plan.position.value.string > strings / 2)
        return {Voice::Lower, kByThickString};
    return {Voice::Upper, kByThinString};
}

// A pick alone plays one voice as far as anybody reads it.
bool hasThumb(const Rows& rows) {
    return std::ranges::any_of(rows.plans(),
                               [](const NotePlan& plan) { return plan.stroke.value == Stroke::P; });
}

} // namespace

std::vector<VoiceOfNote> voicesOf(const Piece& piece) {
    const Rows rows = piece.rows();
    const bool one = piece.instrument.isBass() || !hasThumb(rows);
    std::vector<VoiceOfNote> voices(rows.size());
    std::array<std::size_t, kMaxStrings + 1> last{}; // index + 1 of the last note on each string
    for (std::size_t i = 0; i < rows.size(); ++i) {
        const Row row = rows[i];
        const auto string = static_cast<std::size_t>(std::max(0, row.plan.position.value.string));
        if (row.note.voice)
            voices[i] = {*row.note.voice, 1.0};
        else if (one)
            voices[i] = {};
        else if (row.note.slurred() && string > 0 && last[string] > 0)
            voices[i] = voices[last[string] - 1];
        else
            voices[i] = found(row, piece.instrument.stringCount());
        last[string] = i + 1;
    }
    return voices;
}

bool needsTwoVoices(const Piece& piece,
                    const Quantised& quantised,
                    const std::vector<VoiceOfNote>& voices) {
    if (piece.instrument.isBass())
        return false;
    if (std::ranges::any_of(piece.notes, [](const Note& note) { return note.voice.has_value(); }))
        return true;
    const BarGrid grid(piece.timeline);
    struct Has {
        bool lower = false, upper = false, under = false;
    };
    std::map<int, Has> bars;
    Rational bass_until = Rational(-1000000);
    for (const ScoreNote& note : quantised.notes) {
        if (note.grace)
            continue;
        Has& bar = bars[grid.barAt(note.start).number];
        if (voices[note.index].voice == Voice::Lower) {
            bar.lower = true;
            bass_until = note.start + note.sounds;
        } else {
            bar.upper = true;
            // It goes on for longer than the moment at which the next begins.
            bar.under |= bass_until >= note.start + std::max(note.step, Rational(1, 2));
        }
    }
    std::size_t both = 0;
    std::size_t under = 0;
    for (const auto& [number, bar] : bars) {
        both += bar.lower && bar.upper ? 1 : 0;
        under += bar.lower && bar.upper && bar.under ? 1 : 0;
    }
    return both > 0 && static_cast<double>(under) >= kEnoughBars * static_cast<double>(both);
}

} // namespace wirenote
