// Sampled instruments that are not ours: the General MIDI bank TimGM6mb (Debian's
// timgm6mb-soundfont) played by FluidSynth, from MIDI files that formats/midi_write makes.
#include "session/files.h"
#include "session/transcribe.h"
#include "support/matching.h"
#include "support/pieces.h"
#include "support/recordings.h"
#include "support/scratch.h"

#include <gtest/gtest.h>

namespace wirenote {
namespace {

class Sampled : public ::testing::Test {
  protected:
    test::Scratch scratch;

    Piece hear(Piece& truth, InstrumentKind kind) {
        truth.instrument = standardInstrument(kind);
        const std::string midi = (scratch / "take.mid").string();
        const std::string wav = (scratch / "take.wav").string();
        EXPECT_TRUE(writeAny(truth, midi).ok());
        const auto played = test::shell("fluidsynth -ni -q -g 0.6 -R 0 -C 0 -r 44100 -F " + wav +
                                        " /usr/share/sounds/sf2/TimGM6mb.sf2 " + midi);
        EXPECT_EQ(played.status, 0) << played.output;
        TranscribeOptions options;
        options.instrument = truth.instrument;
        const auto heard = transcribe(wav, options, {});
        EXPECT_TRUE(heard.ok());
        return *heard;
    }
};

TEST_F(Sampled, ALineOnNylonStrings) {
    Piece truth = test::scalePiece(48);
    EXPECT_GE(test::noteF1(truth, hear(truth, InstrumentKind::Nylon)), 0.98);
}

TEST_F(Sampled, ALineOnABass) {
    std::vector<test::Row> rows;
    const int midis[] = {28, 35, 40, 38, 33, 40, 45, 43};
    for (int k = 0; k < 32; ++k)
        rows.push_back({0.4 + 0.3 * k, 0.68 + 0.3 * k, midis[k % 8]});
    Piece truth = test::pieceOf(rows);
    EXPECT_GE(test::noteF1(truth, hear(truth, InstrumentKind::Bass)), 0.95);
}

// Open chords picked one string after the other, ringing: C, A minor, F, G (common practice).
TEST_F(Sampled, PickedChordsOnSteelStrings) {
    const std::vector<std::vector<int>> grips{
        {48, 55, 60, 64}, {45, 57, 60, 64}, {53, 57, 60, 65}, {43, 55, 59, 67}};
    std::vector<test::Row> rows;
    for (int bar = 0; bar < 8; ++bar)
        for (int k = 0; k < 4; ++k)
            rows.push_back({0.4 + 1.2 * bar + 0.3 * k,
                            0.4 + 1.2 * (bar + 1) - 0.02,
                            grips[static_cast<std::size_t>(bar % 4)][static_cast<std::size_t>(k)]});
    Piece truth = test::pieceOf(rows);
    EXPECT_GE(test::noteF1(truth, hear(truth, InstrumentKind::Acoustic)), 0.93);
}

TEST_F(Sampled, StrumsDownAndUpOnACleanElectric) {
    const std::vector<std::vector<int>> grips{
        {48, 52, 55, 60, 64}, {45, 52, 57, 60, 64}, {50, 57, 62, 66}, {43, 47, 50, 55, 59, 67}};
    std::vector<test::Row> rows;
    for (int k = 0; k < 24; ++k) {
        const auto& grip = grips[static_cast<std::size_t>(k / 4 % 4)];
        for (std::size_t i = 0; i < grip.size(); ++i) {
            const std::size_t n = k % 2 == 0 ? i : grip.size() - 1 - i;
            const double at_s = 0.4 + 0.5 * k + 0.009 * static_cast<double>(i);
            rows.push_back({at_s, 0.88 + 0.5 * k, grip[n]});
        }
    }
    Piece truth = test::pieceOf(rows);
    const Piece heard = hear(truth, InstrumentKind::Guitar);
    EXPECT_GE(test::noteF1(truth, heard), 0.88);
    std::size_t right = 0;
    std::size_t all = 0;
    for (std::size_t i = 0; i < heard.notes.size(); ++i) {
        const auto stroke = static_cast<int>(std::lround((heard.notes[i].onset_s() - 0.42) / 0.5));
        right +=
            heard.asPlayed().plans[i].stroke.value == (stroke % 2 == 0 ? Stroke::Down : Stroke::Up)
                ? 1
                : 0;
        ++all;
    }
    EXPECT_GE(static_cast<double>(right), 0.85 * static_cast<double>(all))
        << "by the order of the strings";
}

} // namespace
} // namespace wirenote
