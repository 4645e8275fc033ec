// What opening, decoding, drawing and stretching cost, against plain ffmpeg and against the length
// of the file. Processor and wall time in one run, as ratios; memory in MiB.
#include "demo/heron.h"
#include "media/cached_sound.h"
#include "media/decode.h"
#include "media/picture_reader.h"
#include "media/sound_file.h"
#include "media/time_stretch.h"
#include "session/take_media.h"
#include "session/workspace.h"
#include "sounding/render.h"

#include <chrono>
#include <cstdio>
#include <cstdlib>
#include <filesystem>
#include <fstream>
#include <functional>
#include <string>
#include <sys/resource.h>

using namespace wirenote;
namespace fs = std::filesystem;

namespace {

double processorTime(int who) {
    rusage usage{};
    getrusage(who, &usage);
    return static_cast<double>(usage.ru_utime.tv_sec + usage.ru_stime.tv_sec) +
           1e-6 * static_cast<double>(usage.ru_utime.tv_usec + usage.ru_stime.tv_usec);
}

double wall(const std::function<void()>& work) {
    const auto began = std::chrono::steady_clock::now();
    work();
    return std::chrono::duration<double>(std::chrono::steady_clock::now() - began).count();
}

double memoryMiB() {
    std::ifstream in("/proc/self/statm");
    double total = 0.0;
    double resident = 0.0;
    in >> total >> resident;
    return resident * 4096.0 / 1048576.0;
}

int ffmpeg(const std::string& arguments) {
    return std::system(("ffmpeg -nostdin -loglevel error -y " + arguments).c_str());
}

Sound minutes(double count) {
    RenderOptions options;
    options.noise_db = -62.0;
    const Sound once = *renderPiece(standin::heronAtLowWater(), options, {});
    Sound sound{{}, once.rate_hz};
    while (sound.length_s() < 60.0 * count)
        sound.samples.insert(sound.samples.end(), once.samples.begin(), once.samples.end());
    sound.samples.resize(static_cast<std::size_t>(60.0 * count * once.rate_hz));
    return sound;
}

void decoding(const fs::path& file) {
    const double plain_0 = processorTime(RUSAGE_CHILDREN);
    const double plain_wall =
        wall([&] { ffmpeg("-threads 1 -i " + file.string() + " -vn -f null -"); });
    const double plain = processorTime(RUSAGE_CHILDREN) - plain_0;
    const double ours_0 = processorTime(RUSAGE_SELF);
    const double ours_wall = wall([&] { static_cast<void>(decodeSound(file, 22050.0, {}).ok()); });
    const double ours = processorTime(RUSAGE_SELF) - ours_0;
    std::printf("  decode %-18s for analysis against plain ffmpeg: %.2f of its speed (processor), "
                "%.2f (wall)   (goal: 0.8)\n",
                file.filename().c_str(),
                plain / ours,
                plain_wall / ours_wall);
}

void opening(const fs::path& file, double length_min) {
    double sound_s = 0.0;
    double picture_s = -1.0;
    double memory = 0.0;
    Result<OpenedPiece> opened = cancelled();
    const double open_s = wall([&] { opened = openAny(file, {}, {}); });
    if (!opened)
        return;
    {
        std::vector<float> block(2 * 4410);
        sound_s = wall([&] { opened->media[0].playing->read(44100, block); });
        if (opened->media[0].info.picture.exists())
            picture_s = wall([&] {
                auto reader = PictureReader::open(file);
                if (reader)
                    static_cast<void>((*reader)->at(0.0));
            });
        // Somebody looks and listens all over the place.
        for (int k = 0; k < 200; ++k) {
            const auto at =
                static_cast<std::int64_t>(k * 37 % 200 / 200.0 * 60.0 * length_min * 44100.0);
            opened->media[0].playing->read(at, block);
        }
        memory = memoryMiB();
    }
    std::printf(
        "  %-18s opened in %.3f s, first sound %.3f s", file.filename().c_str(), open_s, sound_s);
    if (picture_s >= 0.0)
        std::printf(", first picture %.3f s", picture_s);
    std::printf(", memory after 200 places %.0f MiB\n", memory);
}

void stretching() {
    MemorySource source(std::make_shared<const Sound>(minutes(0.5)));
    for (const double speed : {0.25, 0.5, 0.75, 1.0, 1.25, 1.5})
        for (const double semitones : {0.0, 2.0}) {
            StretchedReader reader(source, 44100, speed, semitones);
            std::vector<float> out(2 * 44100 * 5);
            const double before = processorTime(RUSAGE_SELF);
            reader.read(out);
            std::printf("  stretch %.2f x, %+.0f semitones: %5.1f times real time   (goal: 2)\n",
                        speed,
                        semitones,
                        5.0 / (processorTime(RUSAGE_SELF) - before + 1e-9));
        }
}

} // namespace

int main() {
    const auto folder = fs::temp_directory_path() / "wirenote-bench-takes";
    fs::create_directories(folder);
    const auto hour = folder / "60min.wav";
    if (!writeWav(hour, minutes(60).view()))
        return 1;
    struct Length {
        const char* name;
        double minutes;
    };
    ffmpeg("-t 600 -i " + hour.string() + " -c:a libmp3lame -q:a 4 " +
           (folder / "10min.mp3").string());
    ffmpeg("-i " + hour.string() + " -c:a libmp3lame -q:a 4 " + (folder / "60min.mp3").string());
    ffmpeg("-stream_loop 1 -i " + hour.string() + " -c:a libmp3lame -q:a 4 " +
           (folder / "120min.mp3").string());
    ffmpeg("-t 600 -i " + hour.string() +
           " -f lavfi -i testsrc=s=640x360:r=25:d=60 -shortest -c:v libx264 -preset ultrafast -c:a "
           "aac " +
           (folder / "film.mp4").string());
    ffmpeg("-stream_loop 119 -i " + (folder / "film.mp4").string() + " -c copy " +
           (folder / "120min.mp4").string());
    ffmpeg("-t 600 -i " + hour.string() + " -c:a flac " + (folder / "10min.flac").string());
    ffmpeg("-t 600 -i " + hour.string() + " -c:a aac " + (folder / "10min.m4a").string());
    std::printf("decoding\n");
    for (const char* name : {"10min.mp3", "10min.flac", "10min.m4a"})
        decoding(folder / name);
    std::printf("opening and memory\n");
    for (const Length& l : {Length{"10min.mp3", 10},
                            Length{"60min.mp3", 60},
                            Length{"120min.mp3", 120},
                            Length{"120min.mp4", 120}})
        opening(folder / l.name, l.minutes);
    std::printf("stretching\n");
    stretching();
    fs::remove_all(folder);
    return 0;
}
