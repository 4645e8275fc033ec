// How a fretting hand is taken to go about it: its school, and its answers to what teachers argue
// about.
#pragma once

#include <algorithm>
#include <vector>

namespace wirenote {

// The rules that the fretting hand is taken to follow. FingerPerFret: one finger a fret; Box: three
// fingers, the ring finger draws; Classical: no needless shifts, guide fingers, what is needed
// again stays down; BassOneTwoFour: three frets low on the neck, ring and little finger as one;
// Open and Closed: open strings in lines welcome or avoided; ThumbOver: the thumb takes the
// thickest string; AsPlayed: fingers as this player is known to use them.
enum class FrettingSchool {
    FingerPerFret,
    Box,
    Classical,
    BassOneTwoFour,
    Open,
    Closed,
    ThumbOver,
    AsPlayed
};
constexpr int kFrettingSchools = 8;

// What teachers disagree about whatever their school: two answers each, and a hand follows one or
// leaves it to the school. A barre is laid over all its strings, or over those that sound; strings
// on one fret are taken by one finger, or each by its own; the next string on the same fret by the
// same finger, or by another; what comes again stays down, or is let go and taken again; high on
// the neck, where frets are narrow, the third finger goes for the fourth, or not.
enum class FrettingRule {
    FullBarre,
    ShortBarre,
    OneFinger,
    SeparateFingers,
    Roll,
    NextFinger,
    KeepDown,
    Lift,
    ThirdHigh,
    FourthHigh
};
constexpr int kFrettingRules = 10;
constexpr FrettingRule otherAnswer(FrettingRule rule) {
    return static_cast<FrettingRule>(static_cast<int>(rule) ^ 1);
}
// The school and the rules a hand follows.
struct FrettingManner {
    FrettingSchool school = FrettingSchool::FingerPerFret;
    std::vector<FrettingRule> rules; // in their order, one answer each
    bool follows(FrettingRule rule) const { return std::ranges::find(rules, rule) != rules.end(); }
    void follow(FrettingRule rule); // instead of the other answer
    void leaveToSchool(FrettingRule rule);
    bool operator==(const FrettingManner&) const = default;
};

} // namespace wirenote
