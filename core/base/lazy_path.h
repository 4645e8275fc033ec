// The cheapest ways through columns of states whose steps are dear to price: a step is priced only
// where the way to it is cheap enough to matter. States are made as the search comes to them.
#pragma once

#include <algorithm>
#include <cstddef>
#include <cstdint>
#include <limits>
#include <numeric>
#include <vector>

namespace wirenote {

struct LazyMarginals {
    std::vector<std::size_t> states;          // of each column, on the cheapest way
    std::vector<std::vector<double>> through; // what the cheapest way through each state costs
};

struct RankedPath {
    double cost = 0.0;
    std::vector<std::size_t> states; // of each column
};

// Columns must have
//   std::size_t count()                         how many columns;
//   std::vector<double> make(c, cheapest)       the states of column c: what each costs of its own,
//                                               at least one; `cheapest`: the way to each state of
//                                               the column before (empty at the first);
//   void keep(c, kept)                          give up all but these states of column c;
//   steps(c)                                    something whose cost(i, j) is what the step from
//                                               state i of column c − 1 to state j of c costs: 0
//                                               and above, infinite where it cannot be taken.
template <class Columns> class LazyPath {
  public:
    // States that lie further behind the best of their column than this are given up.
    LazyPath(Columns& columns, double far_behind) : m_columns(columns), m_far_behind(far_behind) {}

    // The cheapest way and what the cheapest way through each state costs (Viterbi, "Error bounds
    // for convolutional codes", IEEE Trans. Inf. Theory 13, 1967; forward and back).
    LazyMarginals marginals() {
        forward();
        LazyMarginals out{std::vector<std::size_t>(m_own.size()), m_there};
        std::vector<double>
            after; // from each state of the next column to the end, its own cost too
        for (std::size_t c = m_own.size(); c-- > 0;) {
            std::vector<double> onward(m_own[c].size(), 0.0);
            if (c + 1 < m_own.size())
                onward = onwardFrom(c, after);
            after = m_own[c];
            for (std::size_t i = 0; i < onward.size(); ++i) {
                after[i] += onward[i];
                out.through[c][i] += onward[i];
            }
        }
        std::size_t state = m_own.empty() ? 0 : indexOfLeast(m_there.back());
        for (std::size_t c = m_own.size(); c-- > 0;) {
            out.states[c] = state;
            state = m_back[c][state];
        }
        return out;
    }

    // The `count` cheapest ways, cheapest first (list Viterbi: Seshadri and Sundberg, IEEE Trans.
    // Communications 42, 1994), over the states through which ways lead that are cheap enough.
    std::vector<RankedPath> cheapest(std::size_t count) {
        const LazyMarginals all = marginals();
        if (m_own.empty())
            return {};
        const double best = *std::ranges::min_element(all.through.back());
        constexpr double kFirst = 0.5;
        for (double within = kFirst;; within *= 2.0) {
            bool left_out = false;
            const auto states = statesWithin(all.through, best + within, left_out);
            auto found = ranked(states, count);
            if (!left_out)
                return found;
            // Ways that are dearer may have rivals among the states that were left out.
            std::erase_if(found, [&](const RankedPath& way) { return way.cost > best + within; });
            if (found.size() == count)
                return found;
        }
    }

  private:
    struct Way {
        double cost = 0.0;
        std::uint16_t state = 0; // before, among those looked at
        std::uint16_t rank = 0;  // of the way to it
    };
    static constexpr double kNever = std::numeric_limits<double>::infinity();

    static std::size_t indexOfLeast(const std::vector<double>& costs) {
        return static_cast<std::size_t>(std::ranges::min_element(costs) - costs.begin());
    }
    static std::vector<std::size_t> byCost(const std::vector<double>& costs) {
        std::vector<std::size_t> order(costs.size());
        std::iota(order.begin(), order.end(), std::size_t{0});
        std::ranges::stable_sort(order, {}, [&](std::size_t i) { return costs[i]; });
        return order;
    }

    void forward() {
        if (!m_own.empty())
            return;
        for (std::size_t c = 0; c < m_columns.count(); ++c) {
            m_own.push_back(m_columns.make(c, c > 0 ? m_there.back() : std::vector<double>{}));
            std::vector<double> now = m_own[c];
            std::vector<std::uint16_t> back(now.size(), 0);
            if (c > 0) {
                const auto& before = m_there.back();
                const auto order = byCost(before);
                const auto& steps = m_columns.steps(c);
                for (std::size_t j = 0; j < now.size(); ++j) {
                    double best = kNever;
                    for (const std::size_t i : order) {
                        if (before[i] >= best)
                            break; // a step costs nothing at the least
                        if (const double cost = before[i] + steps.cost(i, j); cost < best) {
                            best = cost;
                            back[j] = static_cast<std::uint16_t>(i);
                        }
                    }
                    now[j] += best;
                }
            }
            trim(c, now, back);
            m_there.push_back(std::move(now));
            m_back.push_back(std::move(back));
        }
    }

    void trim(std::size_t c, std::vector<double>& now, std::vector<std::uint16_t>& back) {
        const double limit = *std::ranges::min_element(now) + m_far_behind;
        std::vector<std::size_t> kept;
        for (std::size_t j = 0; j < now.size(); ++j)
            if (now[j] <= limit)
                kept.push_back(j);
        if (kept.size() == now.size() || kept.empty())
            return;
        for (std::size_t k = 0; k < kept.size(); ++k) {
            now[k] = now[kept[k]];
            back[k] = back[kept[k]];
            m_own[c][k] = m_own[c][kept[k]];
        }
        now.resize(kept.size());
        back.resize(kept.size());
        m_own[c].resize(kept.size());
        m_columns.keep(c, kept);
    }

    std::vector<double> onwardFrom(std::size_t c, const std::vector<double>& after) const {
        std::vector<double> onward(m_own[c].size(), kNever);
        const auto order = byCost(after);
        const auto& steps = m_columns.steps(c + 1);
        for (std::size_t i = 0; i < onward.size(); ++i)
            for (const std::size_t j : order) {
                if (after[j] >= onward[i])
                    break;
                onward[i] = std::min(onward[i], after[j] + steps.cost(i, j));
            }
        return onward;
    }

    using States = std::vector<std::vector<std::size_t>>;    // of each column
    using Ways = std::vector<std::vector<std::vector<Way>>>; // [column][of its states][rank]

    static States
    statesWithin(const std::vector<std::vector<double>>& through, double limit, bool& left_out) {
        States states(through.size());
        for (std::size_t c = 0; c < through.size(); ++c) {
            for (std::size_t j = 0; j < through[c].size(); ++j)
                if (through[c][j] <= limit)
                    states[c].push_back(j);
            left_out |= states[c].size() < through[c].size();
        }
        return states;
    }

    std::vector<RankedPath> ranked(const States& states, std::size_t count) const {
        Ways ways(states.size());
        for (std::size_t c = 0; c < states.size(); ++c) {
            ways[c].resize(states[c].size());
            if (c == 0)
                for (std::size_t j = 0; j < states[c].size(); ++j)
                    ways[c][j].push_back({m_own[c][states[c][j]], 0, 0});
            else
                extend(c, states, count, ways);
        }
        std::vector<RankedPath> found;
        for (std::size_t j = 0; j < ways.back().size(); ++j)
            for (std::size_t r = 0; r < ways.back()[j].size(); ++r)
                found.push_back(trace(states, ways, j, r));
        std::ranges::stable_sort(found, {}, &RankedPath::cost);
        if (found.size() > count)
            found.resize(count);
        return found;
    }

    void extend(std::size_t c, const States& states, std::size_t count, Ways& ways) const {
        const auto& steps = m_columns.steps(c);
        const auto& before = ways[c - 1];
        for (std::size_t j = 0; j < states[c].size(); ++j) {
            auto& to = ways[c][j];
            const double own = m_own[c][states[c][j]];
            for (std::size_t i = 0; i < before.size(); ++i) {
                if (before[i].empty() ||
                    (to.size() == count && before[i].front().cost + own >= to.back().cost))
                    continue;
                const double step = steps.cost(states[c - 1][i], states[c][j]) + own;
                for (std::size_t r = 0; r < before[i].size() && step < kNever; ++r) {
                    const double cost = before[i][r].cost + step;
                    if (to.size() == count && cost >= to.back().cost)
                        break;
                    if (to.size() == count)
                        to.pop_back();
                    to.insert(std::ranges::upper_bound(to, cost, {}, &Way::cost),
                              {cost, static_cast<std::uint16_t>(i), static_cast<std::uint16_t>(r)});
                }
            }
        }
    }

    static RankedPath
    trace(const States& states, const Ways& ways, std::size_t at, std::size_t rank) {
        RankedPath path{ways.back()[at][rank].cost, std::vector<std::size_t>(ways.size())};
        for (std::size_t c = ways.size(); c-- > 0;) {
            path.states[c] = states[c][at];
            const Way& way = ways[c][at][rank];
            at = way.state;
            rank = way.rank;
        }
        return path;
    }

    Columns& m_columns;
    double m_far_behind;
    std::vector<std::vector<double>> m_own;
    std::vector<std::vector<double>> m_there; // the cheapest way to each state
    std::vector<std::vector<std::uint16_t>> m_back;
};

} // namespace wirenote
