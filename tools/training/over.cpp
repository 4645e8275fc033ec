// Prints what tells a voice from a string about each note of a transcription: onset, pitch, figures.
//   train_over SOUND KIND
#include "hearing/voice_notes.h"
#include "media/decode.h"
#include "session/transcribe.h"

#include <cstdio>

int main(int argc, char** argv) {
    using namespace wirenote;
    if (argc != 3)
        return 2;
    TranscribeOptions options;
    const auto kind = parseInstrumentName(argv[2]);
    options.instrument = standardInstrument(kind ? *kind : InstrumentKind::Guitar);
    const auto piece = hearRecording(argv[1], options, {});
    const auto sound = decodeSound(argv[1], kAnalysisRateHz, {}, {});
    if (!piece || !sound)
        return 1;
    const auto frames = talkFrames(sound->mono.view(), {});
    if (!frames)
        return 1;
    const auto figures = voiceFigures(
        sound->mono.view(), piece->lead()->reference.a4_hz, *frames, piece->notes);
    for (std::size_t i = 0; i < figures.size(); ++i) {
        std::printf("%.4f %d", piece->notes[i].onset_s(), piece->notes[i].midi());
        for (const float f : figures[i])
            std::printf(" %.5g", static_cast<double>(f));
        std::printf("\n");
    }
    return 0;
}
