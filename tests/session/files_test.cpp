#include "session/files.h"

#include "base/atomic_file.h"
#include "session/take_media.h"
#include "session/workspace.h"
#include "support/demo_files.h"
#include "support/performances.h"
#include "support/scratch.h"

#include <csignal>
#include <filesystem>
#include <gmock/gmock.h>
#include <sys/resource.h>

namespace wirenote {
namespace {

using ::testing::HasSubstr;
namespace fs = std::filesystem;

TEST(Files, EveryFormatIsWrittenByItsEndingAndReadBackWhereItCan) {
    const test::Scratch scratch;
    const Piece piece = test::richPiece();
    for (const char* name :
         {"a.wirenote", "a.json", "a.mid", "a.musicxml", "a.mxl", "a.tab", "a.csv", "a.jams"}) {
        ASSERT_TRUE(writeAny(piece, scratch / name).ok()) << name;
        const auto read = readAny(scratch / name);
        const bool readable = std::string(name).find(".csv") == std::string::npos &&
                              std::string(name).find(".jams") == std::string::npos;
        ASSERT_EQ(read.ok(), readable) << name;
        if (!readable)
            continue;
        EXPECT_EQ(read->notes.size(), piece.notes.size()) << name;
        for (const NotePlan& plan : read->asPlayed().plans)
            EXPECT_TRUE(plan.placed()) << name << ": notes without a place are placed";
    }
    EXPECT_THAT(readAny(scratch / "a.csv").error().sentence(), HasSubstr("written but not read"));
    EXPECT_EQ(writeAny(piece, scratch / "a.docx").error().kind, ErrorKind::BadCall);
}

TEST(Files, AMovedRecordingIsMissedFoundAndCheckedNeverLost) {
    const test::Scratch scratch;
    const DemoFiles* demo = &test::demoFiles();
    // Piece and recording together go elsewhere: found by the relative path.
    fs::create_directories(scratch / "two");
    fs::copy_file(demo->piece, scratch / "two" / "p.wirenote");
    fs::copy_file(demo->take, scratch / "two" / demo->take.filename());
    fs::copy_file(demo->slow, scratch / "two" / demo->slow.filename());
    EXPECT_EQ(openAny(scratch / "two" / "p.wirenote", {}, {})->caution, "");
    // The recording alone goes: the tab opens, and one sentence says so.
    fs::rename(scratch / "two" / demo->take.filename(), scratch / "moved.wav");
    auto opened = openAny(scratch / "two" / "p.wirenote", {}, {});
    ASSERT_TRUE(opened.ok());
    EXPECT_THAT(opened->caution, HasSubstr("is not there"));
    EXPECT_EQ(opened->media.front().playing, nullptr);
    EXPECT_GT(opened->piece.notes.size(), 60U);
    // Another recording is not taken for it …
    ASSERT_TRUE(writeFileAtomically(scratch / "other.wav", "something else").ok());
    const auto other = findRecording(*opened->piece.lead(), demo->slow);
    ASSERT_TRUE(other.ok());
    EXPECT_FALSE(other->same);
    EXPECT_NEAR(other->take.length_s, opened->piece.takes[1].length_s, 1e-6);
    ASSERT_TRUE(writeFileAtomically(scratch / "none.wav", "something else").ok());
    EXPECT_FALSE(findRecording(*opened->piece.lead(), scratch / "none.wav").ok());
    // … the right one is.
    const auto found = findRecording(*opened->piece.lead(), scratch / "moved.wav");
    ASSERT_TRUE(found.ok());
    EXPECT_TRUE(found->same);
    *opened->piece.lead() = found->take;
    ASSERT_TRUE(writeAny(opened->piece, scratch / "two" / "p.wirenote").ok());
    EXPECT_EQ(openAny(scratch / "two" / "p.wirenote", {}, {})->caution, "");
}

TEST(Files, AReplacedRecordingIsNoticed) {
    const test::Scratch scratch;
    test::putDemo(scratch / "demo");
    const DemoFiles demo = demoIn(scratch / "demo");
    std::string bytes = *readWholeFile(demo.take, 100000000);
    bytes[bytes.size() / 2] = static_cast<char>(bytes[bytes.size() / 2] + 1);
    ASSERT_TRUE(writeFileAtomically(demo.take, bytes).ok());
    Take lead = *readAny(demo.piece)->lead();
    lead.path = demo.take.string();
    EXPECT_EQ(mediaStateOf(lead, demo.piece), MediaState::Changed);
}

// A full disk, by way of a limit on the size of files.
TEST(Files, SavingToAFullDiskKeepsTheEarlierPiece) {
    const test::Scratch scratch;
    ASSERT_TRUE(writeAny(test::richPiece(), scratch / "p.wirenote").ok());
    const std::string before = *readWholeFile(scratch / "p.wirenote", 10000000);
    Piece later = test::richPiece();
    later.title = "Later";
    std::signal(SIGXFSZ, SIG_IGN);
    rlimit old{};
    getrlimit(RLIMIT_FSIZE, &old);
    const rlimit tight{before.size() / 2, old.rlim_max};
    setrlimit(RLIMIT_FSIZE, &tight);
    const Status failed = writeAny(later, scratch / "p.wirenote");
    setrlimit(RLIMIT_FSIZE, &old);
    ASSERT_FALSE(failed.ok());
    EXPECT_NE(failed.error().sentence().find("what was there is unchanged"), std::string::npos);
    EXPECT_EQ(*readWholeFile(scratch / "p.wirenote", 10000000), before);
    EXPECT_TRUE(writeAny(later, scratch / "p.wirenote").ok()) << "with room again";
}

} // namespace
} // namespace wirenote
