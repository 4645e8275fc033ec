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

// A note whose stiffness can teach something of its string.
bool teaches(const Note& note) {
    return note.heard().stiffness.told() && !note.has(Technique::Harmonic) &&
           note.frettedMidi() == note.midi();
}

double astrayShare(const HeardStiffness& heard, const TraitModel& model) {
    return std::min(model.most_astray,
                    model.astray + model.astray_per_sd * heard.sd +
                        (heard.among ? model.astray_among : 0.0));
}

bool isWound(const Instrument& instrument, std::size_t string) {
    return instrument.strings[string].wound();
}

// One set of strings, stiffer than stated by this much, fitted to what was heard.
class SetFit {
  public:
    SetFit(const Instrument& instrument,
           std::span<const Note> notes,
           const std::vector<StringTrait>& known,
           const std::vector<std::vector<double>>& shares,
           const TraitModel& model)
        : m_known(known), m_model(model) {
        for (std::size_t i = 0; i < std::min(notes.size(), shares.size()); ++i) {
            if (!teaches(notes[i]))
                continue;
            Heard heard;
            heard.sd2 =
                std::pow(notes[i].heard().stiffness.sd, 2.0) + 2.0 * std::pow(model.note_sd, 2.0);
            heard.astray = astrayShare(notes[i].heard().stiffness, model);
            for (int s = 1; s <= instrument.stringCount(); ++s)
                if (instrument.fretFor(s, notes[i].midi()) >= 0)
                    heard.strings.push_back(
                        {static_cast<std::size_t>(s - 1),
                         shares[i][static_cast<std::size_t>(s - 1)],
                         residual(
                             instrument, s, notes[i].midi(), notes[i].heard().stiffness.log_b)});
            m_heard.push_back(std::move(heard));
        }
        for (std::size_t s = 0; s < instrument.strings.size(); ++s)
            m_wound.push_back(isWound(instrument, s));
    }

    // The traits, and how well they explain all notes (logarithm).
    std::pair<std::vector<StringTrait>, double> at(double set,
                                                   std::vector<StringTrait> traits) const {
        const std::vector<StringTrait> stated = traits;
        for (std::size_t s = 0; s < traits.size(); ++s)
            traits[s].log_factor = centre(s, set);
        for (int round = 0; round < kRounds; ++round)
            step(set, stated, traits);
        for (std::size_t s = 0; s < traits.size(); ++s)
            traits[s].sd = ownSd(s, stated);
        double likelihood =
            -m_model.odd_set_nepers * (1.0 - std::exp(-std::pow(set / m_model.odd_set, 2.0)));
        for (std::size_t s = 0; s < traits.size(); ++s)
            likelihood -=
                0.5 * std::pow((traits[s].log_factor - centre(s, set)) / ownSd(s, stated), 2.0);
        // By the one string that explains each note best: strings nobody plays must not gain by
        // being made like those that are played.
        for (const Heard& heard : m_heard) {
            double best = 1e-12;
            for (const OnString& at : heard.strings)
                best = std::max(best, density(heard, at, traits[at.string]));
            likelihood += std::log(best);
        }
        return {traits, likelihood};
    }

  private:
    static constexpr int kRounds = 8;
    struct OnString {
        std::size_t string;
        double share; // to be expected there
        double residual;
    };
    struct Heard {
        double sd2 = 0.0;
        double astray = 0.0;
        std::vector<OnString> strings;
    };

    bool isSet(std::size_t s) const { return s < m_known.size() && m_known[s].basis == Basis::Set; }
    double centre(std::size_t s, double set) const {
        return isSet(s) ? m_known[s].log_factor : m_wound[s] ? set : 0.0;
    }
    double ownSd(std::size_t s, const std::vector<StringTrait>& stated) const {
        return isSet(s) ? m_known[s].sd : m_wound[s] ? m_model.within_set_sd : stated[s].sd;
    }
    double density(const Heard& heard, const OnString& at, const StringTrait& trait) const {
        const double z = at.residual - trait.log_factor;
        const double told =
            std::exp(-0.5 * z * z / heard.sd2) / std::sqrt(2.0 * std::numbers::pi * heard.sd2);
        return at.share * ((1.0 - heard.astray) * told + heard.astray / m_model.anywhere_nepers);
    }
    double total(const Heard& heard, const std::vector<StringTrait>& traits) const {
        double sum = 1e-12;
        for (const OnString& at : heard.strings)
            sum += density(heard, at, traits[at.string]);
        return sum;
    }
    // One step of expectation and maximisation.
    void step(double set,
              const std::vector<StringTrait>& stated,
              std::vector<StringTrait>& traits) const {
        std::vector<double> weight(traits.size());
        std::vector<double> sum(traits.size());
        for (std::size_t s = 0; s < traits.size(); ++s) {
            weight[s] = 1.0 / std::pow(ownSd(s, stated), 2.0);
            sum[s] = weight[s] * centre(s, set);
        }
        for (const Heard& heard : m_heard) {
            const double all = total(heard, traits);
            for (const OnString& at : heard.strings) {
                // What is astray teaches nothing.
                const double lost = at.share * heard.astray / m_model.anywhere_nepers;
                const double w = (density(heard, at, traits[at.string]) - lost) / all / heard.sd2;
                weight[at.string] += w;
                sum[at.string] += w * at.residual;
            }
        }
        for (std::size_t s = 0; s < traits.size(); ++s) {
            if (isSet(s))
                continue;
            traits[s].log_factor = sum[s] / weight[s];
        }
    }

    const std::vector<StringTrait>& m_known;
    const TraitModel& m_model;
    std::vector<Heard> m_heard;
    std::vector<bool> m_wound;
};

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
    const double astray = astrayShare(heard, model);
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

std::vector<StringTrait> setTraits(const Instrument& instrument,
                                   std::span<const Note> notes,
                                   const std::vector<StringTrait>& known,
                                   const std::vector<std::vector<double>>& shares,
                                   const TraitModel& model) {
    std::vector<StringTrait> best = statedTraits(instrument, model);
    const SetFit fit(instrument, notes, known, shares, model);
    double most = -std::numeric_limits<double>::infinity();
    const auto stated = best;
    const int steps = static_cast<int>(std::lround(model.widest_set / model.set_step));
    for (int k = -steps; k <= steps; ++k) {
        auto [traits, likelihood] = fit.at(k * model.set_step, stated);
        if (likelihood > most) {
            most = likelihood;
            best = std::move(traits);
        }
    }
    return best;
}

std::vector<StringTrait> learnedTraits(const Instrument& instrument,
                                       std::span<const Note> notes,
                                       const std::vector<StringTrait>& known,
                                       const std::vector<StringTrait>& expected,
                                       const std::vector<std::vector<double>>& probabilities,
                                       const TraitModel& model) {
    std::vector<StringTrait> traits = expected;
    for (int s = 1; s <= instrument.stringCount(); ++s) {
        const auto at = static_cast<std::size_t>(s - 1);
        if (at < known.size() && known[at].basis == Basis::Set) {
            traits[at] = known[at];
            continue;
        }
        if (at < known.size())
            traits[at].tone = known[at].tone;
        double weight = 1.0 / (traits[at].sd * traits[at].sd);
        const double centre = traits[at].log_factor;
        double sum = weight * centre;
        for (std::size_t i = 0; i < notes.size(); ++i) {
            const Note& note = notes[i];
            const double p = i < probabilities.size() ? probabilities[i][at] : 0.0;
            if (!teaches(note) || p < 0.02 || instrument.fretFor(s, note.midi()) < 0)
                continue;
            // What lies far off this string is another's, however likely it looked.
            const double off = residual(instrument, s, note.midi(), note.heard().stiffness.log_b);
            const double sd2 = note.heard().stiffness.sd * note.heard().stiffness.sd +
                               9.0 * model.note_sd * model.note_sd;
            const double z2 =
                (off - centre) * (off - centre) / (sd2 + traits[at].sd * traits[at].sd);
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
