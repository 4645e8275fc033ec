// A film as it is gone through: the neck from picture to picture, the hand over it, and what moves
// where strings are plucked.
#pragma once

#include "base/job.h"
#include "piece/seen.h"
#include "seeing/neck_way.h"
#include "session/film_neck.h"
#include "vision/arm_motion.h"
#include "vision/fretting_hand.h"
#include "vision/plucking_motion.h"

#include <future>
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
    // How far the wires seen lie from where the maps have them; negative: none were seen clearly.
    double off_mm() const;
    // Tells hand and neck apart; a neck that was not given is turned over when the fingers come
    // from its other side. False: too little was seen.
    bool settle();

    // Whether the place in which strings are plucked is in the picture nearly all the time.
    bool showsPlucking() const;
    // How much moved there.
    const PluckTrack& moved() const { return m_moved; }
    // The neck as the take keeps it; `scale`: pixels read for each pixel of the film.
    std::vector<NeckFrame> frames(double scale) const;

    // What a note shows.
    struct AtNote {
        std::optional<double> across_mm;  // of the plucking hand, towards the thin strings
        std::optional<PluckMap> plucked;  // what changed where it is
        std::optional<double> plucked_mm; // from the bridge
        ArmMotion arm;                    // what is behind it
        std::vector<SeenTip> tips;        // shortly after the note begins
    };
    // Of a note that begins then; the plucking hand at an attack, where one is asked about. The
    // pictures are read at once, looked at while others are read.
    std::future<AtNote> lookAt(double onset_s, std::optional<double> attack_s);

  private:
    struct Sight {
        std::shared_ptr<const Picture> picture;
        Homography neck;
    };
    std::optional<Sight> sightAt(double time_s, Shade shade);
    // Nothing where the plucking hand is not in sight.
    std::optional<double> across_mm(const std::vector<std::optional<Sight>>& about) const;
    ArmMotion armMotion(const std::vector<std::optional<Sight>>& about, double plucked_mm) const;
    std::optional<PluckMap> pluckMap(const std::optional<Sight>& before,
                                     const std::optional<Sight>& after) const;
    std::vector<SeenTip> tipsIn(const std::optional<Sight>& sight) const;
    bool followBack();
    void learnHand(double time_s, const Homography& neck);
    void checkWires(const Picture& picture, const Homography& neck);
    void keepMoved(std::future<PluckingMotion::Moved>& moving);

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
    bool m_first_moved = true;
    double m_check_s = 0.0;       // when the wires are held against the map again
    std::vector<double> m_off_mm; // now and then
    int m_looks = 0;
    int m_gone = 0;          // pictures
    int m_plucking_seen = 0; // of them
};

} // namespace wirenote
