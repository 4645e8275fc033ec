// The lesson of a piece in its file: what is as usual is not written, what is unknown is refused.
#include "formats/piece_json.h"
#include "support/pieces.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <nlohmann/json.hpp>

namespace wirenote {
namespace {

using nlohmann::json;

json withLesson(const json& lesson) {
    json piece = json::parse(writePieceJson(test::pieceOf({{0.0, 0.4, 60, {2, 1}}})));
    piece["lesson"] = lesson;
    return piece;
}

TEST(LessonFields, WhatIsAsUsualIsNotWritten) {
    const Piece piece = test::pieceOf({{0.0, 0.4, 60, {2, 1}}});
    EXPECT_FALSE(json::parse(writePieceJson(piece)).contains("lesson"));
    Piece levelled = piece;
    levelled.lesson.level = "easy";
    const json written = json::parse(writePieceJson(levelled));
    EXPECT_EQ(written["lesson"], (json{{"level", "easy"}}));
}

struct Wrong {
    const char* name;
    const char* lesson;
    const char* says;
};

TEST(LessonFields, WhatIsUnknownOrOutOfRangeIsRefusedWithItsPlace) {
    const Wrong cases[] = {
        {"order", R"({"manner": {"order": "backwards"}})", "lesson.order"},
        {"strings", R"({"manner": {"strings": 3}})", "lesson.strings"},
        {"tempo", R"({"manner": {"tempi": [100]}})", "lesson.manner.tempi"},
        {"step", R"({"words": [{"phrase_s": 0, "step": "dance", "text": "x"}]})", "lesson.step"},
        {"kind", R"({"observations": [{"at_s": 0, "kind": "sneeze"}]})", "lesson.kind"},
        {"verdict", R"({"objections": [{"at_s": 0, "verdict": "maybe"}]})", "lesson.verdict"},
        {"time", R"({"retakes": [{"phrase_s": 1e12, "step": "slow"}]})", "lesson.phrase_s"},
        {"overlap",
         R"({"phrases": [{"start_s": 0, "end_s": 2}, {"start_s": 1, "end_s": 3}]})",
         "phrases"},
        {"version", R"({"versions": [{"number": 0}]})", "lesson.number"}};
    for (const Wrong& one : cases) {
        const auto read = readPieceJson(withLesson(json::parse(one.lesson)).dump());
        ASSERT_FALSE(read.ok()) << one.name;
        EXPECT_THAT(read.error().message, testing::HasSubstr(one.says)) << one.name;
    }
}

TEST(LessonFields, AnEmptyLessonIsAsUsual) {
    const auto read = readPieceJson(withLesson(json::object()).dump());
    ASSERT_TRUE(read.ok()) << read.error().message;
    EXPECT_EQ(read->lesson, LessonPlan{});
}

} // namespace
} // namespace wirenote
