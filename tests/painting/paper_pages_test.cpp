// Pages of scores on paper: PDFs and pictures, and what is neither.
#include "painting/paper_pages.h"

#include "painting/write_sheet.h"
#include "session/sheet.h"
#include "support/pieces.h"
#include "support/scratch.h"

#include <fstream>
#include <gtest/gtest.h>

namespace wirenote {
namespace {

TEST(PaperPages, APdfIsDrawnPageByPage) {
    const test::Scratch scratch;
    Piece piece = test::scalePiece(400);
    const auto pages = pagesOf(piece);
    ASSERT_GT(pages.size(), 1U);
    ASSERT_TRUE(writePages(pages, "Test", scratch / "sheet.pdf").ok());
    const auto count = countPages(scratch / "sheet.pdf");
    ASSERT_TRUE(count.ok());
    EXPECT_EQ(*count, static_cast<int>(pages.size()));
    const auto page = drawPage(scratch / "sheet.pdf", 0, 500);
    ASSERT_TRUE(page.ok());
    EXPECT_NEAR(page->width(), 500, 1);
    EXPECT_GT(page->height(), 600) << "A4 upright";
    bool ink = false;
    for (int y = 0; y < page->height() && !ink; ++y)
        for (int x = 0; x < page->width() && !ink; ++x)
            ink = qGray(page->pixel(x, y)) < 100;
    EXPECT_TRUE(ink);
    EXPECT_FALSE(drawPage(scratch / "sheet.pdf", *count, 500).ok());
}

TEST(PaperPages, APictureIsOnePage) {
    const test::Scratch scratch;
    QImage picture(300, 200, QImage::Format_ARGB32);
    picture.fill(Qt::transparent);
    ASSERT_TRUE(picture.save(QString::fromStdString((scratch / "page.png").string())));
    EXPECT_EQ(*countPages(scratch / "page.png"), 1);
    const auto page = drawPage(scratch / "page.png", 0, 600);
    ASSERT_TRUE(page.ok());
    EXPECT_EQ(page->size(), QSize(600, 400));
    EXPECT_EQ(page->pixelColor(10, 10), QColor(Qt::white)) << "paper is white";
    EXPECT_FALSE(drawPage(scratch / "page.png", 1, 600).ok());
}

TEST(PaperPages, WhatIsNoPageIsSaidInOneSentence) {
    const test::Scratch scratch;
    std::ofstream(scratch / "broken.pdf") << "%PDF-1.4\nnothing that follows makes sense";
    std::ofstream(scratch / "text.png") << "no picture";
    for (const char* name : {"broken.pdf", "text.png", "none.pdf"}) {
        const auto page = drawPage(scratch / name, 0, 100);
        ASSERT_FALSE(page.ok()) << name;
        EXPECT_EQ(page.error().file, (scratch / name).string());
    }
}

} // namespace
} // namespace wirenote
