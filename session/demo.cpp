#include "session/demo.h"

#include "demo/heron.h"
#include "instrument/render.h"
#include "media/sound_file.h"
#include "session/files.h"
#include "session/transcribe.h"

namespace wirenote {

Result<DemoFiles> makeDemo(const std::filesystem::path& folder, const JobControl& job) {
    std::error_code code;
    std::filesystem::create_directories(folder, code);
    if (code)
        return badInput(folder.string(),
                        "cannot be created (" + code.message() + "); choose another folder");
    const DemoFiles files{folder / "heron-at-low-water.wav",
                          folder / "heron-at-low-water.truth.json",
                          folder / "heron-at-low-water.wirenote"};
    const Piece truth = standin::heronAtLowWater();
    standin::RenderOptions options;
    options.a4_hz = truth.take->reference.a4_hz;
    options.noise_db = -62.0;
    const auto sound = standin::renderPiece(truth, options, job);
    if (!sound)
        return sound.error();
    if (const Status written = writeWav(files.take, sound->view()); !written)
        return written.error();
    if (const Status written = writeAny(truth, files.truth); !written)
        return written.error();
    TranscribeOptions transcription;
    transcription.instrument = truth.instrument;
    auto piece = transcribe(files.take, transcription, job);
    if (!piece)
        return piece.error();
    piece->title = truth.title;
    piece->take->name = truth.take->name;
    piece->take->path = std::filesystem::absolute(files.take).string();
    if (const Status written = writeAny(*piece, files.piece); !written)
        return written.error();
    return files;
}

} // namespace wirenote
