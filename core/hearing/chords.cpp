#include "hearing/chords.h"

#include "base/parallel.h"
#include "hand/reach.h"
#include "hearing/attack_network.h"
#include "hearing/moment_spectra.h"
#include "hearing/ring_ends.h"
#include "hearing/strum_order.h"
#include "music/pitch.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace wirenote {
namespace {

constexpr double kBefore_s = 0.008; // the next attack may be heard this long before it

// A pitch that may begin.
struct Candidate {
    int midi = 60;
    double belief = 0.0;
    double slurred = 0.0;
    double level = 0.0; // of its first partials after the attack, as in the picture
};

// How loud the first partials of a pitch are after the attack.
double levelOf(const AttackPicture& picture, int midi) {
    constexpr std::array kPartialRows = {0, 36, 57, 72}; // one to four times the frequency
    const auto& after = picture.levels[2];
    double loudest = 0.0;
    for (const int rows : kPartialRows)
        if (const int row = (midi - kPictureLowestMidi) * kRowsPerSemitone + 1 + rows;
            row >= 0 && row < kPictureRows)
            loudest = std::max(loudest, static_cast<double>(after[static_cast<std::size_t>(row)]));
    return loudest;
}

class ChordHearing {
  public:
    ChordHearing(SoundView sound,
                 const Instrument& instrument,
                 const LocalTuning& tuning,
                 const ChordParameters& p)
        : m_sound(sound), m_pictures(sound), m_instrument(instrument), m_tuning(tuning), m_p(p) {}

    ChordEvent hear(const AttackMoment& attack) {
        const AttackPicture picture = m_pictures.at(attack, m_tuning.a4At(attack.first_s));
        ChordEvent heard;
        heard.onset_s = attack.first_s;
        heard.strength = attack.strength;
        heard.flatness = picture.flatness;
        const auto beliefs = believe(picture);
        for (std::size_t i = 0; i < beliefs.size(); ++i)
            heard.sounds[i] = static_cast<float>(beliefs[i].sounds);
        if (picture.flatness < m_p.noise_flatness)
            choose(candidates(picture, beliefs), heard);
        setOnsets(attack, heard);
        return heard;
    }

  private:
    // The likeliest first.
    std::vector<Candidate>
    candidates(const AttackPicture& picture,
               const std::array<PitchBelief, kNetworkPitches>& beliefs) const {
        std::vector<Candidate> found;
        for (std::size_t i = 0; i < beliefs.size(); ++i) {
            const int midi = kNetworkLowestMidi + static_cast<int>(i);
            if (beliefs[i].begins >= m_p.least_miss && midi >= m_instrument.lowestMidi() &&
                midi <= m_instrument.highestMidi())
                found.push_back(
                    {midi, beliefs[i].begins, beliefs[i].slurred, levelOf(picture, midi)});
        }
        std::ranges::stable_sort(found, std::ranges::greater{}, &Candidate::belief);
        return found;
    }

    void choose(const std::vector<Candidate>& candidates, ChordEvent& heard) const {
        std::vector<int> chosen;
        double loudest = 0.0;
        for (const Candidate& c : candidates)
            loudest = std::max(loudest, c.level);
        for (const Candidate& c : candidates) {
            ChordNote note;
            note.onset_s = heard.onset_s;
            note.offset_s = heard.onset_s + 0.2;
            note.midi = c.midi;
            note.share = std::pow(10.0, (c.level - loudest) * kPictureDepth_db / 20.0);
            note.probability = c.belief;
            note.slurred = c.slurred;
            std::vector<int> with = chosen;
            with.push_back(note.midi);
            // An attack that is clear began something, however doubtful what.
            const bool believed =
                c.belief >= m_p.least_belief || (chosen.empty() && c.belief >= m_p.least_of_all);
            if (believed && playableAtOnce(m_instrument, with)) {
                chosen = with;
                heard.notes.push_back(note);
            } else {
                heard.misses.push_back(note);
            }
        }
        std::ranges::sort(heard.notes, {}, &ChordNote::midi);
    }

    // A stroke crosses its strings one after the other.
    void setOnsets(const AttackMoment& attack, ChordEvent& heard) const {
        if (heard.notes.size() < 2)
            return;
        std::vector<StrokeNote> notes;
        for (const ChordNote& note : heard.notes)
            notes.push_back({hzFromMidi(note.midi, m_tuning.a4At(attack.first_s)),
                             meanStiffness(m_instrument, note.midi)});
        const StrokeOrder order =
            strokeOrder(m_sound,
                        notes,
                        attack.first_s,
                        attack.last_s,
                        std::min(attack.last_s + m_p.late_s, attack.next_s - kBefore_s));
        heard.upward = order.upward;
        heard.order_probability = order.probability;
        for (std::size_t i = 0; i < notes.size(); ++i) {
            const double length_s = heard.notes[i].offset_s - heard.notes[i].onset_s;
            heard.notes[i].onset_s = order.onsets_s[i];
            heard.notes[i].offset_s = order.onsets_s[i] + length_s;
        }
    }

    SoundView m_sound;
    AttackPictures m_pictures;
    const Instrument& m_instrument;
    const LocalTuning& m_tuning;
    const ChordParameters& m_p;
};

int sureNotes(const ChordEvent& event, const ChordParameters& p) {
    return static_cast<int>(std::ranges::count_if(
        event.notes, [&p](const ChordNote& n) { return n.probability >= p.sure; }));
}

// How many sure notes the other attacks thereabouts have, on average.
double usualCount(const std::vector<ChordEvent>& events, std::size_t at, const ChordParameters& p) {
    double sum = 0.0;
    double count = 0.0;
    const auto add = [&](std::size_t i) {
        const bool near = std::abs(events[i].onset_s - events[at].onset_s) < p.thereabouts_s;
        if (near) {
            sum += sureNotes(events[i], p);
            count += 1.0;
        }
        return near;
    };
    for (std::size_t i = at; i > 0 && add(i - 1); --i) {
    }
    for (std::size_t i = at + 1; i < events.size() && add(i); ++i) {
    }
    return count > 0.0 ? sum / count : p.one_at_a_time;
}

// Whether this pitch was struck before and nothing since says that it stopped.
bool ringsAlready(const std::vector<ChordEvent>& events,
                  std::size_t at,
                  int midi,
                  const ChordParameters& p) {
    for (std::size_t i = at; i > 0; --i) {
        const ChordEvent& before = events[i - 1];
        if (events[at].onset_s - before.onset_s > p.thereabouts_s)
            return false;
        if (std::ranges::any_of(before.notes,
                                [midi](const ChordNote& n) { return n.midi == midi; }))
            return true;
        if (before.soundsOf(midi) < kStoppedBelow)
            return false;
    }
    return false;
}

} // namespace

void letRingOn(std::vector<ChordEvent>& events, const ChordParameters& p) {
    std::vector<std::vector<ChordNote>> kept;
    for (std::size_t i = 0; i < events.size(); ++i) {
        kept.push_back(events[i].notes);
        if (sureNotes(events[i], p) == 0 || events[i].notes.size() < 2)
            continue;
        const double needed =
            std::clamp(p.sure - p.fewer * (usualCount(events, i, p) - p.one_at_a_time),
                       p.least_belief,
                       p.sure);
        std::erase_if(kept.back(), [&](const ChordNote& note) {
            const bool rings = note.probability < needed && ringsAlready(events, i, note.midi, p);
            if (rings)
                events[i].misses.push_back(note);
            return rings;
        });
    }
    for (std::size_t i = 0; i < events.size(); ++i) {
        events[i].notes = std::move(kept[i]);
        std::ranges::stable_sort(events[i].misses, std::ranges::greater{}, &ChordNote::probability);
    }
}

Result<std::vector<ChordEvent>> hearChords(SoundView sound,
                                           const Instrument& instrument,
                                           const LocalTuning& tuning,
                                           const std::vector<OnsetPeak>& onsets,
                                           const ChordParameters& parameters,
                                           const JobControl& job,
                                           const std::function<void(const ChordEvent&)>& so_far) {
    constexpr std::size_t kEach = 4; // attacks of a worker, between two looks at `job`
    const auto attacks = attackMoments(onsets, parameters.event_s, sound.length_s());
    const std::size_t workers = workerCount();
    const std::size_t batch = kEach * workers;
    std::vector<ChordHearing> hearings;
    for (std::size_t w = 0; w < workers; ++w)
        hearings.emplace_back(sound, instrument, tuning, parameters);
    std::vector<ChordEvent> heard(attacks.size());
    for (std::size_t first = 0; first < attacks.size(); first += batch) {
        if (job.cancelRequested())
            return cancelled();
        job.report(attacks[first].first_s, sound.length_s());
        const std::size_t count = std::min(batch, attacks.size() - first);
        inParallel(count, workers, [&](std::size_t worker, std::size_t from, std::size_t to) {
            for (std::size_t i = first + from; i < first + to; ++i)
                heard[i] = hearings[worker].hear(attacks[i]);
        });
        if (so_far)
            for (std::size_t i = first; i < first + count; ++i)
                so_far(heard[i]);
    }
    letRingOn(heard, parameters);
    if (const Status ended =
            findRingEnds(sound, instrument, tuning, parameters.end_drop_db, heard, job);
        !ended)
        return ended.error();
    return heard;
}

} // namespace wirenote
