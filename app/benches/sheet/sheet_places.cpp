#include "app/benches/sheet/sheet_places.h"

#include <algorithm>
#include <cmath>
#include <unordered_set>

namespace wirenote::app {
namespace {

constexpr double kReach_mm = 1.6;

bool isBody(const Ink& ink) {
    return ink.note != 0 && (ink.sign == Sign::Number || ink.sign == Sign::GraceNumber ||
                             ink.sign == Sign::Head || ink.sign == Sign::GraceHead);
}

double distance(const Box& box, double x, double y) {
    const double dx = std::max({box.left - x, 0.0, x - box.right});
    const double dy = std::max({box.top - y, 0.0, y - box.bottom});
    return std::hypot(dx, dy);
}

// `value` on a line through rising (from, to) pairs.
double between(double value, double a, double b, double at_a, double at_b) {
    return b > a ? at_a + (value - a) / (b - a) * (at_b - at_a) : at_a;
}

} // namespace

NoteId noteAt(const std::vector<SheetPage>& pages, const SheetPoint& point) {
    if (point.page >= pages.size())
        return 0;
    NoteId nearest = 0;
    double least = kReach_mm;
    for (const Ink& ink : pages[point.page].ink)
        if (isBody(ink))
            if (const double away = distance(ink.box, point.x, point.y); away < least) {
                least = away;
                nearest = ink.note;
            }
    return nearest;
}

std::vector<SheetSpot> spotsOf(const std::vector<SheetPage>& pages,
                               const std::vector<NoteId>& notes) {
    const std::unordered_set<NoteId> wanted(notes.begin(), notes.end());
    std::vector<SheetSpot> spots;
    if (wanted.empty())
        return spots;
    for (std::size_t p = 0; p < pages.size(); ++p)
        for (const Ink& ink : pages[p].ink)
            if (isBody(ink) && wanted.contains(ink.note))
                spots.push_back({p, ink.box, ink.note});
    return spots;
}

std::optional<SheetSpot> spotAtQuarters(const std::vector<SheetPage>& pages, double quarters) {
    for (std::size_t p = 0; p < pages.size(); ++p)
        for (const SystemPlace& system : pages[p].systems)
            for (const BarPlace& bar : system.bars) {
                if (quarters < bar.start.toDouble() || quarters >= bar.end.toDouble())
                    continue;
                double x = bar.moments.front().x;
                for (std::size_t k = 0; k + 1 < bar.moments.size(); ++k)
                    if (quarters >= bar.moments[k].quarters.toDouble())
                        x = between(quarters,
                                    bar.moments[k].quarters.toDouble(),
                                    bar.moments[k + 1].quarters.toDouble(),
                                    bar.moments[k].x,
                                    bar.moments[k + 1].x);
                return SheetSpot{p, {x, system.box.top, x, system.box.bottom}, 0};
            }
    return {};
}

std::optional<double> quartersAt(const std::vector<SheetPage>& pages, const SheetPoint& point) {
    if (point.page >= pages.size())
        return {};
    for (const SystemPlace& system : pages[point.page].systems) {
        if (point.y < system.box.top || point.y > system.box.bottom)
            continue;
        for (const BarPlace& bar : system.bars) {
            if (point.x < bar.left || point.x >= bar.right)
                continue;
            double at = bar.start.toDouble();
            for (std::size_t k = 0; k + 1 < bar.moments.size(); ++k)
                if (point.x >= bar.moments[k].x)
                    at = between(point.x,
                                 bar.moments[k].x,
                                 bar.moments[k + 1].x,
                                 bar.moments[k].quarters.toDouble(),
                                 bar.moments[k + 1].quarters.toDouble());
            return at;
        }
    }
    return {};
}

} // namespace wirenote::app
