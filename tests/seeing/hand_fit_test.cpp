// Which tip is which finger's.
#include "seeing/hand_fit.h"

#include <gtest/gtest.h>
#include <vector>

namespace wirenote {
namespace {

SeenFacts moment(const std::vector<double>& frets) {
    SeenFacts seen;
    for (const double fret : frets)
        seen.tips.push_back({0, fret, 3.0});
    return seen;
}

std::vector<int> fingers(const SeenFacts& seen) {
    std::vector<int> out;
    for (const SeenTip& tip : seen.tips)
        out.push_back(tip.finger);
    return out;
}

void number(std::vector<SeenFacts>& moments) {
    std::vector<SeenFacts*> all;
    for (SeenFacts& one : moments)
        all.push_back(&one);
    numberTips(all);
}

TEST(HandFit, AFingerToEachFret) {
    std::vector<SeenFacts> moments = {
        moment({4.7, 5.7, 6.7, 7.8}), moment({4.8, 6.8, 7.7}), moment({4.7, 5.2, 5.7, 6.6, 7.7})};
    number(moments);
    EXPECT_EQ(fingers(moments[0]), (std::vector{1, 2, 3, 4}));
    EXPECT_EQ(fingers(moments[1]), (std::vector{1, 3, 4})) << "the middle finger is not seen";
    EXPECT_EQ(fingers(moments[2]), (std::vector{1, 0, 2, 3, 4})) << "one is no tip";
}

// Common practice on the bass: the ring finger helps the little one.
TEST(HandFit, FourFingersOverThreeFrets) {
    std::vector<SeenFacts> moments = {moment({4.8, 5.7, 6.2, 6.8}),
                                      moment({4.8, 5.7, 6.8}),
                                      moment({9.8, 10.7, 11.2, 11.8}),
                                      moment({9.8, 10.6, 11.1, 11.7})};
    number(moments);
    EXPECT_EQ(fingers(moments[0]), (std::vector{1, 2, 3, 4}));
    EXPECT_EQ(fingers(moments[1]), (std::vector{1, 2, 4}));
    EXPECT_EQ(fingers(moments[3]), (std::vector{1, 2, 3, 4}));
}

TEST(HandFit, AMomentWithoutAHandChangesNothing) {
    std::vector<SeenFacts> moments = {moment({}), moment({2.7, 3.7, 4.7, 5.7}), moment({})};
    number(moments);
    EXPECT_EQ(fingers(moments[1]), (std::vector{1, 2, 3, 4}));
    std::vector<SeenFacts> none = {moment({})};
    number(none);
    EXPECT_TRUE(none[0].tips.empty());
}

} // namespace
} // namespace wirenote
