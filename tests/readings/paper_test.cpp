// A score on paper that is pinned to bars by a few clicks.
#include "readings/paper_places.h"

#include <gtest/gtest.h>

namespace wirenote {
namespace {

// Two lines on a page, of four and of three bars, then another page.
PaperScore pinned() {
    return {"old edition",
            "pages.pdf",
            TakeRights::Permitted,
            {{1, 0, 0.15, 0.2}, {5, 0, 0.05, 0.5}, {8, 1, 0.05, 0.1}, {9, 1, 0.35, 0.1}}};
}

TEST(Paper, BarsOfALineShareIt) {
    const PaperScore paper = pinned();
    EXPECT_FALSE(placeOnPaper(paper, 0.0)) << "before the first pin";
    EXPECT_NEAR(placeOnPaper(paper, 1.0)->x, 0.15, 1e-9);
    EXPECT_NEAR(placeOnPaper(paper, 3.0)->x, 0.15 + 0.5 * 0.8, 1e-9) << "half of the line";
    EXPECT_NEAR(placeOnPaper(paper, 3.0)->y, 0.2, 1e-9);
    EXPECT_NEAR(placeOnPaper(paper, 5.0)->y, 0.5, 1e-9);
    EXPECT_NEAR(placeOnPaper(paper, 6.5)->x, 0.05 + 0.5 * 0.9, 1e-9);
    EXPECT_EQ(placeOnPaper(paper, 8.5)->page, 1);
    EXPECT_NEAR(placeOnPaper(paper, 8.5)->x, 0.2, 1e-9) << "between two pins of one line";
}

TEST(Paper, BehindTheLastPinBarsAreAsWideAsBefore) {
    const PaperScore paper = pinned();
    EXPECT_NEAR(placeOnPaper(paper, 10.0)->x, 0.65, 1e-9);
    EXPECT_NEAR(placeOnPaper(paper, 40.0)->x, 0.95, 1e-9) << "never off the page";
    PaperScore one{"", "", TakeRights::Unknown, {{3, 0, 0.2, 0.3}}};
    EXPECT_NEAR(placeOnPaper(one, 7.0)->x, 0.2, 1e-9) << "one pin tells of its bar only";
}

TEST(Paper, TheNextClickIsMeantForTheNextBar) {
    EXPECT_EQ(nextBarToPin(pinned()), 10);
    EXPECT_EQ(nextBarToPin({}), 1);
}

} // namespace
} // namespace wirenote
