#include "app/document/job_runner.h"

#include <QElapsedTimer>
#include <QSignalSpy>
#include <QStringList>
#include <QTest>
#include <atomic>
#include <chrono>
#include <gtest/gtest.h>
#include <thread>

namespace wirenote::app {
namespace {

constexpr int kPatience_ms = 20000;

// Gives its own word back.
auto saying(const QString& word) {
    return [word](const JobControl&) { return word; };
}

auto into(QStringList& log) {
    return [&log](const QString& word) { log << word; };
}

// Runs until it is stopped.
QString untilStopped(const JobControl& job) {
    while (!job.cancelRequested())
        std::this_thread::sleep_for(std::chrono::milliseconds(2));
    return "never";
}

TEST(JobRunner, RunsWhatWaitsInOrder) {
    JobRunner jobs;
    QStringList log;
    for (const char* word : {"one", "two", "three"})
        jobs.enqueue(word, saying(word)).then(into(log));
    ASSERT_TRUE(QTest::qWaitFor([&] { return log.size() == 3; }, kPatience_ms));
    EXPECT_EQ(log.join(" "), "one two three");
    EXPECT_FALSE(jobs.running());
}

TEST(JobRunner, AStoppedJobLeavesNothingBehindAndTheNextGoesOn) {
    JobRunner jobs;
    QStringList log;
    jobs.enqueue("endless", untilStopped).then(into(log));
    jobs.enqueue("after", saying("after")).then(into(log));
    QElapsedTimer clock;
    clock.start();
    jobs.cancel();
    ASSERT_TRUE(QTest::qWaitFor([&] { return log.contains("after"); }, kPatience_ms));
    EXPECT_EQ(log.join(" "), "after");
}

TEST(JobRunner, AJobThatTakesOverStopsTheOneBeforeAndForgetsWhatWaited) {
    JobRunner jobs;
    QStringList log;
    jobs.enqueue("endless", untilStopped).then(into(log));
    jobs.enqueue("waiting", saying("waiting")).then(into(log));
    jobs.run("now", saying("now")).then(into(log));
    ASSERT_TRUE(QTest::qWaitFor([&] { return log.contains("now"); }, kPatience_ms));
    QTest::qWait(50);
    EXPECT_EQ(log.join(" "), "now");
}

// One that takes long to notice that it was stopped keeps nobody waiting who is to be drawn and
// clicked.
TEST(JobRunner, NobodyWaitsForAJobThatIsSlowToStop) {
    JobRunner jobs;
    QStringList log;
    std::atomic<bool> began = false;
    std::atomic<bool> may_end = false;
    jobs.run("stubborn",
             [&](const JobControl&) {
                 began = true;
                 while (!may_end)
                     std::this_thread::sleep_for(std::chrono::milliseconds(2));
                 return QString("stubborn");
             })
        .then(into(log));
    ASSERT_TRUE(QTest::qWaitFor([&] { return began.load(); }, kPatience_ms));
    jobs.run("now", saying("now")).then(into(log)); // returns although nothing has ended
    EXPECT_TRUE(jobs.running());
    EXPECT_TRUE(log.isEmpty());
    may_end = true;
    ASSERT_TRUE(QTest::qWaitFor([&] { return !log.isEmpty(); }, kPatience_ms));
    EXPECT_EQ(log.join(" "), "now");
}

TEST(JobRunner, WhatAJobEnqueuesWhenItIsDoneIsRunToo) {
    JobRunner jobs;
    QStringList log;
    jobs.enqueue("first", saying("second")).then([&](const QString& word) {
        jobs.enqueue(word, saying(word)).then(into(log));
    });
    EXPECT_TRUE(QTest::qWaitFor([&] { return log.contains("second"); }, kPatience_ms));
}

} // namespace
} // namespace wirenote::app
