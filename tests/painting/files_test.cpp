// Pages as files that others open, and the table of the fonts against the fonts.
#include "base/atomic_file.h"
#include "engraving/font_metrics.h"
#include "painting/fonts.h"
#include "painting/write_sheet.h"
#include "session/sheet.h"
#include "support/pieces.h"
#include "support/scratch.h"
#include "support/shell.h"

#include <QFontMetricsF>
#include <QImage>
#include <QPainterPath>
#include <QRawFont>
#include <gmock/gmock.h>

namespace wirenote {
namespace {

using ::testing::HasSubstr;

Piece longTune() {
    Piece piece = test::scalePiece(700);
    piece.title = "Ångström's tune ♯1";
    for (std::size_t i = 0; i < piece.notes.size(); ++i)
        piece.asPlayed().plans[i].position.value = {4, piece.notes[i].midi() - 50};
    return piece;
}

// poppler's pdftotext and pdffonts, readers of others.
TEST(SheetFiles, APdfIsSearchableAndCarriesItsFonts) {
    const test::Scratch scratch;
    const Piece piece = longTune();
    ASSERT_TRUE(writePages(pagesOf(piece), piece.title, scratch / "a.pdf").ok());
    const auto text = test::shell("pdftotext " + (scratch / "a.pdf").string() + " -");
    EXPECT_THAT(text.output, HasSubstr("Ångström's tune"));
    EXPECT_THAT(text.output, HasSubstr("guitar · E2 A2 D3 G3 B3 E4"));
    const auto fonts = test::shell("pdffonts " + (scratch / "a.pdf").string());
    EXPECT_THAT(fonts.output, HasSubstr("Bravura"));
    EXPECT_THAT(fonts.output, HasSubstr("Inter"));
    EXPECT_THAT(fonts.output, ::testing::Not(HasSubstr("no  no"))) << "not embedded";
    EXPECT_THAT(fonts.output, ::testing::Not(HasSubstr("DejaVu")))
        << "a sign that no font of ours has";
    const auto info = test::shell("pdfinfo " + (scratch / "a.pdf").string());
    EXPECT_THAT(info.output, HasSubstr("(A4)"));
}

TEST(SheetFiles, PicturesHaveAFileForEachPage) {
    const test::Scratch scratch;
    const Piece piece = longTune();
    const auto pages = pagesOf(piece);
    ASSERT_GT(pages.size(), 2U);
    ASSERT_TRUE(writePages(pages, piece.title, scratch / "a.png").ok());
    ASSERT_TRUE(writePages(pages, piece.title, scratch / "a.svg").ok());
    for (const char* name : {"a.png", "a-2.png", "a-3.png"}) {
        const QImage image(QString::fromStdString((scratch / name).string()));
        EXPECT_EQ(image.size(), QSize(1654, 2339)) << name << ": A4 at 200 dots an inch";
    }
    const auto svg = test::shell("xmllint --nonet --noout " + (scratch / "a.svg").string());
    EXPECT_EQ(svg.status, 0) << svg.output;
    const auto texts = test::shell("grep -c '<text' " + (scratch / "a.svg").string());
    EXPECT_EQ(texts.output, "0\n") << "signs are shapes, no font is needed";
}

// "a-2.png" was never chosen: what stands there is not written over by chance.
TEST(SheetFiles, APageIsNotWrittenOverAnotherPicture) {
    const test::Scratch scratch;
    const auto pages = pagesOf(longTune());
    ASSERT_GT(pages.size(), 2U);
    ASSERT_TRUE(writeFileAtomically(scratch / "a-2.png", "my holidays").ok());
    const Status refused = writePages(pages, "x", scratch / "a.png");
    ASSERT_FALSE(refused.ok());
    EXPECT_THAT(refused.error().message, HasSubstr("a-2.png, which is another file; choose"));
    EXPECT_FALSE(std::filesystem::exists(scratch / "a.png")) << "all or nothing";
    EXPECT_EQ(std::filesystem::file_size(scratch / "a-2.png"), 11U);
    ASSERT_TRUE(writePages(pages, "x", scratch / "b.png").ok());
    EXPECT_TRUE(writePages(pages, "x", scratch / "b.png").ok()) << "the same sheet again";
    EXPECT_TRUE(writePages({pages.front()}, "x", scratch / "a.png").ok()) << "one page only";
}

TEST(SheetFiles, OtherEndingsAreRefused) {
    EXPECT_THAT(writePages(pagesOf(longTune()), "x", "a.doc").error().message, HasSubstr(".pdf"));
}

// The table is that of the shipped fonts.
TEST(Fonts, EveryGlyphIsAsTheTableSays) {
    loadFonts();
    const QRawFont font = QRawFont::fromFont(musicFont(100.0));
    ASSERT_EQ(font.familyName(), "Bravura");
    for (int i = 0; i < kGlyphs; ++i) {
        const GlyphMetrics& m = metricsOf(static_cast<Glyph>(i));
        const auto indices = font.glyphIndexesForString(QString::fromUcs4(&m.code, 1));
        ASSERT_THAT(indices, ::testing::ElementsAre(::testing::Ne(0U))) << i << ": no such sign";
        const QRectF box = font.pathForGlyph(indices[0]).boundingRect();
        const QRectF said(100.0 * m.left, -100.0 * m.top, 100.0 * m.width(), 100.0 * m.height());
        const double off = std::max({std::abs(box.left() - said.left()),
                                     std::abs(box.right() - said.right()),
                                     std::abs(box.top() - said.top()),
                                     std::abs(box.bottom() - said.bottom())});
        EXPECT_LT(off, 3.0) << i;
    }
}

TEST(Fonts, TextsAreAsWideAsTheTableSays) {
    loadFonts();
    for (const bool strong : {false, true})
        for (const char* text : {"Heron at Low Water", "12", "½B VII", "(&)", "Übung 3"}) {
            const QFontMetricsF metrics(textFont(256.0, strong));
            EXPECT_NEAR(metrics.horizontalAdvance(QString::fromUtf8(text)) / 256.0,
                        textWidth(text, strong),
                        0.03)
                << text;
        }
}

} // namespace
} // namespace wirenote
