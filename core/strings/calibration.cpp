#include "strings/calibration.h"

#include "music/pitch.h"
#include "music/string_physics.h"
#include "signal/stiffness_meter.h"
#include "signal/tone_meter.h"
#include "strings/string_traits.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

constexpr double kLeast_s = 0.25; // shorter sounds are handling, not notes
constexpr int kOctave = 12;
constexpr double kMostApart = 0.7; // between the open string and its octave, in nepers
constexpr double kLeastSd = 0.04;
constexpr double kUntold = 0.5;
constexpr double kMargin = 0.2;
constexpr double kOnlyOne = 0.4; // taken for the difference when there is only one
constexpr double kMostOff = 2.5; // nepers off the stated gauge: another string

struct Expected {
    int string;
    int fret;
    int midi;
};

std::vector<Expected> sequenceOf(const Instrument& instrument) {
    std::vector<Expected> sequence;
    for (int s = instrument.stringCount(); s >= 1; --s)
        for (const int fret : {0, kOctave})
            sequence.push_back({s, fret, instrument.midiAt({s, fret})});
    return sequence;
}

std::string name(const Expected& e) {
    return e.fret == 0 ? "open string " + std::to_string(e.string)
                       : "string " + std::to_string(e.string) + " at fret 12";
}

// The expected notes among those heard, in order; a note that was tried again is taken the last
// time.
Result<std::vector<Note>> inOrder(const std::vector<Note>& heard,
                                  const std::vector<Expected>& sequence) {
    std::vector<Note> found;
    std::size_t at = 0;
    for (const Expected& e : sequence) {
        std::size_t next = at;
        while (next < heard.size() && heard[next].midi() != e.midi)
            ++next;
        if (next == heard.size())
            return badInput({},
                            "does not have the " + name(e) + " (" + pitchName(e.midi) +
                                ") where it should come; play each open string and then its "
                                "twelfth fret, the thickest string first");
        while (next + 1 < heard.size() && heard[next + 1].midi() == e.midi)
            ++next;
        found.push_back(heard[next]);
        at = next + 1;
    }
    return found;
}

// What the tone of the two places says of their string on another day: losses belong to the string;
// the place of plucking to the player, so it counts for little until a take has shown it; the
// brightness says nothing at all.
void keepTone(const ToneFit& open, const ToneFit& octave, StringTrait& trait) {
    constexpr double kLow_sd = 0.1;
    constexpr double kHigh_sd = 0.15;
    constexpr double kComb_sd = 0.3;
    const auto line = [](const Measure& at_open, const Measure& at_octave, double sd) {
        if (!at_open.told() || !at_octave.told())
            return ToneTrait{};
        return ToneTrait{at_open.value,
                         at_octave.value - at_open.value,
                         std::hypot(sd, at_open.sd, at_octave.sd)};
    };
    const auto put = [&trait](ToneFigure figure, const ToneTrait& tone) {
        trait.tone[static_cast<std::size_t>(figure)] = tone;
    };
    put(ToneFigure::DecayLow, line(open.decay_low, octave.decay_low, kLow_sd));
    put(ToneFigure::DecayHigh, line(open.decay_high, octave.decay_high, kHigh_sd));
    if (open.comb.told())
        put(ToneFigure::Comb, {open.comb.value, std::log(2.0), kComb_sd});
}

// The two notes of each string as they sound: fits and tones in the order of the sequence.
struct Measured {
    std::vector<StiffnessFit> fits;
    std::vector<ToneFit> tones;
};

Measured measure(SoundView sound, const std::vector<Note>& notes, double a4_hz) {
    StiffnessMeter meter(sound);
    ToneMeter tone_meter(sound);
    Measured measured;
    for (const Note& note : notes) {
        const TimeRange span{note.onset_s() + 0.03, note.offset_s()};
        const auto fit = meter.measure(span, hzFromMidi(note.pitch.value, a4_hz));
        measured.tones.push_back(
            tone_meter.measure(span, fit.f0_hz, fit.told() ? std::exp(fit.log_b) : 0.0));
        measured.fits.push_back(fit);
    }
    return measured;
}

// What the two notes that begin at `i` say of their string; untold where they do not say enough. A
// distorted sound hides what is high: then the string stays as its gauge says, to be learned from
// the pieces. One of the two places is enough, less surely. Errors: it was another string.
Result<StringTrait> traitOf(const Instrument& instrument,
                            const std::vector<Expected>& sequence,
                            const Measured& measured,
                            std::size_t i,
                            double stated_sd) {
    const StringTrait untold{0.0, kUntold, Basis::Reasoned, {}};
    const auto& fits = measured.fits;
    const int s = sequence[i].string;
    const auto off = [&](std::size_t k) {
        return fits[k].log_b -
               std::log(stiffnessAt(instrument, s, instrument.capo + sequence[k].fret));
    };
    if (!fits[i].told() && !fits[i + 1].told())
        return untold;
    const std::size_t one = fits[i].told() ? i : i + 1;
    const std::size_t two = fits[i + 1].told() ? i + 1 : i;
    const double apart = one == two ? kOnlyOne : std::abs(off(one) - off(two));
    const double middle = 0.5 * (off(one) + off(two));
    if (std::abs(middle) > kMostOff && apart < kMostApart)
        return badInput({},
                        "string " + std::to_string(s) +
                            " sounds like another string at both places; play it once more");
    // What does not agree with itself, or with any string of that gauge, was not the string.
    if (apart > kMostApart || std::abs(middle) > 3.0 * stated_sd + kMargin)
        return untold;
    StringTrait trait{middle, std::max(kLeastSd, 0.5 * apart), Basis::Set, {}};
    keepTone(measured.tones[i], measured.tones[i + 1], trait);
    return trait;
}

} // namespace

Result<Calibration> calibrationOf(SoundView sound,
                                  std::vector<Note> heard,
                                  double a4_hz,
                                  const Instrument& instrument) {
    // Each string rings until the next is played, however soon its pitch is lost.
    for (std::size_t i = 0; i < heard.size(); ++i)
        heard[i].time.value.end_s = i + 1 < heard.size()
                                        ? heard[i + 1].onset_s() - 0.02
                                        : std::max(heard[i].offset_s(), heard[i].onset_s() + 1.0);
    std::erase_if(heard, [](const Note& n) { return n.time.value.length_s() < kLeast_s; });
    const auto sequence = sequenceOf(instrument);
    const auto notes = inOrder(heard, sequence);
    if (!notes)
        return notes.error();
    const Measured measured = measure(sound, *notes, a4_hz);
    Calibration calibration{instrument, {}, {}};
    calibration.traits.resize(instrument.strings.size());
    calibration.octave_cents.resize(instrument.strings.size());
    const auto stated = statedTraits(instrument);
    bool any_told = false;
    for (std::size_t i = 0; i + 1 < sequence.size(); i += 2) {
        const auto s = static_cast<std::size_t>(sequence[i].string - 1);
        const auto trait = traitOf(instrument, sequence, measured, i, stated[s].sd);
        if (!trait)
            return trait.error();
        calibration.traits[s] = *trait;
        if (trait->basis != Basis::Set)
            continue;
        any_told = true;
        calibration.octave_cents[s] =
            1200.0 * std::log2(measured.fits[i + 1].f0_hz / (2.0 * measured.fits[i].f0_hz));
    }
    if (!any_told)
        return badInput({},
                        "does not tell the strings apart; record them clean, without distortion, "
                        "and let each ring");
    return calibration;
}

} // namespace wirenote
