#include "readings/paper_places.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

constexpr double kSameLine = 0.02;  // of the height of a page
constexpr double kRightEdge = 0.95; // of its width: where lines end

bool onOneLine(const PagePin& a, const PagePin& b) {
    return a.page == b.page && std::abs(a.y - b.y) < kSameLine && b.x > a.x;
}

} // namespace

std::optional<PaperPlace> placeOnPaper(const PaperScore& paper, double bar) {
    const auto& pins = paper.pins;
    const auto after =
        std::ranges::find_if(pins, [bar](const PagePin& pin) { return pin.bar > bar; });
    if (after == pins.begin())
        return {};
    const PagePin& from = *std::prev(after);
    const double beyond = bar - from.bar;
    if (after != pins.end()) {
        const double bars = after->bar - from.bar;
        const double edge = onOneLine(from, *after) ? after->x : std::max(from.x, kRightEdge);
        return PaperPlace{from.page, from.x + beyond / bars * (edge - from.x), from.y};
    }
    if (pins.size() < 2)
        return PaperPlace{from.page, from.x, from.y};
    const PagePin& before = *std::prev(after, 2);
    const double width = onOneLine(before, from)
                             ? (from.x - before.x) / (from.bar - before.bar)
                             : (kRightEdge - before.x) / (from.bar - before.bar);
    return PaperPlace{
        from.page, std::min(std::max(from.x, kRightEdge), from.x + beyond * width), from.y};
}

int nextBarToPin(const PaperScore& paper) {
    return paper.pins.empty() ? 1 : paper.pins.back().bar + 1;
}

} // namespace wirenote
