// Every kind of file people have, made by ffmpeg: opened, read in place, sought exactly.
#include "media/cached_sound.h"
#include "media/decode.h"
#include "media/media_info.h"
#include "media/picture_reader.h"

#include "base/atomic_file.h"
#include "support/recordings.h"

#include <algorithm>
#include <fstream>
#include <gmock/gmock.h>

namespace wirenote {
namespace {

using ::testing::Contains;
using ::testing::HasSubstr;
namespace fs = std::filesystem;

struct Kind {
    const char* name;
    const char* coding; // ffmpeg's words
    bool film;
    bool lossless;
};
void PrintTo(const Kind& kind, std::ostream* out) {
    *out << kind.name;
}

const Kind kKinds[] = {
    {"a.wav", "-c:a pcm_s16le", false, true},
    {"a.flac", "-c:a flac", false, true},
    {"cbr.mp3", "-c:a libmp3lame -b:a 128k", false, false},
    {"vbr.mp3", "-c:a libmp3lame -q:a 5", false, false},
    {"a.m4a", "-c:a aac -b:a 128k", false, false},
    {"a.aac", "-c:a aac -b:a 128k", false, false},
    {"a.ogg", "-c:a libvorbis", false, false},
    {"a.opus", "-c:a libopus", false, false},
    {"h264.mp4", "-c:v libx264 -g 50 -c:a aac", true, false},
    {"h265.mov", "-c:v libx265 -x265-params log-level=none:keyint=45 -c:a pcm_s24le", true, true},
    {"h264.mkv", "-c:v libx264 -g 25 -c:a flac", true, true},
    {"vp9.webm", "-c:v libvpx-vp9 -b:v 200k -g 40 -c:a libopus", true, false},
    {"av1.mkv", "-c:v libsvtav1 -preset 12 -g 30 -c:a libopus", true, false},
    {"mpeg4.avi", "-c:v mpeg4 -q:v 3 -g 12 -c:a libmp3lame", true, false},
};

fs::path makeKind(const test::Scratch& scratch, const Kind& kind) {
    if (kind.film)
        return test::film(scratch, kind.name, kind.coding);
    EXPECT_TRUE(writeWav(scratch / "burst.wav", test::burst().view()).ok());
    test::ffmpeg("-i " + (scratch / "burst.wav").string() + " " + kind.coding + " " +
                 (scratch / kind.name).string());
    return scratch / kind.name;
}

class EveryMediaKind : public ::testing::TestWithParam<Kind> {};
INSTANTIATE_TEST_SUITE_P(Files, EveryMediaKind, ::testing::ValuesIn(kKinds), [](const auto& row) {
    std::string name = row.param.name;
    std::replace(name.begin(), name.end(), '.', '_');
    return name;
});

TEST_P(EveryMediaKind, IsKnownAndItsSoundIsInPlace) {
    const test::Scratch scratch;
    const auto path = makeKind(scratch, GetParam());
    const auto info = readMediaInfo(path);
    ASSERT_TRUE(info.ok()) << info.error().sentence();
    EXPECT_NEAR(info->length_s, test::kRecording_s, 0.1);
    EXPECT_EQ(info->picture.exists(), GetParam().film);
    const auto decoded = decodeSound(path, 22050.0, {});
    ASSERT_TRUE(decoded.ok()) << decoded.error().sentence();
    EXPECT_NEAR(decoded->mono.length_s(), test::kRecording_s, 0.08);
    const auto& x = decoded->mono.samples;
    const auto loud = std::find_if(x.begin(), x.end(), [](float v) { return std::abs(v) > 0.25F; });
    // Raw AAC and MP3 in AVI have no place for the coder's padding (1024 and 1105 samples; common
    // practice): nobody can take it out.
    const std::string name = GetParam().name;
    const double padding_s = (name == "a.aac"       ? 1024.0
                              : name == "mpeg4.avi" ? 1105.0
                                                    : 0.0) /
                             44100.0;
    EXPECT_NEAR(static_cast<double>(loud - x.begin()) / 22050.0, test::kBurst_s + padding_s, 0.003);
}

TEST_P(EveryMediaKind, SoundReadFromAnywhereIsWhatAFullDecodeHasThere) {
    const test::Scratch scratch;
    const auto path = makeKind(scratch, GetParam());
    CachedSound::Options options;
    options.most_blocks = 2; // every read decodes anew
    const auto whole = CachedSound::open(path, {});
    const auto sound = CachedSound::open(path, options);
    ASSERT_TRUE(whole.ok() && sound.ok());
    std::vector<float> all(2 * static_cast<std::size_t>(3.0 * 44100));
    (*whole)->read(0, all);
    std::vector<float> part(2 * 2000);
    // Opus in Matroska has stamps of whole milliseconds: it may be off by one of them.
    const std::string name = GetParam().name;
    const std::int64_t slack = name == "vp9.webm" || name == "av1.mkv" ? 45 : 0;
    const double tolerance = GetParam().lossless ? 2e-3 : 0.03;
    for (const std::int64_t at : {100000, 3000, 128000, 45000, 70000, 20, 99000}) {
        (*sound)->read(at, part);
        double least = 1.0;
        for (std::int64_t lag = -slack; lag <= slack; ++lag) {
            double worst = 0.0;
            for (std::size_t i = 0; i < part.size() && 2 * (at + lag) >= 0; ++i)
                worst = std::max(worst,
                                 std::abs(static_cast<double>(part[i]) -
                                          all[static_cast<std::size_t>(2 * (at + lag)) + i]));
            least = std::min(least, worst);
        }
        EXPECT_LT(least, tolerance) << "at frame " << at;
    }
    EXPECT_LE((*sound)->cachedBytes(), 4 * 2 * CachedSound::kBlockFrames * sizeof(float) * 2);
}

TEST_P(EveryMediaKind, PicturesSoughtAreThoseOfAFullDecode) {
    if (!GetParam().film) {
        const test::Scratch scratch;
        const auto opened = PictureReader::open(makeKind(scratch, GetParam()));
        ASSERT_FALSE(opened.ok());
        EXPECT_THAT(opened.error().message, HasSubstr("no moving picture"));
        return;
    }
    const test::Scratch scratch;
    const auto path = makeKind(scratch, GetParam());
    const auto pictures = test::everyPicture(path);
    ASSERT_EQ(pictures.size(), 90U);
    const auto reader = PictureReader::open(path);
    ASSERT_TRUE(reader.ok()) << reader.error().sentence();
    for (int k = 0; k < 90; ++k) {
        const auto i = static_cast<std::size_t>((k * 37) % 90); // there and back again
        const auto picture = (*reader)->at(pictures[i].time_s + 0.012);
        ASSERT_TRUE(picture) << i;
        EXPECT_NEAR(picture->bytes[3 * (32 * 96 + 48)], pictures[i].brightness, 14) << i;
        EXPECT_NEAR(picture->time_s, pictures[i].time_s, 1e-3);
    }
}

// Luma of ITU-R Recommendation BT.601: .299 red, .587 green, .114 blue.
TEST(Pictures, InGreyAreTheLumaOfTheirColours) {
    const test::Scratch scratch;
    struct Stored {
        const char* name;
        const char* how;
    };
    for (const auto& [name, how] : {Stored{"usual.mp4", "-c:v libx264 -pix_fmt yuv420p -c:a aac"},
                                    Stored{"whole.mkv", "-c:v mjpeg -pix_fmt yuvj420p -q:v 2"},
                                    Stored{"rgb.mkv", "-c:v ffv1 -pix_fmt bgr0"}}) {
        const auto path =
            test::film(scratch, name, how, {}, ",drawbox=x=8:y=8:w=40:h=40:c=0xD05020:t=fill");
        for (const Shade first : {Shade::Grey, Shade::Colours}) {
            auto reader = PictureReader::open(path);
            ASSERT_TRUE(reader.ok()) << name;
            std::shared_ptr<const Picture> grey;
            if (first == Shade::Grey)
                grey = (*reader)->at(1.0, Shade::Grey);
            const auto colours = (*reader)->at(1.0);
            if (!grey)
                grey = (*reader)->at(1.0, Shade::Grey);
            ASSERT_TRUE(grey && colours) << name;
            ASSERT_EQ(grey->channels, 1);
            ASSERT_EQ(3 * grey->bytes.size(), colours->bytes.size());
            for (const std::size_t pixel : {std::size_t{28 * 96 + 28}, std::size_t{32 * 96 + 70}}) {
                const auto* rgb = &colours->bytes[3 * pixel];
                EXPECT_NEAR(
                    grey->bytes[pixel], 0.299 * rgb[0] + 0.587 * rgb[1] + 0.114 * rgb[2], 4.0)
                    << name << ", " << pixel;
            }
        }
    }
}

TEST(Pictures, StepForwardsAndBackwardsOneByOneWhateverTheRate) {
    const test::Scratch scratch;
    // Variable rate: of the first second every picture, then every fifth.
    const auto path = test::film(scratch,
                                 "vfr.mkv",
                                 "-c:v libx264 -g 30 -bf 2 -vsync vfr -c:a aac",
                                 {},
                                 ",select='lt(n,30)+not(mod(n,5))'");
    const auto pictures = test::everyPicture(path);
    ASSERT_EQ(pictures.size(), 42U);
    const auto reader = PictureReader::open(path);
    ASSERT_TRUE(reader.ok());
    auto picture = (*reader)->at(0.0);
    for (std::size_t i = 1; i < pictures.size(); ++i) {
        picture = (*reader)->after(picture->time_s);
        ASSERT_TRUE(picture) << i;
        EXPECT_NEAR(picture->time_s, pictures[i].time_s, 1e-3);
    }
    EXPECT_FALSE((*reader)->after(picture->time_s)) << "there is none after the last";
    for (std::size_t i = pictures.size() - 1; i-- > 0;) {
        picture = (*reader)->before(picture->time_s);
        ASSERT_TRUE(picture) << i;
        EXPECT_NEAR(picture->time_s, pictures[i].time_s, 1e-3);
    }
    EXPECT_FALSE((*reader)->before(picture->time_s)) << "nor one before the first";
    EXPECT_LE((*reader)->cachedBytes(), 40U * 96 * 64 * 3);
    for (const auto& each : pictures) // both of each: as much room as both need, and no more
        (*reader)->at(each.time_s, Shade::Grey);
    EXPECT_LE((*reader)->cachedBytes(), 40U * 96 * 64 * 4);
}

// A width that is no multiple of what the scaler writes at a time: nothing goes beyond the picture,
// and its last columns are there.
TEST(Pictures, OfAnyWidthEndWhereTheyEnd) {
    const test::Scratch scratch;
    for (const int width : {50, 66, 86}) {
        const auto path = test::film(scratch,
                                     std::to_string(width) + ".mp4",
                                     "-c:v libx264 -c:a aac",
                                     {},
                                     ",crop=" + std::to_string(width) + ":62:0:0");
        auto reader = PictureReader::open(path);
        ASSERT_TRUE(reader.ok()) << width;
        for (int k = 0; k < 40; ++k) {
            const auto picture = (*reader)->at(k / 30.0);
            ASSERT_TRUE(picture) << width;
            ASSERT_EQ(picture->width, width);
            ASSERT_EQ(picture->bytes.size(), static_cast<std::size_t>(3 * width * 62));
            EXPECT_NEAR(picture->bytes.back(), picture->bytes.front(), 4) << "one grey all over";
        }
    }
}

TEST(Pictures, OfATurnedPhoneAreUpright) {
    const test::Scratch scratch;
    const auto flat = test::film(scratch,
                                 "flat.mp4",
                                 "-c:v libx264 -c:a aac",
                                 {},
                                 ",drawbox=x=0:y=0:w=96:h=16:c=white:t=fill");
    test::ffmpeg("-i " + flat.string() + " -c copy -metadata:s:v:0 rotate=90 " +
                 (scratch / "turned.mp4").string());
    const auto info = readMediaInfo(scratch / "turned.mp4");
    ASSERT_TRUE(info.ok());
    EXPECT_NE(info->picture.turned_degrees % 180, 0);
    EXPECT_EQ(info->picture.width, 64);
    EXPECT_EQ(info->picture.height, 96);
    const auto picture = (*PictureReader::open(scratch / "turned.mp4"))->at(0.5);
    ASSERT_TRUE(picture);
    EXPECT_EQ(picture->width, 64);
    // ffmpeg itself turns it too: the white bar must lie on the same side.
    const std::string grey =
        test::shell("ffmpeg -nostdin -v error -ss 0.5 -i " + (scratch / "turned.mp4").string() +
                    " -frames:v 1 -f rawvideo -pix_fmt gray -")
            .output;
    ASSERT_EQ(grey.size(), 64U * 96U);
    const auto ours = [&](int x, int y) {
        return picture->bytes[static_cast<std::size_t>(3 * (y * 64 + x))];
    };
    for (const auto& [x, y] : {std::pair{4, 48}, {59, 48}, {32, 4}, {32, 91}})
        EXPECT_NEAR(
            ours(x, y), static_cast<unsigned char>(grey[static_cast<std::size_t>(y * 64 + x)]), 30)
            << x << "," << y;
}

TEST(MediaInfo, SeveralSoundsCanBeChosenAndStartsMayDiffer) {
    const test::Scratch scratch;
    ASSERT_TRUE(writeWav(scratch / "burst.wav", test::burst().view()).ok());
    Sound low = test::silence(3.0, 44100.0);
    test::addTone(low, {0.2, 2.5, 110.0, 0.4});
    ASSERT_TRUE(writeWav(scratch / "low.wav", low.view()).ok());
    test::ffmpeg("-i " + (scratch / "low.wav").string() + " -itsoffset 0.4 -i " +
                 (scratch / "burst.wav").string() +
                 " -f lavfi -i color=c=red:s=64x64:r=25:d=3 -map 0:a -map 1:a -map 2:v -c:a aac "
                 "-c:v libx264 "
                 "-metadata:s:a:1 title=guitar " +
                 (scratch / "two.mp4").string());
    const auto info = readMediaInfo(scratch / "two.mp4");
    ASSERT_TRUE(info.ok());
    ASSERT_EQ(info->sounds.size(), 2U);
    DecodeOptions second;
    second.stream = info->sounds[1].stream;
    const auto decoded = decodeSound(scratch / "two.mp4", 22050.0, {}, second);
    ASSERT_TRUE(decoded.ok()) << decoded.error().sentence();
    const auto& x = decoded->mono.samples;
    const auto loud = std::find_if(x.begin(), x.end(), [](float v) { return std::abs(v) > 0.25F; });
    EXPECT_NEAR(static_cast<double>(loud - x.begin()) / 22050.0, test::kBurst_s + 0.4, 0.003)
        << "a sound that starts later stays later";
    DecodeOptions none;
    none.stream = 7;
    EXPECT_THAT(decodeSound(scratch / "two.mp4", 0.0, {}, none).error().message,
                HasSubstr("no such sound"));
}

TEST(Decode, APartIsWhatTheWholeHasThere) {
    const test::Scratch scratch;
    const auto path = makeKind(scratch, kKinds[8]);
    const auto whole = decodeSound(path, 22050.0, {});
    DecodeOptions options;
    options.span = {1.5, 2.25};
    const auto part = decodeSound(path, 22050.0, {}, options);
    ASSERT_TRUE(whole.ok() && part.ok());
    EXPECT_DOUBLE_EQ(part->start_s, 1.5);
    EXPECT_NEAR(part->mono.length_s(), 0.75, 0.01);
    for (std::size_t i = 200; i < 16000; i += 97)
        EXPECT_NEAR(part->mono.samples[i], whole->mono.samples[i + 33075], 0.03) << i;
}

// --- bad media
// -------------------------------------------------------------------------------------

TEST(BadMedia, WrongEndingIsOpenedByWhatItIs) {
    const test::Scratch scratch;
    fs::copy_file(makeKind(scratch, kKinds[2]), scratch / "really-mp3.wav");
    EXPECT_TRUE(decodeSound(scratch / "really-mp3.wav", 22050.0, {}).ok());
}

TEST(BadMedia, IsOneSentence) {
    const test::Scratch scratch;
    const auto says = [](const fs::path& path) {
        const auto info = readMediaInfo(path);
        return info.ok() ? std::string("opened") : info.error().sentence();
    };
    test::ffmpeg("-f lavfi -i color=c=red:s=64x64:r=25:d=1 -c:v libx264 " +
                 (scratch / "mute.mp4").string());
    EXPECT_THAT(says(scratch / "mute.mp4"), HasSubstr("film without sound"));
    const auto mp4 = makeKind(scratch, kKinds[8]);
    test::ffmpeg(
        "-i " + mp4.string() +
        " -c copy -encryption_scheme cenc-aes-ctr -encryption_key "
        "76a6c65c5ea762046bd749a2e632ccbb -encryption_kid a7e61c373e219033c21091fa607bf3b8 " +
        (scratch / "locked.mp4").string());
    EXPECT_THAT(says(scratch / "locked.mp4"), HasSubstr("protected"));
    std::string bytes = *readWholeFile(mp4, 10000000);
    ASSERT_TRUE(writeFileAtomically(scratch / "cut.mp4", bytes.substr(0, bytes.size() / 3)).ok());
    EXPECT_THAT(says(scratch / "cut.mp4"), HasSubstr("damaged"));
    for (const char* name : {"list.m3u8", "list.mpd", "list.sdp", "list.txt"}) {
        ASSERT_TRUE(writeFileAtomically(scratch / name,
                                        "#EXTM3U\n#EXT-X-TARGETDURATION:5\n#EXTINF:3,\n" +
                                            mp4.string() + "\n#EXT-X-ENDLIST\n")
                        .ok());
        EXPECT_THAT(says(scratch / name), HasSubstr("not a recording"))
            << "a list may lead anywhere";
    }
    ASSERT_TRUE(writeFileAtomically(scratch / "concat.ffconcat",
                                    "ffconcat version 1.0\nfile '" + mp4.string() + "'\n")
                    .ok());
    EXPECT_THAT(says(scratch / "concat.ffconcat"), HasSubstr("not a recording"));
}

TEST(BadMedia, ACutRecordingGivesWhatIsThere) {
    const test::Scratch scratch;
    for (const int k : {2, 6, 10}) { // MP3, Ogg, MKV
        const auto path = makeKind(scratch, kKinds[k]);
        const std::string bytes = *readWholeFile(path, 10000000);
        const auto cut = scratch / (std::string("cut-") + kKinds[k].name);
        ASSERT_TRUE(writeFileAtomically(cut, bytes.substr(0, bytes.size() * 7 / 10)).ok());
        const auto decoded = decodeSound(cut, 22050.0, {});
        ASSERT_TRUE(decoded.ok()) << kKinds[k].name << decoded.error().sentence();
        EXPECT_GT(decoded->mono.length_s(), 0.9) << kKinds[k].name; // Ogg pages hold about a second
        EXPECT_LT(decoded->mono.length_s(), 2.95) << kKinds[k].name;
    }
}

TEST(BadMedia, AnotherRateInTheMiddleOrTimeThatJumpsBackDoesNoHarm) {
    const test::Scratch scratch;
    ASSERT_TRUE(writeWav(scratch / "burst.wav", test::burst().view()).ok());
    for (const int rate : {44100, 32000})
        test::ffmpeg("-i " + (scratch / "burst.wav").string() + " -ar " + std::to_string(rate) +
                     " -c:a aac " + (scratch / (std::to_string(rate) + ".aac")).string());
    ASSERT_TRUE(writeFileAtomically(scratch / "both.aac",
                                    *readWholeFile(scratch / "44100.aac", 1000000) +
                                        *readWholeFile(scratch / "32000.aac", 1000000))
                    .ok());
    const auto changed = decodeSound(scratch / "both.aac", 22050.0, {});
    ASSERT_FALSE(changed.ok());
    EXPECT_THAT(changed.error().message, HasSubstr("changes its sample rate"));
    // Two Ogg recordings in one file: the second begins at 0 again.
    test::ffmpeg("-i " + (scratch / "burst.wav").string() + " -c:a libvorbis " +
                 (scratch / "a.ogg").string());
    const std::string ogg = *readWholeFile(scratch / "a.ogg", 1000000);
    ASSERT_TRUE(writeFileAtomically(scratch / "twice.ogg", ogg + ogg).ok());
    const auto twice = decodeSound(scratch / "twice.ogg", 22050.0, {});
    ASSERT_TRUE(twice.ok()) << twice.error().sentence();
    EXPECT_GE(twice->mono.length_s(), 2.9);
}

TEST(BadMedia, AFileThatShrinksOrGoesWhileOpenBecomesSilence) {
    const test::Scratch scratch;
    const auto path = makeKind(scratch, kKinds[0]);
    CachedSound::Options options;
    options.most_blocks = 2;
    const auto sound = CachedSound::open(path, options);
    ASSERT_TRUE(sound.ok());
    std::vector<float> part(2 * 1000);
    (*sound)->read(60000, part);
    EXPECT_GT(*std::max_element(part.begin(), part.end()), 0.3F);
    fs::resize_file(path, 50000);
    (*sound)->read(100000, part);
    EXPECT_EQ(*std::max_element(part.begin(), part.end()), 0.0F);
    fs::remove(path);
    (*sound)->read(2000, part); // must only not fail
}

} // namespace
} // namespace wirenote
