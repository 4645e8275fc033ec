// Lines of one sorted list that another does not have, as a test prints them.
#pragma once

#include <algorithm>
#include <iterator>
#include <string>
#include <vector>

namespace wirenote::test {

inline std::string onlyIn(const std::vector<std::string>& a, const std::vector<std::string>& b) {
    constexpr std::size_t kMost = 6;
    std::vector<std::string> rest;
    std::ranges::set_difference(a, b, std::back_inserter(rest));
    std::string text;
    for (std::size_t i = 0; i < std::min(rest.size(), kMost); ++i)
        text += rest[i] + "\n";
    return text;
}

} // namespace wirenote::test
