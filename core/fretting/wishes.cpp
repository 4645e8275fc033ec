#include "fretting/wishes.h"

#include <algorithm>
#include <array>
#include <cstdlib>

namespace wirenote {
namespace {

constexpr double kLongest_s = 8.0; // a note that began earlier is not looked for

} // namespace

HandModel handOfSize(HandModel m, double factor) {
    for (double* mm : {&m.reach.neighbours_mm,
                       &m.reach.index_to_middle_mm,
                       &m.reach.two_apart_mm,
                       &m.reach.index_to_little_mm})
        *mm *= factor;
    m.reach.comfortable_mm *= factor * factor;
    return m;
}

namespace {

constexpr double kDear = 30.0;

void makeEasy(HandModel& m) {
    m.shift *= 1.5;
    m.press *= 3.0;
    m.reach.index_barre += 2.0;
    m.reach.other_barre += 2.0;
    m.reach.comfortable_mm *= 0.8;
    m.reach.per_mm_over *= 2.0;
    m.reach.fingers.dislike[3] += 0.5;
}

void forbidBarres(HandModel& m) {
    m.reach.index_barre = m.reach.other_barre = m.reach.rolled = kDear;
    m.usual_grip = 0.0;
}

} // namespace

bool withoutBarres(const ReadingWish& wish) {
    constexpr double kLevelWithout = 2.0;
    return wish.kind == WishKind::NoBarre ||
           (wish.kind == WishKind::Easier && wish.value >= kLevelWithout);
}

HandModel wishedModel(HandModel m, const ReadingWish& wish) {
    if (withoutBarres(wish))
        forbidBarres(m);
    switch (wish.kind) {
    case WishKind::None:
    case WishKind::NoBarre:
        break;
    case WishKind::Easiest:
    case WishKind::Easier:
        makeEasy(m);
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
    case WishKind::Stretch:
        m.reach.most_frets = static_cast<int>(wish.value);
        break;
    case WishKind::SmallHand:
        return handOfSize(m, kSmallHand);
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
        if (note.onset_s() - other.onset_s() > kLongest_s)
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
        if (note.onset_s() - other.onset_s() > kLongest_s)
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
    case WishKind::Easier:
        return !open && withoutBarres(wish) && barred(rows, i);
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

} // namespace wirenote
