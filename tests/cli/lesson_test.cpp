// Lessons and claims as scripts ask for them.
#include "base/atomic_file.h"
#include "support/demo_files.h"
#include "support/scratch.h"
#include "support/shell.h"

#include <filesystem>
#include <fstream>
#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <nlohmann/json.hpp>

namespace wirenote {
namespace {

using ::testing::HasSubstr;

test::ShellResult cli(const std::string& arguments) {
    return test::shell(WIRENOTE_BIN_DIR "/wirenote-cli " + arguments);
}

class CliLesson : public ::testing::Test {
  protected:
    void SetUp() override { test::putDemo(scratch / "demo"); }
    std::string file(const std::string& name) const { return (scratch / name).string(); }
    std::string piece() const { return file("demo/heron-at-low-water.wirenote"); }
    test::Scratch scratch;
};

TEST_F(CliLesson, ThePackIsMadeInOneCallAndRenewedInTheNext) {
    const auto made = cli("lesson " + piece() + " --out " + file("pack") + " --tempi 1");
    ASSERT_EQ(made.status, 0) << made.output;
    EXPECT_THAT(made.output, HasSubstr("version 1"));
    for (const char* part : {"index.html",
                             "sheet.pdf",
                             "hand-out.pdf",
                             "piece.musicxml",
                             "film/captions.vtt",
                             "sound/whole-100.ogg",
                             "contents.json"})
        EXPECT_GT(std::filesystem::file_size(scratch / "pack" / part), 100U) << part;
    const auto again = cli("lesson " + piece() + " --out " + file("pack") + " --tempi 1");
    EXPECT_THAT(again.output, HasSubstr("0 files written"));
    const auto spoken =
        cli("lesson " + piece() + " --out " + file("pack") + " --tempi 1 --strings thick-thin");
    ASSERT_EQ(spoken.status, 0);
    EXPECT_THAT(spoken.output, HasSubstr("version 2"));
    const auto page = readWholeFile(scratch / "pack/index.html", 50U << 20U);
    ASSERT_TRUE(page.ok());
    EXPECT_THAT(*page, HasSubstr("thinnest string"));
}

TEST_F(CliLesson, ALanguageIsAFile) {
    const auto given = readWholeFile(WIRENOTE_SOURCE_DIR "/core/lesson/data/es.json", 1U << 20U);
    ASSERT_TRUE(given.ok());
    auto words = nlohmann::json::parse(*given);
    words["steps"]["fretting"] = "Mano izquierda de prueba";
    std::ofstream(scratch / "mine.json") << words.dump();
    const auto made = cli("lesson " + piece() + " --out " + file("pack") +
                          " --tempi 1 --bars 1-2 --language " + file("mine.json"));
    ASSERT_EQ(made.status, 0) << made.output;
    const auto page = readWholeFile(scratch / "pack/index.html", 50U << 20U);
    ASSERT_TRUE(page.ok());
    EXPECT_THAT(*page, HasSubstr("Mano izquierda de prueba"));
    EXPECT_THAT(*page, HasSubstr("<html lang=\"es\">"));
    EXPECT_THAT(*page, testing::Not(HasSubstr("phrase-C")));
}

struct BadCall {
    const char* name;
    const char* arguments; // FILE: the piece, DIR: the folder
    int status;
    const char* says;
};

TEST_F(CliLesson, WrongCallsEndWithTheirStatusAndOneSentence) {
    std::ofstream(scratch / "empty.srt") << "WEBVTT\n\n";
    std::ofstream(scratch / "half.json") << R"({"language":"X","code":"x"})";
    std::filesystem::create_directories(scratch / "mine");
    std::ofstream(scratch / "mine/letter.txt") << "dear";
    const BadCall cases[] = {
        {"no such language", "lesson FILE --out DIR/p --language tlh", 2, "en, es"},
        {"half a language", "lesson FILE --out DIR/p --language DIR/half.json", 3, "half.json"},
        {"a folder of others", "lesson FILE --out DIR/mine", 3, "holds other things"},
        {"no range", "lesson FILE --out DIR/p --bars x-2", 2, "no range"},
        {"too slow", "lesson FILE --out DIR/p --tempi 0.01", 2, "--tempi"},
        {"no reading", "lesson FILE --out DIR/p --reading none", 2, "no reading"},
        {"no captions", "claims FILE DIR/empty.srt --out DIR/c.json", 3, "holds no captions"},
        {"not there", "claims FILE DIR/none.srt --out DIR/c.json", 3, "none.srt"},
        {"over its input", "claims FILE DIR/empty.srt --out DIR/empty.srt", 2, "empty.srt"}};
    for (const BadCall& one : cases) {
        std::string call = one.arguments;
        for (const auto& [word, value] : {std::pair<std::string, std::string>{"FILE", piece()},
                                          {"DIR", scratch.path().string()}})
            for (std::size_t at = call.find(word); at != std::string::npos;
                 at = call.find(word, at + value.size()))
                call.replace(at, word.size(), value);
        const auto result = cli(call);
        EXPECT_EQ(result.status, one.status) << one.name << ": " << result.output;
        EXPECT_THAT(result.output, HasSubstr(one.says)) << one.name;
    }
    EXPECT_FALSE(std::filesystem::exists(scratch / "p"));
}

TEST_F(CliLesson, ClaimsAreAList) {
    std::ofstream(scratch / "said.srt")
        << "1\n00:00:00,600 --> 00:00:01,200\nBar 1, beat 1: string 4, fret 3.\n\n"
           "2\n00:00:01,200 --> 00:00:02,000\nNothing to see here.\n";
    const auto made =
        cli("claims " + piece() + " " + file("said.srt") + " --out " + file("claims.json"));
    ASSERT_EQ(made.status, 0) << made.output;
    EXPECT_THAT(made.output, HasSubstr("1 of them wrong"));
    const auto bytes = readWholeFile(scratch / "claims.json", 1U << 20U);
    ASSERT_TRUE(bytes.ok());
    const auto json = nlohmann::json::parse(*bytes);
    ASSERT_EQ(json.size(), 3U);
    EXPECT_EQ(json[1]["field"], "fret");
    EXPECT_EQ(json[1]["said"], "3");
    EXPECT_EQ(json[1]["is"], "2");
    EXPECT_EQ(json[1]["verdict"], "wrong");
}

} // namespace
} // namespace wirenote
