#include "painting/write_sheet.h"

#include "base/atomic_file.h"
#include "painting/fonts.h"
#include "painting/paint_page.h"

#include <QAbstractTextDocumentLayout>
#include <QBuffer>
#include <QImage>
#include <QPainter>
#include <QPdfWriter>
#include <QSvgGenerator>
#include <QTextDocument>
#include <algorithm>

namespace wirenote {
namespace {

constexpr double kInch_mm = 25.4;
constexpr double kPngDots = 200.0;
constexpr double kPdfDots = 1200.0;
constexpr double kSvgDots = 360.0;

void setPage(QPdfWriter& writer, double width_mm, double height_mm) {
    writer.setPageSize(QPageSize(QSizeF(width_mm, height_mm), QPageSize::Millimeter));
    writer.setPageMargins(QMarginsF(0, 0, 0, 0));
}

// A text, page after page; the last one stays open.
void paintText(QPdfWriter& writer, QPainter& painter, const std::string& html) {
    constexpr double kMargin_mm = 18.0, kWidth_mm = 210.0, kHeight_mm = 297.0;
    const double k = kPdfDots / kInch_mm;
    const QSizeF inner((kWidth_mm - 2.0 * kMargin_mm) * k, (kHeight_mm - 2.0 * kMargin_mm) * k);
    QTextDocument text;
    text.documentLayout()->setPaintDevice(&writer);
    QFont font = textFont(12.0, false);
    font.setPointSizeF(10.0);
    text.setDefaultFont(font);
    text.setHtml(QString::fromStdString(html));
    text.setPageSize(inner);
    for (int page = 0; page < text.pageCount(); ++page) {
        if (page > 0)
            writer.newPage();
        painter.save();
        painter.translate(kMargin_mm * k, kMargin_mm * k - page * inner.height());
        text.drawContents(&painter,
                          QRectF(0, page * inner.height(), inner.width(), inner.height()));
        painter.restore();
    }
}

QByteArray
pdfOf(const std::vector<SheetPage>& pages, const std::string& title, const std::string& html = {}) {
    constexpr double kWidth_mm = 210.0, kHeight_mm = 297.0;
    QByteArray bytes;
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::WriteOnly);
    QPdfWriter writer(&buffer);
    writer.setTitle(QString::fromStdString(title));
    writer.setCreator("Wirenote");
    writer.setResolution(static_cast<int>(kPdfDots));
    if (html.empty())
        setPage(writer, pages.front().width, pages.front().height);
    else
        setPage(writer, kWidth_mm, kHeight_mm);
    QPainter painter(&writer);
    if (!html.empty())
        paintText(writer, painter, html);
    for (std::size_t p = 0; p < pages.size(); ++p) {
        if (p > 0 || !html.empty()) {
            setPage(writer, pages[p].width, pages[p].height);
            writer.newPage();
        }
        paintPage(painter, pages[p], kPdfDots / kInch_mm);
    }
    painter.end();
    return bytes;
}

QRectF wholeOf(const SheetPage& page) {
    return {0.0, 0.0, page.width, page.height};
}

QByteArray svgOf(const SheetPage& page, const QRectF& part, const std::string& title) {
    QByteArray bytes;
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::WriteOnly);
    QSvgGenerator generator;
    generator.setOutputDevice(&buffer);
    generator.setTitle(QString::fromStdString(title));
    generator.setResolution(static_cast<int>(kSvgDots));
    const double k = kSvgDots / kInch_mm;
    generator.setSize(QSizeF(part.width() * k, part.height() * k).toSize());
    generator.setViewBox(QRectF(0, 0, part.width() * k, part.height() * k));
    QPainter painter(&generator);
    painter.fillRect(QRectF(0, 0, part.width() * k, part.height() * k), Qt::white);
    painter.translate(-part.left() * k, -part.top() * k);
    PaintStyle style;
    style.outlines = true;
    paintPage(painter, page, k, style);
    painter.end();
    return bytes;
}

QByteArray pngOf(const SheetPage& page) {
    const double k = kPngDots / kInch_mm;
    QImage image(QSizeF(page.width * k, page.height * k).toSize(), QImage::Format_RGB32);
    image.setDotsPerMeterX(static_cast<int>(kPngDots / kInch_mm * 1000.0));
    image.setDotsPerMeterY(image.dotsPerMeterX());
    image.fill(Qt::white);
    QPainter painter(&image);
    paintPage(painter, page, k);
    painter.end();
    QByteArray bytes;
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::WriteOnly);
    image.save(&buffer, "PNG");
    return bytes;
}

std::string_view view(const QByteArray& bytes) {
    return {bytes.constData(), static_cast<std::size_t>(bytes.size())};
}

std::filesystem::path numbered(const std::filesystem::path& path, std::size_t page) {
    std::filesystem::path name = path.parent_path() / path.stem();
    if (page > 0)
        name += "-" + std::to_string(page + 1);
    name += path.extension();
    return name;
}

// Pages after the first get names that nobody chose: what is there under one of them is written
// over only where the first page is there too, as when the same sheet is written again.
Status checkNumbered(const std::filesystem::path& path, std::size_t pages) {
    std::error_code ignored;
    if (std::filesystem::exists(numbered(path, 0), ignored))
        return {};
    for (std::size_t p = 1; p < pages; ++p)
        if (const auto name = numbered(path, p); std::filesystem::exists(name, ignored))
            return badCall("page " + std::to_string(p + 1) + " would be written over " +
                           name.string() + ", which is another file; choose another name");
    return {};
}

} // namespace

QRectF inkedPart(const SheetPage& page) {
    constexpr double kRoom_mm = 3.0;
    constexpr double kNames_mm = 14.0; // of the rows, left of the staff
    QRectF inked;
    for (const SystemPlace& system : page.systems)
        inked |= QRectF(QPointF(system.box.left, system.box.top),
                        QPointF(system.box.right, system.box.bottom));
    if (inked.isEmpty())
        return wholeOf(page);
    return inked.adjusted(-std::min(kNames_mm, inked.left()), -kRoom_mm, kRoom_mm, kRoom_mm);
}

std::optional<SheetFile> sheetFileOf(const std::filesystem::path& path) {
    std::string ending = path.extension().string();
    std::ranges::transform(
        ending, ending.begin(), [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
    if (ending == ".pdf")
        return SheetFile::Pdf;
    if (ending == ".svg")
        return SheetFile::Svg;
    if (ending == ".png")
        return SheetFile::Png;
    return {};
}

Status writePages(const std::vector<SheetPage>& pages,
                  const std::string& title,
                  const std::filesystem::path& path) {
    const auto kind = sheetFileOf(path);
    if (!kind)
        return badCall(path.string() + " is no kind of page; end its name in .pdf, .svg or .png");
    loadFonts();
    OutputFiles files;
    if (*kind == SheetFile::Pdf) {
        const QByteArray bytes = pdfOf(pages, title);
        if (const Status ready = files.add(path, view(bytes)); !ready)
            return ready;
        return files.putInPlace();
    }
    if (const Status free = checkNumbered(path, pages.size()); !free)
        return free;
    for (std::size_t p = 0; p < pages.size(); ++p) {
        const QByteArray bytes =
            *kind == SheetFile::Svg ? svgOf(pages[p], wholeOf(pages[p]), title) : pngOf(pages[p]);
        if (const Status ready = files.add(numbered(path, p), view(bytes)); !ready)
            return ready;
    }
    return files.putInPlace();
}

std::string pdfOfPages(const std::vector<SheetPage>& pages, const std::string& title) {
    loadFonts();
    return std::string(view(pdfOf(pages, title)));
}

std::string pdfOfHandout(const std::vector<SheetPage>& pages,
                         const std::string& html,
                         const std::string& title) {
    loadFonts();
    return std::string(view(pdfOf(pages, title, html)));
}

std::string svgElement(const SheetPage& page) {
    loadFonts();
    std::string text(view(svgOf(page, inkedPart(page), {})));
    const std::size_t begins = text.find("<svg");
    if (begins == std::string::npos)
        return {};
    text.erase(0, begins);
    // Its size is the page's business.
    for (const char* attribute : {" width=\"", " height=\""}) {
        const std::size_t at = text.find(attribute);
        const std::size_t quote = text.find('"', at + std::string_view(attribute).size());
        if (at < text.find('>') && quote != std::string::npos)
            text.erase(at, quote + 1 - at);
    }
    return text;
}

} // namespace wirenote
