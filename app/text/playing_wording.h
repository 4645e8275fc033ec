// Playings, variants and what bars rest on, in the players' words.
#pragma once

#include "form/bar_evidence.h"
#include "form/form_comparison.h"
#include "form/seen_where.h"
#include "form/variants.h"
#include "piece/clock_change.h"
#include "piece/piece.h"

#include <QString>

namespace wirenote::app {

// "half as fast", "0.8 times as fast", "as fast".
QString tempoRatioText(double ratio);

// "bars 3–4", "bar 3": where a stretch of the piece lies; "0:03–0:05" without bars.
QString placesText(const Piece& piece, TimeRange of_piece);

// "talk", "talk over playing", "count-in" …
QString soundKindText(SoundKind kind);

// "bars 3–4, half as fast", "an exercise", "something else".
QString shownText(const Piece& piece, const Demonstration& shown);

// The same with where it is: "take 2 at 0:41: bars 3–4, half as fast".
QString playingText(const Piece& piece, const Demonstration& shown, std::size_t take);

// "G4 instead of F4", "with an E2 more".
QString variantWords(const Piece& piece, const Variant& variant);

// "bar 3, beat 2.5: G4 instead of F4".
QString variantText(const Piece& piece, const Variant& variant);

// "2 takes, 4 playings; 3 of 8 notes set by you".
QString evidenceText(const BarEvidence& bar);
// Of what films do not show: which hands, what a picture of them must show, and how to come by one.
QString hiddenText(const WantedShot& shot);
QString angleText(const WantedShot& shot);
QString shotText(const Piece& piece, const WantedShot& shot);

// "begins without bars 1–4", "bars 5–8 once more", "something else instead of bars 15–16".
QString formDifferenceText(const Piece& piece, const FormDifference& difference);

// "“x.flac” takes its place; it begins 1.20 s earlier …", and how many notes it does not hold.
QString copyText(const QString& name, const ClockChange& clock, int notes_gone);

} // namespace wirenote::app
