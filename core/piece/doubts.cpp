#include "piece/doubts.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

// Much hangs on a long note and on one whose neighbours follow from it.
double weightOf(const Piece& piece, std::size_t i) {
    const Note& note = piece.notes[i];
    const double length = std::min(1.0, note.time.value.length_s() / 0.5);
    const bool carries_slur = i + 1 < piece.notes.size() && piece.notes[i + 1].slurred();
    return std::min(1.0, 0.75 + 0.15 * length + (carries_slur ? 0.1 : 0.0));
}

} // namespace

std::vector<Doubt> openDoubts(const Piece& piece, const DoubtParameters& parameters) {
    std::vector<Doubt> doubts;
    for (std::size_t i = 0; i < piece.notes.size(); ++i) {
        const Note& note = piece.notes[i];
        const NotePlan& plan = piece.asPlayed().plans[i];
        Doubt worst{note.id, DoubtKind::Place, note.onset_s(), 0.0};
        const auto consider = [&worst](DoubtKind kind, double urgency) {
            if (urgency > worst.urgency) {
                worst.kind = kind;
                worst.urgency = urgency;
            }
        };
        if (!plan.placed())
            consider(DoubtKind::NoPlace, 1.0);
        else if (!plan.position.isSet())
            consider(DoubtKind::Place, (1.0 - plan.position.probability) * weightOf(piece, i));
        if (!note.pitch.isSet())
            consider(DoubtKind::Pitch, 1.0 - note.pitch.probability);
        if (!note.existence.isSet())
            consider(DoubtKind::Existence, 1.0 - note.existence.probability);
        if (worst.urgency >= parameters.least_urgency)
            doubts.push_back(worst);
    }
    std::stable_sort(doubts.begin(), doubts.end(), [](const Doubt& a, const Doubt& b) {
        return a.urgency > b.urgency;
    });
    return doubts;
}

} // namespace wirenote
