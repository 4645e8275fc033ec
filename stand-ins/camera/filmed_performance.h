// SIMULATED: a film of somebody who plays a tab, from the simulated camera, and what it shows in
// truth. Every picture says that it is simulated.
#pragma once

#include "camera/neck_paint.h"
#include "piece/piece.h"

#include <array>
#include <cstdint>
#include <vector>

namespace wirenote::standin {

class FilmedPerformance {
  public:
    static constexpr int kWidth = 640; // pixels
    static constexpr int kHeight = 360;
    static constexpr double kRate = 20.0;   // pictures a second
    static constexpr double kLate_s = 0.04; // the film, against its sound

    // Of the tab as played, with places, fingers and strokes, on the clock of its leading take.
    explicit FilmedPerformance(const Piece& tab);

    struct Tip {
        PlanePoint at;
        bool pressed = false; // or waits
    };
    // Where things are at a moment of the sound. The camera shakes; the picture is out of focus for
    // a while, and for a while something passes before the first frets.
    Homography neckAt(double time_s) const;
    std::array<Tip, 4> tipsAt(double time_s) const; // index to little finger
    double pluckedAcross_mm(double time_s) const;   // of the pick
    static bool outOfFocus(double time_s);
    static bool partlyHidden(double time_s);

    // A picture of the film: kHeight rows of kWidth pixels, 3 bytes each. Any thread.
    std::vector<std::uint8_t> picture(double film_s) const;

    // The tab with what its film shows: where the neck is, fingertips and the ways of the pick.
    Piece truth() const;

  private:
    // What the hands do from one stroke on.
    struct Moment {
        double time_s = 0.0;
        int hand_fret = 1;
        struct Press {
            Position place; // string 0: none
            double until_s = 0.0;
        };
        std::array<Press, 4> fingers{};
        double from_mm = 0.0; // of the pick, across the strings; the same as to_mm: it stays away
        double to_mm = 0.0;
    };
    void addMoment(std::size_t first, std::size_t end);
    PlanePoint waiting(const Moment& moment, int finger) const;
    Tip tipOf(const Moment& moment, int finger, double time_s) const;
    Colour boardAt(PlanePoint at, const float* behind) const;
    static Colour fingersOver(const std::array<Tip, 4>& tips, PlanePoint at, Colour under);
    Colour handColour(PlanePoint at, double pick_mm, Colour under) const;

    Piece m_tab;
    NeckPlane m_plane;
    std::vector<Moment> m_moments; // by time
    std::vector<float> m_board;    // red, green, blue and how much of it there is; rows along
    std::vector<float> m_behind;   // red, green, blue of each pixel
};

} // namespace wirenote::standin
