// The words for what a lesson plan chooses among: in files, as keys of what is said, and on the
// command line.
#pragma once

#include "piece/lesson_plan.h"

#include <array>

namespace wirenote::lesson_words {

inline constexpr std::array kStrings = {"number", "letter", "thick-thin"};
inline constexpr std::array kFingers = {"number", "name"};
inline constexpr std::array kStrokes = {"sign", "name"};
inline constexpr std::array kNotes = {"letters", "syllables", "german-letters"};
inline constexpr std::array kCounts = {"numbers", "german", "takadimi"};
inline constexpr std::array kOrders = {
    "fretting-first", "plucking-first", "hand-by-hand", "voice-by-voice", "licks", "layers"};
inline constexpr std::array kSteps = {
    "whole", "context", "fretting", "plucking", "together", "slow", "fast", "joined", "layer"};
inline constexpr std::array kStumbles = {"dropped-thumb",
                                         "long-barre",
                                         "fast-shift",
                                         "same-finger",
                                         "wide-stretch",
                                         "tempting-grab",
                                         "string-skip",
                                         "stroke-turns",
                                         "early-release",
                                         "seen"};
static_assert(kSteps.size() == kStepKinds && kStumbles.size() == kStumbleKinds &&
              kCounts.size() == kCountSchools);

} // namespace wirenote::lesson_words
