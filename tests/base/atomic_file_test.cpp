#include "base/atomic_file.h"

#include "support/scratch.h"

#include <csignal>
#include <gmock/gmock.h>
#include <sys/resource.h>

namespace wirenote {
namespace {

using ::testing::HasSubstr;

std::size_t filesIn(const std::filesystem::path& folder) {
    return static_cast<std::size_t>(std::distance(std::filesystem::directory_iterator(folder), {}));
}

TEST(AtomicFile, WritesAndReplaces) {
    const test::Scratch scratch;
    ASSERT_TRUE(writeFileAtomically(scratch / "a.txt", "first").ok());
    ASSERT_TRUE(writeFileAtomically(scratch / "a.txt", "second").ok());
    EXPECT_EQ(*readWholeFile(scratch / "a.txt", 100), "second");
    EXPECT_EQ(filesIn(scratch.path()), 1U) << "a half-written neighbour was left behind";
}

// A full disk, by way of a limit on the size of files: the write fails in the middle.
TEST(AtomicFile, FullDiskKeepsTheEarlierFile) {
    const test::Scratch scratch;
    ASSERT_TRUE(writeFileAtomically(scratch / "a.txt", "kept").ok());
    std::signal(SIGXFSZ, SIG_IGN);
    rlimit old{};
    getrlimit(RLIMIT_FSIZE, &old);
    const rlimit tight{1000, old.rlim_max};
    setrlimit(RLIMIT_FSIZE, &tight);
    const Status failed = writeFileAtomically(scratch / "a.txt", std::string(5000, 'x'));
    setrlimit(RLIMIT_FSIZE, &old);
    ASSERT_FALSE(failed.ok());
    EXPECT_THAT(failed.error().sentence(), HasSubstr("what was there is unchanged"));
    EXPECT_EQ(*readWholeFile(scratch / "a.txt", 100), "kept");
    EXPECT_EQ(filesIn(scratch.path()), 1U);
}

TEST(AtomicFile, MissingFolderIsOneSentence) {
    const Status failed = writeFileAtomically("/nowhere-at-all/a.txt", "x");
    ASSERT_FALSE(failed.ok());
    EXPECT_EQ(failed.error().kind, ErrorKind::BadInput);
    EXPECT_THAT(failed.error().sentence(), HasSubstr("/nowhere-at-all/a.txt"));
}

TEST(AtomicFile, ReadingRefusesWhatIsTooLargeMissingOrAFolder) {
    const test::Scratch scratch;
    ASSERT_TRUE(writeFileAtomically(scratch / "big", std::string(2000, 'x')).ok());
    EXPECT_FALSE(readWholeFile(scratch / "big", 1999).ok());
    EXPECT_TRUE(readWholeFile(scratch / "big", 2000).ok());
    EXPECT_FALSE(readWholeFile(scratch / "none", 10).ok());
    EXPECT_FALSE(readWholeFile(scratch.path(), 10).ok());
}

} // namespace
} // namespace wirenote
