// What an edit costs in a long piece: an edit, its neighbourhood solved again, and the difference
// put into the piece, at 1,000 and 10,000 notes; p50 and p99 of 600 edits of six kinds, against
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

constexpr std::size_t kKinds = 6;

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

// A piece, and what its edits took.
struct Edited {
    explicit Edited(std::size_t notes) : piece(test::longPiece(notes)) {
        whole_ms = millisecondsOf([this] { placeAndStroke(piece); });
    }
    void edit(std::size_t k) {
        const Note& note = piece.notes[(k * 7919) % piece.notes.size()];
        const NoteId id = note.id;
        const TimeRange time = note.time.value;
        times_ms.push_back(millisecondsOf([&] {
            const auto outcome = tryEdit(piece, time.start_s, [&](PieceEditor& e) {
                return oneOf(static_cast<int>(k % kKinds), e, id, time);
            });
            if (outcome)
                apply(outcome->delta, piece);
        }));
    }
    double percentile_ms(double share) const {
        std::vector<double> sorted = times_ms;
        std::ranges::sort(sorted);
        return sorted[static_cast<std::size_t>(share * static_cast<double>(sorted.size() - 1))];
    }

    Piece piece;
    double whole_ms = 0.0;
    std::vector<double> times_ms;
};

} // namespace

int main() {
    constexpr std::size_t kEdits = 600;
    Edited few(1000);
    Edited many(10000);
    for (std::size_t k = 0; k < kEdits; ++k) { // in turn, so that both have the same weather
        few.edit(k);
        many.edit(k);
    }
    for (const auto* edited : {&few, &many})
        std::printf("%6zu notes: an edit takes p50 %.2f, p99 %.2f hundredths of placing them all\n",
                    edited->piece.notes.size(),
                    100.0 * edited->percentile_ms(0.5) / edited->whole_ms,
                    100.0 * edited->percentile_ms(0.99) / edited->whole_ms);
    std::printf("10,000 against 1,000 notes: p50 %.2f, p99 %.2f times   (goal: 2)\n",
                many.percentile_ms(0.5) / few.percentile_ms(0.5),
                many.percentile_ms(0.99) / few.percentile_ms(0.99));
    std::printf("an edit of placing 10,000: p50 1/%.0f, p99 1/%.0f   (goal: 1/50)\n",
                many.whole_ms / many.percentile_ms(0.5),
                many.whole_ms / many.percentile_ms(0.99));
    return 0;
}
