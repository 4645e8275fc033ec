// A slower recording for learners: where its sounds, pictures and chapters stand.
#include "media/slow_film.h"

#include "base/atomic_file.h"
#include "base/sound.h"
#include "media/cached_sound.h"
#include "media/ffmpeg.h"
#include "media/media_info.h"
#include "media/picture_reader.h"
#include "media/sound_file.h"
#include "support/recordings.h"
#include "support/scratch.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <numbers>

namespace wirenote {
namespace {

constexpr double kRate = 44100.0;

// A click of 5 ms at each of these seconds over a soft tone of 440 Hz.
Sound clicks(double length_s, const std::vector<double>& at) {
    Sound sound{std::vector<float>(static_cast<std::size_t>(length_s * kRate)), kRate};
    for (std::size_t i = 0; i < sound.samples.size(); ++i)
        sound.samples[i] = 0.05F * static_cast<float>(std::sin(2.0 * std::numbers::pi * 440.0 *
                                                               static_cast<double>(i) / kRate));
    for (const double time_s : at)
        for (std::size_t i = 0; i < 220; ++i)
            sound.samples[static_cast<std::size_t>(time_s * kRate) + i] = i % 8 < 4 ? 0.8F : -0.8F;
    return sound;
}

// The loudest moment within a range, seconds.
double loudestIn(CachedSound& sound, double from_s, double to_s) {
    std::vector<float> samples(2 * static_cast<std::size_t>((to_s - from_s) * sound.rate_hz()));
    sound.read(std::llround(from_s * sound.rate_hz()), samples);
    std::size_t best = 0;
    for (std::size_t i = 0; i < samples.size(); i += 2)
        if (std::abs(samples[i]) > std::abs(samples[best]))
            best = i;
    return from_s + static_cast<double>(best / 2) / sound.rate_hz();
}

std::vector<std::pair<TimeRange, std::string>> chaptersOf(const std::filesystem::path& file) {
    std::vector<std::pair<TimeRange, std::string>> chapters;
    auto opened = ffmpeg::openContainer(file);
    if (!opened)
        return chapters;
    const AVFormatContext& format = **opened;
    for (unsigned i = 0; i < format.nb_chapters; ++i) {
        const AVChapter& one = *format.chapters[i];
        const AVDictionaryEntry* title = av_dict_get(one.metadata, "title", nullptr, 0);
        const double unit_s = av_q2d(one.time_base);
        chapters.push_back(
            {{static_cast<double>(one.start) * unit_s, static_cast<double>(one.end) * unit_s},
             title ? title->value : ""});
    }
    return chapters;
}

std::filesystem::path
written(const test::Scratch& scratch, const std::filesystem::path& from, const SlowFilm& film) {
    const auto bytes = encodeSlowFilm(from, film, {});
    EXPECT_TRUE(bytes.ok()) << (bytes.ok() ? "" : bytes.error().sentence());
    const auto file = scratch / "slow.webm";
    EXPECT_TRUE(bytes.ok() && writeFileAtomically(file, *bytes).ok());
    return file;
}

TEST(SlowFilm, EverySoundStandsWhereItsTimeIsDividedByTheSpeed) {
    const test::Scratch scratch;
    const auto take = scratch / "take.wav";
    ASSERT_TRUE(writeWav(take, clicks(6.0, {1.5, 2.5, 4.0}).view()).ok());
    SlowFilm film;
    film.span = {1.0, 5.0};
    film.speed = 0.5;
    const auto file = written(scratch, take, film);
    const auto info = readMediaInfo(file);
    ASSERT_TRUE(info.ok()) << info.error().sentence();
    EXPECT_NEAR(info->length_s, 8.0, 0.06);
    EXPECT_FALSE(info->picture.exists());
    const auto sound = CachedSound::open(file, {});
    ASSERT_TRUE(sound.ok());
    for (const double at_s : {1.5, 2.5, 4.0}) {
        const double expected_s = (at_s - 1.0) / 0.5;
        EXPECT_NEAR(loudestIn(**sound, expected_s - 0.4, expected_s + 0.4), expected_s, 0.03);
    }
}

TEST(SlowFilm, KeepsItsPitch) {
    const test::Scratch scratch;
    const auto take = scratch / "take.wav";
    ASSERT_TRUE(writeWav(take, clicks(4.0, {}).view()).ok());
    SlowFilm film;
    film.span = {0.0, 4.0};
    film.speed = 0.6;
    const auto sound = CachedSound::open(written(scratch, take, film), {});
    ASSERT_TRUE(sound.ok());
    std::vector<float> samples(2 * 44100);
    (*sound)->read(2 * 44100, samples);
    int rising = 0;
    for (std::size_t i = 2; i < samples.size(); i += 2)
        rising += samples[i - 2] < 0.0F && samples[i] >= 0.0F ? 1 : 0;
    EXPECT_NEAR(rising, 440, 3);
}

TEST(SlowFilm, ChaptersLieInItsOwnTime) {
    const test::Scratch scratch;
    const auto take = scratch / "take.wav";
    ASSERT_TRUE(writeWav(take, clicks(6.0, {}).view()).ok());
    SlowFilm film;
    film.span = {1.0, 5.0};
    film.speed = 0.8;
    film.chapters = {{{0.2, 3.0}, "A"}, {{3.0, 5.0}, "B – bars 3 & 4"}, {{5.5, 6.0}, "outside"}};
    const auto chapters = chaptersOf(written(scratch, take, film));
    ASSERT_EQ(chapters.size(), 2U);
    EXPECT_EQ(chapters[0].second, "A");
    EXPECT_NEAR(chapters[0].first.start_s, 0.0, 0.002);
    EXPECT_NEAR(chapters[0].first.end_s, 2.5, 0.002);
    EXPECT_EQ(chapters[1].second, "B – bars 3 & 4");
    EXPECT_NEAR(chapters[1].first.start_s, 2.5, 0.002);
    EXPECT_NEAR(chapters[1].first.end_s, 5.0, 0.002);
}

TEST(SlowFilm, EveryPictureStandsWhereItsTimeIsDividedByTheSpeed) {
    const test::Scratch scratch;
    const auto take = test::film(scratch, "take.mp4", "-c:v libx264 -g 30 -c:a aac");
    const auto before = test::everyPicture(take);
    SlowFilm film;
    film.span = {0.5, 2.5};
    film.speed = 0.5;
    const auto after = test::everyPicture(written(scratch, take, film));
    // 60 pictures of two seconds, and the one that is shown as they begin.
    ASSERT_NEAR(static_cast<double>(after.size()), 60.0, 1.0);
    for (const test::FilmPicture& picture : after) {
        const double was_s = 0.5 + 0.5 * picture.time_s;
        const auto same = std::ranges::min_element(
            before, {}, [&](const test::FilmPicture& one) { return std::abs(one.time_s - was_s); });
        EXPECT_NEAR(same->time_s, was_s, picture.time_s == 0.0 ? 0.04 : 0.002);
        EXPECT_NEAR(picture.brightness, same->brightness, 14) << picture.time_s;
    }
}

TEST(SlowFilm, AnOffsetOfThePictureIsTakenOut) {
    const test::Scratch scratch;
    const auto take = test::film(scratch, "take.mp4", "-c:v libx264 -g 30 -c:a aac");
    const auto before = test::everyPicture(take);
    SlowFilm film;
    film.span = {0.5, 1.5};
    film.offset_s = 0.2; // what is seen at 0.7 s is heard at 0.5 s
    const auto after = test::everyPicture(written(scratch, take, film));
    ASSERT_GT(after.size(), 20U);
    EXPECT_NEAR(after[10].brightness,
                std::ranges::min_element(before,
                                         {},
                                         [&](const test::FilmPicture& one) {
                                             return std::abs(one.time_s - (0.7 + after[10].time_s));
                                         })
                    ->brightness,
                14);
}

TEST(SlowFilm, SaysWhatItCannotDo) {
    const test::Scratch scratch;
    const auto take = scratch / "take.wav";
    ASSERT_TRUE(writeWav(take, clicks(1.0, {}).view()).ok());
    SlowFilm film;
    film.span = {0.0, 1.0};
    film.speed = 0.01;
    EXPECT_FALSE(encodeSlowFilm(take, film, {}).ok());
    film.speed = 0.5;
    film.span = {0.0, 3000.0};
    const auto long_one = encodeSlowFilm(take, film, {});
    ASSERT_FALSE(long_one.ok());
    EXPECT_NE(long_one.error().message.find("; choose fewer bars"), std::string::npos);
    film.span = {0.0, 1.0};
    EXPECT_FALSE(encodeSlowFilm(scratch / "nowhere.wav", film, {}).ok());
    const std::atomic<bool> stop = true;
    const auto stopped = encodeSlowFilm(take, film, {{}, &stop});
    ASSERT_FALSE(stopped.ok());
    EXPECT_EQ(stopped.error().kind, ErrorKind::Cancelled);
}

} // namespace
} // namespace wirenote
