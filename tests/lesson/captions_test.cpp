// Captions read and written.
#include "lesson/captions.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

namespace wirenote {
namespace {

TEST(Captions, SubRipIsRead) {
    const auto cues =
        readCaptions("1\r\n00:00:01,000 --> 00:00:02,500\r\nThe <i>third</i>\r\nstring"
                     "\r\n\r\n2\r\n00:01:02,000 --> 00:01:03,000\r\nopen\r\n");
    ASSERT_TRUE(cues.ok()) << cues.error().message;
    ASSERT_EQ(cues->size(), 2U);
    EXPECT_EQ((*cues)[0].text, "The third string");
    EXPECT_EQ((*cues)[0].span, (TimeRange{1.0, 2.5}));
    EXPECT_EQ((*cues)[1].span.start_s, 62.0);
}

// Examples after W3C, "WebVTT: The Web Video Text Tracks Format": short times, settings, notes,
// identifiers, escapes.
TEST(Captions, WebVttIsRead) {
    const auto cues = readCaptions("\xEF\xBB\xBFWEBVTT - a title\n\nNOTE not --> a cue\n\nSTYLE\n"
                                   "::cue { color: red }\n\nintro\n00:01.000 --> 00:04.000 "
                                   "align:start position:10%\n<v Roger>Never &amp; ever\n\n"
                                   "1:00:02.000 --> 1:00:03.000\nlate\n");
    ASSERT_TRUE(cues.ok());
    ASSERT_EQ(cues->size(), 2U);
    EXPECT_EQ((*cues)[0].text, "Never & ever");
    EXPECT_EQ((*cues)[1].span.start_s, 3602.0);
}

TEST(Captions, PlainTextIsACueALine) {
    const auto cues = readCaptions("First finger.\n\n  Second finger. \n");
    ASSERT_TRUE(cues.ok());
    ASSERT_EQ(cues->size(), 2U);
    EXPECT_TRUE((*cues)[0].span.empty());
    EXPECT_EQ((*cues)[1].text, "Second finger.");
}

TEST(Captions, DamagedBlocksArePassedOver) {
    const auto cues = readCaptions("WEBVTT\n\n00:05.000 --> 00:01.000\nbackwards\n\n"
                                   "aa:bb --> 00:01.000\nno time\n\n00:01.000 --> 00:02.000\ngood\n"
                                   "00:02.000 --> 00:03.000\nat once\n");
    ASSERT_TRUE(cues.ok());
    ASSERT_EQ(cues->size(), 2U);
    EXPECT_EQ((*cues)[0].text, "good");
    EXPECT_EQ((*cues)[1].text, "at once");
    const auto nothing = readCaptions("WEBVTT\n\n");
    ASSERT_FALSE(nothing.ok());
    EXPECT_THAT(nothing.error().message, testing::HasSubstr("; choose"));
}

TEST(Captions, WhatIsWrittenComesBack) {
    const std::vector<Cue> cues = {{{0.5, 1.25}, "a < b & c > d"}, {{3600.0, 3601.5}, "line\ntwo"}};
    const std::string text = writeWebVtt(cues);
    EXPECT_TRUE(text.starts_with("WEBVTT\n"));
    const auto again = readCaptions(text);
    ASSERT_TRUE(again.ok());
    ASSERT_EQ(again->size(), 2U);
    EXPECT_EQ((*again)[0].text, cues[0].text);
    EXPECT_EQ((*again)[0].span, cues[0].span);
    EXPECT_EQ((*again)[1].text, "line two");
    // No cue without length, none without text.
    EXPECT_EQ(writeWebVtt({{{1.0, 1.0}, "x"}, {{1.0, 2.0}, ""}}), "WEBVTT\n");
}

} // namespace
} // namespace wirenote
