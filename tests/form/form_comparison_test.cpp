// Another version of an invented piece: bars left out, once more, otherwise, in another key.
#include "form/form_comparison.h"

#include "form/demonstrations.h"
#include "form/versions.h"
#include "support/shown_piece.h"

#include <gmock/gmock.h>

namespace wirenote {
namespace {

using test::barsRows;
using test::kBar_s;
using test::Recorded;
using test::Row;

constexpr int kBars = 16;

// What a version plays one after the other; first bar of the piece, count, semitones higher.
struct Part {
    int first;
    int count;
    int raised = 0;
};

// The piece and a version of it without a breath, somewhat slower.
Piece versionOf(const std::vector<Part>& parts, double tempo = 0.9) {
    Recorded lead;
    lead.play(barsRows(0, kBars, 1.0));
    std::vector<Row> rows;
    double at_s = 0.5;
    for (const Part& part : parts) {
        for (Row row : barsRows(part.first, part.count, at_s, tempo)) {
            row.midi += part.raised;
            rows.push_back(row);
        }
        at_s += part.count * kBar_s / tempo;
    }
    Recorded other;
    other.play(rows);
    Piece piece = lead.lead();
    piece.takes.push_back(other.other());
    const auto found = demonstrationsOf(piece);
    for (std::size_t i = 0; i < piece.takes.size(); ++i)
        piece.takes[i].demonstrations = found[i];
    return piece;
}

MATCHER_P3(Is, kind, first, count, "") {
    const double from_s = 1.0 + first * kBar_s;
    return arg.kind == kind && std::abs(arg.of_piece.start_s - from_s) < 0.6 &&
           std::abs(arg.of_piece.end_s - from_s - count * kBar_s) < 0.6;
}
using ::testing::ElementsAre;
using ::testing::IsEmpty;

TEST(FormComparison, TheSameFormHasNoDifferences) {
    const FormComparison same = compareForms(versionOf({{0, kBars}}), 1);
    EXPECT_EQ(same.ties.size(), 1U);
    EXPECT_THAT(same.differences, IsEmpty());
}

TEST(FormComparison, AnIntroLessAVerseMoreAndAnotherEnd) {
    // Bars from 40 on are not of the piece.
    const FormComparison forms = compareForms(versionOf({{4, 4}, {4, 4}, {8, 6}, {40, 3}}), 1);
    using enum FormDifferenceKind;
    ASSERT_THAT(forms.differences,
                ElementsAre(Is(Lacks, 0, 4), Is(Again, 4, 4), Is(Instead, 14, 2)));
    EXPECT_TRUE(forms.differences[0].at_start);
    EXPECT_TRUE(forms.differences[2].at_end);
    EXPECT_NEAR(forms.differences[2].in_take.length_s(), 3 * kBar_s / 0.9, 0.6);
}

TEST(FormComparison, APassageInAnotherKey) {
    for (const int raised : {2, -1, 5}) {
        const FormComparison forms = compareForms(versionOf({{0, 8}, {8, 4, raised}, {12, 4}}), 1);
        ASSERT_THAT(forms.differences, ElementsAre(Is(FormDifferenceKind::OtherKey, 8, 4)))
            << raised;
        EXPECT_EQ(forms.differences[0].semitones, raised);
    }
}

TEST(FormComparison, AllInAnotherKeyIsNoDifferenceOfForm) {
    const FormComparison forms = compareForms(versionOf({{0, kBars, 3}}), 1);
    ASSERT_EQ(forms.ties.size(), 1U);
    EXPECT_EQ(forms.ties[0].semitones, 3);
    EXPECT_THAT(forms.differences, IsEmpty());
}

TEST(FormComparison, APartThatComesLater) {
    const FormComparison forms = compareForms(versionOf({{0, 4}, {8, 8}, {4, 4}}), 1);
    EXPECT_THAT(forms.differences, ElementsAre(Is(FormDifferenceKind::Earlier, 4, 4)));
}

TEST(FormComparison, BarsWithoutACounterpartAreNotCompared) {
    const Piece piece = versionOf({{4, 4}, {40, 4}, {12, 4}});
    const auto versions = versionsOf(piece);
    EXPECT_EQ(versions.size(), 2U);
    for (const Version& version : versions)
        EXPECT_THAT(version.differences, IsEmpty());
    const FormComparison forms = compareForms(piece, 1);
    EXPECT_THAT(
        forms.differences,
        ElementsAre(Is(FormDifferenceKind::Lacks, 0, 4), Is(FormDifferenceKind::Instead, 8, 4)));
}

TEST(FormComparison, OfSomethingElseThereIsNone) {
    const FormComparison forms = compareForms(versionOf({{50, 8}}), 1);
    EXPECT_THAT(forms.ties, IsEmpty());
    EXPECT_THAT(forms.differences, IsEmpty());
    EXPECT_THAT(compareForms(versionOf({{0, 8}}), 7).ties, IsEmpty());
}

} // namespace
} // namespace wirenote
