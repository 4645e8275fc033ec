// train_pictures TAKE.wav NOTES.json OUT: what the network of hearing/attack_network sees of each
// attack of a take, and what was played: for each attack kPictureSpectra × kPictureRows bytes of
// level, kPictureFacts floats, and a byte for each pitch from MIDI 23 to 88 (bit 0: begins; bit 1:
// nobody can say whether it begins; bit 2: sounds a tenth of a second later; bit 3: it is slurred).
#include "hearing/attack_picture.h"
#include "hearing/chords.h"
#include "hearing/melody.h"
#include "media/decode.h"
#include "session/files.h"

#include <cmath>
#include <cstdio>
#include <fstream>

namespace {

using namespace wirenote;
constexpr double kEarly_s = 0.035;
constexpr double kLate_s = 0.06;
constexpr double kSoon_s = 0.1;
constexpr int kLowest = 23;
constexpr int kHighest = 88;

std::uint8_t truthOf(const Piece& truth, const AttackMoment& attack, int midi) {
    std::uint8_t bits = 0;
    for (const Note& note : truth.notes) {
        if (!note.pitched() || static_cast<int>(std::lround(note.pitch.value)) != midi)
            continue;
        const double onset_s = note.onset_s();
        const double late_s = std::min(kLate_s, 0.5 * (attack.next_s - attack.last_s));
        if (onset_s > attack.first_s - kEarly_s && onset_s < attack.last_s + late_s)
            bits |= note.slurred() ? 9U : 1U;
        else if (onset_s > attack.first_s - 2.5 * kEarly_s &&
                 onset_s < attack.last_s + 2.0 * late_s)
            bits |= 2U;
        const double at_s = attack.last_s + kSoon_s;
        if (onset_s < at_s - 0.02 && note.offset_s() > at_s)
            bits |= 4U;
    }
    return bits;
}

} // namespace

int main(int argc, char** argv) {
    if (argc != 4)
        return 2;
    const auto truth = readAny(argv[2]);
    const auto decoded = decodeSound(argv[1], kAnalysisRateHz, {}, {});
    if (!truth || !decoded) {
        std::fprintf(stderr, "%s\n", (!truth ? truth.error() : decoded.error()).message.c_str());
        return 3;
    }
    const SoundView sound = decoded->mono.view();
    const auto flux = spectralFlux(sound, {}, {});
    PeakParameters peaks;
    peaks.threshold = ChordParameters{}.least_attack;
    const auto moments =
        attackMoments(pickOnsets(*flux, peaks), ChordParameters{}.event_s, sound.length_s());
    AttackPictures pictures(sound);
    std::ofstream out(argv[3], std::ios::binary);
    for (const AttackMoment& moment : moments) {
        const AttackPicture picture = pictures.at(moment, kStandardA4Hz);
        for (const auto& spectrum : picture.levels)
            for (const float v : spectrum)
                out.put(static_cast<char>(std::lround(255.0F * v)));
        out.write(reinterpret_cast<const char*>(picture.facts.data()), sizeof(picture.facts));
        for (int midi = kLowest; midi <= kHighest; ++midi)
            out.put(static_cast<char>(truthOf(*truth, moment, midi)));
    }
    return out ? 0 : 4;
}
