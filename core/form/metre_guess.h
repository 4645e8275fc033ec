#pragma once

#include "piece/piece.h"

#include <vector>

namespace wirenote {

struct MetreGuess {
    Metre metre;
    double beat_factor = 1.0; // the felt beat is this many of the beats that were found
    double certainty = 0.0;   // 0..1: how far it stands out from the other metres
};

// The beats (seconds, in order) moved to the stressed places, where they were found between them:
// by a half, in compound metres by a third or two, if later places are stressed more. After each
// pause this is decided anew, so that a count-in or another passage does not decide it for all.
std::vector<double>
beatsOnStress(const std::vector<Note>& notes, const std::vector<double>& beats_s, bool compound);

// How much more strongly the places half way between these beats are marked than the beats; 1 is
// as strongly.
double offBeatStress(const std::vector<Note>& notes, const std::vector<double>& beats_s);

// How alike the accents are a bar apart and two, were the beats felt in that metre (−1..1).
struct MetreReturn {
    Metre metre;
    double returns = 0.0;
};
// Of felt beats in halves: 4/4 (by two and four beats), 3/4, 5/4, and 7/8, where beats are quarters
// that run over the bar line. Of beats in thirds (`compound`): 6/8, 9/8 and 12/8. Empty where the
// beats are too few.
std::vector<MetreReturn>
metreReturns(const std::vector<Note>& notes, const std::vector<double>& beats_s, bool compound);

// How many beats make a bar, where the beats are felt beats: the usual 4/4 or 6/8 unless another
// stands out. 7/8 is none of them: its beats are others.
Metre barsOf(const std::vector<Note>& notes, const std::vector<double>& beats_s, bool compound);

// The metre of notes on beats that were found: by how alike the accents are a bar apart
// (autocorrelation of accents over the divisions of the beat, as in metre induction: Brown,
// "Determination of the meter of musical scores by autocorrelation", J. Acoust. Soc. Am. 94, 1993;
// cited from memory), and by whether beats are divided in halves or in thirds. Tells 4/4, 3/4,
// 5/4, 6/8, 9/8 and 12/8; beats that turn out to be two thirds of a felt beat in 6/8 are told by
// beat_factor. 4/4 when nothing stands out.
MetreGuess guessMetre(const std::vector<Note>& notes, const std::vector<double>& beats_s);

} // namespace wirenote
