#pragma once

#include <cstdint>
#include <span>

namespace wirenote {

// One picture: rows from the top without padding, 3 bytes a pixel (red, green, blue), or 1 (grey).
// Does not own.
struct PictureView {
    int width = 0;
    int height = 0;
    std::span<const std::uint8_t> bytes;
    int channels = 3;
};

} // namespace wirenote
