// In which order the bars of a file are played: repeats and endings as every player reads them
// (common practice).
#include "formats/musicxml_order.h"


#include <gtest/gtest.h>
#include <sstream>

namespace wirenote::musicxml {
namespace {

constexpr std::size_t kMost = 60;

struct OrderCase {
    const char* name;
    const char*
        bars; // "|:" begins, ":|" ends a repeat, ":3|" three times; "1." an ending, "]" its end
    const char* played;
};
void PrintTo(const OrderCase& c, std::ostream* out) {
    *out << c.name;
}

// "a", "|:a", "b:|", "1.c]:|": what stands at a bar called so.
void addBar(pugi::xml_node part, std::string bar) {
    pugi::xml_node measure = part.append_child("measure");
    pugi::xml_node left = measure.append_child("barline");
    pugi::xml_node right = measure.append_child("barline");
    if (bar.starts_with("|:")) {
        left.append_child("repeat").append_attribute("direction") = "forward";
        bar.erase(0, 2);
    }
    if (const std::size_t dot = bar.find('.'); dot != std::string::npos) {
        pugi::xml_node ending = left.append_child("ending");
        ending.append_attribute("number") = bar.substr(0, dot).c_str();
        ending.append_attribute("type") = "start";
        bar.erase(0, dot + 1);
    }
    if (bar.ends_with("|")) {
        const std::size_t colon = bar.rfind(':');
        pugi::xml_node repeat = right.append_child("repeat");
        repeat.append_attribute("direction") = "backward";
        if (bar.size() - colon == 3)
            repeat.append_attribute("times") = bar.substr(colon + 1, 1).c_str();
        bar.resize(colon);
    }
    if (bar.ends_with("]")) {
        right.append_child("ending").append_attribute("type") = "stop";
        bar.pop_back();
    }
    measure.append_attribute("number") = bar.c_str();
}

class Order : public ::testing::TestWithParam<OrderCase> {};
TEST_P(Order, IsThatOfAPlayer) {
    pugi::xml_document document;
    pugi::xml_node part = document.append_child("part");
    std::istringstream bars(GetParam().bars);
    for (std::string bar; bars >> bar;)
        addBar(part, bar);
    std::string played;
    for (const pugi::xml_node measure : playedMeasures(part, kMost))
        played += measure.attribute("number").as_string();
    EXPECT_EQ(played, GetParam().played);
}
INSTANTIATE_TEST_SUITE_P(
    MusicXml,
    Order,
    ::testing::Values(OrderCase{"once", "a b c", "abc"},
                      OrderCase{"twice", "|:a b:| c", "ababc"},
                      OrderCase{"from_the_beginning", "a b:| c", "ababc"},
                      OrderCase{"three_times", "|:a:3| b", "aaab"},
                      OrderCase{"two_repeats", "|:a:| |:b:| c", "aabbc"},
                      OrderCase{"endings", "|:a b 1.c]:| 2.d] e", "abcabde"},
                      OrderCase{"long_endings", "|:a 1.b c]:| 2.d e] f", "abcadef"},
                      OrderCase{"an_ending_for_two_times", "|:a 1,2.b]:3| 3.c] d", "ababacd"},
                      OrderCase{
                          "endings_then_another_repeat", "|:a 1.b]:| 2.c] |:d:| e", "abacdde"}),
    [](const auto& row) { return std::string(row.param.name); });

// A file cannot make a piece longer than it may be.
TEST(PlayedOrder, EndsWhateverAFileSays) {
    pugi::xml_document document;
    pugi::xml_node part = document.append_child("part");
    for (int k = 0; k < 40; ++k)
        addBar(part, "|:a:9|");
    EXPECT_EQ(playedMeasures(part, kMost).size(), kMost);
}

} // namespace
} // namespace wirenote::musicxml
