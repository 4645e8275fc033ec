// The questions about a whole piece and their choices, in the players' words.
#pragma once

#include "app/commands/questions.h"
#include "session/questions.h"

#include <QString>

namespace wirenote::app {

QString questionText(QuestionKind kind); // "How fast is the beat?"
QString whyItIsAsked(QuestionKind kind); // what hangs on it, and how it can be heard
QString choiceText(const Piece& piece, const Question& question, const Choice& choice);
// What speaks for it, or how it differs from what stands now.
QString choiceReason(const Piece& piece, const Question& question, const Choice& choice);
QString
tuningReason(const TuningGuess& guess); // "lowest note E1, 12 of 40 notes are its open strings"
QString otherInstrumentText(const Piece& piece, const OtherInstrument& other);

} // namespace wirenote::app
