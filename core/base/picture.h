#pragma once

#include <cstdint>
#include <span>

namespace wirenote {

// One picture: rows from the top without padding, 3 bytes a pixel (red, green, blue). Does not own.
struct PictureView {
    int width = 0;
    int height = 0;
    std::span<const std::uint8_t> rgb;
};

} // namespace wirenote
