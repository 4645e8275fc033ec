// What was heard of strings, and what they are made of, through the files and back.
#include "formats/calibration_json.h"
#include "formats/instrument_json.h"
#include "formats/piece_json.h"
#include "formats/words.h"
#include "support/performances.h"

#include <gmock/gmock.h>

namespace wirenote {
namespace {

using ::testing::HasSubstr;

constexpr auto at(ToneFigure figure) {
    return static_cast<std::size_t>(figure);
}

// The first `from` in the text becomes `to`.
std::string with(std::string text, const std::string& from, const std::string& to) {
    const auto place = text.find(from);
    EXPECT_NE(place, std::string::npos) << from;
    return place == std::string::npos ? text : text.replace(place, from.size(), to);
}

Piece tonedPiece() {
    Piece piece = test::richPiece();
    Note& note = piece.notes.front();
    note.ownSound().stiffness = {-9.5, 0.04, true};
    note.ownSound().tone[at(ToneFigure::DecayLow)] = {2.1234, 0.05};
    note.ownSound().tone[at(ToneFigure::Comb)] = {-1.25, 0.02};
    note.ownSound().squeak_before = true;
    piece.string_traits.assign(piece.instrument.strings.size(), {0.125, 0.25, Basis::Heard, {}});
    piece.string_traits[1].tone[at(ToneFigure::DecayHigh)] = {3.5, 0.875, 0.125, -0.0625};
    piece.string_traits[1].tone[at(ToneFigure::Tilt)] = {-6.5, -1.25, 0.75, 0.0};
    return piece;
}

TEST(PieceJson, KeepsTheToneOfNotesAndStrings) {
    const Piece piece = tonedPiece();
    const auto read = readPieceJson(writePieceJson(piece));
    ASSERT_TRUE(read.ok()) << read.error().message;
    EXPECT_EQ(read->notes.front().heard().tone, piece.notes.front().heard().tone);
    EXPECT_EQ(read->notes.front().heard().stiffness, piece.notes.front().heard().stiffness);
    EXPECT_TRUE(read->notes.front().heard().squeak_before);
    EXPECT_FALSE(read->notes.back().heard().squeak_before);
    EXPECT_EQ(read->string_traits, piece.string_traits);
}

TEST(PieceJson, APieceWithoutToneIsAsBefore) {
    Piece piece = tonedPiece();
    for (Note& note : piece.notes) {
        note.ownSound().tone = {};
        note.ownSound().squeak_before = false;
    }
    piece.string_traits.clear();
    const std::string text = writePieceJson(piece);
    EXPECT_EQ(text.find("\"tone\""), std::string::npos);
    EXPECT_EQ(text.find("squeak"), std::string::npos);
    const auto read = readPieceJson(text);
    ASSERT_TRUE(read.ok());
    EXPECT_FALSE(read->notes.front().heard().tone[at(ToneFigure::Comb)].told());
}

TEST(PieceJson, HostileToneIsRefusedWhereItStands) {
    const std::string text = writePieceJson(tonedPiece());
    const auto problem = [](const std::string& changed) {
        const auto read = readPieceJson(changed);
        EXPECT_FALSE(read.ok());
        return read ? std::string() : read.error().message;
    };
    EXPECT_THAT(problem(with(text, "2.1234", "\"much\"")), HasSubstr("tone.decay_low"));
    EXPECT_THAT(problem(with(text, "2.1234", "1e99")), HasSubstr("out of range"));
    EXPECT_THAT(problem(with(text, "0.875", "[]")), HasSubstr("string_traits.tone.decay_high"));
}

TEST(CalibrationJson, KeepsTheLossesOfStrings) {
    Calibration calibration{standardInstrument(InstrumentKind::Bass), {}, {}};
    calibration.traits.assign(4, {0.5, 0.25, Basis::Set, {}});
    calibration.octave_cents.assign(4, 1.5);
    calibration.traits[2].tone[at(ToneFigure::DecayLow)] = {1.75, 0.375, 0.125, 0.0};
    const auto read = readCalibrationJson(writeCalibrationJson(calibration));
    ASSERT_TRUE(read.ok()) << read.error().message;
    EXPECT_EQ(read->traits, calibration.traits);
    EXPECT_FALSE(readCalibrationJson(with(writeCalibrationJson(calibration), "1.75", "null")).ok());
}

TEST(InstrumentJson, KeepsWhatAStringIsMadeOf) {
    Piece piece = test::richPiece();
    piece.instrument.strings[0].build = StringBuild{4.5e-4, 2.625e-4, 195e9};
    piece.instrument.strings[5].material = StringMaterial::WoundBronze;
    for (StringSpec& s : piece.instrument.strings)
        s.gauge_mm = std::round(s.gauge_mm * 1e4) / 1e4;
    const auto read = readPieceJson(writePieceJson(piece));
    ASSERT_TRUE(read.ok()) << read.error().message;
    ASSERT_TRUE(read->instrument.strings[0].build.has_value());
    EXPECT_DOUBLE_EQ(read->instrument.strings[0].build->linear_density_kg_m, 4.5e-4);
    EXPECT_NEAR(read->instrument.strings[0].build->core_diameter_m, 2.625e-4, 1e-12);
    EXPECT_NEAR(read->instrument.strings[0].build->young_modulus_pa, 195e9, 1.0);
    EXPECT_FALSE(read->instrument.strings[1].build.has_value());
    EXPECT_EQ(read->instrument.strings[5].material, StringMaterial::WoundBronze);
    for (const char* wrong : {R"({"kind":"bass","strings":[{"unit_mass_kg_m":-1},{},{},{}]})",
                              R"({"kind":"bass","strings":[{"material":"gut"},{},{},{}]})"})
        EXPECT_FALSE(readInstrumentJson(wrong).ok()) << wrong;
}

// Every reason has a word of its own, both ways.
TEST(Words, OfReasonsGoBothWays) {
    std::set<std::string> words;
    for (int k = 0; k <= static_cast<int>(ReasonKind::NothingFits); ++k) {
        const auto kind = static_cast<ReasonKind>(k);
        const std::string word(wordFor(kind));
        EXPECT_FALSE(word.empty()) << k;
        EXPECT_TRUE(words.insert(word).second) << word << " comes twice";
        EXPECT_EQ(reasonFrom(word), kind) << word;
    }
    EXPECT_FALSE(reasonFrom("because").has_value());
}

} // namespace
} // namespace wirenote
