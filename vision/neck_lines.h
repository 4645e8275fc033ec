// Where rows of frets may lie in a picture. For the inside of `vision` only: it speaks OpenCV.
#pragma once

#include "vision/fret_row.h"
#include "vision/wire_ridges.h"

#include <vector>

namespace wirenote::vision {

// A picture turned so that one of its main directions lies level, and the lines that cross it.
struct Direction {
    Turned turned;
    cv::Mat ridges; // summed far, to find rows by
    cv::Mat fine;   // summed near, to follow wires by
};

// A row of wires along a line of a turned picture.
struct Line {
    std::size_t direction = 0;
    FretRow row;
    double middle = 0.0; // x
    double y = 0.0;      // there
    double slope = 0.0;
    cv::Point2d from, to; // in the picture that was looked at

    double yAt(double x) const { return y + slope * (x - middle); }
};

struct NeckLines {
    std::vector<Direction> directions;
    std::vector<Line> lines; // the best first; of those that are nearly the same the best one
};

NeckLines neckLines(const cv::Mat& grey, std::size_t most);

} // namespace wirenote::vision
