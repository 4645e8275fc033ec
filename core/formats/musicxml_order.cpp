#include "formats/musicxml_order.h"

#include <algorithm>
#include <string>
#include <string_view>

namespace wirenote::musicxml {
namespace {

constexpr int kMostTimes = 64; // a repeat is played

struct Marks {
    bool repeat_begins = false;
    int repeat_times = 0;     // that end here; 0: none
    std::vector<int> endings; // in which playings a bracket that begins here is played
    bool ending_ends = false;
};

std::vector<int> numbersIn(std::string_view text) {
    std::vector<int> numbers;
    int number = -1;
    for (const char c : std::string(text) + ",")
        if (c >= '0' && c <= '9' && number < 1000)
            number = std::max(0, number) * 10 + (c - '0');
        else if (number >= 0) {
            numbers.push_back(number);
            number = -1;
        }
    return numbers;
}

Marks marksOf(const pugi::xml_node& measure) {
    Marks marks;
    for (const pugi::xml_node line : measure.children("barline")) {
        const pugi::xml_node repeat = line.child("repeat");
        const std::string_view direction = repeat.attribute("direction").as_string();
        if (direction == "forward")
            marks.repeat_begins = true;
        else if (direction == "backward")
            marks.repeat_times = std::clamp(repeat.attribute("times").as_int(2), 1, kMostTimes);
        const pugi::xml_node ending = line.child("ending");
        const std::string_view type = ending.attribute("type").as_string();
        if (type == "start")
            marks.endings = numbersIn(ending.attribute("number").as_string());
        else if (ending)
            marks.ending_ends = true;
    }
    return marks;
}

} // namespace

std::vector<pugi::xml_node> playedMeasures(const pugi::xml_node& part, std::size_t most) {
    std::vector<pugi::xml_node> written;
    std::vector<Marks> marks;
    for (const pugi::xml_node measure : part.children("measure")) {
        written.push_back(measure);
        marks.push_back(marksOf(measure));
    }
    std::vector<pugi::xml_node> played;
    std::size_t start = 0; // of the repeat that is being played
    int time = 1;          // its playing
    for (std::size_t at = 0; at < written.size() && played.size() < most;) {
        if (marks[at].repeat_begins && start != at) {
            start = at;
            time = 1;
        }
        const auto& endings = marks[at].endings;
        if (!endings.empty() && std::ranges::find(endings, time) == endings.end()) {
            while (at < written.size() && !marks[at].ending_ends) // not this time
                ++at;
            ++at;
            continue;
        }
        played.push_back(written[at]);
        const int times = marks[at].repeat_times;
        if (times > time) {
            ++time;
            at = start;
            continue;
        }
        if (times > 0) { // what follows is a stretch of its own
            start = at + 1;
            // The brackets after it belong to the repeat that has just ended.
            if (start >= written.size() || marks[start].endings.empty())
                time = 1;
            else
                ++time;
        }
        ++at;
    }
    return played;
}

} // namespace wirenote::musicxml
