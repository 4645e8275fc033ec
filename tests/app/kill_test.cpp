// The real window, killed at random moments: the next start has every edit but at most the one in
// hand. WIRENOTE_KILLS says how often (tools/reliability asks for 200).
#include "formats/journal.h"
#include "formats/piece_json.h"
#include "session/demo.h"
#include "session/journal_file.h"
#include "support/scratch.h"

#include <algorithm>
#include <csignal>
#include <cstdlib>
#include <fcntl.h>
#include <gtest/gtest.h>
#include <map>
#include <random>
#include <sstream>
#include <sys/wait.h>
#include <unistd.h>

namespace wirenote {
namespace {

struct Said {
    int begun = 0;
    int done = -1;
    std::map<int, std::uint32_t> sums; // of the piece after so many steps
};

// Runs the driver for so long after its piece has opened, kills it, and returns what it said.
Said runAndKill(const std::filesystem::path& folder, const std::string& piece, int seed, int ms) {
    int ends[2];
    if (::pipe(ends) != 0)
        return {};
    const std::string number = std::to_string(seed);
    const pid_t child = ::fork();
    if (child == 0) {
        ::dup2(ends[1], STDOUT_FILENO);
        ::close(ends[0]);
        ::execl(WIRENOTE_BIN_DIR "/window_driver",
                "window_driver",
                folder.c_str(),
                piece.c_str(),
                number.c_str(),
                nullptr);
        ::_exit(127);
    }
    ::close(ends[1]);
    std::string text;
    char block[4096];
    const auto take = [&] {
        const ssize_t got = ::read(ends[0], block, sizeof block);
        if (got > 0)
            text.append(block, static_cast<std::size_t>(got));
        return got;
    };
    while (text.find("done") == std::string::npos && take() > 0) {
    }
    ::usleep(static_cast<useconds_t>(ms) * 1000U);
    ::kill(child, SIGKILL);
    ::waitpid(child, nullptr, 0);
    while (take() > 0) {
    }
    ::close(ends[0]);
    Said said;
    text.resize(text.rfind('\n') + 1);
    std::istringstream lines(text);
    std::string word;
    int step = 0;
    while (lines >> word >> step)
        if (word == "begin") {
            said.begun = std::max(said.begun, step);
        } else {
            std::uint32_t sum = 0;
            lines >> sum;
            said.done = std::max(said.done, step);
            said.sums[step] = sum;
        }
    return said;
}

TEST(Killed, TheWindowLosesAtMostTheEditInHand) {
    const char* asked = std::getenv("WIRENOTE_KILLS");
    const int kills = asked ? std::atoi(asked) : 12;
    const test::Scratch scratch;
    const auto demo = makeDemo(scratch / "demo", {});
    ASSERT_TRUE(demo.ok());
    std::mt19937 random(12);
    int steps = 0;
    int behind = 0;
    for (int k = 0; k < kills; ++k) {
        const auto folder = scratch / ("run-" + std::to_string(k));
        std::filesystem::create_directories(folder);
        const int ms = static_cast<int>(random() % 600U);
        const Said said = runAndKill(folder, demo->piece.string(), k, ms);
        ASSERT_GE(said.done, 0) << "the driver did not open its piece";
        const auto kept = recoverableIn(folder / "kept");
        if (kept.empty()) {
            EXPECT_LE(said.done, 1) << "kill " << k;
        } else {
            ASSERT_EQ(kept.size(), 1U);
            const auto read = recoverFrom(kept[0].journal);
            ASSERT_TRUE(read.ok()) << read.error().sentence();
            EXPECT_GE(read->steps, said.done - 1) << "kill " << k;
            EXPECT_LE(read->steps, said.begun) << "kill " << k;
            if (said.sums.contains(read->steps)) {
                EXPECT_EQ(crc32(writePieceJson(read->piece)), said.sums.at(read->steps))
                    << "kill " << k << ", step " << read->steps;
            }
            steps += read->steps;
            behind += read->steps < said.done ? 1 : 0;
        }
        std::filesystem::remove_all(folder);
    }
    std::printf(
        "%d kills survived, %d edits kept, %d times one edit behind\n", kills, steps, behind);
    EXPECT_GT(steps, 0);
}

} // namespace
} // namespace wirenote
