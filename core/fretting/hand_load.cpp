#include "fretting/hand_load.h"

#include "piece/one_stroke.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdlib>
#include <map>
#include <optional>

namespace wirenote {
namespace {

// Seconds that an ordinary hand takes; working figures, common practice.
constexpr double kToMove_s = 0.08;
constexpr double kPerMillimetre_s = 0.0009;
constexpr double kToHop_s = 0.12;
constexpr double kToStretch_s = 0.10;
constexpr double kToBarre_s = 0.15;
constexpr int kBarreStrings = 3;     // fewer are a half barre, which costs little
constexpr double kLongBarre_s = 8.0; // held without a break
constexpr double kWide_mm = 115.0;   // between the outermost fingers

struct Down {
    Position position;
    Finger finger = Finger::Unknown;
    double until_s = 0.0;
};

struct Attack {
    NoteId first = 0;
    double onset_s = 0.0;
    int hand_fret = 0;
    std::vector<Down> begins; // stopped strings only
    std::vector<Down> down;   // all that the hand holds then
    int lowest_string = 0;
    int highest_string = 0;
};

class Hand {
  public:
    Hand(const Instrument& instrument, const Rows& rows) : m_instrument(instrument), m_rows(rows) {
        for (const IndexSpan& stroke : strokeSpans(rows.notes()))
            if (auto attack = at(stroke))
                m_attacks.push_back(std::move(*attack));
    }
    const std::vector<Attack>& attacks() const { return m_attacks; }

    double between_mm(int a, int b) const {
        const auto place = [this](int fret) {
            return fretPlace_mm(m_instrument.scale_mm, m_instrument.capo + fret);
        };
        return std::abs(place(b) - place(a));
    }

    double stretch_mm(const Attack& attack) const {
        if (attack.down.size() < 2)
            return 0.0;
        const auto [low, high] = std::ranges::minmax(
            attack.down, {}, [](const Down& down) { return down.position.fret; });
        return between_mm(low.position.fret, high.position.fret);
    }

  private:
    std::optional<Attack> at(const IndexSpan& stroke) {
        Attack attack;
        attack.first = m_rows[stroke.first].note.id;
        attack.onset_s = m_rows[stroke.first].note.onset_s();
        std::erase_if(m_down, [&](const Down& down) { return down.until_s <= attack.onset_s; });
        for (std::size_t i = stroke.first; i < stroke.end; ++i) {
            const auto& [note, plan] = m_rows[i];
            if (!plan.placed())
                continue;
            const Position place = plan.position.value;
            std::erase_if(m_down, [&](const Down& d) { return d.position.string == place.string; });
            attack.lowest_string = std::max(attack.lowest_string, place.string);
            attack.highest_string = attack.highest_string == 0
                                        ? place.string
                                        : std::min(attack.highest_string, place.string);
            if (place.fret == 0 || plan.finger.value < Finger::Index)
                continue;
            if (plan.hand_fret > 0) // of a grip: where the index finger would be
                attack.hand_fret = attack.hand_fret > 0 ? std::min(attack.hand_fret, plan.hand_fret)
                                                        : plan.hand_fret;
            const Down down{place, plan.finger.value, note.offset_s()};
            m_down.push_back(down);
            attack.begins.push_back(down);
        }
        if (attack.lowest_string == 0)
            return {};
        attack.down = m_down;
        return attack;
    }

    const Instrument& m_instrument;
    const Rows& m_rows;
    std::vector<Down> m_down;
    std::vector<Attack> m_attacks;
};

// How many strings the widest barre lies over, and where.
struct Barre {
    Finger finger = Finger::Unknown;
    int fret = 0;
    int strings = 0;
};
Barre barreOf(const Attack& attack) {
    Barre widest;
    for (const Down& a : attack.down)
        for (const Down& b : attack.down)
            if (a.finger == b.finger && a.position.fret == b.position.fret) {
                const int strings = std::abs(a.position.string - b.position.string) + 1;
                if (strings > std::max(1, widest.strings))
                    widest = {a.finger, a.position.fret, strings};
            }
    return widest;
}

bool sameBarre(const Barre& a, const Barre& b) {
    return a.finger == b.finger && a.fret == b.fret;
}

// Whether the finger of a barre was at its fret before, and only lies down on more strings now.
bool liesThere(const Attack& before, const Barre& barre) {
    return std::ranges::any_of(before.down, [&barre](const Down& down) {
        return down.finger == barre.finger && down.position.fret == barre.fret;
    });
}

// Whether a finger that was down before is wanted somewhere else now, other than by rolling on.
bool hops(const Attack& from, const Attack& to) {
    for (const Down& now : to.begins)
        for (const Down& before : from.down) {
            const bool rolled = before.position.fret == now.position.fret;
            if (before.finger == now.finger && !rolled && from.hand_fret == to.hand_fret)
                return true;
        }
    return false;
}

HandTransition
transition(const Hand& hand, const HandReach& reach, const Attack& from, const Attack& to) {
    HandTransition t{to.first, to.onset_s, to.onset_s - from.onset_s, 0.0, 0.0, 0.0, Hurdle::None};
    const auto needs = [&t](double time_s, Hurdle hurdle) {
        if (time_s > t.needs_s) {
            t.needs_s = time_s;
            t.hurdle = hurdle;
        }
    };
    if (from.hand_fret > 0 && to.hand_fret > 0 && from.hand_fret != to.hand_fret &&
        !to.begins.empty()) {
        t.shift_mm = hand.between_mm(from.hand_fret, to.hand_fret);
        needs(kToMove_s + kPerMillimetre_s * t.shift_mm, Hurdle::Shift);
    }
    t.stretch_mm = hand.stretch_mm(to);
    if (hops(from, to))
        needs(kToHop_s, Hurdle::SameFinger);
    if (t.stretch_mm > reach.comfortable_mm && !to.begins.empty())
        needs(kToStretch_s, Hurdle::Stretch);
    if (const Barre now = barreOf(to); now.strings >= kBarreStrings && !liesThere(from, now))
        needs(kToBarre_s, Hurdle::Barre);
    return t;
}

// The longest time that one barre is held within a span.
double longestBarre_s(const std::vector<Attack>& attacks, TimeRange span) {
    double longest = 0.0;
    double since_s = 0.0;
    Barre held;
    for (std::size_t i = 0; i < attacks.size(); ++i) {
        const Barre now = barreOf(attacks[i]);
        const double at_s = attacks[i].onset_s;
        if (now.strings < kBarreStrings || !sameBarre(now, held))
            since_s = at_s;
        held = now.strings >= kBarreStrings ? now : Barre{};
        if (held.strings == 0 || at_s >= span.end_s)
            continue;
        double until_s = at_s;
        for (const Down& down : attacks[i].down)
            if (down.finger == held.finger)
                until_s = std::max(until_s, down.until_s);
        if (i + 1 < attacks.size())
            until_s = std::min(until_s, attacks[i + 1].onset_s);
        if (until_s > span.start_s)
            longest = std::max(longest, until_s - since_s);
    }
    return longest;
}

// The shortest time from one place of a finger to another.
double soonestAgain_s(const std::vector<Attack>& attacks, TimeRange span) {
    std::map<Finger, std::pair<Position, double>> last;
    double soonest = 0.0;
    for (const Attack& attack : attacks)
        for (const Down& down : attack.begins) {
            const auto at = last.find(down.finger);
            if (at != last.end() && at->second.first != down.position &&
                at->second.second < attack.onset_s && span.contains(attack.onset_s)) {
                const double gap_s = attack.onset_s - at->second.second;
                soonest = soonest == 0.0 ? gap_s : std::min(soonest, gap_s);
            }
            last[down.finger] = {down.position, attack.onset_s};
        }
    return soonest;
}

} // namespace

std::vector<HandTransition>
handTransitions(const Instrument& instrument, const Rows& rows, const HandReach& reach) {
    const Hand hand(instrument, rows);
    std::vector<HandTransition> transitions;
    for (std::size_t i = 1; i < hand.attacks().size(); ++i)
        transitions.push_back(transition(hand, reach, hand.attacks()[i - 1], hand.attacks()[i]));
    return transitions;
}

HandLoad
handLoad(const Instrument& instrument, const Rows& rows, TimeRange span, const HandReach& reach) {
    const Hand hand(instrument, rows);
    const auto& attacks = hand.attacks();
    HandLoad load;
    int shifts = 0;
    for (std::size_t i = 0; i < attacks.size(); ++i) {
        if (!span.contains(attacks[i].onset_s))
            continue;
        load.widest_mm = std::max(load.widest_mm, hand.stretch_mm(attacks[i]));
        if (i == 0)
            continue;
        const Attack& before = attacks[i - 1];
        load.strings_crossed += std::max({0,
                                          attacks[i].highest_string - before.lowest_string,
                                          before.highest_string - attacks[i].lowest_string});
        const HandTransition t = transition(hand, reach, before, attacks[i]);
        shifts += t.shift_mm > 0.0 ? 1 : 0;
        load.shifted_mm += t.shift_mm;
        const double could = t.needs_s > 0.0 ? t.gap_s / t.needs_s : 0.0;
        if (could > 0.0 && (load.top_tempo == 0.0 || could < load.top_tempo)) {
            load.top_tempo = could;
            load.hardest = t;
        }
    }
    load.shifts_per_s = shifts / std::max(1e-6, span.length_s());
    load.longest_barre_s = longestBarre_s(attacks, span);
    load.soonest_again_s = soonestAgain_s(attacks, span);
    load.strains = load.longest_barre_s >= kLongBarre_s || load.widest_mm >= kWide_mm;
    return load;
}

} // namespace wirenote
