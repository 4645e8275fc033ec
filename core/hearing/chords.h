#pragma once

#include "base/job.h"
#include "base/result.h"
#include "base/sound.h"
#include "hearing/attack_network.h"
#include "hearing/local_tuning.h"
#include "music/instrument.h"
#include "signal/spectral_flux.h"

#include <functional>
#include <vector>

namespace wirenote {

struct ChordParameters {
    double least_attack = 0.09; // PeakParameters::threshold: the network tells when nothing begins
    double event_s = 0.065;     // attacks closer than this are one strum
    double least_belief = 0.5;  // in a note; what is believed less is a near miss, down to …
    double least_miss = 0.10;
    double least_of_all = 0.12; // the best explanation of a clear attack is believed from here on
    // Where strings are plucked one at a time, a string that rings is seldom struck again with
    // another:
    double sure = 0.9; // a note believed so much is one; this much more doubtful ones need …
    double one_at_a_time = 1.1; // … up to so many sure notes an attack thereabouts, …
    double fewer = 1.5;         // … less by this for each more
    double thereabouts_s = 4.0;
    double late_s = 0.080;     // from the last clear attack of a stroke to its last string
    double end_drop_db = 14.0; // a note has ended this far below its peak
    // Of noise no note is believed. The spectrum of white noise has a flatness of e^-γ = 0.56, that
    // of the most distorted strums more than half of it.
    double noise_flatness = 0.48;
};

constexpr float kStoppedBelow = 0.2F; // PitchBelief::sounds of a string that rang: it was stopped

// A note of a chord, or of several voices.
struct ChordNote {
    double onset_s = 0.0;
    double offset_s = 0.0;
    int midi = 60;           // against the reference that was given
    double share = 0.0;      // of the event's strongest note, 0..1
    double level_db = -60.0; // of its partials at their loudest
    double probability = 0.0;
    double slurred = 0.0; // how likely it is hammered, pulled off or slid to
};

struct ChordEvent {
    double onset_s = 0.0;
    double strength = 0.0;
    double flatness = 0.0;          // of what grew: 0 is pure tones, 1 is even noise
    bool upward = false;            // of several notes: the thin strings first …
    double order_probability = 0.5; // … as sure as this
    std::vector<ChordNote> notes;   // lowest first; at most one a string, within a hand's reach
    std::array<float, kNetworkPitches> sounds{}; // PitchBelief::sounds of each pitch
    std::vector<ChordNote> misses;               // what might have begun too, the likeliest first

    // Between the two where the network does not listen.
    float soundsOf(int midi) const {
        const int pitch = midi - kNetworkLowestMidi;
        return pitch >= 0 && pitch < kNetworkPitches ? sounds[static_cast<std::size_t>(pitch)]
                                                     : 0.5F;
    }
};

// What begins at each attack: a learned network weighs every pitch (believe), and the believable
// ones are taken, at most one note a string and within the reach of a hand. Errors: Cancelled.
Result<std::vector<ChordEvent>>
hearChords(SoundView sound,
           const Instrument& instrument,
           const LocalTuning& tuning,
           const std::vector<OnsetPeak>& onsets,
           const ChordParameters& parameters,
           const JobControl& job,
           const std::function<void(const ChordEvent&)>& so_far = {});

// Takes what only rings on for what it is: a doubtful note of a string that sounds already, beside
// a sure one, where strings are plucked one at a time. It becomes a near miss. `events` by onset.
void letRingOn(std::vector<ChordEvent>& events, const ChordParameters& parameters = {});

} // namespace wirenote
