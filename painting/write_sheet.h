// A sheet as a file that others can open.
#pragma once

#include "base/result.h"
#include "engraving/ink.h"

#include <QRectF>
#include <filesystem>
#include <optional>
#include <string>
#include <vector>

namespace wirenote {

enum class SheetFile { Pdf, Svg, Png };
// .pdf, .svg, .png; nothing for other endings.
std::optional<SheetFile> sheetFileOf(const std::filesystem::path& path);

// Pages as a file of its ending, whole or not at all. PDF: all pages, fonts embedded, texts
// searchable. SVG and PNG: the first page under this name, further ones under NAME-2 and so on;
// signs as shapes, PNG at 200 dots an inch. Needs a QGuiApplication.
Status writePages(const std::vector<SheetPage>& pages,
                  const std::string& title,
                  const std::filesystem::path& path);
// The pages as a PDF in memory. Needs a QGuiApplication.
std::string pdfOfPages(const std::vector<SheetPage>& pages, const std::string& title);
// A text in simple HTML on A4 pages, and then these pages. Needs a QGuiApplication.
std::string pdfOfHandout(const std::vector<SheetPage>& pages,
                         const std::string& html,
                         const std::string& title);
// The part of a page that is inked, in millimetres, with a little room about it; all of an empty
// one.
QRectF inkedPart(const SheetPage& page);
// The inked part of a page as an <svg> element without a size of its own, to stand in a web page.
// Needs a QGuiApplication.
std::string svgElement(const SheetPage& page);

} // namespace wirenote
