#include "base/text.h"

#include <gtest/gtest.h>

namespace wirenote {
namespace {

// The Unicode Standard, version 15.0, section 3.9, table 3-7 (well-formed byte sequences) and its
// examples of ill-formed ones in table 3-8.
struct Row {
    const char* name;
    std::string text;
    bool well_formed;
};

class Utf8 : public ::testing::TestWithParam<Row> {};

TEST_P(Utf8, IsToldFromWhatIsNot) {
    EXPECT_EQ(isUtf8(GetParam().text), GetParam().well_formed);
    EXPECT_TRUE(isUtf8(cleanText(GetParam().text)));
    EXPECT_EQ(cleanText(GetParam().text) == GetParam().text, GetParam().well_formed);
}

INSTANTIATE_TEST_SUITE_P(Unicode,
                         Utf8,
                         ::testing::Values(Row{"empty", "", true},
                                           Row{"ascii", "Heron at Low Water", true},
                                           Row{"two_bytes", "\xC3\xA9", true},
                                           Row{"three_bytes", "\xE2\x99\xAF", true},
                                           Row{"four_bytes", "\xF0\x9D\x84\x9E", true},
                                           Row{"last_code_point", "\xF4\x8F\xBF\xBD", true},
                                           Row{"lone_continuation", "\x80", false},
                                           Row{"overlong_two", "\xC0\xAF", false},
                                           Row{"overlong_three", "\xE0\x80\xBF", false},
                                           Row{"overlong_four", "\xF0\x81\x82\x41", false},
                                           Row{"surrogate", "\xED\xA0\x80", false},
                                           Row{"above_last", "\xF4\x90\x80\x80", false},
                                           Row{"cut", "ab\xE2\x99", false},
                                           Row{"latin_1", "Caf\xE9 waltz", false}),
                         [](const auto& row) { return std::string(row.param.name); });

TEST(CleanText, LeavesOutWhatXmlCannotWriteAndNeverCutsACharacter) {
    EXPECT_EQ(cleanText(std::string("a\0b\x01\x1F", 5) + "\tc\n"), "ab\tc\n");
    EXPECT_EQ(cleanText("\xEF\xBF\xBE"), "");
    EXPECT_EQ(cleanText("ab\xC3\xA9", 3), "ab");
    EXPECT_EQ(cleanText("ab\xC3\xA9", 4), "ab\xC3\xA9");
    EXPECT_EQ(cleanText("Caf\xE9"), "Caf\xEF\xBF\xBD");
}

// RFC 3986, section 2.1.
TEST(PlainText, IsWhatEveryFormatHoldsAsItIs) {
    EXPECT_TRUE(isPlain(""));
    EXPECT_TRUE(isPlain("D.C. al Fine – à la fin, 最後まで"));
    EXPECT_TRUE(isPlain("two\nlines\tand a tab"));
    EXPECT_TRUE(isPlain(std::string(kLongestName, 'a')));
    EXPECT_FALSE(isPlain(std::string(kLongestName + 1, 'a')));
    EXPECT_TRUE(isPlain(std::string(kLongestName + 1, 'a'), kLongestRemark));
    EXPECT_FALSE(isPlain("a\x01z")) << "XML cannot write it";
    EXPECT_FALSE(isPlain("\xff\xfe")) << "no UTF-8";
    EXPECT_FALSE(isPlain(std::string_view("nul\0", 4)));
}

TEST(PercentCoding, GoesThereAndBackForAnyBytes) {
    std::string bytes;
    for (int c = 0; c < 256; ++c)
        bytes += static_cast<char>(c);
    const std::string text = percentEncoded(bytes);
    EXPECT_TRUE(isUtf8(text));
    EXPECT_EQ(percentDecoded(text), bytes);
    EXPECT_EQ(percentEncoded("a b%\xE9"), "a%20b%25%E9");
    EXPECT_EQ(percentDecoded("100%"), "100%");
    EXPECT_EQ(percentDecoded("%zz%4"), "%zz%4");
    EXPECT_EQ(percentDecoded("%41"), "A");
}

} // namespace
} // namespace wirenote
