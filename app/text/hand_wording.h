// What the fretting hand does, in words.
#pragma once

#include "session/hand_report.h"

#include <QString>

namespace wirenote::app {

int fingerNumber(Finger finger); // 1 to 4; 0: not one of the four

// "third finger, with the second and first behind it; pushed towards the thicker strings"
QString bendText(const BendWay& way);

// "In a larger hand: fourth finger. Much faster: string 4, fret 7." – where `now` is its place.
QString conditionsText(const std::vector<OtherCondition>& conditions, Position now);

} // namespace wirenote::app
