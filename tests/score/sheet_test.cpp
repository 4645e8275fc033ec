// What a sheet says: voices, beams, repeats, bars by number, barres and holds.
#include "score/beams.h"
#include "score/repeats.h"
#include "score/sheet.h"
#include "score/voices.h"
#include "support/pieces.h"

#include <gmock/gmock.h>

namespace wirenote {
namespace {

using ::testing::ElementsAre;

constexpr double kQuarter_s = 0.5;

// Quarters, four a bar, by their frets on string 1; −1 is a rest.
Piece quarters(const std::vector<std::vector<int>>& bars) {
    std::vector<test::Row> rows;
    double at = 0.0;
    for (const auto& bar : bars)
        for (const int fret : bar) {
            if (fret >= 0)
                rows.push_back({at, at + 0.48, 64 + fret, {1, fret}});
            at += kQuarter_s;
        }
    return test::pieceOf(rows);
}

std::string printed(const Piece& piece) {
    std::string text;
    for (const PrintedBar& bar : writeSheet(piece, {}, CountSchool::Numbers).bars) {
        text += bar.repeat_begins ? "|:" : "|";
        if (bar.ending_begins)
            text += std::to_string(bar.ending) + ".";
        text += bar.as_bar > 0 ? "=" + std::to_string(bar.as_bar) : std::to_string(bar.bar + 1);
        if (!bar.except.empty())
            text += " " + bar.except;
        text += bar.repeat_ends ? ":" + std::to_string(bar.times) : "";
    }
    return text;
}

const std::vector<int> kA = {0, 1, 3, 5};
const std::vector<int> kB = {5, 3, 1, 0};
const std::vector<int> kC = {3, 3, 1, 1};
const std::vector<int> kD = {8, 7, 5, 3};

struct RepeatCase {
    const char* name;
    std::vector<std::vector<int>> bars;
    SheetRepeats style;
    const char* printed;
};
void PrintTo(const RepeatCase& c, std::ostream* out) {
    *out << c.name;
}
class Repeats : public ::testing::TestWithParam<RepeatCase> {};
TEST_P(Repeats, ArePrintedOnce) {
    Piece piece = quarters(GetParam().bars);
    piece.sheet.repeats = GetParam().style;
    EXPECT_EQ(printed(piece), GetParam().printed);
}
INSTANTIATE_TEST_SUITE_P(
    Sheet,
    Repeats,
    ::testing::Values(
        RepeatCase{"written_out", {kA, kA}, SheetRepeats::WrittenOut, "|1|2"},
        RepeatCase{"two_bars", {kA, kB, kA, kB, kC}, SheetRepeats::Signs, "|:1|2:2|5"},
        RepeatCase{"one_bar_four_times", {kA, kA, kA, kA, kC}, SheetRepeats::Signs, "|:1:4|5"},
        RepeatCase{"one_bar_twice_is_not_worth_it", {kA, kA, kC}, SheetRepeats::Signs, "|1|2|3"},
        RepeatCase{
            "endings", {kA, kB, kC, kA, kA, kB, kC, kD}, SheetRepeats::Signs, "|:1|2|3|1.4:2|2.8"},
        RepeatCase{"nothing_comes_again", {kA, kB, kC}, SheetRepeats::Signs, "|1|2|3"},
        RepeatCase{"by_number", {kA, kB, kC, kA}, SheetRepeats::ByNumber, "|1|2|3|=1"},
        RepeatCase{"without_the_high_note",
                   {kA, kB, kC, {0, 1, 3, -1}},
                   SheetRepeats::ByNumber,
                   "|1|2|3|=1 without the high note"}),
    [](const auto& row) { return std::string(row.param.name); });

TEST(Sheet, ASectionIsNotPrintedOver) {
    Piece piece = quarters({kA, kB, kA, kB});
    piece.sheet.repeats = SheetRepeats::Signs;
    EXPECT_EQ(printed(piece), "|:1|2:2");
    piece.timeline.sections = {{"Chorus", {4.0, 8.0}}};
    EXPECT_EQ(printed(piece), "|1|2|3|4");
}

// Where a beam must end (common practice).
TEST(Sheet, BeamsFollowTheBeat) {
    const auto end = [](const char* metre, Rational from) {
        return beamEnd(*parseMetre(metre), from);
    };
    EXPECT_EQ(end("4/4", Rational(1, 2)), Rational(1));
    EXPECT_EQ(end("6/8", Rational(1)), Rational(3, 2));
    EXPECT_EQ(end("3/8", Rational(1, 2)), Rational(3, 2));
    EXPECT_EQ(end("7/8", Rational(0)), Rational(1));
    EXPECT_EQ(end("7/8", Rational(2)), Rational(7, 2)) << "the last group has three";
    EXPECT_EQ(end("5/8", Rational(1)), Rational(5, 2));
}

// A bass held under a tune is written as long as it sounds.
TEST(Sheet, ABassUnderATuneHasALengthOfItsOwn) {
    Piece piece = test::pieceOf({{0.0, 1.98, 45, {5, 0}},
                                 {0.0, 0.48, 64, {1, 0}},
                                 {0.5, 0.98, 67, {1, 3}},
                                 {1.0, 1.48, 64, {1, 0}},
                                 {1.5, 1.98, 67, {1, 3}}});
    piece.asPlayed().plans[0].stroke.value = Stroke::P;
    for (std::size_t i = 1; i < 5; ++i)
        piece.asPlayed().plans[i].stroke.value = Stroke::A;
    const Bar bar = writeScore(piece, WrittenVoices::AsNeeded).bars.front();
    ASSERT_EQ(bar.lower.size(), 1U);
    EXPECT_EQ(bar.lower[0].type, NoteType::Whole);
    EXPECT_EQ(bar.values.size(), 4U);
    EXPECT_TRUE(writeScore(piece).bars.front().lower.empty()) << "in one voice where that is asked";
    // A person says otherwise.
    piece.notes[0].voice = Voice::Upper;
    EXPECT_EQ(voicesOf(piece)[0].voice, Voice::Upper);
    EXPECT_EQ(voicesOf(piece)[0].probability, 1.0);
    // On a bass there is one.
    piece.notes[0].voice.reset();
    piece.instrument = standardInstrument(InstrumentKind::Bass);
    EXPECT_FALSE(needsTwoVoices(piece, quantise(piece), voicesOf(piece)));
}

TEST(Sheet, ABarreGoesAsFarAsItsFingerHolds) {
    Piece piece = test::pieceOf({{0.0, 0.98, 53, {4, 3}},
                                 {0.0, 0.98, 58, {3, 3}},
                                 {0.5, 0.98, 62, {2, 3}},
                                 {1.0, 1.48, 67, {1, 3}}});
    for (NotePlan& plan : piece.asPlayed().plans)
        plan.finger.value = Finger::Index;
    piece.asPlayed().plans[3].finger.value = Finger::Ring;
    const Sheet sheet = writeSheet(piece, {}, CountSchool::Numbers);
    ASSERT_EQ(sheet.barres.size(), 1U);
    EXPECT_EQ(sheet.barres[0].fret, 3);
    EXPECT_EQ(sheet.barres[0].thick, 4);
    EXPECT_GE(sheet.barres[0].to, Rational(1));
}

TEST(Sheet, FretsAreNamedAsPositionsAre) {
    EXPECT_EQ(roman(1), "I");
    EXPECT_EQ(roman(4), "IV");
    EXPECT_EQ(roman(9), "IX");
    EXPECT_EQ(roman(14), "XIV");
    EXPECT_EQ(roman(24), "XXIV");
}

} // namespace
} // namespace wirenote
