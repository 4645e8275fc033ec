// The form of a piece in the players' words.
#pragma once

#include "form/form.h"

#include <QString>
#include <QStringList>

namespace wirenote::app {

// "A", "A'", "intro", "fill", "bridge", "ending", "ending 2" (a first and second ending).
QString partText(const std::vector<FormPart>& parts, std::size_t part);

// "bar 8", "bars 4–5", "pick-up to bar 2", "pick-up".
QString barsText(int first, int last);

// "bar 15 as bar 7: the last 2 notes are an octave lower": one sentence for each bar that differs
// from the first occurrence. Empty when none does.
QStringList
differenceText(const std::vector<BarContent>& bars, const Phrase& phrase, std::size_t occurrence);

// "an octave higher", "2 semitones lower".
QString intervalText(int semitones);

} // namespace wirenote::app
