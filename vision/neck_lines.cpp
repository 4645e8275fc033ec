#include "vision/neck_lines.h"

#include <algorithm>
#include <cmath>

namespace wirenote::vision {
namespace {

constexpr int kRowsApart = 12; // pixels
constexpr double kSlope = 0.03;
constexpr int kReach = 9; // rows to either side that a line is summed over
constexpr int kFine = 3;
constexpr double kLeastScore = 2.5; // of a row
constexpr double kOneRow = 12.0;    // pixels: rows that end so near to each other are one

std::vector<Line> linesIn(const Direction& direction, std::size_t index) {
    std::vector<Line> lines;
    const cv::Mat& ridges = direction.ridges;
    std::vector<float> clear(static_cast<std::size_t>(ridges.cols));
    for (int y = kRowsApart; y + kRowsApart < ridges.rows; y += kRowsApart)
        for (const double slope : {-kSlope, 0.0, kSlope}) {
            Line line{index, {}, 0.5 * ridges.cols, static_cast<double>(y), slope, {}, {}};
            for (int x = 0; x < ridges.cols; ++x) {
                const auto row = static_cast<int>(std::lround(line.yAt(x)));
                clear[static_cast<std::size_t>(x)] =
                    row >= 0 && row < ridges.rows ? ridges.at<float>(row, x) : 0.0F;
            }
            const auto row = fitFretRow(clear);
            if (!row || row->score < kLeastScore)
                continue;
            line.row = *row;
            const auto place = [&](int wire) {
                const double x = row->at(wire);
                return direction.turned.backAt({x, line.yAt(x)});
            };
            line.from = place(row->first);
            line.to = place(row->last);
            lines.push_back(line);
        }
    return lines;
}

// The best rows, of those that are nearly the same the best one.
std::vector<Line> bestOf(std::vector<Line> lines, std::size_t most) {
    std::ranges::sort(lines,
                      [](const Line& a, const Line& b) { return a.row.score > b.row.score; });
    std::vector<Line> best;
    for (const Line& line : lines)
        if (best.size() < most && std::ranges::all_of(best, [&line](const Line& other) {
                return std::max(cv::norm(line.from - other.from), cv::norm(line.to - other.to)) >
                       kOneRow;
            }))
            best.push_back(line);
    return best;
}

} // namespace

NeckLines neckLines(const cv::Mat& grey, std::size_t most) {
    NeckLines found;
    std::vector<Line> lines;
    for (const double angle_deg : mainAngles(grey)) {
        const Turned level = turned(grey, angle_deg);
        found.directions.push_back(
            {level, wireRidges(level.grey, kReach), wireRidges(level.grey, kFine)});
        const auto some = linesIn(found.directions.back(), found.directions.size() - 1);
        lines.insert(lines.end(), some.begin(), some.end());
    }
    found.lines = bestOf(std::move(lines), most);
    return found;
}

} // namespace wirenote::vision
