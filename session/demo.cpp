#include "session/demo.h"

#include "demo/heron.h"
#include "media/sound_file.h"
#include "session/demonstrate.h"
#include "session/files.h"
#include "session/take_media.h"
#include "session/transcribe.h"
#include "sounding/render.h"

namespace wirenote {

namespace {

// One simulated performance: its sound and its truth.
Status perform(const Piece& truth,
               const std::filesystem::path& sound_file,
               const std::filesystem::path& truth_file,
               const JobControl& job) {
    RenderOptions options;
    options.a4_hz = truth.lead()->reference.a4_hz;
    options.noise_db = -62.0;
    const auto sound = renderPiece(truth, options, job);
    if (!sound)
        return sound.error();
    if (const Status written = writeWav(sound_file, sound->view()); !written)
        return written;
    return writeAny(truth, truth_file);
}

void describe(Take& take, const Take& truth) {
    take.name = truth.name;
    take.kind = truth.kind;
    take.origin = "made by the simulated instrument that ships with Wirenote";
    take.rights = TakeRights::OwnRecording;
}

} // namespace

DemoFiles demoIn(const std::filesystem::path& folder) {
    return {folder / "heron-at-low-water.wav",
            folder / "heron-at-low-water.truth.json",
            folder / "heron-shown-slowly.wav",
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
    if (const Status made = perform(slow_truth, files.slow, files.slow_truth, job); !made)
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
