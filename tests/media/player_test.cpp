#include "media/player.h"

#include <chrono>
#include <gtest/gtest.h>
#include <thread>

namespace wirenote {
namespace {

constexpr double kRate = 1000.0;

std::shared_ptr<StereoSource> ramp(std::size_t frames, float scale) {
    auto sound = std::make_shared<Sound>();
    sound->rate_hz = kRate;
    for (std::size_t i = 0; i < frames; ++i)
        sound->samples.push_back(scale * static_cast<float>(i) / static_cast<float>(frames));
    return std::make_shared<MemorySource>(sound);
}

PlayerSettings listening(Listening what) {
    PlayerSettings settings;
    settings.what = what;
    return settings;
}

TEST(Player, GivesTakeLeftAndTabRight) {
    Player player(kRate);
    player.setTake(ramp(1000, 0.5F));
    player.setTab(ramp(1000, -0.5F));
    player.change(listening(Listening::Both));
    player.seek(0.5);
    std::vector<float> block(600);
    player.fill(block);
    EXPECT_GT(block[2 * 250], 0.1F);
    EXPECT_LT(block[2 * 250 + 1], -0.1F);
    player.change(listening(Listening::Take));
    player.seek(0.5);
    player.fill(block);
    EXPECT_FLOAT_EQ(block[2 * 250], block[2 * 250 + 1]);
}

TEST(Player, LoopsAndKnowsWhatIsHeard) {
    Player player(kRate);
    player.setTake(ramp(1000, 0.5F));
    player.setLoop(TimeRange{0.2, 0.3});
    player.restartCount();
    player.seek(0.25);
    std::vector<float> block(2 * 200);
    player.fill(block); // 0.25–0.30, then 0.20–0.30, then 0.20–0.25
    EXPECT_NEAR(player.heardAt(0), 0.25, 1e-9);
    EXPECT_NEAR(player.heardAt(49), 0.299, 1e-9);
    EXPECT_NEAR(player.heardAt(50), 0.20, 1e-9);
    EXPECT_NEAR(player.heardAt(149), 0.299, 1e-9);
    EXPECT_NEAR(player.heardAt(150), 0.20, 1e-9);
    EXPECT_FALSE(player.atEnd());
    player.setLoop({});
    player.seek(0.95);
    player.fill(block);
    EXPECT_TRUE(player.atEnd());
}

TEST(Player, JumpsWithoutAClick) {
    auto constant = std::make_shared<Sound>();
    constant->rate_hz = 44100.0;
    constant->samples.assign(44100, 0.5F);
    Player player(44100.0);
    player.setTake(std::make_shared<MemorySource>(constant));
    player.setLoop(TimeRange{0.1, 0.2});
    player.seek(0.1);
    std::vector<float> block(2 * 10000);
    player.fill(block);
    float steepest = 0.0F;
    for (std::size_t i = 2; i < block.size(); i += 2)
        steepest = std::max(steepest, std::abs(block[i] - block[i - 2]));
    EXPECT_LT(steepest, 0.01F);
}

TEST(SimulatedOutput, KeepsRealTimeAndSaysWhatItIs) {
    Player player(44100.0);
    auto sound = std::make_shared<Sound>();
    sound->rate_hz = 44100.0;
    sound->samples.assign(441000, 0.1F);
    player.setTake(std::make_shared<MemorySource>(sound));
    const auto output = makeSimulatedOutput();
    EXPECT_TRUE(output->simulated());
    const auto began = std::chrono::steady_clock::now();
    ASSERT_TRUE(output->start(player, 44100.0).ok());
    std::this_thread::sleep_for(std::chrono::milliseconds(300));
    const double heard = static_cast<double>(output->framesHeard()) / 44100.0;
    const std::chrono::duration<double> elapsed = std::chrono::steady_clock::now() - began;
    output->stop();
    EXPECT_LE(heard, elapsed.count());
    EXPECT_GT(heard, 0.1) << "it must move at all, however loaded the machine is";
    EXPECT_NEAR(player.heardAt(static_cast<std::int64_t>(heard * 44100.0)), heard, 0.001);
}

} // namespace
} // namespace wirenote
