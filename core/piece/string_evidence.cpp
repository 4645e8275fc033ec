#include "piece/string_evidence.h"

namespace wirenote {

std::vector<std::vector<double>> stringProbabilities(const Rows& rows, int strings) {
    std::vector<std::vector<double>> all;
    all.reserve(rows.size());
    for (const NotePlan& plan : rows.plans()) {
        std::vector<double> p(static_cast<std::size_t>(strings), 0.0);
        const auto add = [&p](const Position& place, double probability) {
            if (place.string > 0 && place.string <= static_cast<int>(p.size()))
                p[static_cast<std::size_t>(place.string - 1)] += probability;
        };
        add(plan.position.value, plan.position.isSet() ? 1.0 : plan.position.probability);
        if (!plan.position.isSet())
            for (const auto& other : plan.position.runners_up)
                add(other.value, other.probability);
        all.push_back(std::move(p));
    }
    return all;
}

} // namespace wirenote
