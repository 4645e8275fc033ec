#include "hearing/chords.h"

#include "hand/reach.h"
#include "hearing/note_belief.h"
#include "hearing/ring_ends.h"
#include "hearing/strum_order.h"
#include "music/pitch.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>

namespace wirenote {
namespace {

constexpr double kBefore_s = 0.008; // how long before the attack the old sound is taken
constexpr double kAfter_s = 0.012;  // how long after it the new one
constexpr double kEarlier_s = 0.12; // how long before that again
constexpr double kJust_s = 0.004;   // from the attack to the short stretches
constexpr double kShort_s = 0.045;
constexpr double kLater_s = 0.15; // how long after it what goes on sounding is looked at

struct Event {
    double first_s = 0.0;
    double last_s = 0.0;
    double strength = 0.0;
};

std::vector<Event> eventsOf(const std::vector<OnsetPeak>& onsets, double event_s) {
    std::vector<Event> events;
    for (const OnsetPeak& o : onsets) {
        if (!events.empty() && o.time_s - events.back().first_s < event_s) {
            events.back().last_s = o.time_s;
            events.back().strength = std::max(events.back().strength, o.strength);
            continue;
        }
        events.push_back({o.time_s, o.time_s, o.strength});
    }
    return events;
}

// Geometric against arithmetic mean of the power in third-octaves of a few bins each.
double flatnessOf(const std::vector<float>& spectrum, double bin_hz) {
    double log_sum = 0.0;
    double sum = 0.0;
    int count = 0;
    for (auto b = static_cast<std::size_t>(70.0 / bin_hz); b < spectrum.size(); ++b) {
        const double power = static_cast<double>(spectrum[b]) * spectrum[b] + 1e-14;
        log_sum += std::log(power);
        sum += power;
        ++count;
    }
    return count > 0 ? std::exp(log_sum / count) / (sum / count) : 0.0;
}

class ChordHearing {
  public:
    ChordHearing(SoundView sound,
                 const Instrument& instrument,
                 const LocalTuning& tuning,
                 const ChordParameters& p)
        : m_sound(sound), m_spectra(sound), m_instrument(instrument), m_tuning(tuning), m_p(p) {}

    AttackSpectra look(const Event& event, double next_s) {
        const double from_s = event.last_s + kAfter_s;
        AttackSpectra attack;
        attack.window_s = std::clamp(next_s - kBefore_s - from_s, m_p.least_window_s, m_p.window_s);
        attack.after = m_spectra.at(from_s, from_s + attack.window_s);
        attack.before =
            m_spectra.at(event.first_s - kBefore_s - attack.window_s, event.first_s - kBefore_s);
        attack.earlier = m_spectra.at(event.first_s - kBefore_s - attack.window_s - kEarlier_s,
                                      event.first_s - kBefore_s - kEarlier_s);
        attack.just_before =
            m_spectra.at(event.first_s - kJust_s - kShort_s, event.first_s - kJust_s);
        attack.just_after = m_spectra.at(event.last_s + kJust_s, event.last_s + kJust_s + kShort_s);
        if (next_s - kBefore_s > from_s + kLater_s + attack.window_s)
            attack.later = m_spectra.at(from_s + kLater_s, from_s + kLater_s + attack.window_s);
        return attack;
    }

    AttackCandidates candidates(const Event& event, double next_s) {
        const AttackSpectra attack = look(event, next_s);
        AttackCandidates found;
        found.onset_s = event.first_s;
        found.clear_s = event.last_s;
        found.strength = event.strength;
        found.flatness = flatnessOf(attack.after, m_spectra.binHz());
        const double a4_hz = m_tuning.a4At(event.first_s);
        found.pitches = pitchCandidates(
            attack, combsFor(attack.window_s, a4_hz), m_instrument, a4_hz, m_spectra.binHz());
        return found;
    }

    ChordEvent choose(const AttackCandidates& attack, double next_s) const {
        ChordEvent heard;
        heard.onset_s = attack.onset_s;
        heard.strength = attack.strength;
        heard.flatness = attack.flatness;
        if (attack.flatness >= m_p.noise_flatness)
            return heard;
        std::vector<std::pair<double, const AttackPitch*>> ranked;
        for (const AttackPitch& c : attack.pitches)
            ranked.emplace_back(beliefIn(c), &c);
        std::sort(ranked.rbegin(), ranked.rend());
        std::vector<int> chosen;
        for (const auto& [belief, candidate] : ranked) {
            ChordNote note;
            note.onset_s = heard.onset_s;
            note.offset_s = heard.onset_s + 0.2;
            note.midi = candidate->midi;
            note.share = candidate->share;
            note.probability = belief;
            std::vector<int> with = chosen;
            with.push_back(note.midi);
            // An attack that is clear began something, however doubtful what.
            const bool believed =
                belief >= m_p.least_belief || (chosen.empty() && belief >= m_p.least_of_all);
            if (believed && playableAtOnce(m_instrument, with)) {
                chosen = with;
                heard.notes.push_back(note);
            } else if (belief >= m_p.least_miss) {
                heard.misses.push_back(note);
            }
        }
        std::ranges::sort(heard.notes, {}, &ChordNote::midi);
        setOnsets(attack, next_s, heard);
        return heard;
    }

  private:
    // A stroke crosses its strings one after the other.
    void setOnsets(const AttackCandidates& attack, double next_s, ChordEvent& heard) const {
        if (heard.notes.size() < 2)
            return;
        std::vector<StrokeNote> notes;
        for (const ChordNote& note : heard.notes)
            notes.push_back({hzFromMidi(note.midi, m_tuning.a4At(attack.onset_s)),
                             meanStiffness(m_instrument, note.midi)});
        const StrokeOrder order =
            strokeOrder(m_sound,
                        notes,
                        attack.onset_s,
                        attack.clear_s,
                        std::min(attack.clear_s + m_p.late_s, next_s - kBefore_s));
        heard.upward = order.upward;
        heard.order_probability = order.probability;
        for (std::size_t i = 0; i < notes.size(); ++i) {
            const double length_s = heard.notes[i].offset_s - heard.notes[i].onset_s;
            heard.notes[i].onset_s = order.onsets_s[i];
            heard.notes[i].offset_s = order.onsets_s[i] + length_s;
        }
    }

    const Combs& combsFor(double window_s, double a4_hz) {
        static constexpr std::array<double, 3> kWindows_s = {0.07, 0.12, 0.19};
        constexpr double kLonger_s = 0.025;
        const double fitting_s = window_s <= kWindows_s[0] + kLonger_s   ? kWindows_s[0]
                                 : window_s <= kWindows_s[1] + kLonger_s ? kWindows_s[1]
                                                                         : kWindows_s[2];
        const auto made = m_combs.find({fitting_s, a4_hz});
        if (made != m_combs.end())
            return made->second;
        Combs combs(m_instrument, a4_hz, fitting_s, m_spectra.bins(), m_spectra.binHz());
        return m_combs.emplace(std::pair{fitting_s, a4_hz}, std::move(combs)).first->second;
    }

    SoundView m_sound;
    MomentSpectra m_spectra;
    const Instrument& m_instrument;
    const LocalTuning& m_tuning;
    const ChordParameters& m_p;
    std::map<std::pair<double, double>, Combs> m_combs; // by window and A4; made when first needed
};

// Looks at every attack in turn: visit(what may begin there, when the next attack comes).
template <class Visit>
Status forAttacks(ChordHearing& hearing,
                  SoundView sound,
                  const std::vector<OnsetPeak>& onsets,
                  double event_s,
                  const JobControl& job,
                  Visit visit) {
    const auto events = eventsOf(onsets, event_s);
    for (std::size_t i = 0; i < events.size(); ++i) {
        if (job.cancelRequested())
            return cancelled();
        job.report(events[i].first_s, sound.length_s());
        const double next_s = i + 1 < events.size() ? events[i + 1].first_s : sound.length_s();
        visit(hearing.candidates(events[i], next_s), next_s);
    }
    return {};
}

} // namespace

Result<std::vector<AttackCandidates>> attackCandidates(SoundView sound,
                                                       const Instrument& instrument,
                                                       const LocalTuning& tuning,
                                                       const std::vector<OnsetPeak>& onsets,
                                                       const ChordParameters& parameters,
                                                       const JobControl& job) {
    ChordHearing hearing(sound, instrument, tuning, parameters);
    std::vector<AttackCandidates> found;
    const Status looked = forAttacks(
        hearing, sound, onsets, parameters.event_s, job, [&](AttackCandidates attack, double) {
            found.push_back(std::move(attack));
        });
    if (!looked)
        return looked.error();
    return found;
}

Result<std::vector<ChordEvent>> hearChords(SoundView sound,
                                           const Instrument& instrument,
                                           const LocalTuning& tuning,
                                           const std::vector<OnsetPeak>& onsets,
                                           const ChordParameters& parameters,
                                           const JobControl& job,
                                           const std::function<void(const ChordEvent&)>& so_far) {
    ChordHearing hearing(sound, instrument, tuning, parameters);
    std::vector<ChordEvent> heard;
    const Status looked = forAttacks(hearing,
                                     sound,
                                     onsets,
                                     parameters.event_s,
                                     job,
                                     [&](const AttackCandidates& attack, double next_s) {
                                         heard.push_back(hearing.choose(attack, next_s));
                                         if (so_far)
                                             so_far(heard.back());
                                     });
    if (!looked)
        return looked.error();
    if (const Status ended =
            findRingEnds(sound, instrument, tuning, parameters.end_drop_db, heard, job);
        !ended)
        return ended.error();
    return heard;
}

} // namespace wirenote
