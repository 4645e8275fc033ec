#include "hearing/line_beliefs.h"

#include "base/nearby.h"
#include "base/parallel.h"
#include "hearing/attack_network.h"
#include "hearing/chords.h"

#include <algorithm>
#include <numeric>

namespace wirenote {
namespace {

// Of the notes thereabouts, the share at whose beginning no pitch is likely to begin: up to this
// it is only the network's doubt about soft and low strings.
constexpr double kUsualShare = 0.12;
constexpr double kNothing = 0.3; // less belief in every pitch is none
constexpr double kThereabouts_s = 8.0;

// The attack at which a note begins, or one of its own where there is none.
AttackMoment attackOf(const std::vector<AttackMoment>& attacks,
                      const std::vector<Note>& notes,
                      std::size_t i,
                      double length_s) {
    constexpr double kNear_s = 0.03;
    const double onset_s = notes[i].onset_s();
    const auto near =
        std::ranges::lower_bound(attacks, onset_s - kNear_s, {}, &AttackMoment::first_s);
    if (near != attacks.end() && near->first_s <= onset_s + kNear_s)
        return *near;
    AttackMoment own{onset_s, onset_s, -9.0, length_s, 0.0};
    if (i > 0)
        own.previous_s = notes[i - 1].onset_s();
    if (i + 1 < notes.size())
        own.next_s = notes[i + 1].onset_s();
    return own;
}

// Of a twanging string the line and the network may hear different octaves.
double beginsThere(const std::array<PitchBelief, kNetworkPitches>& beliefs, int pitch) {
    const auto begins = [&beliefs](int p) {
        return p >= 0 && p < kNetworkPitches ? beliefs[static_cast<std::size_t>(p)].begins : 0.0;
    };
    const double octave = std::max(begins(pitch - 12), begins(pitch + 12));
    return std::max(begins(pitch), octave >= kNothing ? octave : 0.0);
}

Nearby shareOfNothing(const std::vector<LineBelief>& beliefs, const std::vector<Note>& notes) {
    std::vector<TimedValue> nothing;
    for (std::size_t i = 0; i < notes.size(); ++i)
        nothing.push_back({notes[i].onset_s(), beliefs[i].any < kNothing ? 1.0 : 0.0});
    return {nothing, kThereabouts_s, [](std::vector<double>& near) {
                return std::reduce(near.begin(), near.end()) / static_cast<double>(near.size());
            }};
}

// Less belief than this, and a note was not struck. Of one pitch with the note before, it is likely
// to be that note ringing on.
double leastBelief(double share_of_nothing, bool repeated) {
    const double beyond = std::max(0.0, share_of_nothing - kUsualShare);
    return repeated ? 0.02 + 0.5 * beyond : 0.01 + 0.15 * beyond;
}

} // namespace

std::vector<LineBelief> believeLine(SoundView sound,
                                    const LocalTuning& tuning,
                                    const std::vector<OnsetPeak>& onsets,
                                    const std::vector<Note>& notes,
                                    const JobControl& job) {
    const auto attacks = attackMoments(onsets, ChordParameters{}.event_s, sound.length_s());
    std::vector<LineBelief> found(notes.size());
    const std::size_t workers = workerCount();
    std::vector<AttackPictures> pictures;
    for (std::size_t w = 0; w < workers; ++w)
        pictures.emplace_back(sound);
    inParallel(notes.size(), workers, [&](std::size_t worker, std::size_t from, std::size_t to) {
        for (std::size_t i = from; i < to; ++i) {
            const int pitch = notes[i].midi() - kNetworkLowestMidi;
            if (job.cancelRequested())
                return;
            if (pitch < 0 || pitch >= kNetworkPitches)
                continue;
            const AttackMoment attack = attackOf(attacks, notes, i, sound.length_s());
            const auto beliefs = believe(pictures[worker].at(attack, tuning.a4At(attack.first_s)));
            found[i] = {beginsThere(beliefs, pitch),
                        beliefs[static_cast<std::size_t>(pitch)].slurred,
                        std::ranges::max(beliefs, {}, &PitchBelief::begins).begins};
        }
    });
    return found;
}

void tellSlurs(const std::vector<LineBelief>& beliefs, std::vector<Note>& notes) {
    for (std::size_t i = 0; i < notes.size(); ++i)
        notes[i].ownSound().attack.slurred = beliefs[i].slurred;
}

std::vector<NearMiss> dropUnstruck(const std::vector<LineBelief>& beliefs,
                                   std::vector<Note>& notes) {
    constexpr double kTogether_s = 0.03;
    std::vector<NearMiss> dropped;
    if (notes.empty())
        return dropped;
    const Nearby nothing = shareOfNothing(beliefs, notes);
    std::vector<Note> kept;
    for (std::size_t i = 0; i < notes.size(); ++i) {
        Note& note = notes[i];
        const bool follows =
            !kept.empty() && note.onset_s() - kept.back().offset_s() <= kTogether_s;
        const bool repeated = follows && kept.back().midi() == note.midi();
        if (note.slurred() || note.heard().attack.strength <= 0.0 ||
            beliefs[i].begins >= leastBelief(nothing.at(note.onset_s()), repeated)) {
            kept.push_back(std::move(note));
            continue;
        }
        if (follows)
            kept.back().time.value.end_s = std::max(kept.back().offset_s(), note.offset_s());
        dropped.push_back({note.time.value, note.midi(), beliefs[i].begins, {}});
    }
    notes = std::move(kept);
    return dropped;
}

} // namespace wirenote
