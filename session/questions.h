// What decides most of a piece: its instrument and tuning, its tempo, metre and first beat. Where
// the guess is in doubt it is asked before any note, with a few choices.
#pragma once

#include "form/pulse_choices.h"
#include "hearing/tuning_guess.h"
#include "piece/piece.h"

#include <string_view>
#include <vector>

namespace wirenote {

enum class QuestionKind { Instrument, Tempo, Metre, One };
std::string_view questionName(QuestionKind kind); // "instrument", "tempo", "metre", "one"

struct Choice {
    double probability = 0.0;
    bool now = false;      // as it stands
    TuningGuess tuning;    // of Instrument
    bool by_sound = false; // … of another kind, because it sounds like that
    Timeline timeline;     // of the others: all of it, as it would be
};

struct Question {
    QuestionKind kind = QuestionKind::Instrument;
    std::vector<Choice> choices; // two or three, likeliest first, the present one among them
};

// The open questions in the order in which they are to be answered. What a person settled is not
// asked, nor what rests on another question that is still open: bars on the tempo, "one" on the
// metre. None without notes.
std::vector<Question> openQuestions(const Piece& piece);

// What an answer settles.
Settled settledBy(QuestionKind kind);

} // namespace wirenote
