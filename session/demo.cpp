#include "session/demo.h"

#include "base/atomic_file.h"
#include "camera/filmed_performance.h"
#include "demo/heron.h"
#include "media/film_file.h"
#include "media/sound_file.h"
#include "session/demonstrate.h"
#include "session/files.h"
#include "session/take_media.h"
#include "session/transcribe.h"
#include "sounding/render.h"

#include <future>

namespace wirenote {

namespace {

// How a simulated performance sounds.
Result<Sound> played(const Piece& truth, double rate_hz, const JobControl& job) {
    RenderOptions options;
    options.rate_hz = rate_hz;
    options.a4_hz = truth.lead()->reference.a4_hz;
    options.noise_db = -62.0;
    return renderPiece(truth, options, job);
}

// One simulated performance: its sound and its truth.
Status perform(const Piece& truth,
               const std::filesystem::path& sound_file,
               const std::filesystem::path& truth_file,
               const JobControl& job) {
    const auto sound = played(truth, RenderOptions{}.rate_hz, job);
    if (!sound)
        return sound.error();
    if (const Status written = writeWav(sound_file, sound->view()); !written)
        return written;
    return writeAny(truth, truth_file);
}

// The pictures and the sound of a performance, as a film; the next picture is painted while one is
// encoded.
Result<std::string>
filmOf(const standin::FilmedPerformance& filmed, const Sound& sound, const JobControl& job) {
    using Filmed = standin::FilmedPerformance;
    auto film =
        FilmFile::begin({Filmed::kWidth, Filmed::kHeight, "SIMULATED: Heron at Low Water", {}});
    if (!film)
        return film.error();
    const Error not_made{ErrorKind::Internal, {}, "the film of the demo could not be encoded"};
    const std::vector<float>& mono = sound.samples;
    std::vector<float> block(2 * (*film)->soundBlock());
    const auto paint = [&filmed](int k) {
        return std::async(std::launch::async,
                          [&filmed, k] { return filmed.picture(k / Filmed::kRate); });
    };
    int shown = 0;
    std::future<std::vector<std::uint8_t>> next = paint(0);
    for (std::size_t from = 0; from < mono.size(); from += block.size() / 2) {
        if (job.cancelRequested())
            return cancelled();
        for (; shown / Filmed::kRate <= (*film)->sound_s(); ++shown) {
            const std::vector<std::uint8_t> rgb = next.get();
            next = paint(shown + 1);
            if (!(*film)->addPicture(shown / Filmed::kRate, {Filmed::kWidth, Filmed::kHeight, rgb}))
                return not_made;
        }
        for (std::size_t i = 0; i < block.size() / 2; ++i)
            block[2 * i] = block[2 * i + 1] = from + i < mono.size() ? mono[from + i] : 0.0F;
        if (!(*film)->addSound(block))
            return not_made;
    }
    return (*film)->finish();
}

// One simulated performance before a simulated camera.
Status performBeforeCamera(const Piece& tab,
                           const std::filesystem::path& film_file,
                           const std::filesystem::path& truth_file,
                           const JobControl& job) {
    const auto sound = played(tab, FilmFile::kRate_hz, job);
    if (!sound)
        return sound.error();
    const standin::FilmedPerformance filmed(tab);
    const auto film = filmOf(filmed, *sound, job);
    if (!film)
        return film.error();
    if (const Status written = writeFileAtomically(film_file, *film); !written)
        return written;
    return writeAny(filmed.truth(), truth_file);
}

void describe(Take& take, const Take& truth) {
    take.name = truth.name;
    take.kind = truth.kind;
    take.origin = take.has_picture
                      ? "made by the simulated instrument and camera that ship with Wirenote"
                      : "made by the simulated instrument that ships with Wirenote";
    take.rights = TakeRights::OwnRecording;
}

} // namespace

DemoFiles demoIn(const std::filesystem::path& folder) {
    return {folder / "heron-at-low-water.wav",
            folder / "heron-at-low-water.truth.json",
            folder / "heron-shown-slowly.webm",
            folder / "heron-shown-slowly.truth.json",
            folder / "heron-at-low-water.wirenote"};
}

Result<DemoFiles> makeDemo(const std::filesystem::path& folder, const JobControl& job) {
    std::error_code code;
    std::filesystem::create_directories(folder, code);
    if (code)
        return badInput(folder.string(),
                        "cannot be created (" + code.message() + "); choose another folder");
    const DemoFiles files = demoIn(folder);
    const Piece truth = standin::heronAtLowWater();
    if (const Status made = perform(truth, files.take, files.truth, job); !made)
        return made.error();
    const Piece slow_truth = standin::heronShownSlowly();
    if (const Status made = performBeforeCamera(slow_truth, files.slow, files.slow_truth, job);
        !made)
        return made.error();
    TranscribeOptions transcription;
    // As one opens a recording without a word about its tuning: there is something to ask about.
    transcription.instrument = standardInstrument(truth.instrument.kind);
    auto piece = transcribe(files.take, transcription, job);
    if (!piece)
        return piece.error();
    piece->title = truth.title;
    piece->title_guessed = false;
    piece->key = truth.key;
    piece->lead()->path = std::filesystem::absolute(files.take).string();
    describe(*piece->lead(), *truth.lead());
    const auto media = openTakeMedia(files.slow);
    if (!media)
        return media.error();
    const auto study = studyTake(*piece, takeOf(files.slow, media->info), job);
    if (!study)
        return study.error();
    piece->takes.push_back(study->take);
    describe(piece->takes.back(), *slow_truth.lead());
    const auto heard = hearEveryTake(*piece, job);
    if (!heard)
        return heard.error();
    if (const Status written = writeAny(*heard, files.piece); !written)
        return written.error();
    return files;
}

} // namespace wirenote
