#include "fretting/schools.h"

#include "hand/candidates.h"
#include "piece/one_stroke.h"

#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <numeric>

namespace wirenote {
namespace {

constexpr int kLowBass = 5;        // frets are widest up to here
constexpr double kWelcome = 2.5;   // nepers for and against open strings in lines
constexpr double kNotTaught = 1.5; // a finger that the school leaves out
constexpr double kThumb = 0.3;

// Whether this player takes notes of a line open or stopped where both can be, as log odds.
double openHabit(const Instrument& instrument, const Rows& rows) {
    double open = 0.5;
    double stopped = 0.5;
    for (const auto& stroke : strokesOf(rows.notes())) {
        const auto& [note, plan] = rows[stroke.front()];
        if (stroke.size() > 1 || !plan.position.isSet() || !plan.placed() || !note.pitched())
            continue;
        const auto places = candidatesFor(instrument, note.frettedMidi());
        if (std::ranges::any_of(places, [](const Position& p) { return p.fret == 0; }))
            (plan.position.value.fret == 0 ? open : stopped) += 1.0;
    }
    return std::clamp(std::log(stopped / open), -kWelcome, kWelcome);
}

// What a finger costs this player who was seen to use each so often, against an even share.
void adoptFingers(const Rows& rows, FingerPattern& pattern) {
    constexpr double kOfItsOwn = 4.0; // notes that the pattern itself counts for, each finger
    constexpr double kMost = 2.0;
    std::array<double, 4> used{};
    for (const auto& [note, plan] : rows)
        if (const Finger finger = plan.finger.value;
            plan.finger.isSet() && finger >= Finger::Index && finger <= Finger::Little)
            used[static_cast<std::size_t>(finger) - static_cast<std::size_t>(Finger::Index)] += 1.0;
    const double all = std::accumulate(used.begin(), used.end(), 0.0);
    for (std::size_t f = 0; f < used.size(); ++f)
        pattern.dislike[f] +=
            std::clamp(std::log((all / 4.0 + kOfItsOwn) / (used[f] + kOfItsOwn)), -kMost, kMost);
}

// What one answer changes. Working figures.
void obey(FrettingRule rule, const Instrument& instrument, HandModel& m) {
    constexpr double kAgainst = 1.5;    // nepers
    constexpr double kLessTaught = 0.1; // the grips that are shown bar otherwise
    constexpr int kNarrow = 7;          // frets are from here on
    HandReach& reach = m.reach;
    switch (rule) {
    case FrettingRule::FullBarre:
        reach.each_barred = reach.rolled = 0.0;
        break;
    case FrettingRule::ShortBarre:
        reach.each_barred *= 3.0;
        reach.rolled += kAgainst / 2.0;
        m.usual_grip *= kLessTaught;
        break;
    case FrettingRule::OneFinger:
        reach.index_barre = 0.0;
        reach.other_barre = 0.3;
        m.usual_grip *= kLessTaught;
        break;
    case FrettingRule::SeparateFingers:
        reach.index_barre += kAgainst;
        reach.other_barre += kAgainst;
        break;
    case FrettingRule::Roll:
        m.roll = reach.rolled = 0.0;
        break;
    case FrettingRule::NextFinger:
        m.roll += kAgainst;
        reach.rolled += kAgainst;
        break;
    case FrettingRule::KeepDown:
        m.let_go *= 4.0;
        break;
    case FrettingRule::Lift:
        m.let_go = 0.0;
        break;
    case FrettingRule::ThirdHigh:
        if (reach.low_upto == 0) {
            reach.low_fingers = reach.fingers;
            reach.low_upto = std::max(0, kNarrow - 1 - instrument.capo);
        }
        reach.fingers.dislike[3] += kAgainst;
        reach.ahead *= 0.5;
        break;
    case FrettingRule::FourthHigh: // one finger a fret, the little one as good as any
        reach.fingers.dislike[3] = 0.0;
        break;
    }
}

} // namespace

HandModel schoolModel(const FrettingManner& manner, const Instrument& instrument) {
    HandModel m;
    switch (manner.school) {
    case FrettingSchool::FingerPerFret:
    case FrettingSchool::AsPlayed:
        break;
    case FrettingSchool::Box:
        m.reach.fingers.dislike[3] += kNotTaught;
        m.reach.ahead *= 0.5; // the ring finger takes the fret above
        m.bend_by_index *= 2.0;
        m.bend_by_other *= 2.0;
        break;
    case FrettingSchool::Classical:
        m.shift *= 1.5;
        m.per_fret_shifted *= 1.5;
        m.guided = 0.6;
        m.let_go *= 3.0;
        m.hop *= 1.5;
        break;
    case FrettingSchool::BassOneTwoFour:
        m.reach.low_upto = std::max(0, kLowBass - instrument.capo);
        m.reach.low_fingers = {{0, 1, 2, 2}, {0.0, 0.0, 2.0 * kNotTaught, 0.0}};
        break;
    case FrettingSchool::Open:
        m.open_habit -= kWelcome;
        break;
    case FrettingSchool::Closed:
        m.open_habit += kWelcome;
        break;
    case FrettingSchool::ThumbOver:
        m.reach.thumb = kThumb;
        break;
    }
    for (const FrettingRule rule : manner.rules)
        obey(rule, instrument, m);
    return m;
}

HandModel playerModel(HandModel model,
                      FrettingSchool school,
                      const Instrument& instrument,
                      const Rows& rows) {
    if (school != FrettingSchool::Open && school != FrettingSchool::Closed)
        model.open_habit += openHabit(instrument, rows);
    if (school == FrettingSchool::AsPlayed)
        adoptFingers(rows, model.reach.fingers);
    return model;
}

} // namespace wirenote
