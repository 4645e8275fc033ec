// SIMULATED: a camera that films a neck and the hand on it. What it paints is invented; nothing
// here is used to look at a film.
#pragma once

#include "base/picture.h"
#include "seeing/neck_plane.h"

#include <cstdint>
#include <vector>

namespace wirenote::standin {

struct FilmedHand {
    std::vector<PlanePoint> tips; // where fingers press or hover, from the index finger on
};

struct FilmedView {
    int width = 640;
    int height = 360;
    Homography neck{};       // from the plane of the neck to the picture
    double light = 1.0;      // 1: even daylight
    double background = 0.0; // by how much what lies behind the neck has moved, in pixels
    std::uint32_t grain = 1; // another grain of the film for each picture
    bool fine = true;        // edges without steps, in four times the time
};

// A picture of the neck from a camera: wires, strings, dots, head and body, something behind it,
// and fingers that come over the edge of the thin strings, with their shadow.
std::vector<std::uint8_t>
filmNeck(const NeckPlane& plane, const FilmedView& view, const FilmedHand& hand);

// Where fingers of a hand in a position are that press one place: the finger of that fret on it,
// the others over their frets, a little above the strings.
FilmedHand handOn(const NeckPlane& plane, int hand_fret, int string, int fret);

// A camera in front of the player: the head of the neck to the right, it leans by so many degrees,
// `zoom` 1 shows it all, moved by so many pixels.
Homography cameraOn(const NeckPlane& plane, double lean_deg, double zoom, PicturePoint moved);

} // namespace wirenote::standin
