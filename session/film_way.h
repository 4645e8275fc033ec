// A film as it is gone through: the neck from picture to picture, the hand over it, and what moves
// where strings are plucked.
#pragma once

#include "base/job.h"
#include "piece/seen.h"
#include "seeing/neck_way.h"
#include "session/film_neck.h"
#include "vision/fretting_hand.h"
#include "vision/plucking_motion.h"

#include <vector>

namespace wirenote {

// Where the neck was at some moments.
struct NeckWay {
    std::vector<double> times_s;
    std::vector<Homography> maps;

    void add(double time_s, const Homography& map);
    // Nothing where it was not seen near that time.
    std::optional<Homography> at(double time_s) const;
};

// How much moved between pictures, towards the thin strings and towards the thick ones.
struct PluckTrack {
    std::vector<double> times_s;
    std::vector<double> down;
    std::vector<double> up;
};

class FilmWay {
  public:
    FilmWay(PictureReader& reader,
            const NeckPlane& plane,
            const NeckStart& start,
            double length_s, // of the film, for the progress; 0: not known
            const JobControl& job);

    // Back to the beginning, then on to the end. False: cancelled.
    bool follow();
    double followed() const; // share of the pictures looked at
    // Tells hand and neck apart; a neck that was not given is turned over when the fingers come
    // from its other side. False: too little was seen.
    bool settle();

    // Whether the place in which strings are plucked is in the picture nearly all the time.
    bool showsPlucking() const;
    // How much moved there.
    const PluckTrack& moved() const { return m_moved; }
    // The neck as the take keeps it; `scale`: pixels read for each pixel of the film.
    std::vector<NeckFrame> frames(double scale) const;

    // How far the plucking hand goes across the strings about an attack; nothing where it is not
    // in sight.
    std::optional<double> across_mm(double onset_s);
    // What changed there then.
    std::optional<PluckMap> pluckMap(double onset_s);
    // Fingertips of a note that begins then, shortly after.
    std::vector<SeenTip> tipsAt(double onset_s);

  private:
    bool followBack();

    PictureReader& m_reader;
    const NeckPlane& m_plane;
    NeckStart m_start;
    double m_length_s;
    const JobControl& m_job;
    NeckWay m_way;
    FrettingHand m_hand;
    PluckingMotion m_motion;
    PluckTrack m_moved;
    std::optional<double> m_before_s;
    int m_looks = 0;
    int m_gone = 0;          // pictures
    int m_plucking_seen = 0; // of them
};

} // namespace wirenote
