#include "vision/neck_presence.h"

#include "vision/neck_lines.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace wirenote {

NeckPresence neckPresence(const PictureView& picture) {
    constexpr int kLeastSide = 64;
    constexpr int kFewest = 5; // wires
    if (std::min(picture.width, picture.height) < kLeastSide ||
        picture.bytes.size() <
            static_cast<std::size_t>(picture.channels) * picture.width * picture.height)
        return {};
    double scale = 1.0;
    const auto rows = vision::neckLines(vision::greyToLookAt(picture, scale), 1);
    if (rows.lines.empty() || rows.lines.front().row.wires < kFewest)
        return {};
    const vision::Line& line = rows.lines.front();
    const cv::Point2d way = line.to - line.from;
    return {line.row.wires,
            line.row.last - line.row.first,
            cv::norm(way) / vision::kLookedAt,
            std::remainder(std::atan2(way.y, way.x) * 180.0 / std::numbers::pi, 180.0)};
}

} // namespace wirenote
