#include "painting/write_sheet.h"

#include "base/atomic_file.h"
#include "painting/fonts.h"
#include "painting/paint_page.h"

#include <QBuffer>
#include <QImage>
#include <QPainter>
#include <QPdfWriter>
#include <QSvgGenerator>
#include <algorithm>

namespace wirenote {
namespace {

constexpr double kInch_mm = 25.4;
constexpr double kPngDots = 200.0;
constexpr double kPdfDots = 1200.0;
constexpr double kSvgDots = 360.0;

QByteArray pdfOf(const std::vector<SheetPage>& pages, const std::string& title) {
    QByteArray bytes;
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::WriteOnly);
    QPdfWriter writer(&buffer);
    writer.setTitle(QString::fromStdString(title));
    writer.setCreator("Wirenote");
    writer.setResolution(static_cast<int>(kPdfDots));
    const auto setPage = [&writer](const SheetPage& page) {
        writer.setPageSize(QPageSize(QSizeF(page.width, page.height), QPageSize::Millimeter));
        writer.setPageMargins(QMarginsF(0, 0, 0, 0));
    };
    setPage(pages.front());
    QPainter painter(&writer);
    for (std::size_t p = 0; p < pages.size(); ++p) {
        if (p > 0) {
            setPage(pages[p]);
            writer.newPage();
        }
        paintPage(painter, pages[p], kPdfDots / kInch_mm);
    }
    painter.end();
    return bytes;
}

QByteArray svgOf(const SheetPage& page, const std::string& title) {
    QByteArray bytes;
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::WriteOnly);
    QSvgGenerator generator;
    generator.setOutputDevice(&buffer);
    generator.setTitle(QString::fromStdString(title));
    generator.setResolution(static_cast<int>(kSvgDots));
    const double k = kSvgDots / kInch_mm;
    generator.setSize(QSizeF(page.width * k, page.height * k).toSize());
    generator.setViewBox(QRectF(0, 0, page.width * k, page.height * k));
    QPainter painter(&generator);
    painter.fillRect(QRectF(0, 0, page.width * k, page.height * k), Qt::white);
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

} // namespace

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
    for (std::size_t p = 0; p < pages.size(); ++p) {
        const QByteArray bytes = *kind == SheetFile::Svg ? svgOf(pages[p], title) : pngOf(pages[p]);
        if (const Status ready = files.add(numbered(path, p), view(bytes)); !ready)
            return ready;
    }
    return files.putInPlace();
}

} // namespace wirenote
