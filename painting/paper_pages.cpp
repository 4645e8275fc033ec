#include "painting/paper_pages.h"

#include <QImageReader>
#include <QPainter>
#include <QString>
#include <algorithm>
#include <memory>
#include <poppler-qt6.h>

namespace wirenote {
namespace {

constexpr std::uintmax_t kLargestFile = 400'000'000; // bytes
constexpr double kPointsAnInch = 72.0;
constexpr double kMostHigh = 4.0; // times as high as wide: nobody prints longer pages
constexpr qint64 kMostPixels = 100'000'000;

QString nameOf(const std::filesystem::path& file) {
    return QString::fromStdString(file.string());
}

bool isPdf(const std::filesystem::path& file) {
    return nameOf(file).endsWith(".pdf", Qt::CaseInsensitive);
}

Status checkFile(const std::filesystem::path& file) {
    std::error_code code;
    const auto size = std::filesystem::file_size(file, code);
    if (code)
        return badInput(file.string(), "is not there, or cannot be read");
    if (size > kLargestFile)
        return badInput(file.string(), "is larger than 400 MB; scan it with less detail");
    return {};
}

Result<std::unique_ptr<Poppler::Document>> openPdf(const std::filesystem::path& file) {
    if (const Status fit = checkFile(file); !fit)
        return fit.error();
    // What it would print about a damaged file is in the error.
    Poppler::setDebugErrorFunction([](const QString&, const QVariant&) {}, {});
    auto document = Poppler::Document::load(nameOf(file));
    if (!document)
        return badInput(file.string(),
                        "is damaged or no PDF; print it to a new PDF and choose that");
    if (document->isLocked())
        return badInput(file.string(), "is locked by a password; save it without one");
    if (document->numPages() < 1)
        return badInput(file.string(), "has no page");
    document->setRenderHint(Poppler::Document::Antialiasing);
    document->setRenderHint(Poppler::Document::TextAntialiasing);
    return document;
}

Result<QImage> drawPdf(const std::filesystem::path& file, int page, int width) {
    const auto document = openPdf(file);
    if (!document)
        return document.error();
    const std::unique_ptr<Poppler::Page> sheet = (*document)->page(page);
    if (!sheet)
        return badInput(file.string(), "has no page " + std::to_string(page + 1));
    const QSizeF size = sheet->pageSizeF(); // points
    if (!(size.width() > 0.0 && size.height() > 0.0 && size.height() < kMostHigh * size.width()))
        return badInput(file.string(), "has a page of a size that cannot be shown");
    const double resolution = width / size.width() * kPointsAnInch;
    QImage image = sheet->renderToImage(resolution, resolution);
    if (image.isNull())
        return badInput(file.string(), "has a page that cannot be drawn");
    return image;
}

Result<QImage> drawPicture(const std::filesystem::path& file, int page, int width) {
    if (const Status fit = checkFile(file); !fit)
        return fit.error();
    if (page != 0)
        return badInput(file.string(), "has no page " + std::to_string(page + 1));
    QImageReader reader(nameOf(file));
    reader.setAutoTransform(true);
    const QSize size = reader.size();
    if (size.isValid() && qint64(size.width()) * size.height() > kMostPixels)
        return badInput(file.string(), "is too large a picture; save it smaller");
    const QImage picture = reader.read();
    if (picture.isNull())
        return badInput(file.string(), "is no picture that can be read; save it as PNG or JPEG");
    QImage image = picture.scaledToWidth(width, Qt::SmoothTransformation)
                       .convertToFormat(QImage::Format_ARGB32_Premultiplied);
    QImage paper(image.size(), QImage::Format_RGB32);
    paper.fill(Qt::white);
    QPainter(&paper).drawImage(0, 0, image);
    return paper;
}

} // namespace

Result<int> countPages(const std::filesystem::path& file) {
    if (isPdf(file)) {
        const auto document = openPdf(file);
        if (!document)
            return document.error();
        return (*document)->numPages();
    }
    const auto picture = drawPage(file, 0, 16);
    if (!picture)
        return picture.error();
    return 1;
}

Result<QImage> drawPage(const std::filesystem::path& file, int page, int width) {
    width = std::clamp(width, 1, kWidestPage);
    return isPdf(file) ? drawPdf(file, page, width) : drawPicture(file, page, width);
}

} // namespace wirenote
