// A calibration take by the simulated instrument, whose strings are known.
#include "session/calibrate.h"

#include "formats/calibration_json.h"

#include "base/atomic_file.h"
#include "media/sound_file.h"
#include "sounding/render.h"
#include "support/pieces.h"
#include "support/scratch.h"
#include "support/shell.h"

#include <gmock/gmock.h>

namespace wirenote {
namespace {

using ::testing::HasSubstr;

class CalibrationTake : public ::testing::Test {
  protected:
    test::Scratch scratch;
    // Each open string, then its 12th fret; `wrong` is played on a neighbour instead.
    std::string played(const Instrument& instrument, int wrong = 0, int left_out = 0) {
        std::vector<test::Row> rows;
        double at_s = 0.5;
        for (int s = instrument.stringCount(); s >= 1; --s)
            for (const int fret : {0, 12}) {
                if (s == left_out && fret == 0)
                    continue;
                Position place{s, fret};
                if (s == wrong)
                    place = {s + 1, instrument.fretFor(s + 1, instrument.midiAt(place))};
                rows.push_back({at_s, at_s + 1.4, instrument.midiAt(place), place});
                at_s += 1.8;
            }
        Piece piece = test::pieceOf(rows);
        piece.instrument = instrument;
        RenderOptions options;
        options.noise_db = -70.0;
        const auto sound = renderPiece(piece, options, {});
        EXPECT_TRUE(writeWav(scratch / "strings.wav", sound->view()).ok());
        return (scratch / "strings.wav").string();
    }
};

TEST_F(CalibrationTake, TellsWhatEveryStringIsLike) {
    for (const auto kind :
         {InstrumentKind::Guitar, InstrumentKind::Acoustic, InstrumentKind::Bass}) {
        const Instrument instrument = standardInstrument(kind);
        const auto calibration = calibrate(played(instrument), instrument, {});
        ASSERT_TRUE(calibration.ok()) << calibration.error().message;
        for (std::size_t i = 0; i < instrument.strings.size(); ++i) {
            const StringTrait& trait = calibration->traits[i];
            EXPECT_EQ(trait.basis, Basis::Set) << i;
            EXPECT_NEAR(trait.log_factor, 0.0, 0.15) << "the stand-in's strings are as stated";
            EXPECT_LT(trait.sd, 0.3);
            EXPECT_NEAR(calibration->octave_cents[i], 0.0, 3.0);
        }
    }
}

TEST_F(CalibrationTake, AStringThatIsLeftOutIsNamed) {
    const Instrument instrument = standardInstrument(InstrumentKind::Guitar);
    const auto calibration = calibrate(played(instrument, 0, 3), instrument, {});
    ASSERT_FALSE(calibration.ok());
    EXPECT_THAT(calibration.error().message, HasSubstr("open string 3 (G3)"));
}

TEST_F(CalibrationTake, AStringPlayedOnItsNeighbourIsNotTakenForItself) {
    const Instrument instrument = standardInstrument(InstrumentKind::Guitar);
    const auto calibration = calibrate(played(instrument, 1), instrument, {});
    if (calibration.ok())
        EXPECT_EQ(calibration->traits[0].basis, Basis::Reasoned) << "left to be learned";
    else
        EXPECT_THAT(calibration.error().message, HasSubstr("string 1"));
}

TEST_F(CalibrationTake, IsWrittenReadAndUsedByTheCommandLine) {
    const std::string cli = WIRENOTE_BIN_DIR "/wirenote-cli ";
    const std::string take = played(standardInstrument(InstrumentKind::Guitar));
    const std::string out = (scratch / "cal.json").string();
    const auto made = test::shell(cli + "calibrate " + take + " --instrument guitar --out " + out);
    ASSERT_EQ(made.status, 0) << made.output;
    const auto text = readWholeFile(out, 100000);
    const auto calibration = readCalibrationJson(*text);
    ASSERT_TRUE(calibration.ok());
    EXPECT_EQ(writeCalibrationJson(*calibration), *text) << "nothing is lost on the way";
    const std::string notes = (scratch / "n.json").string();
    EXPECT_EQ(test::shell(cli + "transcribe " + take + " --calibration " + out + " --out " + notes)
                  .status,
              0);
    const auto bass = test::shell(cli + "transcribe " + take + " --instrument bass --calibration " +
                                  out + " --out " + notes);
    EXPECT_EQ(bass.status, 3);
    EXPECT_THAT(bass.output, HasSubstr("another number of strings"));
}

TEST(CalibrationJson, WhatIsNotOneIsRefused) {
    EXPECT_FALSE(readCalibrationJson("{}").ok());
    EXPECT_FALSE(readCalibrationJson("not json").ok());
    EXPECT_THAT(
        readCalibrationJson(R"({"format":"wirenote-calibration/1","strings":[]})").error().message,
        HasSubstr("instrument"));
    EXPECT_THAT(
        readCalibrationJson(
            R"({"format":"wirenote-calibration/1","instrument":{"kind":"bass"},"strings":[{"number":1,"log_factor":0}]})")
            .error()
            .message,
        HasSubstr("not as many"));
    EXPECT_THAT(
        readCalibrationJson(
            R"({"format":"wirenote-calibration/1","instrument":{"kind":"bass"},"strings":[{"log_factor":99},{},{},{}]})")
            .error()
            .message,
        HasSubstr("out of range"));
}

} // namespace
} // namespace wirenote
