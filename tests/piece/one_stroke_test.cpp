#include "piece/one_stroke.h"

#include "support/pieces.h"

#include <gmock/gmock.h>

namespace wirenote {
namespace {

using ::testing::ElementsAre;

std::vector<std::size_t> sizesOf(const std::vector<double>& onsets_s) {
    std::vector<std::size_t> sizes;
    for (const IndexSpan span : strokeSpans(onsets_s))
        sizes.push_back(span.size());
    return sizes;
}

// Common practice: a strum crosses the strings in up to some 20 ms each; sixteenths at 200 beats a
// minute are 75 ms apart.
TEST(OneStroke, AStrumIsOneAndFastSingleNotesAreNot) {
    EXPECT_THAT(sizesOf({0.0, 0.02, 0.04, 0.06, 0.08, 0.10}), ElementsAre(6U));
    EXPECT_THAT(sizesOf({0.0, 0.075, 0.150, 0.225}), ElementsAre(1U, 1U, 1U, 1U));
    EXPECT_THAT(sizesOf({0.0, 0.01, 0.5, 0.5}), ElementsAre(2U, 2U));
    EXPECT_TRUE(sizesOf({}).empty());
}

TEST(OneStroke, NoneGoesOnForEver) {
    std::vector<double> run;
    for (int i = 0; i < 12; ++i)
        run.push_back(0.024 * i);
    EXPECT_THAT(sizesOf(run), ElementsAre(7U, 5U)) << "150 ms and no more";
}

TEST(OneStroke, SlurredNotesAreWrittenTogetherAndStruckByNothing) {
    const Piece piece = test::pieceOf({{0.0, 1.0, 40},
                                       {0.01, 1.0, 64, {0, 0}, {Technique::HammerOn}},
                                       {0.02, 1.0, 47},
                                       {0.5, 1.0, 66, {0, 0}, {Technique::PullOff}}});
    EXPECT_THAT(strokesOf(piece.notes), ElementsAre(ElementsAre(0U, 2U)));
    EXPECT_EQ(strokeSpans(piece.notes).size(), 2U);
    EXPECT_EQ(strokeSpans(piece.notes).front().size(), 3U);
}

} // namespace
} // namespace wirenote
