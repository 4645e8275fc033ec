// Recordings of every kind, made by ffmpeg (an independent program) from a burst and a film whose
// pictures tell their number by their brightness.
#pragma once

#include "media/sound_file.h"
#include "support/scratch.h"
#include "support/shell.h"
#include "support/tones.h"

#include <gtest/gtest.h>
#include <sstream>
#include <string>
#include <vector>

namespace wirenote::test {

constexpr double kBurst_s = 1.0;
constexpr double kRecording_s = 3.0;

// Silence, at 1.0 s a hard attack of 330 Hz, then a rising chirp, so that every place is its own.
inline Sound burst(double rate_hz = 44100.0) {
    Sound sound = silence(kRecording_s, rate_hz);
    double phase = 0.0;
    for (std::size_t i = static_cast<std::size_t>(kBurst_s * rate_hz); i < sound.samples.size();
         ++i) {
        const double t = static_cast<double>(i) / rate_hz - kBurst_s;
        phase += 2.0 * std::numbers::pi * (330.0 + 200.0 * t) / rate_hz;
        sound.samples[i] = static_cast<float>(0.5 * std::cos(phase));
    }
    return sound;
}

inline void ffmpeg(const std::string& arguments) {
    const auto result = shell("ffmpeg -nostdin -hide_banner -loglevel error -y " + arguments);
    ASSERT_EQ(result.status, 0) << arguments << "\n" << result.output;
}

// A film of 90 pictures of 96 × 64, each far in brightness from its neighbours, with the burst as
// its sound.
inline std::filesystem::path film(const Scratch& scratch,
                                  const std::string& name,
                                  const std::string& coding,
                                  const std::string& before = {},
                                  const std::string& filter = {}) {
    EXPECT_TRUE(writeWav(scratch / "burst.wav", burst().view()).ok());
    ffmpeg(
        before +
        " -f lavfi -i \"color=c=black:s=96x64:r=30:d=3,format=gray,geq=lum='30+mod(37*N\\,190)'" +
        filter + "\" -i " + (scratch / "burst.wav").string() +
        " -map 0:v -map 1:a -pix_fmt yuv420p " + coding + " " + (scratch / name).string());
    return scratch / name;
}

struct FilmPicture {
    double time_s = 0.0;
    int brightness = 0;
};

// Every picture of a film by a full decode of another program.
inline std::vector<FilmPicture> everyPicture(const std::filesystem::path& path) {
    std::vector<FilmPicture> pictures;
    std::istringstream times(
        shell("ffprobe -v error -select_streams v -show_entries frame=best_effort_timestamp_time "
              "-of csv=p=0 " +
              path.string())
            .output);
    const std::string rgb =
        shell("ffmpeg -nostdin -v error -i " + path.string() +
              " -map 0:v -vsync passthrough -vf scale=1:1:flags=area,format=rgb24 -f rawvideo -")
            .output;
    std::string line;
    while (std::getline(times, line) && 3 * pictures.size() < rgb.size())
        if (!line.empty())
            pictures.push_back(
                {std::stod(line), static_cast<unsigned char>(rgb[3 * pictures.size()])});
    EXPECT_EQ(3 * pictures.size(), rgb.size()) << rgb.substr(0, 500);
    return pictures;
}

} // namespace wirenote::test
