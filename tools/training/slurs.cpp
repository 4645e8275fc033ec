// train_slurs TAKE.wav NOTES.json: for each note of a line that may be slurred to the one before
// it, a line with 1 (it is) or 0 and its SlurFigures.
#include "hearing/slurs.h"
#include "hearing/hearing.h"
#include "hearing/line_beliefs.h"
#include "media/decode.h"
#include "session/files.h"

#include <cmath>
#include <cstdio>

namespace {

using namespace wirenote;
constexpr double kNear_s = 0.06;

// The note that was played there.
const Note* played(const Piece& truth, const Note& heard) {
    const Note* nearest = nullptr;
    for (const Note& note : truth.notes)
        if (std::abs(note.onset_s() - heard.onset_s()) < kNear_s &&
            std::abs(note.pitch.value - heard.pitch.value) < 0.6 &&
            (!nearest || std::abs(note.onset_s() - heard.onset_s()) <
                             std::abs(nearest->onset_s() - heard.onset_s())))
            nearest = &note;
    return nearest;
}

} // namespace

int main(int argc, char** argv) {
    if (argc != 3)
        return 2;
    const auto truth = readAny(argv[2]);
    const auto decoded = decodeSound(argv[1], kAnalysisRateHz, {}, {});
    if (!truth || !decoded) {
        std::fprintf(stderr, "%s\n", (!truth ? truth.error() : decoded.error()).message.c_str());
        return 3;
    }
    const SoundView sound = decoded->mono.view();
    auto heard = hearMelody(sound, truth->instrument, {}, {}, {});
    if (!heard)
        return 4;
    PeakParameters peaks;
    peaks.threshold = ChordParameters{}.least_attack;
    const auto onsets = pickOnsets(heard->flux, peaks);
    tellSlurs(believeLine(sound, heard->tuning, onsets, heard->notes), heard->notes);
    const SlurEar ear(sound, heard->notes, truth->instrument.isBass());
    for (std::size_t i = 1; i < heard->notes.size(); ++i) {
        const Note* note = played(*truth, heard->notes[i]);
        if (!note || !mayBeSlurred(heard->notes[i], heard->notes[i - 1]))
            continue;
        std::printf("%d", note->slurred() ? 1 : 0);
        for (const double figure : ear.at(i))
            std::printf(" %.5f", figure);
        std::printf("\n");
    }
    return 0;
}
