// wirenote-cli transcribe on ten minutes of sound, against plain decoding of the same file and
// against the general-purpose library aubio computing pitch and onsets on it. Processor time, in
// one run, as ratios.
#include "demo/heron.h"
#include "media/decode.h"
#include "media/sound_file.h"
#include "sounding/render.h"

#include <aubio/aubio.h>
#include <cstdio>
#include <cstdlib>
#include <filesystem>
#include <functional>
#include <sys/resource.h>

using namespace wirenote;

namespace {

constexpr double kLength_s = 600.0;
constexpr double kRateHz = 44100.0;
constexpr uint_t kHop = 256;

double processorTime(int who) {
    rusage usage{};
    getrusage(who, &usage);
    return static_cast<double>(usage.ru_utime.tv_sec + usage.ru_stime.tv_sec) +
           1e-6 * static_cast<double>(usage.ru_utime.tv_usec + usage.ru_stime.tv_usec);
}

double timed(int who, const std::function<void()>& work) {
    const double began = processorTime(who);
    work();
    return processorTime(who) - began;
}

Sound tenMinutes() {
    RenderOptions options;
    options.noise_db = -62.0;
    const Sound once = *renderPiece(standin::heronAtLowWater(), options, {});
    Sound sound{{}, kRateHz};
    while (sound.length_s() < kLength_s)
        sound.samples.insert(sound.samples.end(), once.samples.begin(), once.samples.end());
    sound.samples.resize(static_cast<std::size_t>(kLength_s * kRateHz));
    return sound;
}

// The library's own defaults: yinfft with 2048, onset with 512, a hop of 256.
void aubioPitch(const Sound& sound) {
    aubio_pitch_t* pitch = new_aubio_pitch("default", 2048, kHop, static_cast<uint_t>(kRateHz));
    fvec_t* in = new_fvec(kHop);
    fvec_t* out = new_fvec(1);
    for (std::size_t at = 0; at + kHop <= sound.samples.size(); at += kHop) {
        std::copy_n(sound.samples.data() + at, kHop, in->data);
        aubio_pitch_do(pitch, in, out);
    }
    del_fvec(in);
    del_fvec(out);
    del_aubio_pitch(pitch);
}

void aubioOnset(const Sound& sound) {
    aubio_onset_t* onset = new_aubio_onset("default", 512, kHop, static_cast<uint_t>(kRateHz));
    fvec_t* in = new_fvec(kHop);
    fvec_t* out = new_fvec(1);
    for (std::size_t at = 0; at + kHop <= sound.samples.size(); at += kHop) {
        std::copy_n(sound.samples.data() + at, kHop, in->data);
        aubio_onset_do(onset, in, out);
    }
    del_fvec(in);
    del_fvec(out);
    del_aubio_onset(onset);
}

} // namespace

int main() {
    const auto folder = std::filesystem::temp_directory_path() / "wirenote-bench-compare";
    std::filesystem::create_directories(folder);
    const auto path = folder / "ten-minutes.wav";
    const Sound sound = tenMinutes();
    if (!writeWav(path, sound.view()))
        return 1;
    const std::string command = std::string(WIRENOTE_BIN_DIR) + "/wirenote-cli transcribe " +
                                path.string() + " --out " + (folder / "out.json").string() +
                                " 2>/dev/null";
    int status = 0;
    const double transcribe_s =
        timed(RUSAGE_CHILDREN, [&] { status = std::system(command.c_str()); });
    const double decode_s =
        timed(RUSAGE_SELF, [&] { static_cast<void>(decodeSound(path, 0.0, {}).ok()); });
    const double pitch_s = timed(RUSAGE_SELF, [&] { aubioPitch(sound); });
    const double onset_s = timed(RUSAGE_SELF, [&] { aubioOnset(sound); });
    std::filesystem::remove_all(folder);
    if (status != 0)
        return 1;
    std::printf("ten minutes of sound, processor seconds in this run\n");
    std::printf("  wirenote-cli transcribe      %7.2f\n", transcribe_s);
    std::printf("  plain decoding               %7.2f   transcribe / decode          %6.2f\n",
                decode_s,
                transcribe_s / decode_s);
    std::printf("  aubio pitch + onset          %7.2f   transcribe / (pitch + onset) %6.2f  (goal: "
                "at most 1)\n",
                pitch_s + onset_s,
                transcribe_s / (pitch_s + onset_s));
    return 0;
}
