#include "app/document/job_runner.h"

#include <QElapsedTimer>
#include <QSignalSpy>
#include <QStringList>
#include <QTest>
#include <chrono>
#include <gtest/gtest.h>
#include <thread>

namespace wirenote::app {
namespace {

constexpr int kPatience_ms = 20000;

JobRunner::Work note(QStringList& log, const QString& word) {
    return [&log, word](const JobControl&) -> std::function<void()> {
        return [&log, word] { log << word; };
    };
}

// Runs until it is stopped.
JobRunner::Work endless(QStringList& log) {
    return [&log](const JobControl& job) -> std::function<void()> {
        while (!job.cancelRequested())
            std::this_thread::sleep_for(std::chrono::milliseconds(2));
        return [&log] { log << "never"; };
    };
}

TEST(JobRunner, RunsWhatWaitsInOrder) {
    JobRunner jobs;
    QStringList log;
    for (const char* word : {"one", "two", "three"})
        jobs.enqueue(word, note(log, word));
    ASSERT_TRUE(QTest::qWaitFor([&] { return log.size() == 3; }, kPatience_ms));
    EXPECT_EQ(log.join(" "), "one two three");
    EXPECT_FALSE(jobs.running());
}

TEST(JobRunner, AStoppedJobLeavesNothingBehindAndTheNextGoesOn) {
    JobRunner jobs;
    QStringList log;
    jobs.enqueue("endless", endless(log));
    jobs.enqueue("after", note(log, "after"));
    QElapsedTimer clock;
    clock.start();
    jobs.cancel();
    ASSERT_TRUE(QTest::qWaitFor([&] { return log.contains("after"); }, kPatience_ms));
    EXPECT_EQ(log.join(" "), "after");
}

TEST(JobRunner, AJobThatTakesOverStopsTheOneBeforeAndForgetsWhatWaited) {
    JobRunner jobs;
    QStringList log;
    jobs.enqueue("endless", endless(log));
    jobs.enqueue("waiting", note(log, "waiting"));
    jobs.run("now", note(log, "now"));
    ASSERT_TRUE(QTest::qWaitFor([&] { return log.contains("now"); }, kPatience_ms));
    QTest::qWait(50);
    EXPECT_EQ(log.join(" "), "now");
}

TEST(JobRunner, WhatAJobEnqueuesWhenItIsDoneIsRunToo) {
    JobRunner jobs;
    QStringList log;
    jobs.enqueue("first", [&](const JobControl&) -> std::function<void()> {
        return [&] { jobs.enqueue("second", note(log, "second")); };
    });
    EXPECT_TRUE(QTest::qWaitFor([&] { return log.contains("second"); }, kPatience_ms));
}

} // namespace
} // namespace wirenote::app
