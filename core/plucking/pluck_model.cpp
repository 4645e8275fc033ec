#include "plucking/pluck_model.h"

namespace wirenote {

PickModel pickModel(PluckingSchool school) {
    PickModel m;
    switch (school) {
    case PluckingSchool::Sequence:
        m.metre = 0.05;
        m.onto_beat = 0.0;
        m.turn = m.turn_free = 2.0;
        break;
    case PluckingSchool::Economy:
        m.metre = 0.15;
        m.onto_beat = 0.0;
        m.turn = m.turn_free = 1.6;
        m.crossing = m.crossing_sweep = 3.4; // more than turning the other way
        break;
    case PluckingSchool::Sweep:
        m.metre = 0.8;
        m.turn = 0.5;
        m.crossing_sweep = 4.0;
        break;
    case PluckingSchool::Cross:
        m.metre = 1.0;
        m.turn = m.turn_free = 1.5;
        break;
    case PluckingSchool::Down:
        m.metre = 0.0;
        m.turn = m.turn_free = 0.0;
        m.up = 2.2;
        break;
    default:
        break;
    }
    return m;
}

FingerModel fingerModel(PluckingSchool school, bool bass) {
    FingerModel m;
    switch (school) {
    case PluckingSchool::Im:
    case PluckingSchool::Ma:
        m.thumb_has_bass = false;
        m.habit = m.habit_alone = 0.0;
        m.ring_in_tune = 2.5;
        if (school == PluckingSchool::Ma) {
            m.first = 1;
            m.second = 2;
        }
        break;
    case PluckingSchool::Thumb:
        m.again = 0.5;
        m.again_slow = 0.1;
        m.habit_alone = m.habit;
        m.start_middle = m.downbeat_middle = 0.0;
        m.thumb_high = 0.7; // the thumb alternates on the fourth and the third string, too
        m.thumb_off_beat = 1.5;
        m.finger_on_beat = 1.2;
        break;
    case PluckingSchool::Slap:
        m.again = m.again_slow = 0.0; // one finger pops
        m.start_middle = m.downbeat_middle = m.awkward = 0.0;
        break;
    default:
        break;
    }
    if (bass) {
        m.thumb_has_bass = false;
        m.habit = m.habit_alone = m.awkward = 0.0;
        m.ring_in_tune = school == PluckingSchool::Ma ? m.ring_in_tune : 3.0;
    }
    return m;
}

} // namespace wirenote
