#include "engraving/breaking.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

constexpr std::size_t kMostBarsOfLine = 16; // of a line
constexpr double kLoneBar = 4.0;            // badness of a last line of one bar
constexpr double kTooTight = 1000.0;        // … of a line that does not fit
constexpr double kFullPage = 0.02;          // … of a page, a hundredth of its room left empty
constexpr double kNoRestToTurn = 6.0;
constexpr double kOnePageMore = 5.0;

double widthOf(const std::vector<SetBar>& bars, std::size_t from, std::size_t to, double spread) {
    double sum = 0.0;
    for (std::size_t b = from; b < to; ++b)
        sum += bars[b].widthAt(spread);
    return sum;
}

double badness(double spread, bool last, const Measures& m) {
    if (spread < m.tightest)
        return kTooTight + 100.0 * (m.tightest - spread);
    if (last && spread > 1.0)
        return 0.0; // it keeps its own width
    const double off = spread < 1.0 ? 2.2 * (1.0 / spread - 1.0) : spread - 1.0;
    return 10.0 * off * off;
}

} // namespace

double spreadFor(const std::vector<SetBar>& bars, std::size_t from, std::size_t to, double width) {
    double low = 0.0;
    double high = 1.0;
    while (widthOf(bars, from, to, high) < width && high < 64.0)
        high *= 2.0;
    for (int step = 0; step < 24; ++step) {
        const double middle = (low + high) / 2.0;
        (widthOf(bars, from, to, middle) < width ? low : high) = middle;
    }
    return (low + high) / 2.0;
}

std::vector<std::size_t>
breakLines(const std::vector<SetBar>& bars, double first_room, double room, const Measures& m) {
    const std::size_t n = bars.size();
    std::vector<double> cost(n + 1, 1e18);
    std::vector<std::size_t> from(n + 1, 0);
    // What bars want at the ideal, added up, so that hopeless lines are not tried.
    std::vector<double> tight(n + 1, 0.0);
    for (std::size_t b = 0; b < n; ++b)
        tight[b + 1] = tight[b] + bars[b].widthAt(m.tightest);
    cost[0] = 0.0;
    for (std::size_t end = 1; end <= n; ++end)
        for (std::size_t begin = end; begin-- > 0 && end - begin <= kMostBarsOfLine;) {
            const double width = begin == 0 ? first_room : room;
            const bool fits = tight[end] - tight[begin] <= width;
            if (!fits && end - begin > 1)
                break;
            const double spread = fits ? spreadFor(bars, begin, end, width) : 0.0;
            double bad = badness(spread, end == n, m);
            if (end == n && end - begin == 1 && n > 1)
                bad += kLoneBar;
            if (cost[begin] + bad < cost[end]) {
                cost[end] = cost[begin] + bad;
                from[end] = begin;
            }
        }
    std::vector<std::size_t> firsts;
    for (std::size_t end = n; end > 0; end = from[end])
        firsts.push_back(from[end]);
    std::ranges::reverse(firsts);
    return firsts;
}

namespace {

// What a page of these systems is worth.
double badnessOfPage(double used, double available, bool last, bool turns, bool ends_with_rest) {
    if (last)
        return 0.0;
    const double empty = 100.0 * std::max(0.0, available - used) / available;
    return kFullPage * empty * empty + kOnePageMore +
           (turns && !ends_with_rest ? kNoRestToTurn : 0.0);
}

struct BestPages {
    double cost = 1e18;
    std::size_t from = 0;
};
// By parity of the pages so far, since only every other page is turned; then by systems so far.
using PageTable = std::vector<std::vector<BestPages>>;

std::vector<std::size_t> pagesFrom(const PageTable& best, std::size_t systems) {
    std::vector<std::size_t> firsts;
    std::size_t parity = best[0][systems].cost < best[1][systems].cost ? 0 : 1;
    for (std::size_t end = systems; end > 0; parity = 1 - parity) {
        end = best[parity][end].from;
        firsts.push_back(end);
    }
    std::ranges::reverse(firsts);
    return firsts.empty() ? std::vector<std::size_t>{0} : firsts;
}

} // namespace

std::vector<std::size_t> breakPages(const std::vector<SystemHeight>& systems,
                                    double first_room,
                                    double room,
                                    double gap,
                                    bool every_page_turns) {
    const std::size_t n = systems.size();
    PageTable best(2, std::vector<BestPages>(n + 1));
    best[0][0].cost = 0.0;
    const auto extend = [&](std::size_t begin, std::size_t parity) {
        const double available = begin == 0 ? first_room : room;
        double used = -gap;
        for (std::size_t end = begin + 1; end <= n; ++end) {
            used += systems[end - 1].height + gap;
            if (used > available && end > begin + 1)
                break;
            const double cost =
                best[parity][begin].cost + badnessOfPage(used,
                                                         available,
                                                         end == n,
                                                         every_page_turns || parity == 0,
                                                         systems[end - 1].ends_with_rest);
            if (cost < best[1 - parity][end].cost)
                best[1 - parity][end] = {cost, begin};
        }
    };
    for (std::size_t begin = 0; begin < n; ++begin)
        for (const std::size_t parity : {0U, 1U})
            if (best[parity][begin].cost < 1e18)
                extend(begin, parity);
    return pagesFrom(best, n);
}

} // namespace wirenote
