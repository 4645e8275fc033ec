// What is heard while somebody changes everything: no click, the right pitch, the right place.
#include "media/biquad.h"
#include "media/player.h"
#include "media/time_stretch.h"

#include "support/tones.h"

#include <algorithm>
#include <gtest/gtest.h>

namespace wirenote {
namespace {

constexpr double kRate = 44100.0;

std::shared_ptr<StereoSource> sourceOf(Sound sound) {
    return std::make_shared<MemorySource>(std::make_shared<const Sound>(std::move(sound)));
}

Sound sine(double hz, double length_s) {
    Sound sound = test::silence(length_s, kRate);
    for (std::size_t i = 0; i < sound.samples.size(); ++i)
        sound.samples[i] = static_cast<float>(
            0.4 * std::sin(2.0 * std::numbers::pi * hz * static_cast<double>(i) / kRate));
    return sound;
}

// Plucks every 0.4 s from 0.5 s on.
Sound plucks(double length_s) {
    Sound sound = test::silence(length_s, kRate);
    for (int k = 0; 0.5 + 0.4 * k < length_s - 0.35; ++k)
        test::addTone(sound, {0.5 + 0.4 * k, 0.35, 1046.5, 0.5, 0.0, 12.0});
    return sound;
}

// Frequency by counting periods between the first and last rising zero crossing, interpolated.
double frequencyOf(const std::vector<float>& x) {
    double first = -1.0;
    double last = 0.0;
    int periods = -1;
    for (std::size_t i = 1; i < x.size(); ++i)
        if (x[i - 1] < 0.0F && x[i] >= 0.0F) {
            last = static_cast<double>(i) - x[i] / (x[i] - x[i - 1]);
            if (first < 0.0)
                first = last;
            ++periods;
        }
    return periods > 0 ? periods * kRate / (last - first) : 0.0;
}

std::vector<float> leftOf(const std::vector<float>& stereo) {
    std::vector<float> left;
    for (std::size_t i = 0; i < stereo.size(); i += 2)
        left.push_back(stereo[i]);
    return left;
}

// Where, after at least 0.1 s of quiet, the level first rises above a third of what it reaches
// within the next 60 ms.
std::vector<double> attacksOf(const std::vector<float>& x) {
    const float peak = *std::max_element(x.begin(), x.end());
    std::vector<double> attacks;
    double last_loud = -1.0;
    const auto near = static_cast<std::size_t>(0.06 * kRate);
    for (std::size_t i = near; i + near < x.size(); ++i) {
        if (std::abs(x[i]) <= 0.2F * peak)
            continue;
        const double t = static_cast<double>(i) / kRate;
        if (t - last_loud > 0.1) {
            float local = 0.0F;
            for (std::size_t j = i; j < i + near; ++j)
                local = std::max(local, std::abs(x[j]));
            std::size_t at = i - near / 2;
            while (std::abs(x[at]) < 0.33F * local)
                ++at;
            attacks.push_back(static_cast<double>(at) / kRate);
        }
        last_loud = t;
    }
    return attacks;
}

struct Way {
    double speed;
    double semitones;
};
void PrintTo(const Way& way, std::ostream* out) {
    *out << way.speed << " times, " << way.semitones << " semitones";
}
class Stretching : public ::testing::TestWithParam<Way> {};
INSTANTIATE_TEST_SUITE_P(Ways,
                         Stretching,
                         ::testing::Values(Way{0.25, 0},
                                           Way{0.5, 0},
                                           Way{0.75, 0},
                                           Way{1.0, 0},
                                           Way{1.5, 0},
                                           Way{0.5, 2},
                                           Way{1.0, -2.14}));

TEST_P(Stretching, KeepsPitchWithinThreeCentsAndAttacksWithinTenMilliseconds) {
    const auto [speed, semitones] = GetParam();
    const auto tone = sourceOf(sine(440.0, 4.0));
    StretchedReader tone_reader(*tone, 20000, speed, semitones);
    std::vector<float> stereo(2 * 44100);
    tone_reader.read(stereo);
    const double cents =
        1200.0 * std::log2(frequencyOf(leftOf(stereo)) / 440.0) - 100.0 * semitones;
    EXPECT_NEAR(cents, 0.0, 3.0);

    const auto line = sourceOf(plucks(4.0));
    StretchedReader line_reader(*line, 0, speed, semitones);
    std::vector<float> out(2 * static_cast<std::size_t>(4.0 / speed * kRate));
    line_reader.read(out);
    const auto attacks = attacksOf(leftOf(out));
    ASSERT_EQ(attacks.size(), 8U);
    for (std::size_t i = 0; i < attacks.size(); ++i)
        EXPECT_NEAR(
            attacks[i], (0.5 + 0.4 * static_cast<double>(i)) / speed, speed < 0.5 ? 0.030 : 0.010)
            << i;
}

TEST(Stretching, BeginsWithTheSoundOfItsPlaceWhereverThatIs) {
    const auto line = sourceOf(plucks(4.0));
    for (const double from_s : {0.45, 1.27, 2.83}) {
        StretchedReader reader(*line, static_cast<std::int64_t>(from_s * kRate), 0.5, 0.0);
        std::vector<float> out(2 * 44100);
        reader.read(out);
        const auto attacks = attacksOf(leftOf(out));
        ASSERT_FALSE(attacks.empty());
        const double next_s = 0.5 + 0.4 * std::ceil((from_s - 0.5) / 0.4 - 1e-9);
        // What still rings of the pluck before may be the first thing heard.
        const double nearest =
            *std::min_element(attacks.begin(), attacks.end(), [&](double a, double b) {
                return std::abs(a - (next_s - from_s) / 0.5) <
                       std::abs(b - (next_s - from_s) / 0.5);
            });
        EXPECT_NEAR(nearest, (next_s - from_s) / 0.5, 0.010) << from_s;
    }
}

TEST(Player, KnowsThePlaceWithinFiveMillisecondsWhileEverythingChanges) {
    Player player(kRate);
    player.setTake(sourceOf(plucks(20.0)));
    player.restartCount();
    player.seek(0.3);
    PlayerSettings settings;
    std::vector<float> heard;
    const auto hear = [&](double seconds) {
        std::vector<float> block(2 * static_cast<std::size_t>(seconds * kRate));
        player.fill(block);
        const auto left = leftOf(block);
        heard.insert(heard.end(), left.begin(), left.end());
    };
    for (const double speed : {1.0, 0.6, 1.4, 0.5, 1.0, 0.75}) {
        settings.speed = speed;
        player.change(settings);
        hear(1.5);
    }
    player.seek(9.2);
    hear(1.0);
    player.setLoop(TimeRange{9.0, 10.0});
    hear(3.0);
    // Every attack that is heard must be where the player says that it is.
    int checked = 0;
    for (const double attack : attacksOf(heard)) {
        const double place = player.heardAt(static_cast<std::int64_t>(attack * kRate));
        const double off = std::remainder(place - 0.5, 0.4);
        if (std::abs(off) > 0.1) // a loop or a seek that begins inside a sounding note
            continue;
        ++checked;
        EXPECT_LT(std::abs(off), 0.005) << "heard at " << attack << ", said to be " << place;
    }
    EXPECT_GT(checked, 20);
}

TEST(Player, ChangesWithoutAGapOrAClick) {
    Player player(kRate);
    player.setTake(sourceOf(sine(220.0, 30.0)));
    player.setTab(sourceOf(sine(220.0, 30.0)));
    player.restartCount();
    player.seek(1.0);
    PlayerSettings s;
    std::vector<float> heard;
    const auto hear = [&] {
        std::vector<float> block(2 * 6000);
        player.fill(block);
        const auto left = leftOf(block);
        heard.insert(heard.end(), left.begin(), left.end());
    };
    hear();
    const auto changed = [&](auto change) {
        change();
        player.change(s);
        hear();
    };
    changed([&] { s.speed = 0.5; });
    changed([&] { s.semitones = 1.0; });
    changed([&] { s.channels = ChannelChoice::Left; });
    changed([&] { s.what = Listening::Tab; });
    changed([&] { s.what = Listening::Both; });
    changed([&] { s.band = HearingBand{100.0, 400.0}; });
    changed([&] { s.speed = 1.2; });
    player.seek(5.0);
    hear();
    float steepest = 0.0F;
    for (std::size_t i = 1000; i < heard.size(); ++i)
        steepest = std::max(steepest, std::abs(heard[i] - heard[i - 1]));
    // A sine of 233 Hz and amplitude 0.32 moves by 0.011 a sample at the most; two faded over,
    // twice that.
    EXPECT_LT(steepest, 0.03F);
    double quietest = 1.0; // no gap: every 10 ms something sounds
    for (std::size_t at = 2000; at + 441 < heard.size(); at += 441)
        quietest = std::min(quietest,
                            static_cast<double>(*std::max_element(
                                heard.begin() + static_cast<std::ptrdiff_t>(at),
                                heard.begin() + static_cast<std::ptrdiff_t>(at + 441))));
    EXPECT_GT(quietest, 0.02);
}

TEST(Player, HearsOneRangeOrOneChannelAlone) {
    Sound both = sine(110.0, 2.0);
    const Sound high = sine(880.0, 2.0);
    for (std::size_t i = 0; i < both.samples.size(); ++i)
        both.samples[i] += high.samples[i];
    Player player(kRate);
    player.setTake(sourceOf(both));
    PlayerSettings s;
    s.band = HearingBand{600.0, 1200.0};
    player.change(s);
    player.restartCount();
    player.seek(0.5);
    std::vector<float> block(2 * 22050);
    player.fill(block);
    const auto left = leftOf(block);
    EXPECT_NEAR(frequencyOf({left.begin() + 4000, left.end()}), 880.0, 2.0);
}

TEST(Player, ClicksOnTheBeatAtAnySpeedAndCountsIn) {
    Player player(kRate);
    player.setTake(sourceOf(test::silence(10.0, kRate)));
    PlayerSettings s;
    s.click = true;
    s.speed = 0.5;
    for (int i = 0; i < 10; ++i)
        s.beats.push_back({1.0 + 0.5 * i, i % 4 == 0});
    player.change(s);
    player.restartCount();
    player.seek(0.8, 2, 1.0);
    std::vector<float> block(2 * 44100 * 5);
    player.fill(block);
    const auto clicks = attacksOf(leftOf(block));
    ASSERT_GE(clicks.size(), 4U); // the very first is at 0, before attacksOf looks
    const double expected[] = {1.0, 2.4, 3.4, 4.4}; // counted in, then the beats at half speed
    EXPECT_GT(*std::max_element(block.begin(), block.begin() + 400), 0.1F);
    for (std::size_t i = 0; i < 4; ++i)
        EXPECT_NEAR(clicks[i], expected[i], 0.003) << i;
    EXPECT_NEAR(player.heardAt(44100), 0.8, 1e-6) << "while it counts in, the place stands";
    EXPECT_NEAR(player.heardAt(2 * 44100 + 17640), 1.0, 1e-3);
}

TEST(Player, NothingIsLouderThanTheLimit) {
    Sound loud = sine(300.0, 2.0);
    for (float& v : loud.samples)
        v *= 2.4F;
    Player player(kRate);
    player.setTake(sourceOf(loud));
    PlayerSettings s;
    s.take_gain = 3.0;
    s.click = true;
    s.beats = {{0.2, true}};
    s.limit = 0.25;
    player.change(s);
    player.restartCount();
    std::vector<float> block(2 * 44100);
    player.fill(block);
    EXPECT_LE(*std::max_element(block.begin(), block.end()), 0.2501F);
    EXPECT_GT(*std::max_element(block.begin() + 40000, block.end()), 0.2F);
}

TEST(Player, WorkingAheadGivesTheSameSound) {
    Player plain(kRate);
    Player ahead(kRate);
    std::vector<float> a(2 * 44100);
    std::vector<float> b(a.size());
    for (Player* player : {&plain, &ahead}) {
        player->setTake(sourceOf(plucks(3.0)));
        player->restartCount();
        player->seek(0.4);
    }
    ahead.workAhead(true);
    plain.fill(a);
    for (std::size_t at = 0; at < b.size(); at += 2 * 441)
        ahead.fill(std::span(b).subspan(at, 2 * 441));
    ahead.workAhead(false);
    EXPECT_EQ(a, b);
    EXPECT_NEAR(ahead.heardAt(44100), 1.4, 1e-9);
}

TEST(Biquad, HasItsHalfPowerAtTheCorner) {
    // A Butterworth filter of second order (q = 1/√2) is 3.01 dB down at its corner, by definition.
    Biquad low = Biquad::lowPass(1000.0, std::numbers::sqrt2 / 2.0, kRate);
    double power = 0.0;
    for (int i = 0; i < 44100; ++i) {
        const double out = low(std::sin(2.0 * std::numbers::pi * 1000.0 * i / kRate));
        power += i >= 22050 ? out * out : 0.0;
    }
    EXPECT_NEAR(10.0 * std::log10(power / 22050.0 / 0.5), -3.01, 0.05);
}

} // namespace
} // namespace wirenote
