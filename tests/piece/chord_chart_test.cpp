#include "piece/chord_chart.h"

#include <gmock/gmock.h>

namespace wirenote {
namespace {

using ::testing::HasSubstr;

Timeline fourFour() {
    Timeline timeline;
    timeline.tempo_bpm = 120.0;
    for (int k = 0; k < 64; ++k)
        timeline.beats_s.push_back(1.0 + 0.5 * k);
    return timeline;
}

TEST(ChordChart, BarsShareTheirChordsEvenly) {
    const auto names = chordsOfChart(fourFour(), 2, "C | G7 | Am F | - | Bb/D - F#m7 C");
    ASSERT_TRUE(names.ok()) << names.error().message;
    const std::vector<NamedChord> expected = {{3.0, "C"},
                                              {5.0, "G7"},
                                              {7.0, "Am"},
                                              {8.0, "F"},
                                              {11.0, "B♭/D"},
                                              {12.0, "F♯m7"},
                                              {12.5, "C"}};
    EXPECT_EQ(*names, expected);
}

TEST(ChordChart, WhatIsNoChordIsNamedWithItsBar) {
    EXPECT_THAT(chordsOfChart(fourFour(), 1, "C | hello").error().message,
                HasSubstr("\"hello\" in bar 2 is no chord"));
    EXPECT_THAT(chordsOfChart(fourFour(), 1, " | - | ").error().message,
                HasSubstr("no chord in it"));
    EXPECT_THAT(chordsOfChart(fourFour(), 1, "C C C C C C C C C").error().message,
                HasSubstr("more than 8"));
    EXPECT_FALSE(chordsOfChart(fourFour(), 1, std::string(1000, '|')).ok());
}

} // namespace
} // namespace wirenote
