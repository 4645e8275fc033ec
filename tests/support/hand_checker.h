// Whether one hand can hold what sounds: written apart from the program's own rules, which it
// checks. Limits of a large hand, from memory: between neighbouring fingers 6.2 cm (index to middle
// 8 cm), two apart 11.2 cm, index to little finger 15 cm.
#pragma once

#include "piece/piece.h"

#include <cmath>
#include <optional>
#include <string>
#include <vector>

namespace wirenote::test {

struct HeldNote {
    Position position;
    Finger finger = Finger::Unknown;
    double end_s = 0.0;
};

inline double apart_mm(const Instrument& instrument, int low, int high) {
    const auto at = [&](int fret) {
        return instrument.scale_mm * (1.0 - std::pow(2.0, -(fret + instrument.capo) / 12.0));
    };
    return at(high) - at(low);
}

inline std::optional<std::string>
whyTwoCannot(const Instrument& instrument, const HeldNote& low, const HeldNote& high) {
    const int fingers = static_cast<int>(high.finger) - static_cast<int>(low.finger);
    if (fingers == 0 && low.position.fret != high.position.fret)
        return "a finger at two frets";
    if (fingers <= 0)
        return {};
    if (low.position.fret > high.position.fret)
        return "fingers crossed";
    const double most_mm = fingers == 3                  ? 150.0
                           : fingers == 2                ? 112.0
                           : low.finger == Finger::Index ? 80.0
                                                         : 62.0;
    if (apart_mm(instrument, low.position.fret, high.position.fret) > most_mm + 0.5)
        return "wider than a hand";
    return {};
}

// Why these cannot sound at once; nothing when they can.
inline std::optional<std::string> whyNot(const Instrument& instrument,
                                         const std::vector<HeldNote>& held) {
    for (const HeldNote& a : held) {
        const bool over_the_neck =
            a.finger == Finger::Thumb && a.position.string == instrument.stringCount();
        if (a.position.fret > 0 && !over_the_neck &&
            (a.finger < Finger::Index || a.finger > Finger::Little))
            return "a stopped string without a finger";
        for (const HeldNote& b : held) {
            if (&a == &b)
                continue;
            if (a.position.string == b.position.string)
                return "two notes on a string";
            if (a.position.fret == 0 || b.position.fret == 0)
                continue;
            const bool thumb = a.finger == Finger::Thumb || b.finger == Finger::Thumb;
            if (auto why = whyTwoCannot(instrument, a, b); why && !thumb)
                return why;
            for (const HeldNote& open : held)
                if (a.finger == b.finger && open.position.fret == 0 &&
                    open.position.string > a.position.string &&
                    open.position.string < b.position.string)
                    return "an open string under a barre";
        }
    }
    return {};
}

// The first moment of a reading that no hand can play, with the reason. `ends_s`: of each note.
// Notes without a place are left out. What ends within 50 ms of an attack does not sound then.
inline std::optional<std::string> firstImpossible(const Piece& piece,
                                                  const std::vector<double>& ends_s) {
    std::vector<HeldNote> held;
    const auto& plans = piece.asPlayed().plans;
    for (std::size_t i = 0; i < piece.notes.size(); ++i) {
        const double onset_s = piece.notes[i].onset_s();
        std::erase_if(held, [&](const HeldNote& note) { return note.end_s <= onset_s + 0.05; });
        if (!plans[i].placed() || !piece.notes[i].pitched())
            continue;
        held.push_back({plans[i].position.value, plans[i].finger.value, ends_s[i]});
        const bool last_of_stroke =
            i + 1 == piece.notes.size() || piece.notes[i + 1].onset_s() - onset_s > 0.03;
        if (const auto why = last_of_stroke ? whyNot(piece.instrument, held) : std::nullopt)
            return *why + " at " + std::to_string(onset_s) + " s";
    }
    return {};
}

} // namespace wirenote::test
