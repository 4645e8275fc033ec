// What an edit costs in a long piece: an edit, its neighbourhood solved again, and the difference
// put into the piece, at 1,000 and 10,000 notes; p50 and p99 of 400 edits of every kind, against
// each other and against placing and stroking the whole piece. Ratios within one run.
#include "session/workspace.h"
#include "support/long_piece.h"

#include <algorithm>
#include <chrono>
#include <cstdio>

using namespace wirenote;

namespace {

double millisecondsOf(const std::function<void()>& work) {
    const auto began = std::chrono::steady_clock::now();
    work();
    return std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - began)
        .count();
}

Status oneOf(int kind, PieceEditor& e, NoteId id, TimeRange time) {
    switch (kind) {
    case 0:
        return e.moveToString(id, 2);
    case 1:
        return e.setFret(id, 7);
    case 2:
        return e.setStroke(id, Stroke::Up);
    case 3:
        return e.remove(id);
    case 4:
        return e.setTime(id, {time.start_s + 0.02, time.end_s + 0.02});
    default:
        return e.accept(id);
    }
}

struct Cost {
    double p50_ms = 0.0;
    double p99_ms = 0.0;
    double whole_ms = 0.0;
};

Cost costOf(std::size_t notes) {
    constexpr std::size_t kEdits = 400;
    Piece piece = test::longPiece(notes);
    Cost cost;
    cost.whole_ms = millisecondsOf([&] { placeAndStroke(piece); });
    std::vector<double> times;
    for (std::size_t k = 0; k < kEdits; ++k) {
        const Note& note = piece.notes[(k * 7919) % piece.notes.size()];
        const NoteId id = note.id;
        const TimeRange time = note.time.value;
        times.push_back(millisecondsOf([&] {
            const auto outcome = tryEdit(piece, time.start_s, [&](PieceEditor& e) {
                return oneOf(static_cast<int>(k % 6), e, id, time);
            });
            if (outcome)
                apply(outcome->delta, piece);
        }));
    }
    std::ranges::sort(times);
    cost.p50_ms = times[kEdits / 2];
    cost.p99_ms = times[kEdits * 99 / 100];
    return cost;
}

} // namespace

int main() {
    const Cost few = costOf(1000);
    const Cost many = costOf(10000);
    for (const auto& [notes, cost] : {std::pair{1000, few}, {10000, many}})
        std::printf("%6d notes: an edit p50 %.3f, p99 %.3f of placing the whole piece / 100\n",
                    notes,
                    100.0 * cost.p50_ms / cost.whole_ms,
                    100.0 * cost.p99_ms / cost.whole_ms);
    std::printf("10,000 against 1,000 notes: p50 %.2f, p99 %.2f times   (goal: 2)\n",
                many.p50_ms / few.p50_ms,
                many.p99_ms / few.p99_ms);
    std::printf("an edit of the whole at 10,000: p50 1/%.0f, p99 1/%.0f   (goal: 1/50)\n",
                many.whole_ms / many.p50_ms,
                many.whole_ms / many.p99_ms);
    return 0;
}
