// train_candidates TAKE.wav NOTES.json: each pitch that might begin at each attack of a take, with
// its evidence and whether it did, one line each: take, attack, midi, 0 or 1, evidence …
#include "hearing/hearing.h"
#include "media/decode.h"
#include "session/files.h"

#include <algorithm>
#include <cstdio>

namespace {

using namespace wirenote;
constexpr double kEarly_s = 0.03;
constexpr double kLate_s = 0.06;

// 1: begins there; 0: not; −1: so near to another attack that nobody can say.
int truthOf(const Piece& truth, const AttackCandidates& attack, int midi) {
    for (const Note& note : truth.notes) {
        if (static_cast<int>(std::lround(note.pitch.value)) != midi)
            continue;
        if (note.onset_s() > attack.onset_s - kEarly_s && note.onset_s() < attack.clear_s + kLate_s)
            return 1;
        if (note.onset_s() > attack.onset_s - 3.0 * kEarly_s &&
            note.onset_s() < attack.clear_s + 2.0 * kLate_s)
            return -1;
    }
    return 0;
}

} // namespace

int main(int argc, char** argv) {
    if (argc != 3)
        return 2;
    const auto truth = readAny(argv[2]);
    const auto decoded = decodeSound(argv[1], kAnalysisRateHz, {}, {});
    if (!truth || !decoded)
        return 3;
    const auto flux = spectralFlux(decoded->mono.view(), {}, {});
    PeakParameters peaks;
    peaks.threshold = HearingParameters{}.onset_threshold;
    const auto attacks = attackCandidates(
        decoded->mono.view(), truth->instrument, kStandardA4Hz, pickOnsets(*flux, peaks), {}, {});
    for (std::size_t i = 0; i < attacks->size(); ++i)
        for (const AttackPitch& c : (*attacks)[i].pitches) {
            const int begins = truthOf(*truth, (*attacks)[i], c.midi);
            if (begins < 0)
                continue;
            std::printf("%s,%zu,%d,%d", argv[1], i, c.midi, begins);
            for (const double v : c.evidence)
                std::printf(",%.4f", v);
            std::printf("\n");
        }
    return 0;
}
