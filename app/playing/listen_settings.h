#pragma once

#include <optional>

class QSettings;

namespace wirenote::app {

// How a person listens. Kept between sessions.
struct ListenSettings {
    struct Band {
        int low_midi = 40;
        int high_midi = 88;
        bool operator==(const Band&) const = default;
    };
    double speed = 1.0;
    double semitones = 0.0;     // coarse and fine together
    std::optional<Band> band;   // one pitch range alone; of the instrument's own pitches
    bool without_drums = false; // of the take only what keeps its pitch
    bool click = false;
    int count_in = 0;        // clicks before playing starts
    double lead_in_s = 0.0;  // heard before the start of a loop, each time round
    bool level_match = true; // take and tab equally loud
    double limit_db = -3.0;  // nothing louder than this, re full scale
    bool operator==(const ListenSettings&) const = default;
};

constexpr double kLowestLimit_db = -30.0;
constexpr double kHighestLimit_db = 0.0;

ListenSettings readListenSettings(const QSettings& settings);
void keepListenSettings(QSettings& settings, const ListenSettings& listen);

} // namespace wirenote::app
