// Hearing stopped at every point, many at once, without memory, while the clock jumps.
#include "support/demo_files.h"
#include "session/files.h"
#include "session/transcribe.h"
#include "support/scratch.h"

#include <atomic>
#include <filesystem>
#include <fstream>
#include <gtest/gtest.h>
#include <iterator>
#include <regex>
#include <set>
#include <thread>

namespace wirenote {
namespace {

class Stopped : public ::testing::Test {
  protected:
    static const std::filesystem::path& take() { return test::demoFiles().take; }
};

TEST_F(Stopped, AtEveryReportOfProgressItIsCancelledAndNothingElse) {
    int reports = 0;
    JobControl counting;
    counting.progress = [&reports](double, double) { ++reports; };
    ASSERT_TRUE(transcribe(take(), {}, counting).ok());
    ASSERT_GT(reports, 20);
    for (int at = 0; at < reports; at += std::max(1, reports / 40)) {
        std::atomic<bool> cancel{false};
        int seen = 0;
        JobControl job;
        job.cancel = &cancel;
        job.progress = [&](double, double) { cancel = seen++ >= at; };
        const auto heard = transcribe(take(), {}, job);
        if (!heard)
            EXPECT_EQ(heard.error().kind, ErrorKind::Cancelled) << "report " << at;
        else
            EXPECT_GE(at, reports - 4) << "went on after it was stopped at report " << at;
    }
}

TEST_F(Stopped, TenAtOnceHearTheSame) {
    std::vector<std::string> heard(10);
    std::vector<std::thread> threads;
    for (std::string& one : heard)
        threads.emplace_back([&one] {
            const auto piece = transcribe(take(), {}, {});
            one = piece ? *encode(*piece, FileFormat::Notes) : piece.error().sentence();
        });
    for (std::thread& thread : threads)
        thread.join();
    EXPECT_EQ(std::set<std::string>(heard.begin(), heard.end()).size(), 1U);
    EXPECT_GT(heard[0].size(), 1000U);
}

// How long something takes is never measured by a clock that a person or the network sets.
TEST_F(Stopped, OnlyStampsUseTheClockThatJumps) {
    const std::regex jumping(
        "system_clock|currentDateTime|currentMSecs|gettimeofday|CLOCK_REALTIME");
    std::set<std::string> users;
    for (const char* folder : {"core", "media", "vision", "session", "app", "cli", "stand-ins"})
        for (const auto& entry : std::filesystem::recursive_directory_iterator(
                 std::filesystem::path(WIRENOTE_SOURCE_DIR) / folder)) {
            if (entry.path().extension() != ".cpp" && entry.path().extension() != ".h")
                continue;
            std::ifstream in(entry.path());
            const std::string text((std::istreambuf_iterator<char>(in)), {});
            if (std::regex_search(text, jumping))
                users.insert(entry.path().filename().string());
        }
    EXPECT_EQ(users, (std::set<std::string>{"files.cpp", "journal_file.cpp"}))
        << "the time of a log entry, and the name of a journal";
}

} // namespace
} // namespace wirenote
