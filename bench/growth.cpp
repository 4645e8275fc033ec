// How time and memory of `wirenote-cli transcribe` grow with the length of a take: 1, 10 and 60
// minutes of lines, chords and strums by the simulated instrument. Seconds of sound a second of the
// wall clock, and the largest memory of the program.
#include "demo/heron.h"
#include "media/sound_file.h"
#include "sounding/render.h"

#include <chrono>
#include <cstdio>
#include <cstdlib>
#include <filesystem>
#include <sys/resource.h>
#include <sys/wait.h>
#include <unistd.h>

using namespace wirenote;

namespace {

constexpr double kRateHz = 22050.0;

// A tune, then strummed chords with ringing strings, again and again.
Sound aMinute() {
    Piece piece = standin::heronAtLowWater();
    const double from_s = piece.notes.back().offset_s() + 0.5;
    const int frets[] = {0, 1, 0, 2, 3};
    for (int k = 0; k < 28; ++k)
        for (int string = 1; string <= 5; ++string) {
            Note note = piece.notes.front();
            NotePlan plan = piece.asPlayed().plans.front();
            note.id = plan.note = piece.next_id++;
            note.techniques.clear();
            note.curve.clear();
            const double at_s = from_s + 0.35 * k + 0.008 * (k % 2 == 0 ? 5 - string : string - 1);
            note.time.value = {at_s, at_s + 1.0};
            plan.position.value = {string, frets[string - 1]};
            note.pitch.value = piece.instrument.midiAt(plan.position.value);
            piece.notes.push_back(note);
            piece.asPlayed().plans.push_back(plan);
        }
    RenderOptions options;
    options.rate_hz = kRateHz;
    options.noise_db = -62.0;
    const Sound once = *renderPiece(piece, options, {});
    Sound sound{{}, kRateHz};
    while (sound.length_s() < 60.0)
        sound.samples.insert(sound.samples.end(), once.samples.begin(), once.samples.end());
    sound.samples.resize(static_cast<std::size_t>(60.0 * kRateHz));
    return sound;
}

void measure(const std::filesystem::path& take, double length_s, const std::filesystem::path& out) {
    const auto began = std::chrono::steady_clock::now();
    const pid_t child = fork();
    if (child == 0) {
        std::freopen("/dev/null", "w", stderr);
        execl(WIRENOTE_BIN_DIR "/wirenote-cli",
              "wirenote-cli",
              "transcribe",
              take.c_str(),
              "--out",
              out.c_str(),
              static_cast<char*>(nullptr));
        _exit(127);
    }
    int status = 0;
    rusage usage{};
    wait4(child, &status, 0, &usage);
    const double wall_s =
        std::chrono::duration<double>(std::chrono::steady_clock::now() - began).count();
    if (status != 0)
        std::printf("  failed\n");
    std::printf(
        "  %3.0f min: %5.1f seconds of sound a second   (goal: 20), %4ld MiB   (goal: 400)\n",
        length_s / 60.0,
        length_s / wall_s,
        usage.ru_maxrss / 1024);
}

} // namespace

int main() {
    const auto folder = std::filesystem::temp_directory_path() / "wirenote-bench-growth";
    std::filesystem::create_directories(folder);
    const Sound minute = aMinute();
    std::printf("transcribe\n");
    for (const int minutes : {1, 10, 60}) {
        Sound sound{{}, kRateHz};
        for (int k = 0; k < minutes; ++k)
            sound.samples.insert(sound.samples.end(), minute.samples.begin(), minute.samples.end());
        if (!writeWav(folder / "take.wav", sound.view()).ok())
            return 1;
        measure(folder / "take.wav", 60.0 * minutes, folder / "notes.json");
    }
    std::filesystem::remove_all(folder);
    return 0;
}
