#include "session/questions.h"

#include <algorithm>

namespace wirenote {
namespace {

// From here on the present state is believed and nobody is asked (working figures, decision 0031).
constexpr double kSureOfInstrument = 0.3;
constexpr double kSureOfSound = 0.8; // that it is of another kind of strings
constexpr double kSureOfTempo = 0.75;
constexpr double kSureOfMetre = 0.6;
constexpr double kSureOfOne = 0.5;
constexpr double kSecondOfAKind = 0.15;
constexpr double kLeastWorth = 0.03; // of a choice
constexpr std::size_t kMostChoices = 3;

bool sameStrings(const Instrument& a, const Instrument& b) {
    return a.kind == b.kind && a.capo == b.capo && tuningText(a) == tuningText(b);
}

// Of another kind of instrument its likeliest tuning, and the next only where it is likely too.
std::vector<Choice> tuningChoices(const Piece& piece) {
    std::vector<Choice> choices;
    for (TuningGuess& guess : guessTuning(piece.instrument, piece.notes, piece.misses)) {
        const InstrumentKind kind = guess.instrument.kind;
        if (kind != piece.instrument.kind && guess.probability < kSecondOfAKind &&
            std::ranges::any_of(choices, [kind](const Choice& other) {
                return other.tuning.instrument.kind == kind;
            }))
            continue;
        Choice choice;
        choice.probability = guess.probability;
        choice.now = sameStrings(guess.instrument, piece.instrument);
        choice.tuning = std::move(guess);
        choices.push_back(std::move(choice));
    }
    return choices;
}

// It may sound like another kind of strings than it was opened with: the same tuning on those.
void addKind(const Piece& piece, std::vector<Choice>& choices) {
    if (!piece.lead() || piece.lead()->sounds_like.empty() || piece.instrument.isBass() ||
        piece.instrument.stringCount() != 6)
        return;
    const KindGuess& best = piece.lead()->sounds_like.front();
    const auto now = std::ranges::find(choices, true, &Choice::now);
    if (best.kind == piece.instrument.kind || best.probability < kSureOfSound ||
        now == choices.end())
        return;
    Choice other = *now;
    other.now = false;
    other.by_sound = true;
    Instrument strung = standardInstrument(best.kind);
    if (!setTuning(strung, tuningText(piece.instrument)) || !setCapo(strung, piece.instrument.capo))
        return;
    other.tuning.instrument = strung;
    other.probability = now->probability * best.probability;
    now->probability *= 1.0 - best.probability;
    choices.push_back(std::move(other));
    std::ranges::stable_sort(choices, std::ranges::greater{}, &Choice::probability);
}

std::vector<Choice> ofPulse(std::vector<PulseChoice> pulses) {
    std::vector<Choice> choices;
    for (PulseChoice& pulse : pulses) {
        Choice choice;
        choice.probability = pulse.probability;
        choice.now = pulse.now;
        choice.timeline = std::move(pulse.timeline);
        choices.push_back(std::move(choice));
    }
    return choices;
}

// The likeliest few with the present one; nothing when that is sure, or not among them.
std::optional<Question> asked(QuestionKind kind, std::vector<Choice> all, double sure) {
    const auto now = std::ranges::find(all, true, &Choice::now);
    if (now == all.end() || now->probability >= sure)
        return {};
    Question question{kind, {}};
    for (Choice& choice : all) {
        const std::size_t room = kMostChoices - question.choices.size();
        const bool now_is_there =
            std::ranges::find(question.choices, true, &Choice::now) != question.choices.end();
        if (choice.now || (choice.probability >= kLeastWorth && room > (now_is_there ? 0 : 1)))
            question.choices.push_back(std::move(choice));
    }
    return question.choices.size() > 1 ? std::optional(std::move(question)) : std::nullopt;
}

} // namespace

std::string_view questionName(QuestionKind kind) {
    switch (kind) {
    case QuestionKind::Instrument:
        return "instrument";
    case QuestionKind::Tempo:
        return "tempo";
    case QuestionKind::Metre:
        return "metre";
    case QuestionKind::One:
        return "one";
    }
    return {};
}

std::vector<Question> openQuestions(const Piece& piece) {
    std::vector<Question> questions;
    const auto ask = [&questions](QuestionKind kind, std::vector<Choice> choices, double sure) {
        auto question = asked(kind, std::move(choices), sure);
        if (question)
            questions.push_back(std::move(*question));
        return question.has_value();
    };
    if (!piece.settled.instrument) {
        auto choices = tuningChoices(piece);
        addKind(piece, choices);
        ask(QuestionKind::Instrument, std::move(choices), kSureOfInstrument);
    }
    if (!piece.settled.tempo &&
        ask(QuestionKind::Tempo, ofPulse(tempoChoices(piece.notes, piece.timeline)), kSureOfTempo))
        return questions;
    if (!piece.settled.metre &&
        ask(QuestionKind::Metre, ofPulse(metreChoices(piece.notes, piece.timeline)), kSureOfMetre))
        return questions;
    if (!piece.settled.one)
        ask(QuestionKind::One, ofPulse(oneChoices(piece.notes, piece.timeline)), kSureOfOne);
    return questions;
}

Settled settledBy(QuestionKind kind) {
    switch (kind) {
    case QuestionKind::Instrument:
        return {.instrument = true};
    case QuestionKind::Tempo:
        return {.tempo = true};
    case QuestionKind::Metre:
        return {.tempo = true, .metre = true};
    case QuestionKind::One:
        return {.tempo = true, .metre = true, .one = true};
    }
    return {};
}

} // namespace wirenote
