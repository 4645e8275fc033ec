// Another copy of a recording is told from another performance by its sound, or by the notes.
#include "session/better_copy.h"

#include "session/workspace.h"
#include "support/demo_files.h"
#include "support/recordings.h"
#include "support/scratch.h"

#include <gmock/gmock.h>

namespace wirenote {
namespace {

namespace fs = std::filesystem;
using ::testing::HasSubstr;

// 1.5 s less in front, 3 s more at the end, quieter, and coded hard.
fs::path copyOfDemo(const test::Scratch& scratch) {
    const fs::path copy = scratch / "copy.ogg";
    test::ffmpeg("-ss 1.5 -i " + test::demoFiles().take.string() +
                 " -af volume=-9dB,apad=pad_dur=3 -c:a libvorbis -b:a 64k " + copy.string());
    return copy;
}

Piece demoPiece() {
    return openAny(test::demoFiles().piece, {}, {})->piece;
}

TEST(BetterCopy, IsFoundByItsSound) {
    const test::Scratch scratch;
    const Piece piece = demoPiece();
    const auto copy = studyCopy(piece, 0, copyOfDemo(scratch), {});
    ASSERT_TRUE(copy.ok()) << copy.error().sentence();
    EXPECT_NEAR(copy->clock.at_zero_s, -1.5, 0.005);
    EXPECT_DOUBLE_EQ(copy->clock.rate, 1.0);
    EXPECT_NEAR(copy->louder_db, -9.0, 1.0);
    EXPECT_NEAR(copy->take.length_s, piece.takes[0].length_s + 1.5, 0.05);
    EXPECT_EQ(copy->take.name, piece.takes[0].name);
    EXPECT_TRUE(copy->take.quality.measured());
}

TEST(BetterCopy, IsFoundByTheNotesWhenTheRecordingIsGone) {
    const test::Scratch scratch;
    Piece piece = demoPiece();
    piece.takes[0].path = (scratch / "gone.wav").string();
    const auto copy = studyCopy(piece, 0, copyOfDemo(scratch), {});
    ASSERT_TRUE(copy.ok()) << copy.error().sentence();
    EXPECT_NEAR(copy->clock.at_zero_s, -1.5, 0.01);
}

TEST(BetterCopy, IsNotAnotherTakeNorAFileThatIsAmongThemAlready) {
    const test::Scratch scratch;
    Piece piece = demoPiece();
    const auto among = studyCopy(piece, 0, test::demoFiles().slow, {});
    ASSERT_FALSE(among.ok());
    EXPECT_THAT(among.error().sentence(), HasSubstr("is among the takes"));
    piece.takes.resize(1);
    const auto other = studyCopy(piece, 0, test::demoFiles().slow, {});
    ASSERT_FALSE(other.ok());
    EXPECT_THAT(other.error().sentence(), HasSubstr("does not hold the same performance"));
    EXPECT_FALSE(studyCopy(piece, 0, scratch / "none.wav", {}).ok());
}

} // namespace
} // namespace wirenote
