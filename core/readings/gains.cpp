#include "readings/gains.h"

#include "fretting/hand_load.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdio>

namespace wirenote {
namespace {

// What is less than this is not felt.
constexpr double kLeastShift_mm = 12.0;
constexpr double kLeastStretch_mm = 8.0;
constexpr double kLeastBarre_s = 0.15;
constexpr double kLeastEase = 0.1;   // of the tempo
constexpr double kMuchTime = 4.0;    // times as fast: nobody asks for more
constexpr double kLeastTone = 0.5;   // strings, in the middle
constexpr double kLeastCrossing = 2; // strings

struct Figures {
    double shifts_mm = 0.0;
    double stretch_mm = 0.0;
    double barre_s = 0.0;
    double ringing = 0.0;
    double string = 0.0; // in the middle; 0: no note
    double top_tempo = 0.0;
    double crossing = 0.0;
    double slurred = 0.0;
    double notes = 0.0;
};

// A note that sounds on is cut off where its string is wanted again.
bool isCut(const Rows& rows, std::size_t i) {
    constexpr double kFelt_s = 0.05;
    const auto& [note, plan] = rows[i];
    for (std::size_t k = i + 1; k < rows.size(); ++k) {
        const auto& [next, place] = rows[k];
        if (next.onset_s() > note.offset_s() - kFelt_s)
            break;
        if (next.onset_s() > note.onset_s() &&
            place.position.value.string == plan.position.value.string)
            return true;
    }
    return false;
}

Figures figuresOf(const Passage& passage, TimeRange span) {
    Figures f;
    const HandLoad load = handLoad(passage.instrument, passage.rows, span);
    f.shifts_mm = load.shifted_mm;
    f.stretch_mm = load.widest_mm;
    f.barre_s = load.longest_barre_s;
    f.top_tempo = load.top_tempo == 0.0 ? kMuchTime : std::min(kMuchTime, load.top_tempo);
    f.crossing = load.strings_crossed;
    for (std::size_t i = 0; i < passage.rows.size(); ++i) {
        const auto& [note, plan] = passage.rows[i];
        if (!span.contains(note.onset_s()) || !plan.placed())
            continue;
        ++f.notes;
        f.string += plan.position.value.string;
        f.slurred += note.slurred() ? 1.0 : 0.0;
        f.ringing += (plan.position.value.fret == 0 ? 1.0 : 0.0) - (isCut(passage.rows, i) ? 1 : 0);
    }
    if (f.notes > 0.0)
        f.string /= f.notes;
    return f;
}

class Weighing {
  public:
    // `more`: more of it is better. `least`: the least that counts.
    void weigh(GainKind kind, double a, double b, double least, bool more) {
        if (std::abs(b - a) < least)
            return;
        const bool better = more ? b > a : b < a;
        (better ? m_weighed.gains : m_weighed.losses).push_back({kind, a, b});
    }
    GainsAndLosses take() { return std::move(m_weighed); }

  private:
    GainsAndLosses m_weighed;
};

std::string rounded(double value, int digits = 0) {
    std::array<char, 32> text{};
    std::snprintf(text.data(), text.size(), "%.*f", digits, value);
    return text.data();
}

std::string strings(double count) {
    return rounded(count) + (std::lround(count) == 1 ? " string" : " strings");
}

} // namespace

GainsAndLosses gainsAndLosses(const Passage& a, const Passage& b, TimeRange span) {
    const Figures was = figuresOf(a, span);
    const Figures is = figuresOf(b, span);
    Weighing weighing;
    weighing.weigh(GainKind::Shifts, was.shifts_mm, is.shifts_mm, kLeastShift_mm, false);
    weighing.weigh(GainKind::Stretch, was.stretch_mm, is.stretch_mm, kLeastStretch_mm, false);
    weighing.weigh(GainKind::Barre, was.barre_s, is.barre_s, kLeastBarre_s, false);
    weighing.weigh(GainKind::Ringing, was.ringing, is.ringing, 1.0, true);
    if (was.notes > 0.0 && is.notes > 0.0)
        weighing.weigh(GainKind::Tone, was.string, is.string, kLeastTone, false);
    weighing.weigh(GainKind::Ease,
                   was.top_tempo,
                   is.top_tempo,
                   kLeastEase * std::max(1e-6, was.top_tempo),
                   true);
    weighing.weigh(GainKind::Crossing, was.crossing, is.crossing, kLeastCrossing, false);
    weighing.weigh(GainKind::Legato, was.slurred, is.slurred, 1.0, true);
    weighing.weigh(GainKind::FewerNotes, was.notes, is.notes, 1.0, false);
    return weighing.take();
}

std::string gainText(const Gain& gain) {
    const double less = gain.a - gain.b;
    switch (gain.kind) {
    case GainKind::Shifts:
        return gain.b < 1.0 ? "no shift" : rounded(less) + " mm less to move";
    case GainKind::Stretch:
        return gain.b < 1.0 ? "no stretch"
                            : "a stretch of " + rounded(gain.b) + " mm, not " + rounded(gain.a);
    case GainKind::Barre:
        return gain.b <= 0.0 ? "no barre" : "a shorter barre";
    case GainKind::Ringing:
        return "more rings on";
    case GainKind::Tone:
        return "brighter: thinner strings";
    case GainKind::Ease:
        return "easier: could go " + rounded(gain.b / std::max(0.01, gain.a), 1) + " times as fast";
    case GainKind::Crossing:
        return strings(less) + " less to cross";
    case GainKind::Legato:
        return "more is slurred";
    case GainKind::FewerNotes:
        return rounded(less) + (std::lround(less) == 1 ? " note less" : " notes less");
    }
    return {};
}

std::string lossText(const Gain& loss) {
    const double more = loss.b - loss.a;
    switch (loss.kind) {
    case GainKind::Shifts:
        return loss.a < 1.0 ? "a shift of " + rounded(loss.b) + " mm"
                            : rounded(more) + " mm more to move";
    case GainKind::Stretch:
        return "a stretch of " + rounded(loss.b) + " mm" +
               (loss.a < 1.0 ? "" : ", not " + rounded(loss.a));
    case GainKind::Barre:
        return loss.a <= 0.0 ? "a barre" : "a longer barre";
    case GainKind::Ringing:
        return "less rings on";
    case GainKind::Tone:
        return "less bright: thicker strings";
    case GainKind::Ease:
        return "harder: could go only " + rounded(loss.b / std::max(0.01, loss.a), 1) +
               " times as fast";
    case GainKind::Crossing:
        return strings(more) + " more to cross";
    case GainKind::Legato:
        return "less is slurred";
    case GainKind::FewerNotes:
        return rounded(more) + (std::lround(more) == 1 ? " note more" : " notes more");
    }
    return {};
}

} // namespace wirenote
