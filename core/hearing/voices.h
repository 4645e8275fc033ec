// Where a take is one line, and where several voices sound.
#pragma once

#include "base/time_range.h"
#include "hearing/chords.h"
#include "piece/note.h"

#include <vector>

namespace wirenote {

enum class Voices { Line, Several };

struct VoiceParameters {
    // What an attack says for several voices, in nepers.
    double unrelated = 2.5;     // it begins pitches that are not partials of each other
    double over_ringing = 0.35; // it begins while another note rings on
    double alone = -0.7;        // neither
    double unheard = 0.8;     // something begins there, and who listens for one line hears nothing
    double together_s = 0.06; // a note of the line so near is heard there
    double change = 4.0;      // what it costs to change from one to the other …
    double change_paused = 1.0; // … and after a pause, when something else may begin …
    double pause_s = 1.5;       // … from one attack to the next
    double ringing_s = 0.15;    // a note rings on when it outlasts the attack by this
    double believed = 0.6;      // notes of an attack that count
    double noisy = 0.35;        // attacks whose spectrum is as flat as this say nothing
};

struct VoiceSpan {
    TimeRange span; // seconds; the first begins at 0, the last never ends
    Voices voices = Voices::Line;
};

// Pitches none of which is near a partial of the other.
bool unrelated(int midi_a, int midi_b);
bool beginsUnrelated(const ChordEvent& event, double least_probability = 0.0);

// The likeliest course of lines and voices (Viterbi over the attacks): at least one span, in time,
// without gaps. A bass plays one line. `line`: what is heard by who listens for one line, by onset.
std::vector<VoiceSpan> voiceSpans(const std::vector<ChordEvent>& events,
                                  const std::vector<Note>& line,
                                  const Instrument& instrument,
                                  const VoiceParameters& parameters = {});

} // namespace wirenote
