#include "piece/fretting_manner.h"

namespace wirenote {

void FrettingManner::follow(FrettingRule rule) {
    leaveToSchool(rule);
    rules.insert(std::ranges::upper_bound(rules, rule), rule);
}

void FrettingManner::leaveToSchool(FrettingRule rule) {
    std::erase_if(rules, [rule](FrettingRule r) { return r == rule || r == otherAnswer(rule); });
}

} // namespace wirenote
