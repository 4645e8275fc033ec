#include "media/checksum.h"
#include "media/decode.h"
#include "media/sound_file.h"

#include "base/atomic_file.h"
#include "support/scratch.h"
#include "support/shell.h"
#include "support/tones.h"

#include <algorithm>
#include <cstring>
#include <gmock/gmock.h>
#include <limits>
#include <sndfile.h>
#include <sys/wait.h>

namespace wirenote {
namespace {

using ::testing::Contains;
using ::testing::HasSubstr;
using ::testing::IsEmpty;

// An independent writer (libsndfile) makes the files.
void writeFile(const std::filesystem::path& path,
               const std::vector<float>& interleaved,
               int channels,
               int rate_hz,
               int format) {
    SF_INFO info{};
    info.samplerate = rate_hz;
    info.channels = channels;
    info.format = format;
    SNDFILE* file = sf_open(path.c_str(), SFM_WRITE, &info);
    ASSERT_NE(file, nullptr) << sf_strerror(nullptr);
    sf_write_float(file, interleaved.data(), static_cast<sf_count_t>(interleaved.size()));
    sf_close(file);
}

Sound tone(double rate_hz, double length_s = 1.0) {
    Sound sound = test::silence(length_s, rate_hz);
    test::addTone(sound, {0.1, length_s - 0.1, 220.0, 0.4});
    return sound;
}

struct Kind {
    const char* name;
    int rate_hz;
    int format;
    const char* ending;
};
void PrintTo(const Kind& k, std::ostream* out) {
    *out << k.name;
}

class EveryKind : public ::testing::TestWithParam<Kind> {};
TEST_P(EveryKind, IsDecodedInPlaceAndAtLevel) {
    const test::Scratch scratch;
    const Kind kind = GetParam();
    const Sound sound = tone(kind.rate_hz);
    const auto path = scratch / (std::string("take") + kind.ending);
    writeFile(path, sound.samples, 1, kind.rate_hz, kind.format);
    const auto decoded = decodeSound(path, 22050.0, {});
    ASSERT_TRUE(decoded.ok()) << decoded.error().sentence();
    EXPECT_DOUBLE_EQ(decoded->mono.rate_hz, 22050.0);
    EXPECT_NEAR(decoded->mono.length_s(), 1.0, 0.002);
    const auto& x = decoded->mono.samples;
    const auto loud = std::find_if(x.begin(), x.end(), [](float v) { return std::abs(v) > 0.05F; });
    EXPECT_NEAR(static_cast<double>(loud - x.begin()) / 22050.0, 0.1, 0.005) << "the attack moved";
    const float peak = *std::max_element(x.begin(), x.end());
    EXPECT_NEAR(peak, *std::max_element(sound.samples.begin(), sound.samples.end()), 0.06);
}
INSTANTIATE_TEST_SUITE_P(
    Files,
    EveryKind,
    ::testing::Values(Kind{"wav16", 44100, SF_FORMAT_WAV | SF_FORMAT_PCM_16, ".wav"},
                      Kind{"wav24", 48000, SF_FORMAT_WAV | SF_FORMAT_PCM_24, ".wav"},
                      Kind{"wav_float", 44100, SF_FORMAT_WAV | SF_FORMAT_FLOAT, ".wav"},
                      Kind{"wav_8k", 8000, SF_FORMAT_WAV | SF_FORMAT_PCM_16, ".wav"},
                      Kind{"wav_96k", 96000, SF_FORMAT_WAV | SF_FORMAT_PCM_24, ".wav"},
                      Kind{"wav8bit", 44100, SF_FORMAT_WAV | SF_FORMAT_PCM_U8, ".wav"},
                      Kind{"flac16", 44100, SF_FORMAT_FLAC | SF_FORMAT_PCM_16, ".flac"},
                      Kind{"flac24", 96000, SF_FORMAT_FLAC | SF_FORMAT_PCM_24, ".flac"}),
    [](const auto& row) { return std::string(row.param.name); });

TEST(Decode, ADeadChannelIsLeftOutAndSaidSo) {
    const test::Scratch scratch;
    const Sound sound = tone(44100);
    std::vector<float> stereo;
    for (const float v : sound.samples) {
        stereo.push_back(0.0F);
        stereo.push_back(v);
    }
    writeFile(scratch / "s.wav", stereo, 2, 44100, SF_FORMAT_WAV | SF_FORMAT_PCM_16);
    const auto decoded = decodeSound(scratch / "s.wav", 0.0, {});
    ASSERT_TRUE(decoded.ok());
    EXPECT_THAT(decoded->cautions, Contains(SoundCaution::DeadChannel));
    EXPECT_NEAR(*std::max_element(decoded->mono.samples.begin(), decoded->mono.samples.end()),
                *std::max_element(sound.samples.begin(), sound.samples.end()),
                0.001)
        << "not halved by the silence";
}

TEST(Decode, NotANumberBecomesSilenceAndIsSaidSo) {
    const test::Scratch scratch;
    Sound sound = tone(44100);
    for (std::size_t i = 9000; i < 9050; ++i)
        sound.samples[i] = i % 2 == 0 ? std::numeric_limits<float>::quiet_NaN()
                                      : std::numeric_limits<float>::infinity();
    writeFile(scratch / "n.wav", sound.samples, 1, 44100, SF_FORMAT_WAV | SF_FORMAT_FLOAT);
    const auto decoded = decodeSound(scratch / "n.wav", 0.0, {});
    ASSERT_TRUE(decoded.ok());
    EXPECT_THAT(decoded->cautions, Contains(SoundCaution::BadSamples));
    for (const float v : decoded->mono.samples)
        ASSERT_TRUE(std::isfinite(v));
}

TEST(Decode, ClippingIsSaidSoAndALoudTakeIsNot) {
    const test::Scratch scratch;
    Sound sound = tone(44100);
    writeFile(scratch / "ok.wav", sound.samples, 1, 44100, SF_FORMAT_WAV | SF_FORMAT_PCM_16);
    EXPECT_THAT(decodeSound(scratch / "ok.wav", 0.0, {})->cautions, IsEmpty());
    for (float& v : sound.samples)
        v = std::clamp(v * 8.0F, -1.0F, 1.0F);
    writeFile(scratch / "c.wav", sound.samples, 1, 44100, SF_FORMAT_WAV | SF_FORMAT_PCM_16);
    EXPECT_THAT(decodeSound(scratch / "c.wav", 0.0, {})->cautions, Contains(SoundCaution::Clipped));
}

TEST(Decode, ATruncatedFileGivesWhatIsThere) {
    const test::Scratch scratch;
    writeFile(
        scratch / "w.wav", tone(44100, 2.0).samples, 1, 44100, SF_FORMAT_WAV | SF_FORMAT_PCM_16);
    const std::string bytes = *readWholeFile(scratch / "w.wav", 1000000);
    ASSERT_TRUE(writeFileAtomically(scratch / "t.wav", bytes.substr(0, bytes.size() / 2)).ok());
    const auto decoded = decodeSound(scratch / "t.wav", 0.0, {});
    ASSERT_TRUE(decoded.ok()) << decoded.error().sentence();
    EXPECT_THAT(decoded->cautions, Contains(SoundCaution::Truncated));
    EXPECT_NEAR(decoded->mono.length_s(), 1.0, 0.05);
}

struct Bad {
    const char* name;
    std::string bytes;
    const char* says;
};
void PrintTo(const Bad& b, std::ostream* out) {
    *out << b.name;
}

class BadFiles : public ::testing::TestWithParam<Bad> {};
TEST_P(BadFiles, AreOneSentenceThatNamesTheFile) {
    const test::Scratch scratch;
    ASSERT_TRUE(writeFileAtomically(scratch / "bad.wav", GetParam().bytes).ok());
    const auto decoded = decodeSound(scratch / "bad.wav", 0.0, {});
    ASSERT_FALSE(decoded.ok());
    EXPECT_EQ(decoded.error().kind, ErrorKind::BadInput);
    EXPECT_THAT(decoded.error().sentence(), HasSubstr("bad.wav"));
    EXPECT_THAT(decoded.error().message, HasSubstr(GetParam().says));
}
INSTANTIATE_TEST_SUITE_P(
    Files,
    BadFiles,
    ::testing::Values(
        Bad{"empty", "", "is empty"},
        Bad{"text", std::string(5000, 'x'), "not a recording"},
        Bad{"header_only", std::string("RIFF\x24\x00\x00\x00WAVE", 12), "damaged"},
        Bad{"playlist", "#EXTM3U\nhttp://example.invalid/a.wav\n", "not a recording"}),
    [](const auto& row) { return std::string(row.param.name); });

TEST(Decode, SilentShortMissingAndFolderAreSaidSo) {
    const test::Scratch scratch;
    writeFile(scratch / "silent.wav",
              std::vector<float>(44100, 0.0F),
              1,
              44100,
              SF_FORMAT_WAV | SF_FORMAT_PCM_16);
    EXPECT_THAT(decodeSound(scratch / "silent.wav", 0.0, {}).error().message,
                HasSubstr("is silent"));
    writeFile(scratch / "short.wav",
              tone(44100, 0.1).samples,
              1,
              44100,
              SF_FORMAT_WAV | SF_FORMAT_PCM_16);
    EXPECT_THAT(decodeSound(scratch / "short.wav", 0.0, {}).error().message,
                HasSubstr("only 100 ms long"));
    EXPECT_THAT(decodeSound(scratch / "none.wav", 0.0, {}).error().message,
                HasSubstr("no such file"));
    EXPECT_THAT(decodeSound(scratch.path(), 0.0, {}).error().message, HasSubstr("not a file"));
}

// Root may read everything, so the check runs as nobody.
TEST(Decode, NoReadPermissionIsSaidSo) {
    const test::Scratch scratch;
    writeFile(scratch / "p.wav", tone(44100).samples, 1, 44100, SF_FORMAT_WAV | SF_FORMAT_PCM_16);
    std::filesystem::permissions(scratch / "p.wav", std::filesystem::perms::none);
    const pid_t child = ::fork();
    if (child == 0) {
        if (::getuid() == 0 && ::setuid(65534) != 0)
            ::_exit(9);
        const auto decoded = decodeSound(scratch / "p.wav", 0.0, {});
        ::_exit(!decoded.ok() && decoded.error().message.find("permissions") != std::string::npos
                    ? 0
                    : 1);
    }
    int status = -1;
    ASSERT_EQ(::waitpid(child, &status, 0), child);
    EXPECT_TRUE(WIFEXITED(status) && WEXITSTATUS(status) == 0);
}

// FFmpeg's own command line decodes the same samples.
TEST(Decode, AgreesWithTheFfmpegCommand) {
    const test::Scratch scratch;
    writeFile(
        scratch / "a.flac", tone(44100, 0.5).samples, 1, 44100, SF_FORMAT_FLAC | SF_FORMAT_PCM_16);
    const auto raw = (scratch / "a.raw").string();
    ASSERT_EQ(test::shell("ffmpeg -loglevel error -y -i " + (scratch / "a.flac").string() +
                          " -f f32le " + raw)
                  .status,
              0);
    const std::string bytes = *readWholeFile(raw, 10000000);
    const auto decoded = decodeSound(scratch / "a.flac", 0.0, {});
    ASSERT_EQ(decoded->mono.samples.size() * sizeof(float), bytes.size());
    EXPECT_EQ(std::memcmp(decoded->mono.samples.data(), bytes.data(), bytes.size()), 0);
}

TEST(SoundFile, WritesWhatItWasGiven) {
    const test::Scratch scratch;
    const Sound sound = tone(44100);
    ASSERT_TRUE(writeWav(scratch / "w.wav", sound.view()).ok());
    const auto decoded = decodeSound(scratch / "w.wav", 0.0, {});
    ASSERT_EQ(decoded->mono.samples.size(), sound.samples.size());
    for (std::size_t i = 0; i < sound.samples.size(); i += 97)
        EXPECT_NEAR(decoded->mono.samples[i], sound.samples[i], 2e-7);
}

TEST(Checksum, IsTheStandardsExample) {
    const test::Scratch scratch;
    ASSERT_TRUE(writeFileAtomically(scratch / "abc", "abc").ok());
    // FIPS 180-4, SHA-256 example for "abc".
    EXPECT_EQ(*mediaFingerprint(scratch / "abc"),
              "ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad");
}

} // namespace
} // namespace wirenote
