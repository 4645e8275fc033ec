// From sound to notes, one at a time.
#pragma once

#include "base/job.h"
#include "base/result.h"
#include "base/sound.h"
#include "hearing/local_tuning.h"
#include "music/instrument.h"
#include "piece/piece.h"
#include "signal/spectral_flux.h"

#include <functional>
#include <optional>
#include <vector>

namespace wirenote {

constexpr double kAnalysisRateHz = 22050.0; // enough for pitch and attacks of guitar and bass

struct HearingParameters {
    double onset_threshold = 0.13; // flux peaks below this share of a typical attack are no onset
    double odd_partials =
        0.06; // with less in the odd partials than this share of the even, it is an octave up
    double pitch_step = 0.7;    // semitones the pitch must move, without attack, for a slurred note
    double trill_step = 0.93;   // … and this far when it comes back at once, or it is a vibrato
    double weak_attack = 0.6;   // an attack no stronger than this and …
    double tremor_share = 0.06; // or than this share of the attack of the note that sounds
    double weak_rise_db = 1.5;  // … hardly louder than before is none when the pitch stays
    double slur_min_s = 0.045;  // shortest slurred note
    double passed_fret_s = 0.085; // a fret crossed by a slide sounds no longer than this
    double note_min_s = 0.035;
    double fast_s = 0.16;      // between strokes of one pitch: no octave between them is believed
    double quiet_db = 38.0;    // notes this far below the take's loud notes are not believed
    double end_drop_db = 24.0; // a note has ended this far below its peak
};

// Gets what is heard while the hearing goes on, from the working thread: new notes in order of
// time, not yet sure. May be empty.
using HeardSoFar = std::function<void(const std::vector<NearMiss>&)>;

struct Hearing {
    std::vector<Note> notes;      // by onset; ids 1, 2, 3 …
    std::vector<NearMiss> misses; // by onset: where several voices sound, and below the neck
    TuningReference reference;
    LocalTuning tuning = kStandardA4Hz; // moment by moment; as given, if it was
    FluxTrack flux;
};

// Hears one line of single notes. `sound` is mono at kAnalysisRateHz. The reference is found unless
// given. Errors: Cancelled. Silence gives no notes and is not an error.
Result<Hearing> hearMelody(SoundView sound,
                           const Instrument& instrument,
                           std::optional<double> a4_hz,
                           const HearingParameters& parameters,
                           const JobControl& job,
                           const HeardSoFar& so_far = {});

} // namespace wirenote
