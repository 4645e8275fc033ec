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
constexpr double kSmallHand = 0.85; // of the reach of an ordinary one

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

} // namespace

HandModel schoolModel(FrettingSchool school, const Instrument& instrument) {
    HandModel m;
    switch (school) {
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
    return m;
}

HandModel wishedModel(HandModel m, const ReadingWish& wish) {
    constexpr double kDear = 30.0;
    switch (wish.kind) {
    case WishKind::None:
        break;
    case WishKind::Easiest:
        m.shift *= 1.5;
        m.press *= 3.0;
        m.reach.index_barre += 2.0;
        m.reach.other_barre += 2.0;
        m.reach.comfortable_mm *= 0.8;
        m.reach.per_mm_over *= 2.0;
        m.reach.fingers.dislike[3] += 0.5;
        break;
    case WishKind::OnePosition:
        m.shift = kDear;
        if (wish.value > 0.0) {
            m.at_fret = kDear;
            m.home_fret = static_cast<int>(wish.value);
        }
        break;
    case WishKind::NoOpen:
        m.open = kDear;
        break;
    case WishKind::NoBarre:
        m.reach.index_barre = m.reach.other_barre = m.reach.rolled = kDear;
        m.usual_grip = 0.0;
        break;
    case WishKind::Stretch:
        m.reach.most_frets = static_cast<int>(wish.value);
        break;
    case WishKind::SmallHand:
        for (double* mm : {&m.reach.neighbours_mm,
                           &m.reach.index_to_middle_mm,
                           &m.reach.two_apart_mm,
                           &m.reach.index_to_little_mm})
            *mm *= kSmallHand;
        m.reach.comfortable_mm *= kSmallHand * kSmallHand;
        break;
    case WishKind::Tempo:
        m.hurry_s *= std::max(0.01, wish.value);
        break;
    }
    return m;
}

namespace {

bool stretchesOver(const Rows& rows, std::size_t i, int frets) {
    const auto& [note, plan] = rows[i];
    for (std::size_t k = i; k-- > 0;) {
        const auto& [other, place] = rows[k];
        if (note.onset_s() - other.onset_s() > 8.0)
            break;
        if (other.offset_s() > note.onset_s() && place.position.value.fret > 0 &&
            std::abs(place.position.value.fret - plan.position.value.fret) > frets)
            return true;
    }
    return false;
}

bool barred(const Rows& rows, std::size_t i) {
    const auto& [note, plan] = rows[i];
    for (std::size_t k = i; k-- > 0;) {
        const auto& [other, place] = rows[k];
        if (note.onset_s() - other.onset_s() > 8.0)
            break;
        if (other.offset_s() > note.onset_s() && place.finger.value == plan.finger.value &&
            place.position.value.string != plan.position.value.string)
            return true;
    }
    return false;
}

bool unmet(const Rows& rows, std::size_t i, const ReadingWish& wish, int hand_fret) {
    const NotePlan& plan = rows[i].plan;
    if (!plan.placed())
        return true;
    const bool open = plan.position.value.fret == 0;
    switch (wish.kind) {
    case WishKind::OnePosition:
        return !open && plan.hand_fret != hand_fret;
    case WishKind::NoOpen:
        return open;
    case WishKind::NoBarre:
        return !open && barred(rows, i);
    case WishKind::Stretch:
        return !open && stretchesOver(rows, i, static_cast<int>(wish.value));
    case WishKind::None:
    case WishKind::Easiest:
    case WishKind::SmallHand:
    case WishKind::Tempo:
        break;
    }
    return false;
}

// Where the hand is mostly.
int homeOf(const Rows& rows) {
    std::array<int, kMaxFrets + 1> count{};
    for (const auto& [note, plan] : rows)
        if (plan.position.value.fret > 0 && plan.hand_fret > 0 && plan.hand_fret <= kMaxFrets)
            ++count[static_cast<std::size_t>(plan.hand_fret)];
    return static_cast<int>(std::ranges::max_element(count) - count.begin());
}

} // namespace

std::vector<NoteId> unmetWishes(const Rows& rows, const ReadingWish& wish) {
    const int home = wish.value > 0.0 ? static_cast<int>(wish.value) : homeOf(rows);
    std::vector<NoteId> found;
    for (std::size_t i = 0; i < rows.size(); ++i)
        if (unmet(rows, i, wish, home))
            found.push_back(rows[i].note.id);
    return found;
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
