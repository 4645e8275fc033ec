// Where writing may end: each named after what was lost once.
#include "base/atomic_file.h"

#include "support/scratch.h"

#include <csignal>
#include <cstring>
#include <fcntl.h>
#include <gmock/gmock.h>
#include <sys/file.h>
#include <sys/stat.h>
#include <sys/wait.h>
#include <unistd.h>

namespace wirenote {
namespace {

namespace fs = std::filesystem;
using ::testing::HasSubstr;

std::size_t filesIn(const fs::path& folder) {
    return static_cast<std::size_t>(std::distance(fs::directory_iterator(folder), {}));
}

mode_t modeOf(const fs::path& path) {
    struct stat found {};
    ::stat(path.c_str(), &found);
    return found.st_mode & 07777;
}

TEST(SameFile, IsToldByDeviceAndInodeAndByPath) {
    const test::Scratch scratch;
    ASSERT_TRUE(writeFileAtomically(scratch / "a.wav", "x").ok());
    ASSERT_TRUE(writeFileAtomically(scratch / "b.wav", "x").ok());
    fs::create_symlink("a.wav", scratch / "link.wav");
    fs::create_hard_link(scratch / "a.wav", scratch / "hard.wav");
    EXPECT_TRUE(sameFile(scratch / "a.wav", scratch / "a.wav"));
    EXPECT_TRUE(sameFile(scratch / "a.wav", scratch.path() / "." / "a.wav"));
    EXPECT_TRUE(sameFile(scratch / "a.wav", scratch / "link.wav"));
    EXPECT_TRUE(sameFile(scratch / "hard.wav", scratch / "a.wav"));
    EXPECT_TRUE(sameFile(scratch / "none", scratch.path() / "x" / ".." / "none"));
    EXPECT_FALSE(sameFile(scratch / "a.wav", scratch / "b.wav"));
    EXPECT_FALSE(sameFile(scratch / "a.wav", scratch / "none"));
    EXPECT_FALSE(sameFile("/dev/null", "/dev/null")) << "takes everything as often as wanted";
    EXPECT_FALSE(sameFile({}, {}));
}

TEST(Outputs, TheRecordingIsNotDestroyed) {
    const test::Scratch scratch;
    ASSERT_TRUE(writeFileAtomically(scratch / "own.wav", "sound").ok());
    fs::create_symlink("own.wav", scratch / "link.json");
    for (const char* out : {"own.wav", "link.json"}) {
        const Status refused = checkOutputs({scratch / "own.wav"}, {scratch / out});
        ASSERT_FALSE(refused.ok()) << out;
        EXPECT_EQ(refused.error().kind, ErrorKind::BadCall);
        EXPECT_THAT(refused.error().sentence(), HasSubstr("give the output another name"));
    }
    const Status twice = checkOutputs({}, {scratch / "n.json", "", scratch / "n.json"});
    ASSERT_FALSE(twice.ok());
    EXPECT_THAT(twice.error().sentence(), HasSubstr("asked for twice"));
    EXPECT_TRUE(checkOutputs({scratch / "own.wav"}, {scratch / "n.json", "/dev/null"}).ok());
}

TEST(Outputs, ADeviceIsWrittenToAndNotReplaced) {
    EXPECT_TRUE(writeFileAtomically("/dev/null", "x").ok());
    struct stat found {};
    ASSERT_EQ(::stat("/dev/null", &found), 0);
    EXPECT_TRUE(S_ISCHR(found.st_mode));
}

TEST(Outputs, APipeGetsTheBytesAndOneWithoutAReaderIsRefused) {
    const test::Scratch scratch;
    ASSERT_EQ(::mkfifo((scratch / "pipe").c_str(), 0600), 0);
    const Status nobody = writeFileAtomically(scratch / "pipe", "x");
    ASSERT_FALSE(nobody.ok());
    EXPECT_THAT(nobody.error().sentence(), HasSubstr("nobody reads"));
    const int reader = ::open((scratch / "pipe").c_str(), O_RDONLY | O_NONBLOCK);
    ASSERT_TRUE(writeFileAtomically(scratch / "pipe", "bytes").ok());
    char read[16] = {};
    EXPECT_EQ(::read(reader, read, sizeof read), 5);
    EXPECT_STREQ(read, "bytes");
    ::close(reader);
    EXPECT_EQ(filesIn(scratch.path()), 1U);
}

TEST(Outputs, ASymbolicLinkStaysAndWhatItNamesIsReplaced) {
    const test::Scratch scratch;
    fs::create_directory(scratch / "far");
    ASSERT_TRUE(writeFileAtomically(scratch.path() / "far" / "a.json", "old").ok());
    fs::create_symlink("far/a.json", scratch / "a.json");
    ASSERT_TRUE(writeFileAtomically(scratch / "a.json", "new").ok());
    EXPECT_TRUE(fs::is_symlink(scratch / "a.json"));
    EXPECT_EQ(*readWholeFile(scratch.path() / "far" / "a.json", 100), "new");
    fs::create_symlink("far/later.json", scratch / "later.json");
    ASSERT_TRUE(writeFileAtomically(scratch / "later.json", "made").ok());
    EXPECT_EQ(*readWholeFile(scratch.path() / "far" / "later.json", 100), "made");
    fs::create_symlink("round.json", scratch / "round.json");
    EXPECT_FALSE(writeFileAtomically(scratch / "round.json", "x").ok());
}

TEST(Outputs, HardLinksAreNotParted) {
    const test::Scratch scratch;
    ASSERT_TRUE(writeFileAtomically(scratch / "a", "old").ok());
    fs::create_hard_link(scratch / "a", scratch / "b");
    const Status refused = writeFileAtomically(scratch / "a", "new");
    ASSERT_FALSE(refused.ok());
    EXPECT_THAT(refused.error().sentence(), HasSubstr("2 names (hard links)"));
    EXPECT_EQ(*readWholeFile(scratch / "b", 100), "old");
}

TEST(Outputs, AReadOnlyFileIsNotOverwritten) {
    const test::Scratch scratch;
    ASSERT_TRUE(writeFileAtomically(scratch / "a", "old").ok());
    fs::permissions(scratch / "a", fs::perms::owner_read);
    const Status refused = writeFileAtomically(scratch / "a", "new");
    ASSERT_FALSE(refused.ok());
    EXPECT_THAT(refused.error().sentence(), HasSubstr("read-only"));
    EXPECT_EQ(*readWholeFile(scratch / "a", 100), "old");
}

TEST(Outputs, TheUmaskHoldsForNewFilesAndTheModeOfOldOnesStays) {
    const test::Scratch scratch;
    const mode_t before = ::umask(027);
    ASSERT_TRUE(writeFileAtomically(scratch / "new", "x").ok());
    ::umask(before);
    EXPECT_EQ(modeOf(scratch / "new"), 0640U);
    ASSERT_EQ(::chmod((scratch / "new").c_str(), 0604), 0);
    ASSERT_TRUE(writeFileAtomically(scratch / "new", "y").ok());
    EXPECT_EQ(modeOf(scratch / "new"), 0604U);
}

TEST(Outputs, ANameOf250BytesIsWritten) {
    const test::Scratch scratch;
    const std::string name(250, 'n');
    ASSERT_TRUE(writeFileAtomically(scratch / name, "x").ok());
    EXPECT_EQ(*readWholeFile(scratch / name, 10), "x");
}

TEST(Outputs, OneThatCannotBeMadeLeavesTheOthersAsTheyWere) {
    const test::Scratch scratch;
    ASSERT_TRUE(writeFileAtomically(scratch / "a", "old").ok());
    {
        OutputFiles files;
        ASSERT_TRUE(files.add(scratch / "a", "new").ok());
        EXPECT_FALSE(files.add(scratch.path() / "nowhere" / "b", "new").ok());
    }
    EXPECT_EQ(*readWholeFile(scratch / "a", 10), "old");
    EXPECT_EQ(filesIn(scratch.path()), 1U);
}

TEST(Outputs, WhatAKilledProgramLeftIsSweptAndWhatALivingOneMakesIsNot) {
    const test::Scratch scratch;
    const pid_t child = ::fork();
    if (child == 0) { // makes a file ready and dies
        OutputFiles files;
        static_cast<void>(files.add(scratch / "a", "half"));
        ::kill(::getpid(), SIGKILL);
    }
    ::waitpid(child, nullptr, 0);
    ASSERT_EQ(filesIn(scratch.path()), 1U);
    OutputFiles living;
    ASSERT_TRUE(living.add(scratch / "b", "whole").ok());
    EXPECT_EQ(sweepLeftovers(scratch.path()), 1);
    ASSERT_TRUE(living.putInPlace().ok());
    EXPECT_EQ(*readWholeFile(scratch / "b", 10), "whole");
    EXPECT_EQ(sweepLeftovers(scratch.path()), 0);
    EXPECT_EQ(filesIn(scratch.path()), 1U);
}

TEST(Outputs, TheNextWriteInTheFolderSweepsWhatAKilledOneLeft) {
    const test::Scratch scratch;
    const pid_t child = ::fork();
    if (child == 0) {
        OutputFiles files;
        static_cast<void>(files.add(scratch / "a", "half"));
        ::kill(::getpid(), SIGKILL);
    }
    ::waitpid(child, nullptr, 0);
    ASSERT_EQ(filesIn(scratch.path()), 1U);
    ASSERT_TRUE(writeFileAtomically(scratch / "a", "whole").ok());
    EXPECT_EQ(filesIn(scratch.path()), 1U);
    EXPECT_EQ(*readWholeFile(scratch / "a", 10), "whole");
}

} // namespace
} // namespace wirenote
