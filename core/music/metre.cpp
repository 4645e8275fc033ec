#include "music/metre.h"

#include <charconv>

namespace wirenote {

Result<Metre> parseMetre(std::string_view text) {
    const auto refuse = [&] {
        return badCall("\"" + std::string(text) +
                       "\" is not a metre; write it like 4/4, 3/4 or 6/8");
    };
    const std::size_t slash = text.find('/');
    if (slash == std::string_view::npos)
        return refuse();
    const auto number = [](std::string_view digits, int& value) {
        const auto [end, code] =
            std::from_chars(digits.data(), digits.data() + digits.size(), value);
        return code == std::errc() && end == digits.data() + digits.size();
    };
    Metre metre;
    if (!number(text.substr(0, slash), metre.beats) || !number(text.substr(slash + 1), metre.unit))
        return refuse();
    const bool unit_ok = metre.unit == 2 || metre.unit == 4 || metre.unit == 8 || metre.unit == 16;
    if (!unit_ok || metre.beats < 1 || metre.beats > 32)
        return refuse();
    return metre;
}

} // namespace wirenote
