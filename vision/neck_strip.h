// What a neck laid straight shows of wires, nut and inlays. For the inside of `vision` only.
#pragma once

#include "vision/neck_picture.h"

#include <array>
#include <map>
#include <optional>
#include <vector>

namespace wirenote::vision {

// At the place of one wire, as counted by the map that the strip was laid straight with.
struct WireLook {
    double clear = 0.0;           // how much a line stands out there
    double between = 0.0;         // … and half way to the next wire
    double ink = 0.0;             // what differs from the wood to both sides, grey times mm
    double centre = 0.0;          // an inlay in the fret before it, in the middle of the neck …
    double low = 0.0, high = 0.0; // … and on either side, in grey; signed
};

// Two points of each edge of the fingerboard, in pixels of the picture.
struct BoardEdges {
    std::array<PicturePoint, 2> thick;
    std::array<PicturePoint, 2> thin;
};

class NeckStrip {
  public:
    // `grey` of the whole picture, `neck` from the plane to its pixels.
    NeckStrip(const NeckPlane& plane, const cv::Mat& grey, const Homography& neck);

    // Of all wires that are in the picture.
    std::map<int, WireLook> looks() const;
    // The map corrected by where wires are found near the places where it expects them, and by the
    // edges; nothing where there are too few.
    std::optional<Homography> corrected(const BoardEdges& seen) const;
    // How far wires are found from where the map expects them, in mm along the neck: the middle of
    // all; nothing where there are too few.
    std::optional<double> off_mm() const;

  private:
    // Wires as they are expected and as they are found, in pixels of the strip.
    struct Wires {
        std::vector<PlanePoint> ideal;
        std::vector<PicturePoint> found;
    };
    Wires wires() const;
    struct Seen {
        double x = 0.0; // pixels of the strip
        double clear = 0.0;
    };
    bool shows(double along_mm, double half_mm) const;
    // The clearest line between two heights, near a place.
    Seen lineNear(double along_mm, double from_mm, double to_mm, double reach_mm) const;
    double clearAt(double along_mm) const;
    double inkAt(double along_mm) const;
    double spot(double along_mm, double from_mm, double to_mm) const;

    NeckPlane m_plane;
    Homography m_neck;
    Strip m_strip;
    cv::Mat m_grey;
    cv::Mat m_soft;   // smoothed as an inlay is large
    cv::Mat m_bent;   // second difference along the neck
    cv::Mat m_inside; // of the picture
};

// What fret the wire called 0 is, by nut and inlays; how much speaks for it beyond the next best.
struct Numbering {
    int shift = 0; // the nut is the wire of this number
    double score = 0.0;
    double margin = 0.0;
};
Numbering numberFrets(const std::map<int, WireLook>& looks);

} // namespace wirenote::vision
