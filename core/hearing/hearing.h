// From sound to notes, one line or several voices.
#pragma once

#include "hearing/chords.h"
#include "hearing/melody.h"

namespace wirenote {

enum class Voices { Line, Several };

struct VoiceParameters {
    double several_share = 0.10; // of the attacks begin several unrelated notes …
    double ringing_share = 0.75; // … or so many begin while another note rings on: several voices
    double ringing_s = 0.15;
    double ghost_flatness = 0.02; // from here on a stroke sounds of noise, not of strings …
    double ghost_drop_db = 10.0;  // … when it is gone at once
};

// Whether these events are one line or several voices. A bass plays one line.
Voices voicesOf(const std::vector<ChordEvent>& events,
                const Instrument& instrument,
                const VoiceParameters& parameters = {});

// Hears a take: as one line (hearMelody, with slurs and pitch curves), and where more sounds at
// once, as chords and voices (hearChords). `sound` is mono at kAnalysisRateHz. Errors: Cancelled.
Result<Hearing> hearTake(SoundView sound,
                         const Instrument& instrument,
                         std::optional<double> a4_hz,
                         const HearingParameters& parameters,
                         const JobControl& job);

} // namespace wirenote
