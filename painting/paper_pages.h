// The pages of a score on paper, as pictures: of a PDF, or one picture in a file.
#pragma once

#include "base/result.h"

#include <QImage>
#include <filesystem>

namespace wirenote {

constexpr int kWidestPage = 4000; // pixels

// How many pages there are; 1 of a picture. Errors: the file is not there, too large, no PDF and no
// picture, locked, or has no page.
Result<int> countPages(const std::filesystem::path& file);

// One page so many pixels wide (1 to kWidestPage), drawn on white. Errors: as above, or no such
// page.
Result<QImage> drawPage(const std::filesystem::path& file, int page, int width);

} // namespace wirenote
