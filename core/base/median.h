// The middle of some values.
#pragma once

#include <algorithm>
#include <optional>
#include <vector>

namespace wirenote {

// The middle value, of an even number the upper of the two; nothing for none. Reorders them.
template <class T> std::optional<T> median(std::vector<T>& values) {
    if (values.empty())
        return {};
    const auto middle = values.begin() + static_cast<std::ptrdiff_t>(values.size() / 2);
    std::ranges::nth_element(values, middle);
    return *middle;
}
template <class T> std::optional<T> median(std::vector<T>&& values) {
    return median(values);
}

} // namespace wirenote
