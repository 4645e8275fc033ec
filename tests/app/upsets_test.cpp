// What happens at the worst moment: jobs cut off, many at once, the window gone, the device too.
#include "app/bench_fixture.h"

#include "app/banner.h"

#include <QLabel>
#include <atomic>
#include <thread>

namespace wirenote::app {
namespace {

// SIMULATED device that is pulled out after a while: it takes no sound any more.
class PulledOutDevice : public SoundOutput {
  public:
    Status start(SoundSource& source, double) override {
        std::vector<float> block(8820);
        source.fill(block);
        m_heard = 4410;
        return {};
    }
    void stop() override {}
    std::int64_t framesHeard() const override { return m_heard; }
    bool simulated() const override { return false; }

  private:
    std::atomic<std::int64_t> m_heard{0};
};

class Upsets : public BenchTest {
  protected:
    Upsets() : BenchTest(BenchKind::Neck) {}
};

TEST_F(Upsets, ADeviceThatIsPulledOutIsSaidAndPlayingGoesOnInSilence) {
    MainWindow with(settings, std::make_unique<PulledOutDevice>(), scratch / "other");
    with.show();
    with.openPath(QString::fromStdString(demo().piece.string()));
    ASSERT_TRUE(QTest::qWaitFor([&] { return with.document().isOpen(); }, kPatience_ms));
    with.transport().play();
    ASSERT_TRUE(QTest::qWaitFor([&] { return with.transport().simulated(); }, kPatience_ms));
    EXPECT_TRUE(with.findChild<QLabel*>("bannerText")->text().contains("takes no sound"));
    EXPECT_FALSE(with.transport().playing());
    with.transport().play();
    const double before_s = with.transport().playhead_s();
    EXPECT_TRUE(QTest::qWaitFor([&] { return with.transport().playhead_s() > before_s + 0.1; },
                                kPatience_ms));
}

TEST_F(Upsets, TheWindowCanGoWhileItHears) {
    for (const int after_ms : {0, 30, 200, 900}) {
        auto doomed = std::make_unique<MainWindow>(
            settings, nullptr, scratch / ("doomed-" + std::to_string(after_ms)));
        doomed->show();
        doomed->openPath(QString::fromStdString(demo().take.string()));
        QTest::qWait(after_ms);
        doomed->leaveKeeping();
        doomed.reset();
    }
}

TEST_F(Upsets, TenJobsAtOnceEndInOrderWhateverIsStopped) {
    QStringList ended;
    for (int k = 0; k < 10; ++k)
        window.jobs()
            .enqueue(QString::number(k),
                     [k](const JobControl& job) {
                         for (int i = 0; i < 20 && !job.cancelRequested(); ++i)
                             std::this_thread::sleep_for(std::chrono::milliseconds(2));
                         return QString::number(k);
                     })
            .then([&ended](const QString& name) { ended << name; });
    QTest::qWait(50);
    window.jobs().cancel();
    ASSERT_TRUE(QTest::qWaitFor([&] { return ended.contains("9"); }, kPatience_ms));
    EXPECT_FALSE(window.jobs().running());
    EXPECT_GE(ended.size(), 8);
    EXPECT_TRUE(std::is_sorted(ended.begin(), ended.end()));
}

TEST_F(Upsets, AJobThatThrowsIsASentenceAndTheNextGoesOn) {
    bool next = false;
    bool gone_on = false;
    window.jobs()
        .enqueue("no memory", [](const JobControl&) -> int { throw std::bad_alloc(); })
        .then([&gone_on](int) { gone_on = true; });
    window.jobs().enqueue("next", [](const JobControl&) { return true; }).then([&next](bool done) {
        next = done;
    });
    ASSERT_TRUE(QTest::qWaitFor([&] { return next; }, kPatience_ms));
    EXPECT_FALSE(gone_on);
}

} // namespace
} // namespace wirenote::app
