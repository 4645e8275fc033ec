// The cheapest way through columns of states, one state a column, where each state costs something
// of its own and so does each step from a state to one of the next column.
#pragma once

#include <algorithm>
#include <cstdint>
#include <limits>
#include <vector>

namespace wirenote {

// What each step from a state of one column to a state of the next costs. Infinite: cannot be taken.
class StepCosts {
  public:
    void resize(std::size_t from, std::size_t to) {
        m_from = from;
        m_costs.assign(from * to, 0.0);
    }
    std::size_t from() const { return m_from; }
    std::size_t to() const { return m_from == 0 ? 0 : m_costs.size() / m_from; }
    double& at(std::size_t from, std::size_t to) { return m_costs[to * m_from + from]; }
    double at(std::size_t from, std::size_t to) const { return m_costs[to * m_from + from]; }
    // Fills the table from a function of both states.
    template <class Cost> void fill(std::size_t from, std::size_t to, const Cost& cost) {
        resize(from, to);
        for (std::size_t j = 0; j < to; ++j)
            for (std::size_t i = 0; i < from; ++i)
                at(i, j) = cost(i, j);
    }

  private:
    std::size_t m_from = 0;
    std::vector<double> m_costs; // [to][from]
};

struct PathMarginals {
    std::vector<std::size_t> states;          // of each column, on the cheapest way
    std::vector<std::vector<double>> through; // what the cheapest way through each state costs
};

namespace best_path {

struct Forward {
    std::vector<std::vector<double>> cheapest; // to each state; the last column alone unless kept
    std::vector<std::size_t> states;
};

template <class Own, class Steps>
Forward forward(std::size_t columns, const Own& own, const Steps& steps, bool keep) {
    Forward out;
    std::vector<std::uint16_t> back; // of every state, column after column
    std::vector<std::size_t> first;  // where a column begins in it
    StepCosts step;
    for (std::size_t c = 0; c < columns; ++c) {
        std::vector<double> now = own(c);
        first.push_back(back.size());
        back.resize(back.size() + now.size(), 0);
        if (c > 0) {
            const auto& before = out.cheapest.back();
            steps(c, step);
            for (std::size_t j = 0; j < now.size(); ++j) {
                double best = std::numeric_limits<double>::infinity();
                for (std::size_t i = 0; i < before.size(); ++i)
                    if (const double cost = before[i] + step.at(i, j); cost < best) {
                        best = cost;
                        back[first.back() + j] = static_cast<std::uint16_t>(i);
                    }
                now[j] += best;
            }
        }
        if (!keep)
            out.cheapest.clear();
        out.cheapest.push_back(std::move(now));
    }
    out.states.resize(columns);
    if (columns == 0)
        return out;
    auto state = static_cast<std::size_t>(std::ranges::min_element(out.cheapest.back()) -
                                          out.cheapest.back().begin());
    for (std::size_t c = columns; c-- > 0;) {
        out.states[c] = state;
        state = back[first[c] + state];
    }
    return out;
}

} // namespace best_path

// The state of each column on the cheapest way (Viterbi, "Error bounds for convolutional codes",
// IEEE Trans. Inf. Theory 13, 1967). `own(c)`: what each state of column c costs, at least one and
// fewer than 65,536; `steps(c, table)` fills in what the steps from column c − 1 to column c cost.
// Of equal ways the one over earlier states is taken. Work grows linearly with the columns; two
// bytes a state are kept.
template <class Own, class Steps>
std::vector<std::size_t> bestPath(std::size_t columns, const Own& own, const Steps& steps) {
    return best_path::forward(columns, own, steps, false).states;
}

// The same, and what the cheapest way through each state costs (max-marginals): the cheapest way
// there and the cheapest way on.
template <class Own, class Steps>
PathMarginals pathMarginals(std::size_t columns, const Own& own, const Steps& steps) {
    auto there = best_path::forward(columns, own, steps, true);
    PathMarginals out{std::move(there.states), std::move(there.cheapest)};
    StepCosts step;
    std::vector<double> after; // from each state of the next column to the end, its own cost too
    for (std::size_t c = columns; c-- > 0;) {
        std::vector<double> onward(out.through[c].size(), 0.0);
        if (c + 1 < columns) {
            steps(c + 1, step);
            for (std::size_t i = 0; i < onward.size(); ++i) {
                onward[i] = std::numeric_limits<double>::infinity();
                for (std::size_t j = 0; j < after.size(); ++j)
                    onward[i] = std::min(onward[i], after[j] + step.at(i, j));
            }
        }
        after = own(c);
        for (std::size_t i = 0; i < onward.size(); ++i) {
            after[i] += onward[i];
            out.through[c][i] += onward[i];
        }
    }
    return out;
}

} // namespace wirenote
