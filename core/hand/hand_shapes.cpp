#include "hand/hand_shapes.h"

#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <utility>

namespace wirenote {
namespace {

constexpr std::size_t kMostShapes = 24;
constexpr int kThumb = 0;
constexpr int kFingers = 4;
constexpr int kThumbFrets = 1;       // from the index finger, either way
constexpr int kWidestOtherBarre = 4; // strings under another finger than the index

Finger fingerOf(int number) {
    return number == kThumb ? Finger::Thumb
                            : static_cast<Finger>(static_cast<int>(Finger::Index) + number - 1);
}

double along_mm(const Instrument& instrument, int from_fret, int to_fret) {
    return fretPlace_mm(instrument.scale_mm, instrument.capo + to_fret) -
           fretPlace_mm(instrument.scale_mm, instrument.capo + from_fret);
}

double furthest_mm(const HandReach& reach, int lower, int higher) {
    switch (higher - lower) {
    case 1:
        return lower == 1 ? reach.index_to_middle_mm : reach.neighbours_mm;
    case 2:
        return reach.two_apart_mm;
    default:
        return reach.index_to_little_mm;
    }
}

struct Numbered {
    Position stop;
    int finger = 1;
};

// Whether two stops can have these fingers.
bool canHold(const Instrument& instrument, const HandReach& reach, Numbered a, Numbered b) {
    if (a.finger == b.finger)
        return a.stop.fret == b.stop.fret;
    if (a.finger > b.finger)
        std::swap(a, b);
    if (a.finger == kThumb)
        return std::abs(b.stop.fret - a.stop.fret) <= kThumbFrets + b.finger - 1;
    if (a.stop.fret > b.stop.fret ||
        along_mm(instrument, a.stop.fret, b.stop.fret) > furthest_mm(reach, a.finger, b.finger))
        return false;
    // Fingers on one fret lie side by side; only neighbours can change places.
    return a.stop.fret != b.stop.fret || a.stop.string > b.stop.string || b.finger - a.finger == 1;
}

class ShapeSearch {
  public:
    ShapeSearch(const Instrument& instrument,
                std::span<const Position> stops,
                std::size_t sounding,
                unsigned open,
                const HandReach& reach)
        : m_instrument(instrument), m_stops(stops), m_sounding(sounding), m_open(open),
          m_reach(reach), m_numbers(stops.size(), 0) {}

    std::vector<HandShape> run() {
        assign(0);
        std::ranges::stable_sort(m_found, {}, &HandShape::cost);
        if (m_found.size() > kMostShapes)
            m_found.resize(kMostShapes);
        return std::move(m_found);
    }

  private:
    double along_mm(int from_fret, int to_fret) const {
        return wirenote::along_mm(m_instrument, from_fret, to_fret);
    }

    bool goTogether(std::size_t a, int finger_a, std::size_t b, int finger_b) const {
        return canHold(m_instrument, m_reach, {m_stops[a], finger_a}, {m_stops[b], finger_b});
    }

    void assign(std::size_t stop) {
        if (stop == m_stops.size()) {
            if (barresHold())
                addShapes();
            return;
        }
        const bool thickest = m_stops[stop].string == m_instrument.stringCount();
        for (int finger = m_reach.thumb && thickest ? kThumb : 1; finger <= kFingers; ++finger) {
            bool fits = true;
            for (std::size_t before = 0; before < stop && fits; ++before)
                fits = goTogether(before, m_numbers[before], stop, finger);
            if (!fits)
                continue;
            m_numbers[stop] = finger;
            assign(stop + 1);
        }
    }

    struct Barre {
        int fret = 0;
        int thick = 0; // string numbers
        int thin = 99;
        std::size_t sounding = 0;
        int held = 0;
        int strings() const { return thick - thin + 1; }
    };

    Barre barreOf(int finger) const {
        Barre barre;
        for (std::size_t i = 0; i < m_stops.size(); ++i)
            if (m_numbers[i] == finger) {
                barre.fret = m_stops[i].fret;
                barre.thick = std::max(barre.thick, m_stops[i].string);
                barre.thin = std::min(barre.thin, m_stops[i].string);
                barre.sounding += i < m_sounding ? 1 : 0;
                ++barre.held;
            }
        return barre;
    }

    bool barresHold() const {
        for (int finger = 1; finger <= kFingers; ++finger) {
            const Barre barre = barreOf(finger);
            if (barre.fret == 0 || barre.strings() < 2)
                continue;
            // Only the index finger is laid over strings that it does not sound.
            if (finger != 1 &&
                (barre.strings() > kWidestOtherBarre || barre.held < barre.strings()))
                return false;
            for (int string = barre.thin; string <= barre.thick; ++string)
                if ((m_open >> static_cast<unsigned>(string)) & 1U)
                    return false;
            for (std::size_t i = 0; i < m_stops.size(); ++i)
                if (m_stops[i].string > barre.thin && m_stops[i].string < barre.thick &&
                    (m_stops[i].fret < barre.fret || (finger != 1 && m_numbers[i] != finger)))
                    return false;
        }
        return true;
    }

    // `fret`: where the finger is, `frets` above its place. A stretch is as far as the frets are
    // wide.
    double offPlace(int finger, int fret, int frets) const {
        constexpr double kWide_mm = 30.0; // about the fourth fret of a long scale
        if (frets == 0)
            return 0.0;
        if (frets > 0)
            return m_reach.ahead * (finger == 1 ? 0.8 : 1.0) * along_mm(fret - frets, fret) /
                   kWide_mm;
        const double back = -frets;
        return finger == 1 ? back * m_reach.index_back : m_reach.close * back * (1.0 + 0.15 * back);
    }

    // Of several strings under one finger.
    double barreCost(int finger, const Barre& barre) const {
        if (barre.fret == 0 || barre.strings() < 2)
            return 0.0;
        const bool beside_open = (m_open >> static_cast<unsigned>(barre.thin - 1)) & 1U;
        const double laid = finger == 1
                                ? m_reach.index_barre + m_reach.each_barred * (barre.strings() - 2)
                                : m_reach.other_barre;
        return (beside_open ? m_reach.beside_open : 0.0) +
               (barre.sounding < 2 ? m_reach.rolled : laid);
    }

    double shapeCost() const {
        double cost = 0.0;
        int lowest = 99;
        int highest = 0;
        for (std::size_t i = 0; i < m_stops.size(); ++i) {
            lowest = std::min(lowest, m_stops[i].fret);
            highest = std::max(highest, m_stops[i].fret);
            for (std::size_t k = 0; k < i; ++k) {
                if (m_numbers[i] == kThumb || m_numbers[k] == kThumb)
                    continue;
                const int apart = m_numbers[i] - m_numbers[k];
                const int thinner = m_stops[k].string - m_stops[i].string;
                if (apart != 0 && m_stops[i].fret == m_stops[k].fret && apart * thinner < 0)
                    cost += m_reach.crossed;
            }
        }
        cost += m_reach.per_fret_over * std::max(0, highest - lowest - m_reach.most_frets);
        cost +=
            m_reach.per_mm_over * std::max(0.0, along_mm(lowest, highest) - m_reach.comfortable_mm);
        for (int finger = 1; finger <= kFingers; ++finger)
            cost += barreCost(finger, barreOf(finger));
        return cost;
    }

    // The hand may stand at one of several places behind the same fingers.
    void addShapes() {
        const double held = shapeCost();
        int lowest = 99;
        int highest = 1;
        int thumb_fret = 0;
        for (std::size_t i = 0; i < m_stops.size(); ++i) {
            const int index_fret = m_stops[i].fret - std::max(0, m_numbers[i] - 1);
            lowest = std::min(lowest, index_fret);
            highest = std::max(highest, index_fret);
            if (m_numbers[i] == kThumb)
                thumb_fret = m_stops[i].fret;
        }
        for (int hand = std::max(1, lowest - 1); hand <= highest + 1; ++hand) {
            if (thumb_fret > 0 && std::abs(thumb_fret - hand) > kThumbFrets)
                continue;
            const FingerPattern& pattern = m_reach.pattern(hand);
            HandShape shape{{}, hand, held + (thumb_fret > 0 ? *m_reach.thumb : 0.0)};
            for (int finger = 1; finger <= kFingers; ++finger)
                if (const Barre barre = barreOf(finger); barre.fret > 0) {
                    const auto f = static_cast<std::size_t>(finger - 1);
                    shape.cost +=
                        offPlace(finger, barre.fret, barre.fret - hand - pattern.frets_up[f]) +
                        pattern.dislike[f];
                }
            for (const int number : m_numbers)
                shape.fingers.push_back(fingerOf(number));
            m_found.push_back(std::move(shape));
        }
    }

    const Instrument& m_instrument;
    std::span<const Position> m_stops;
    std::size_t m_sounding;
    unsigned m_open;
    const HandReach& m_reach;
    std::vector<int> m_numbers; // 0 thumb, 1 index … 4 little
    std::vector<HandShape> m_found;
};

} // namespace

std::vector<HandShape> handShapes(const Instrument& instrument,
                                  std::span<const Position> stops,
                                  std::size_t sounding,
                                  unsigned open,
                                  const HandReach& reach) {
    return ShapeSearch(instrument, stops, sounding, open, reach).run();
}

bool heldTogether(const Instrument& instrument,
                  const FingerAt& a,
                  const FingerAt& b,
                  const HandReach& reach) {
    const auto number = [](Finger finger) {
        return finger >= Finger::Index && finger <= Finger::Little
                   ? static_cast<int>(finger) - static_cast<int>(Finger::Index) + 1
                   : 0;
    };
    const Numbered first{a.position, number(a.finger)};
    const Numbered second{b.position, number(b.finger)};
    return first.finger == 0 || second.finger == 0 || first.stop.fret == 0 ||
           second.stop.fret == 0 || canHold(instrument, reach, first, second);
}

} // namespace wirenote
