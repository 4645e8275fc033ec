// Styles of sheets as a person keeps them: what goes out comes back, what is none is nothing.
#include "formats/sheet_style_fields.h"

#include <gtest/gtest.h>

#include <random>

namespace wirenote {
namespace {

SheetStyle anyStyle(std::mt19937& chance) {
    const auto one_of = [&chance](int count) {
        return static_cast<int>(chance() % static_cast<unsigned>(count));
    };
    SheetStyle style;
    style.staves = static_cast<SheetStaves>(one_of(2));
    style.size = static_cast<SheetSize>(one_of(3));
    style.repeats = static_cast<SheetRepeats>(one_of(3));
    for (bool SheetStyle::*what : {&SheetStyle::fingers,
                                   &SheetStyle::holds,
                                   &SheetStyle::positions,
                                   &SheetStyle::strokes,
                                   &SheetStyle::count,
                                   &SheetStyle::chords,
                                   &SheetStyle::grips,
                                   &SheetStyle::techniques,
                                   &SheetStyle::voices,
                                   &SheetStyle::doubts,
                                   &SheetStyle::basis,
                                   &SheetStyle::key_to_signs,
                                   &SheetStyle::exactness})
        style.*what = one_of(2) == 1;
    return style;
}

TEST(SheetStyles, AnyComesBackAsItWas) {
    std::mt19937 chance(7);
    for (int i = 0; i < 500; ++i) {
        const SheetStyle style = anyStyle(chance);
        const auto back = readSheetStyle(writeSheetStyle(style));
        ASSERT_TRUE(back.has_value());
        EXPECT_EQ(*back, style);
    }
}

TEST(SheetStyles, AreOneLine) {
    EXPECT_EQ(writeSheetStyle({}).find('\n'), std::string::npos);
}

TEST(SheetStyles, WhatIsLeftUnsaidIsAsUsual) {
    const auto style = readSheetStyle(R"({"staves": "tab-and-staff"})");
    ASSERT_TRUE(style.has_value());
    SheetStyle expected;
    expected.staves = SheetStaves::TabAndStaff;
    EXPECT_EQ(*style, expected);
}

TEST(SheetStyles, WhatIsNoneIsNothing) {
    for (const char* text : {"", "[]", "3", "{", R"({"size": "poster"})", R"({"staves": 2})"})
        EXPECT_FALSE(readSheetStyle(text).has_value()) << text;
}

} // namespace
} // namespace wirenote
