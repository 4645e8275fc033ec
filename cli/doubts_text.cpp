#include "doubts_text.h"

#include "piece/doubts.h"
#include "session/questions.h"

#include <iomanip>
#include <sstream>

namespace wirenote {
namespace {

std::string choiceText(QuestionKind kind, const Choice& choice) {
    std::ostringstream text;
    text << std::fixed << std::setprecision(0);
    const Timeline& timeline = choice.timeline;
    switch (kind) {
    case QuestionKind::Instrument:
        text << instrumentName(choice.tuning.instrument.kind) << " "
             << tuningText(choice.tuning.instrument);
        if (choice.tuning.instrument.capo > 0)
            text << " capo " << choice.tuning.instrument.capo;
        break;
    case QuestionKind::Tempo:
        text << timeline.tempo_bpm << " a minute in " << timeline.metre.text();
        break;
    case QuestionKind::Metre:
        text << timeline.metre.text();
        for (const MetreChange& change : timeline.changes)
            text << ", " << change.metre.text() << " from bar " << change.bar;
        break;
    case QuestionKind::One: {
        const auto downbeats = timeline.downbeats_s();
        text << std::setprecision(3) << (downbeats.empty() ? 0.0 : downbeats.front()) << " s";
        break;
    }
    }
    text << std::setprecision(2) << " " << choice.probability << (choice.now ? " (now)" : "");
    return text.str();
}

const char* doubtName(DoubtKind kind) {
    switch (kind) {
    case DoubtKind::Place:
        return "place";
    case DoubtKind::Pitch:
        return "pitch";
    case DoubtKind::Existence:
        return "note";
    case DoubtKind::NoPlace:
        return "no place";
    case DoubtKind::Finger:
        return "finger";
    case DoubtKind::Stroke:
        return "stroke";
    case DoubtKind::OnlyHere:
        return "only here";
    }
    return "";
}

} // namespace

std::string doubtsText(const Piece& piece) {
    std::ostringstream text;
    for (const Question& question : openQuestions(piece)) {
        text << questionName(question.kind) << ": ";
        for (std::size_t i = 0; i < question.choices.size(); ++i)
            text << (i > 0 ? ", " : "") << choiceText(question.kind, question.choices[i]);
        text << "\n";
    }
    text << std::fixed;
    for (const Doubt& doubt : openDoubts(piece))
        text << std::setprecision(3) << doubt.onset_s << " s " << doubtName(doubt.kind) << " "
             << std::setprecision(2) << doubt.urgency << "\n";
    return text.str();
}

} // namespace wirenote
