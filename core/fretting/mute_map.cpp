#include "fretting/mute_map.h"

#include "piece/one_stroke.h"

#include <algorithm>
#include <array>
#include <optional>

namespace wirenote {
namespace {

constexpr double kRangJustNow_s = 0.3;
constexpr std::size_t kStrum = 3; // strings that one stroke takes, to pass over others

// What is on a string.
struct Sounding {
    bool sounds = false;
    Position position;
    Finger finger = Finger::Unknown;
    bool rang = false; // until just now
    bool pressed() const { return sounds && position.fret > 0; }
};

class Strings {
  public:
    Strings(const Instrument& instrument, const Rows& rows, double at_s)
        : m_instrument(instrument), m_on(static_cast<std::size_t>(instrument.stringCount()) + 2) {
        std::size_t struck = 0;
        for (const auto& [note, plan] : rows) {
            if (note.onset_s() > at_s + kStrokeApart_s)
                break;
            if (!plan.placed() || !instrument.hasString(plan.position.value.string))
                continue;
            Sounding& on = m_on[static_cast<std::size_t>(plan.position.value.string)];
            const bool rang = note.offset_s() > at_s - kRangJustNow_s;
            const bool sounds = note.offset_s() > at_s && note.pitched();
            on = {sounds, plan.position.value, plan.finger.value, rang};
            if (!sounds)
                continue;
            if (beginTogether(note.onset_s(), at_s)) {
                ++struck;
                m_thickest = std::max(m_thickest, plan.position.value.string);
                m_thinnest = std::min(m_thinnest, plan.position.value.string);
            }
        }
        m_strummed = struck >= kStrum;
    }

    bool anySounds() const { return std::ranges::any_of(m_on, &Sounding::sounds); }

    MutedString at(int string) const {
        const Sounding& on = of(string);
        MutedString muted;
        muted.string = string;
        if (on.sounds) {
            muted.state = StringState::Sounds;
            return muted;
        }
        muted.must = on.rang || (m_strummed && string < m_thickest && string > m_thinnest);
        if (const auto damper = damperOf(string)) {
            muted.state = StringState::Damped;
            muted.damper = damper->first;
            muted.finger = damper->second;
        }
        return muted;
    }

  private:
    const Sounding& of(int string) const { return m_on[static_cast<std::size_t>(string)]; }

    std::optional<std::pair<Damper, Finger>> damperOf(int string) const {
        if (string > 1 && of(string - 1).pressed())
            return {{Damper::Fingertip, of(string - 1).finger}};
        if (const Finger flat = flatOver(string); flat != Finger::Unknown)
            return {{Damper::FlatOfFinger, flat}};
        if (const Finger spare = spareFor(string); spare != Finger::Unknown)
            return {{Damper::SpareFinger, spare}};
        const int thickest = m_instrument.stringCount();
        if (string == thickest && !m_instrument.isBass() && handIsThere())
            return {{Damper::Thumb, Finger::Thumb}};
        if (thickerThanAll(string))
            return {{Damper::OtherHand, Finger::Unknown}};
        return {};
    }

    // The index finger lies over the thinner strings unless an open one sounds under it.
    Finger flatOver(int string) const {
        for (int thicker = string + 1; thicker <= m_instrument.stringCount(); ++thicker) {
            const Sounding& on = of(thicker);
            if (on.sounds && on.position.fret == 0)
                return Finger::Unknown;
            if (on.pressed() && on.finger == Finger::Index)
                return on.finger;
        }
        return Finger::Unknown;
    }

    // A finger that holds nothing can lie on a string that others are pressed behind.
    Finger spareFor(int string) const {
        constexpr int kInReach = 2; // strings from the nearest one that is pressed
        const bool near = [&] {
            for (int other = string - kInReach; other <= string + kInReach; ++other)
                if (other >= 1 && other <= m_instrument.stringCount() && of(other).pressed())
                    return true;
            return false;
        }();
        if (!near)
            return Finger::Unknown;
        for (const Finger finger : {Finger::Middle, Finger::Ring, Finger::Little}) {
            const bool busy = std::ranges::any_of(
                m_on, [finger](const Sounding& on) { return on.pressed() && on.finger == finger; });
            if (!busy)
                return finger;
        }
        return Finger::Unknown;
    }

    bool handIsThere() const { return std::ranges::any_of(m_on, &Sounding::pressed); }

    bool thickerThanAll(int string) const {
        for (int thicker = string + 1; thicker <= m_instrument.stringCount(); ++thicker)
            if (of(thicker).sounds)
                return false;
        return true;
    }

    const Instrument& m_instrument;
    std::vector<Sounding> m_on; // [string]
    int m_thickest = 0;
    int m_thinnest = 99;
    bool m_strummed = false;
};

} // namespace

std::vector<MutedString> muteMap(const Instrument& instrument, const Rows& rows, double at_s) {
    const Strings strings(instrument, rows, at_s);
    std::vector<MutedString> map;
    if (!strings.anySounds())
        return map;
    for (int string = instrument.stringCount(); string >= 1; --string)
        map.push_back(strings.at(string));
    return map;
}

} // namespace wirenote
