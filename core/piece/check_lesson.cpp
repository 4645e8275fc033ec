#include "base/text.h"
#include "piece/piece.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

Status wrong(const std::string& what) {
    return badInput({}, "the lesson: " + what);
}

bool inPiece(double at_s) {
    return std::isfinite(at_s) && std::abs(at_s) <= kLongestPiece_s;
}

bool isShort(const std::string& text) {
    return text.size() <= kLongestName;
}

bool isRemark(const std::string& text) {
    return text.size() <= kLongestRemark;
}

bool inRange(double tempo) {
    return tempo >= kSlowestLesson && tempo <= kFastestLesson;
}

Status checkManner(const TeachingManner& manner) {
    if (!isShort(manner.language) || manner.language.empty())
        return wrong("its language has no name, or too long a one");
    if (manner.tempi.size() > kMostLessonTempi || !std::ranges::all_of(manner.tempi, inRange))
        return wrong("a tempo lies outside a tenth to twice as fast, or there are more than " +
                     std::to_string(kMostLessonTempi));
    if (manner.glossary.size() > kMaxGlossary)
        return wrong("it has more than " + std::to_string(kMaxGlossary) + " words of its own");
    for (const GlossaryWord& word : manner.glossary)
        if (word.ours.empty() || word.own.empty() || !isShort(word.ours) || !isShort(word.own))
            return wrong("a word of the teacher's own is empty or too long");
    return {};
}

Status checkTaught(const LessonPlan& plan) {
    if (plan.phrases.size() > kMaxTaught)
        return wrong("it has more than " + std::to_string(kMaxTaught) + " phrases");
    double last_s = -kLongestPiece_s;
    for (const TaughtPhrase& phrase : plan.phrases) {
        if (!inPiece(phrase.span.start_s) || !inPiece(phrase.span.end_s) || phrase.span.empty() ||
            phrase.span.start_s < last_s || !isShort(phrase.title))
            return wrong("its phrases are empty, overlap or lie outside the piece");
        last_s = phrase.span.end_s;
    }
    if (!inPiece(plan.taught.start_s) || !inPiece(plan.taught.end_s) ||
        plan.taught.end_s < plan.taught.start_s)
        return wrong("what is taught of the piece ends before it begins");
    return {};
}

Status checkWords(const LessonPlan& plan) {
    if (plan.words.size() > kMaxOwnWords || plan.retakes.size() > kMaxRetakes)
        return wrong("it has too many texts or retakes");
    for (const OwnWords& words : plan.words)
        if (!inPiece(words.phrase_s) || !isRemark(words.text) || !isRemark(words.instead_of) ||
            words.layer < 0 || words.layer > static_cast<int>(kMaxTaught))
            return wrong("a text is too long, or lies outside the piece");
    for (const Retake& retake : plan.retakes)
        if (!inPiece(retake.phrase_s))
            return wrong("a retake lies outside the piece");
    return {};
}

Status checkHeard(const LessonPlan& plan) {
    if (plan.observations.size() > kMaxObservations || plan.objections.size() > kMaxObjections ||
        plan.versions.size() > kMaxVersions)
        return wrong("it has too many observations, objections or versions");
    for (const Observation& seen : plan.observations)
        if (!inPiece(seen.at_s) || seen.pupils < 0 || seen.pupils > kMostPupils ||
            !isRemark(seen.remark))
            return wrong("an observation is too long, or lies outside the piece");
    for (const Objection& one : plan.objections)
        if (!inPiece(one.at_s) || !isShort(one.who) || !isShort(one.when) || !isRemark(one.text) ||
            !isRemark(one.answer))
            return wrong("an objection is too long, or lies outside the piece");
    for (const PublishedVersion& version : plan.versions)
        if (version.number < 1 || !isShort(version.when) || !isRemark(version.what))
            return wrong("a version has no number, or too long a text");
    return {};
}

} // namespace

Status checkLesson(const LessonPlan& plan) {
    for (const Status& part :
         {checkManner(plan.manner), checkTaught(plan), checkWords(plan), checkHeard(plan)})
        if (!part)
            return part;
    for (const std::string* text :
         {&plan.level, &plan.presupposes, &plan.background, &plan.credits, &plan.series})
        if (!isRemark(*text))
            return wrong("what it says of itself is too long");
    if (plan.captions.size() > kLongestPath)
        return wrong("the name of its captions is too long");
    return {};
}

} // namespace wirenote
