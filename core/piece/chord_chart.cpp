#include "piece/chord_chart.h"

#include "base/text.h"
#include "piece/timeline_map.h"

#include <sstream>

namespace wirenote {
namespace {

constexpr std::size_t kMostInABar = 8;
constexpr std::size_t kLongestChord = 24; // bytes

bool isChord(const std::string& name) {
    return !name.empty() && name.size() <= kLongestChord && name.front() >= 'A' &&
           name.front() <= 'G' && cleanText(name) == name;
}

// Players type # and b for the signs.
std::string spelled(std::string name) {
    const auto put = [&name](char typed, const char* sign, std::size_t at) {
        if (at < name.size() && name[at] == typed)
            name.replace(at, 1, sign);
    };
    put('#', "♯", 1);
    put('b', "♭", 1);
    if (const std::size_t slash = name.rfind('/'); slash != std::string::npos) {
        put('#', "♯", slash + 2);
        put('b', "♭", slash + 2);
    }
    return name;
}

} // namespace

Result<std::vector<NamedChord>>
chordsOfChart(const Timeline& timeline, int first_bar, const std::string& chart) {
    std::vector<NamedChord> names;
    const TimelineMap map(timeline);
    std::istringstream bars(chart);
    int bar = first_bar;
    std::string text;
    for (; std::getline(bars, text, '|'); ++bar) {
        if (bar > kMostBars)
            return badCall("the chords go on for longer than a piece may");
        std::istringstream words(text);
        std::vector<std::string> of_bar;
        for (std::string word; words >> word;)
            of_bar.push_back(spelled(word));
        if (of_bar.size() > kMostInABar)
            return badCall("bar " + std::to_string(bar) + " has more than " +
                           std::to_string(kMostInABar) + " chords; write bars apart with |");
        const GridBar grid = map.grid().bar(bar);
        for (std::size_t k = 0; k < of_bar.size(); ++k) {
            if (of_bar[k] == "-" || of_bar[k] == "%")
                continue;
            if (!isChord(of_bar[k]))
                return badCall("\"" + cleanText(of_bar[k], kLongestChord) + "\" in bar " +
                               std::to_string(bar) +
                               " is no chord; write names like C, F#m7 or G/B, bars apart with |");
            const double at = grid.start.toDouble() + grid.metre.barLength().toDouble() *
                                                          static_cast<double>(k) /
                                                          static_cast<double>(of_bar.size());
            const double at_s = map.timeAt(at);
            if (at_s >= 0.0)
                names.push_back({at_s, of_bar[k]});
        }
    }
    if (names.empty())
        return badCall("there is no chord in it; write names like C | G7 | Am F");
    return names;
}

} // namespace wirenote
