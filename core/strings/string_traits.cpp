#include "strings/string_traits.h"

#include "music/string_physics.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <numbers>

namespace wirenote {
namespace {

double statedSd(const StringSpec& string, const TraitModel& model) {
    switch (string.material) {
    case StringMaterial::WoundSteel:
    case StringMaterial::WoundBronze:
        return model.wound_sd;
    case StringMaterial::WoundNylon:
        return model.wound_nylon_sd;
    case StringMaterial::PlainSteel:
    case StringMaterial::PlainNylon:
        break;
    }
    return model.plain_sd;
}

// What a note's stiffness lies off what its string is stated to have there.
double residual(const Instrument& instrument, int string, int midi, double log_b) {
    const int fret = instrument.fretFor(string, midi);
    return log_b - std::log(stiffnessAt(instrument, string, instrument.capo + fret));
}

} // namespace

std::vector<StringTrait> statedTraits(const Instrument& instrument, const TraitModel& model) {
    std::vector<StringTrait> traits;
    for (const StringSpec& string : instrument.strings)
        traits.push_back({0.0, statedSd(string, model), Basis::Reasoned, {}});
    return traits;
}

std::vector<ExpectedStiffness> expectedStiffness(const Instrument& instrument,
                                                 const std::vector<StringTrait>& traits,
                                                 int midi,
                                                 const TraitModel& model) {
    std::vector<ExpectedStiffness> all;
    if (traits.size() != instrument.strings.size())
        return all;
    for (int s = 1; s <= instrument.stringCount(); ++s) {
        const int fret = instrument.fretFor(s, midi);
        if (fret < 0)
            continue;
        const StringTrait& trait = traits[static_cast<std::size_t>(s - 1)];
        all.push_back(
            {{s, fret},
             std::log(stiffnessAt(instrument, s, instrument.capo + fret)) + trait.log_factor,
             std::hypot(trait.sd, model.note_sd)});
    }
    return all;
}

std::vector<double> stiffnessCosts(const Instrument& instrument,
                                   const std::vector<StringTrait>& traits,
                                   const HeardStiffness& heard,
                                   int midi,
                                   const TraitModel& model) {
    std::vector<double> costs;
    if (!heard.told() || traits.size() != instrument.strings.size())
        return costs;
    const double astray = std::min(model.most_astray,
                                   model.astray + model.astray_per_sd * heard.sd +
                                       (heard.among ? model.astray_among : 0.0));
    double least = std::numeric_limits<double>::infinity();
    for (int s = 1; s <= instrument.stringCount(); ++s) {
        double cost = model.most_nepers;
        if (instrument.fretFor(s, midi) >= 0) {
            const StringTrait& trait = traits[static_cast<std::size_t>(s - 1)];
            const double sd = std::sqrt(heard.sd * heard.sd + trait.sd * trait.sd +
                                        model.note_sd * model.note_sd);
            const double z = (residual(instrument, s, midi, heard.log_b) - trait.log_factor) / sd;
            const double density =
                std::exp(-0.5 * z * z) / (sd * std::sqrt(2.0 * std::numbers::pi));
            cost = -std::log((1.0 - astray) * density + astray / model.anywhere_nepers);
            least = std::min(least, cost);
        } else {
            cost = std::numeric_limits<double>::infinity();
        }
        costs.push_back(cost);
    }
    for (double& cost : costs)
        cost = std::min(model.most_nepers, model.weight * (cost - least));
    return costs;
}

std::vector<StringTrait> learnedTraits(const Instrument& instrument,
                                       std::span<const Note> notes,
                                       const std::vector<StringTrait>& known,
                                       const std::vector<std::vector<double>>& probabilities,
                                       const TraitModel& model) {
    std::vector<StringTrait> traits = statedTraits(instrument, model);
    for (int s = 1; s <= instrument.stringCount(); ++s) {
        const auto at = static_cast<std::size_t>(s - 1);
        if (at < known.size() && known[at].basis == Basis::Set) {
            traits[at] = known[at];
            continue;
        }
        if (at < known.size())
            traits[at].tone = known[at].tone;
        double weight = 1.0 / (traits[at].sd * traits[at].sd);
        double sum = 0.0;
        for (std::size_t i = 0; i < notes.size(); ++i) {
            const Note& note = notes[i];
            const double p = i < probabilities.size() ? probabilities[i][at] : 0.0;
            if (!note.heard().stiffness.told() || note.has(Technique::Harmonic) ||
                note.frettedMidi() != note.midi() || p < 0.02 ||
                instrument.fretFor(s, note.midi()) < 0)
                continue;
            // What lies far off this string is another's, however likely it looked.
            const double off = residual(instrument, s, note.midi(), note.heard().stiffness.log_b);
            const double sd2 = note.heard().stiffness.sd * note.heard().stiffness.sd +
                               9.0 * model.note_sd * model.note_sd;
            const double z2 = off * off / (sd2 + traits[at].sd * traits[at].sd);
            const double w = p / sd2 / (1.0 + z2 / model.tails);
            weight += w;
            sum += w * off;
        }
        traits[at].log_factor = sum / weight;
        traits[at].sd = std::sqrt(1.0 / weight + model.note_sd * model.note_sd);
        traits[at].basis = Basis::Heard;
    }
    return traits;
}

} // namespace wirenote
