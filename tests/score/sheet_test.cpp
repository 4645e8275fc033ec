// What a sheet says: voices, beams, repeats, bars by number, barres and holds.
#include "score/bar_cells.h"
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

// Cells: what a bar says several times stands once, and how often (common practice).
struct CellCase {
    const char* name;
    std::vector<int> bar;
    int cells;
    int quarters; // that are printed
};
void PrintTo(const CellCase& c, std::ostream* out) {
    *out << c.name;
}
class Cells : public ::testing::TestWithParam<CellCase> {};
TEST_P(Cells, StandOnce) {
    Piece piece = test::pieceOf([] {
        std::vector<test::Row> rows;
        double at = 0.0;
        for (const int fret : GetParam().bar) { // eighths
            if (fret >= 0)
                rows.push_back({at, at + 0.24, 64 + fret, {1, fret}});
            at += kQuarter_s / 2.0;
        }
        return rows;
    }());
    Sheet sheet = writeSheet(piece, {}, CountSchool::Numbers);
    const Rational whole = sheet.score.bars[0].length;
    cutToCells(piece, sheet);
    EXPECT_EQ(sheet.bars[0].cells, GetParam().cells);
    EXPECT_EQ(sheet.bars[0].shown(sheet.score.bars[0]), Rational(GetParam().quarters));
    EXPECT_EQ(sheet.score.bars[0].length, whole) << "it lasts as long as before";
    Rational written = 0;
    for (const Value& value : sheet.score.bars[0].values)
        written += value.length;
    EXPECT_EQ(written, Rational(GetParam().quarters));
}
INSTANTIATE_TEST_SUITE_P(
    CommonPractice,
    Cells,
    ::testing::Values(CellCase{"four_times", {0, 3, 0, 3, 0, 3, 0, 3}, 4, 1},
                      CellCase{"twice", {0, 3, 5, 3, 0, 3, 5, 3}, 2, 2},
                      CellCase{"the_last_differs", {0, 3, 0, 3, 0, 3, 0, 5}, 1, 4},
                      CellCase{"a_rest_in_it", {0, 3, 5, -1, 0, 3, 5, -1}, 2, 2},
                      CellCase{"nothing_comes_again", {0, 1, 3, 5, 7, 5, 3, 1}, 1, 4}),
    [](const auto& row) { return std::string(row.param.name); });

TEST(Sheet, ACellIsNotCutWhereSomethingBeginsInIt) {
    Piece piece = test::pieceOf([] {
        std::vector<test::Row> rows;
        for (int k = 0; k < 8; ++k)
            rows.push_back(
                {0.25 * k, 0.25 * k + 0.24, k % 2 == 0 ? 64 : 67, {1, k % 2 == 0 ? 0 : 3}});
        return rows;
    }());
    const auto cells = [&piece](const std::vector<ChordSign>& chords) {
        Sheet sheet = writeSheet(piece, chords, CountSchool::Numbers);
        cutToCells(piece, sheet);
        return sheet.bars[0].cells;
    };
    EXPECT_EQ(cells({}), 4);
    ChordSign change;
    change.note = 4;
    change.name = "G";
    EXPECT_EQ(cells({change}), 1) << "the chord changes half-way";
    change.note = 0;
    EXPECT_EQ(cells({change}), 4);
    piece.marks = {{MarkKind::Dynamic, 1.0, 1.0, "p"}};
    EXPECT_EQ(cells({}), 1) << "it gets softer half-way";
    piece.marks = {{MarkKind::Dynamic, 0.0, 0.0, "p"}};
    EXPECT_EQ(cells({}), 4);
    piece.marks.clear();
    piece.notes[2].add(Technique::PullOff);
    piece.notes[4].add(Technique::PullOff);
    piece.notes[6].add(Technique::PullOff);
    EXPECT_EQ(cells({}), 1) << "each is pulled off from the one before";
}

TEST(Sheet, WhatIsMarkedOtherwiseIsNoRepeat) {
    Piece piece = quarters({kA, kB, kA, kB});
    piece.sheet.repeats = SheetRepeats::Signs;
    piece.marks = {{MarkKind::Dynamic, 0.0, 0.0, "f"}, {MarkKind::Dynamic, 4.0, 4.0, "p"}};
    EXPECT_EQ(printed(piece), "|1|2|3|4") << "an echo is softer";
    piece.marks[1].text = "f";
    EXPECT_EQ(printed(piece), "|:1|2:2");
    piece = quarters({kA, kB, kC, kA});
    piece.sheet.repeats = SheetRepeats::ByNumber;
    piece.marks = {{MarkKind::Dynamic, 6.0, 6.0, "p"}};
    EXPECT_EQ(printed(piece), "|1|2|3|4") << "\"as bar 1\" would not say it";
}

TEST(Sheet, MarksStandAtTheirNotesAndElsewhereOnSixteenths) {
    Piece piece = quarters({kA, kB});
    piece.notes[3].time.value.start_s += 0.02; // played a little late
    piece.marks = {{MarkKind::Words, 1.49, 1.49, "here"},
                   {MarkKind::Louder, 2.0, 3.5, {}},
                   {MarkKind::Segno, 2.74, 2.74, {}}};
    const Sheet sheet = writeSheet(piece, {}, CountSchool::Numbers);
    ASSERT_EQ(sheet.marks.size(), 3U);
    EXPECT_EQ(sheet.marks[0].from, Rational(3));
    EXPECT_EQ(sheet.marks[1].from, Rational(4));
    EXPECT_EQ(sheet.marks[1].to, Rational(7));
    EXPECT_EQ(sheet.marks[2].from, Rational(11, 2));
}

// Beats at a tempo of their own for each bar of four.
std::vector<std::string> tempiOver(const std::vector<double>& bpm) {
    std::vector<test::Row> rows;
    std::vector<double> beats_s;
    double at = 0.0;
    for (const double tempo : bpm)
        for (int k = 0; k < 4; ++k) {
            rows.push_back({at, at + 50.0 / tempo, 64 + k, {1, k}});
            beats_s.push_back(at);
            at += 60.0 / tempo;
        }
    beats_s.push_back(at);
    Piece piece = test::pieceOf(rows);
    piece.timeline.beats_s = beats_s;
    piece.timeline.tempo_bpm = bpm.front();
    std::vector<std::string> words;
    for (const WordSign& word : writeSheet(piece, {}, CountSchool::Numbers).tempi)
        words.push_back((word.at / Rational(4) + Rational(1)).toString() + " " + word.text);
    return words;
}

TEST(Sheet, SlowingDownIsSaidWhereverItIs) {
    EXPECT_THAT(tempiOver({120, 120, 121, 120, 110, 98}), ElementsAre("5 rit."));
    EXPECT_THAT(tempiOver({120, 120, 112, 98, 120, 120, 120, 120, 119}),
                ElementsAre("3 rit.", "5 a tempo"));
    EXPECT_THAT(tempiOver({120, 119, 121, 120, 118, 120}), ElementsAre());
    EXPECT_THAT(tempiOver({120, 120, 100, 120, 120, 120, 120}), ElementsAre())
        << "one long bar is no slowing down";
    EXPECT_THAT(tempiOver({120, 120, 120, 90, 90, 90, 90, 90}), ElementsAre("4 = 90"));
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
