#include "engraving/font_metrics.h"
#include "engraving/sheet_pages.h"
#include "score/bar_cells.h"
#include "score/beams.h"
#include "support/pieces.h"
#include "support/random_sheets.h"

#include <gtest/gtest.h>
#include <map>
#include <set>

namespace wirenote {
namespace {

constexpr unsigned kPieces = 1000;
constexpr double kTouch_mm = 0.05; // less than any printer draws

std::string described(const Ink& ink) {
    std::string text = "sign " + std::to_string(static_cast<int>(ink.sign));
    if (const auto* words = std::get_if<TextInk>(&ink.what))
        text += " \"" + words->text + "\"";
    return text + " [" + std::to_string(ink.box.left) + " " + std::to_string(ink.box.top) + " " +
           std::to_string(ink.box.right) + " " + std::to_string(ink.box.bottom) + "]";
}

// Of a slanted beam only what lies between two places counts.
Box between(const Ink& ink, double left, double right) {
    const auto* shape = std::get_if<ShapeInk>(&ink.what);
    if (ink.sign != Sign::Beam || !shape || shape->points.size() != 4)
        return ink.box;
    const auto& p = shape->points; // along one edge, and back along the other
    const auto at = [](const Point& a, const Point& b, double x) {
        return a.y + (b.y - a.y) * (x - a.x) / (b.x - a.x);
    };
    Box box{left, 1e9, right, -1e9};
    for (const double x : {left, right})
        for (const double y : {at(p[0], p[1], x), at(p[3], p[2], x)}) {
            box.top = std::min(box.top, y);
            box.bottom = std::max(box.bottom, y);
        }
    return box;
}

bool collide(const Ink& a, const Ink& b) {
    if (!overlap(a.box, b.box, kTouch_mm) || mayTouch(a, b))
        return false;
    const double left = std::max(a.box.left, b.box.left);
    const double right = std::min(a.box.right, b.box.right);
    return overlap(between(a, left, right), between(b, left, right), kTouch_mm);
}

std::string kindOf(const Ink& a, const Ink& b) {
    const auto [low, high] = std::minmax({static_cast<int>(a.sign), static_cast<int>(b.sign)});
    return "sign " + std::to_string(low) + " on sign " + std::to_string(high);
}

// Every pair of marks that lie on one another and must not.
std::vector<std::pair<std::string, std::string>> collisions(const SheetPage& page) {
    std::vector<const Ink*> by_left;
    for (const Ink& ink : page.ink)
        by_left.push_back(&ink);
    std::ranges::sort(by_left, {}, [](const Ink* ink) { return ink->box.left; });
    std::vector<std::pair<std::string, std::string>> found;
    for (std::size_t i = 0; i < by_left.size(); ++i)
        for (std::size_t k = i + 1;
             k < by_left.size() && by_left[k]->box.left < by_left[i]->box.right;
             ++k)
            if (collide(*by_left[i], *by_left[k]))
                found.emplace_back(kindOf(*by_left[i], *by_left[k]),
                                   described(*by_left[i]) + " on " + described(*by_left[k]));
    return found;
}

TEST(SheetPages, NoTwoSignsLieOnOneAnother) {
    std::map<std::string, std::pair<int, std::string>> wrong; // by kind: how often, one of them
    for (unsigned seed = 0; seed < kPieces; ++seed) {
        const Piece piece = test::randomSheetPiece(seed);
        Sheet sheet = writeSheet(piece, test::randomChords(piece, seed), CountSchool::Numbers);
        if (piece.sheet.repeats == SheetRepeats::Cells)
            cutToCells(piece, sheet);
        for (const SheetPage& page : layOutSheet(piece, sheet))
            for (const auto& [kind, what] : collisions(page)) {
                auto& [count, example] = wrong[kind];
                ++count;
                example = "piece " + std::to_string(seed) + ": " + what;
            }
    }
    for (const auto& [kind, found] : wrong)
        ADD_FAILURE() << kind << ", " << found.first << " times; " << found.second;
}

TEST(SheetPages, EverythingIsOnThePaper) {
    for (unsigned seed = 0; seed < kPieces; ++seed) {
        const Piece piece = test::randomSheetPiece(seed);
        for (const SheetPage& page :
             layOutSheet(piece, writeSheet(piece, {}, CountSchool::Numbers)))
            for (const Ink& ink : page.ink) {
                ASSERT_GE(ink.box.left, 2.0) << seed << " " << described(ink);
                ASSERT_LE(ink.box.right, page.width - 2.0) << seed << " " << described(ink);
                ASSERT_GE(ink.box.top, 2.0) << seed << " " << described(ink);
                ASSERT_LE(ink.box.bottom, page.height - 2.0) << seed << " " << described(ink);
            }
    }
}

// No bar has a wrong sum, and every note is written once, in one voice.
TEST(SheetPages, BarsAddUpInBothVoices) {
    for (unsigned seed = 0; seed < kPieces; ++seed) {
        const Piece piece = test::randomSheetPiece(seed);
        const Score score = writeScore(piece, WrittenVoices::AsNeeded);
        std::vector<int> written(piece.notes.size(), 0);
        for (const Bar& bar : score.bars)
            for (const auto* values : {&bar.values, &bar.lower}) {
                if (values->empty())
                    continue;
                Rational at = 0;
                for (const Value& value : *values) {
                    ASSERT_EQ(value.start, at) << seed << " bar " << bar.number;
                    at += value.length;
                    for (const std::size_t i : value.notes)
                        written[i] += value.tied_from_before ? 0 : 1;
                    for (const std::size_t i : value.graces)
                        ++written[i];
                }
                EXPECT_EQ(at, bar.length) << seed << " bar " << bar.number;
            }
        for (std::size_t i = 0; i < written.size(); ++i)
            ASSERT_EQ(written[i], 1) << seed << " note " << i;
    }
}

// A beam holds notes of one beat (of a group of quavers in metres like 7/8).
TEST(SheetPages, NoBeamCrossesItsBeat) {
    for (unsigned seed = 0; seed < kPieces; ++seed) {
        const Piece piece = test::randomSheetPiece(seed);
        for (const Bar& bar : writeScore(piece, WrittenVoices::AsNeeded).bars)
            for (const auto* values : {&bar.values, &bar.lower}) {
                std::map<int, Rational> ends;
                const Rational missing = bar.metre.barLength() - bar.length;
                for (const Value& value : *values) {
                    if (value.beam == 0)
                        continue;
                    ASSERT_FALSE(value.rest());
                    ASSERT_GE(value.type, NoteType::Eighth);
                    const auto [end, first] =
                        ends.emplace(value.beam, beamEnd(bar.metre, missing + value.start));
                    EXPECT_LT(missing + value.start, end->second) << seed << " " << bar.number;
                }
            }
    }
}

// Every number that is to be played is on paper, on the line of its string.
TEST(SheetPages, EveryFretStandsOnItsString) {
    for (unsigned seed = 0; seed < kPieces; seed += 7) {
        Piece piece = test::randomSheetPiece(seed);
        piece.sheet.repeats = SheetRepeats::WrittenOut;
        std::map<NoteId, int> seen;
        for (const SheetPage& page :
             layOutSheet(piece, writeSheet(piece, {}, CountSchool::Numbers)))
            for (const Ink& ink : page.ink) {
                if (ink.sign != Sign::Number && ink.sign != Sign::GraceNumber)
                    continue;
                const double middle = (ink.box.top + ink.box.bottom) / 2.0;
                const auto system = std::ranges::find_if(page.systems, [&](const SystemPlace& s) {
                    return middle > s.box.top && middle < s.box.bottom;
                });
                ASSERT_NE(system, page.systems.end());
                const int string = piece.plan(ink.note)->position.value.string;
                EXPECT_NEAR(middle, system->staff_top + (string - 1) * system->line_gap, 0.6);
                ++seen[ink.note];
            }
        for (const NotePlan& plan : piece.asPlayed().plans)
            EXPECT_EQ(seen.contains(plan.note), plan.placed()) << seed;
    }
}

// A capo at 3, and strings a tone lower: what the hand takes and what sounds (common practice).
TEST(SheetPages, TheHeadNamesShapesAndWhatTheySoundAs) {
    const auto head = [](const Piece& piece) {
        std::string text;
        const auto pages = layOutSheet(piece, writeSheet(piece, {}, CountSchool::Numbers));
        for (const Ink& ink : pages.front().ink)
            if (ink.sign == Sign::Head2) {
                if (const auto* words = std::get_if<TextInk>(&ink.what))
                    text += words->text;
                else
                    text += "*"; // an accidental
            }
        return text;
    };
    Piece piece = test::scalePiece(8);
    piece.key.fifths = -3; // E flat
    piece.instrument.capo = 3;
    EXPECT_NE(head(piece).find("shapes of C sound as E*"), std::string::npos) << head(piece);
    piece.instrument.capo = 0;
    EXPECT_EQ(head(piece).find("shapes"), std::string::npos);
    EXPECT_NE(head(piece).find("E* major or C minor"), std::string::npos) << head(piece);
    for (StringSpec& string : piece.instrument.strings)
        string.open_midi -= 2;
    piece.key.fifths = 0; // sounding C
    EXPECT_NE(head(piece).find("shapes of D sound as C"), std::string::npos) << head(piece);
    piece.instrument.strings.back().open_midi -= 2; // not all alike: no shapes to name
    EXPECT_EQ(head(piece).find("shapes"), std::string::npos);
}

// All words of a page, line by line.
std::vector<std::string> wordsOf(const Piece& piece) {
    std::vector<std::string> words;
    for (const SheetPage& page : layOutSheet(piece, writeSheet(piece, {}, CountSchool::Numbers)))
        for (const Ink& ink : page.ink)
            if (const auto* text = std::get_if<TextInk>(&ink.what))
                words.push_back(text->text);
    return words;
}

bool says(const std::vector<std::string>& words, const std::string& part) {
    return std::ranges::any_of(
        words, [&part](const std::string& line) { return line.find(part) != std::string::npos; });
}

TEST(SheetPages, TheHeadSaysHowExactItIs) {
    Piece piece = test::scalePiece(16);
    EXPECT_TRUE(says(wordsOf(piece), "The essence: 16 open doubts."));
    piece.asPlayed().head.claim = Exactness::NoteForNote;
    EXPECT_FALSE(says(wordsOf(piece), "Note for note")) << "not while something stands against it";
    piece.asPlayed().head.statement = "Adapted: 2 notes left out";
    EXPECT_TRUE(says(wordsOf(piece), "Adapted: 2 notes left out."));
    piece.sheet.exactness = false;
    EXPECT_FALSE(says(wordsOf(piece), "Adapted"));
    Piece empty = test::pieceOf({});
    EXPECT_FALSE(says(wordsOf(empty), "essence")) << "of nothing nothing is said";
}

TEST(SheetPages, TheFootSaysWhatMayBeLeftOutAndWhatMustLand) {
    Piece piece = test::scalePiece(16); // eighths at 120
    EXPECT_FALSE(says(wordsOf(piece), "May be left out"));
    piece.notes[3].need = {Necessity::MayGo, 96.0, "only the second time"};
    piece.notes[9].need = {Necessity::MayGo, 0.0, ""};
    piece.notes[8].need = {Necessity::MustLand, 0.0, ""};
    EXPECT_TRUE(says(wordsOf(piece),
                     "May be left out: bar 1, beat 2.5 (from 96 beats a minute on, only the second "
                     "time); bar 2, beat 1.5."));
    EXPECT_TRUE(says(wordsOf(piece), "Must land: bar 2, beat 1."));
}

} // namespace
} // namespace wirenote
