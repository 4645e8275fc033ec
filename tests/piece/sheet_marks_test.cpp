// Dynamics, fermatas and words beside the notes: what is typed, kept, undone and refused.
#include "base/text.h"
#include "piece/delta.h"
#include "piece/edits.h"
#include "support/pieces.h"

#include <gmock/gmock.h>

namespace wirenote {
namespace {

using ::testing::HasSubstr;

constexpr const char* kWhen = "2026-01-01T00:00:00Z";

struct TypedCase {
    const char* text;
    MarkKind kind;
    const char* told;
};
void PrintTo(const TypedCase& c, std::ostream* out) {
    *out << c.text;
}
class TypedMarks : public ::testing::TestWithParam<TypedCase> {};
TEST_P(TypedMarks, AreWhatPlayersMean) {
    const auto mark = markFromText(GetParam().text, 1.0, 3.0);
    ASSERT_TRUE(mark.ok()) << mark.error().message;
    EXPECT_EQ(mark->kind, GetParam().kind);
    EXPECT_EQ(markText(*mark), GetParam().told);
    EXPECT_DOUBLE_EQ(mark->at_s, 1.0);
    EXPECT_DOUBLE_EQ(mark->to_s, goesOn(mark->kind) ? 3.0 : 1.0);
    EXPECT_TRUE(soundMarks({*mark}, 10.0));
}
// Common practice.
INSTANTIATE_TEST_SUITE_P(CommonPractice,
                         TypedMarks,
                         ::testing::Values(TypedCase{"p", MarkKind::Dynamic, "p"},
                                           TypedCase{"mf", MarkKind::Dynamic, "mf"},
                                           TypedCase{"sfz", MarkKind::Dynamic, "sfz"},
                                           TypedCase{"<", MarkKind::Louder, "louder"},
                                           TypedCase{"cresc.", MarkKind::Louder, "louder"},
                                           TypedCase{">", MarkKind::Softer, "softer"},
                                           TypedCase{"dim.", MarkKind::Softer, "softer"},
                                           TypedCase{"decresc.", MarkKind::Softer, "softer"},
                                           TypedCase{"fermata", MarkKind::Fermata, "fermata"},
                                           TypedCase{"segno", MarkKind::Segno, "segno"},
                                           TypedCase{"coda", MarkKind::Coda, "coda"},
                                           TypedCase{
                                               "D.C. al Fine", MarkKind::Words, "D.C. al Fine"},
                                           TypedCase{"pm", MarkKind::Words, "pm"},
                                           TypedCase{"mfp", MarkKind::Words, "mfp"}));

TEST(SheetMarks, ThatGoOnNeedAStretch) {
    const auto refused = markFromText("<", 2.0, 2.0);
    ASSERT_FALSE(refused.ok());
    EXPECT_THAT(refused.error().message, HasSubstr("; choose the notes"));
    EXPECT_FALSE(markFromText("", 1.0, 1.0).ok());
    EXPECT_FALSE(markFromText(std::string(kLongestName + 1, 'a'), 1.0, 1.0).ok());
    EXPECT_FALSE(markFromText("a\x01z", 1.0, 1.0).ok()) << "no format can hold it";
}

TEST(SheetMarks, OneOfAKindStandsAtAPlace) {
    Piece piece = test::scalePiece(8);
    PieceEditor editor(piece, kWhen);
    ASSERT_TRUE(editor.putMark({MarkKind::Dynamic, 1.0, 1.0, "p"}).ok());
    ASSERT_TRUE(editor.putMark({MarkKind::Fermata, 1.0, 1.0, {}}).ok());
    ASSERT_TRUE(editor.putMark({MarkKind::Dynamic, 0.2, 0.2, "f"}).ok());
    ASSERT_TRUE(editor.putMark({MarkKind::Dynamic, 1.01, 1.01, "mf"}).ok());
    ASSERT_EQ(piece.marks.size(), 3U);
    EXPECT_EQ(piece.marks[0].text, "f");
    EXPECT_EQ(piece.marks[1].kind, MarkKind::Fermata) << "another kind stays";
    EXPECT_EQ(piece.marks[2].text, "mf");
    EXPECT_EQ(piece.log.back().what, "on the sheet: mf");
    ASSERT_TRUE(editor.clearMarks({0.9, 1.1}).ok());
    ASSERT_EQ(piece.marks.size(), 1U);
    EXPECT_THAT(editor.clearMarks({0.9, 1.1}).error().message, HasSubstr("; choose the note"));
    EXPECT_FALSE(editor.putMark({MarkKind::Dynamic, 1.0, 1.0, "loud"}).ok());
    EXPECT_FALSE(editor.putMark({MarkKind::Words, -1.0, -1.0, "before"}).ok());
    EXPECT_FALSE(editor.putMark({MarkKind::Louder, 2.0, 1.0, {}}).ok());
}

Piece marked() {
    Piece piece = test::scalePiece(8);
    piece.marks = {{MarkKind::Dynamic, 0.0, 0.0, "pp"},
                   {MarkKind::Louder, 0.5, 1.5, {}},
                   {MarkKind::Segno, 0.75, 0.75, {}},
                   {MarkKind::Words, 1.0, 1.0, "to the sign"},
                   {MarkKind::Fermata, 2.0, 2.0, {}}};
    return piece;
}

TEST(SheetMarks, AreUndone) {
    const Piece before = test::scalePiece(8);
    Piece after = before;
    after.marks = marked().marks;
    const PieceDelta delta = difference(before, after);
    EXPECT_TRUE(changesOf(delta).timeline) << "the sheet listens for it";
    Piece piece = before;
    apply(delta, piece);
    EXPECT_EQ(piece.marks, after.marks);
    revert(delta, piece);
    EXPECT_TRUE(piece.marks.empty());
}

struct BadMarks {
    const char* name;
    std::vector<SheetMark> marks;
};
void PrintTo(const BadMarks& c, std::ostream* out) {
    *out << c.name;
}
class BadSheetMarks : public ::testing::TestWithParam<BadMarks> {};
TEST_P(BadSheetMarks, AreRefused) {
    Piece piece = test::scalePiece(8);
    piece.marks = GetParam().marks;
    const Status checked = checkPiece(piece);
    ASSERT_FALSE(checked.ok());
    EXPECT_THAT(checked.error().message, HasSubstr("marks of its sheet"));
}
INSTANTIATE_TEST_SUITE_P(
    Pieces,
    BadSheetMarks,
    ::testing::Values(
        BadMarks{"not in order", {{MarkKind::Segno, 2.0, 2.0, {}}, {MarkKind::Coda, 1.0, 1.0, {}}}},
        BadMarks{"a level that nobody knows", {{MarkKind::Dynamic, 1.0, 1.0, "x"}}},
        BadMarks{"words that say nothing", {{MarkKind::Words, 1.0, 1.0, {}}}},
        BadMarks{"a sign with words", {{MarkKind::Coda, 1.0, 1.0, "coda"}}},
        BadMarks{"louder over nothing", {{MarkKind::Louder, 1.0, 1.0, {}}}},
        BadMarks{"a sign that lasts", {{MarkKind::Segno, 1.0, 2.0, {}}}},
        BadMarks{"before the piece", {{MarkKind::Segno, -1.0, -1.0, {}}}},
        BadMarks{"after a day", {{MarkKind::Louder, 1.0, 2.0 * kLongestPiece_s, {}}}}));

} // namespace
} // namespace wirenote
