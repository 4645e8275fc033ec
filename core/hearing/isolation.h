// What of a sound belongs to some of its notes, so that they can be heard alone, or all but them.
#pragma once

#include "piece/note.h"

#include <span>
#include <vector>

namespace wirenote {

struct IsolationParameters {
    double before_s = 0.02; // a frame this far before an onset holds some of the note already
    double ring_s = 0.10;   // after its end a note is not silent at once
    double attack_s = 0.05; // so long the noise of a stroke belongs to what begins with it
    double top_hz = 9000.0; // partials above are not looked for
    int most_partials = 40;
    double usual_log_b = -9.2; // stiffness where none was measured: ln(1e-4), a middle string
    double lobe_bins = 2.0;    // half the main lobe of a Hann window …
    double unsteady = 0.0025;  // … and the share of its frequency by which a partial strays
    double background = 0.03;  // share of every bin that is nobody's
};

// Splits each frame of a short-time spectrum between the notes that sound in it, in proportion to
// the power their partials can be expected to have there (a generalised Wiener mask: Benaroya,
// Bimbot & Gribonval, IEEE Trans. ASLP 14, 2006). Where partials of two notes meet, each is
// expected to be as strong as its own free partials beside it. The noise of an attack belongs to
// the notes that begin with it; what is left over belongs to the rest. The part and what is left
// without it add up to the sound. Values only; one object serves many threads.
class NoteMask {
  public:
    // `chosen` marks the notes of the part, one for each of `notes`, which are in order of onset.
    // Frames are of `size` samples at `rate_hz` under a Hann window.
    NoteMask(std::vector<Note> notes,
             std::vector<bool> chosen,
             double a4_hz,
             double rate_hz,
             int size,
             const IsolationParameters& parameters = {});

    // `power` is |X|² of the bins 0..size/2 of the frame whose middle is at time_s (seconds of the
    // notes); `share` gets 0..1 for each bin: how much of its amplitude is the part's.
    void shares(double time_s, std::span<const float> power, std::span<float> share) const;

  private:
    struct Comb;
    std::vector<Comb> combsAt(double time_s, std::span<const float> power) const;
    void weigh(std::vector<Comb>& combs) const;
    double beginsWith(double time_s, bool chosen_only) const;

    std::vector<Note> m_notes;
    std::vector<bool> m_chosen;
    double m_longest_s = 0.0;
    double m_a4_hz;
    double m_bin_hz;
    IsolationParameters m_p;
};

} // namespace wirenote
