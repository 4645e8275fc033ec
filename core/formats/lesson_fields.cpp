#include "formats/lesson_fields.h"

#include "base/text.h"
#include "formats/take_fields.h"
#include "formats/words.h"
#include "piece/lesson_words.h"
#include "piece/piece.h"

#include <array>

namespace wirenote::json_fields {
namespace {

using namespace lesson_words;

constexpr std::array kVerdicts = {"open", "adopted", "answered"};

template <class E, std::size_t N>
void put(Json& json, const char* field, E value, const std::array<const char*, N>& words) {
    json[field] = words[static_cast<std::size_t>(value)];
}

// One of the words; the first of the kind where the field is missing.
template <class E, std::size_t N>
void get(const Json& json,
         const char* field,
         E& value,
         const std::array<const char*, N>& words,
         Fields& fields) {
    if (!Fields::find(json, field))
        return;
    const std::string said = fields.text(json, field, "lesson");
    for (std::size_t i = 0; i < N; ++i)
        if (said == words[i]) {
            value = static_cast<E>(i);
            return;
        }
    fields.fail(std::string("lesson.") + field, "is not known");
}

void putText(Json& json, const char* field, const std::string& text) {
    if (!text.empty())
        json[field] = text;
}

std::string remark(const Json& json, const char* field, Fields& fields) {
    return fields.text(json, field, "lesson", kLongestRemark);
}

double time(const Json& json, const char* field, Fields& fields) {
    return fields.number(json, field, 0, -kLongestPiece_s, kLongestPiece_s, "lesson");
}

Json mannerToJson(const TeachingManner& manner) {
    Json json = {{"language", manner.language}, {"tempi", manner.tempi}};
    put(json, "strings", manner.strings, kStrings);
    put(json, "fingers", manner.fingers, kFingers);
    put(json, "strokes", manner.strokes, kStrokes);
    if (!manner.notes_as_language)
        put(json, "notes", manner.notes, kNotes);
    put(json, "count", manner.count, kCounts);
    put(json, "order", manner.order, kOrders);
    for (const GlossaryWord& word : manner.glossary)
        json["glossary"].push_back({{"ours", word.ours}, {"own", word.own}});
    return json;
}

TeachingManner mannerFrom(const Json& json, Fields& fields) {
    TeachingManner manner;
    const std::string where = "lesson.manner";
    if (Fields::find(json, "language"))
        manner.language = fields.text(json, "language", where);
    get(json, "strings", manner.strings, kStrings, fields);
    get(json, "fingers", manner.fingers, kFingers, fields);
    get(json, "strokes", manner.strokes, kStrokes, fields);
    manner.notes_as_language = !Fields::find(json, "notes");
    get(json, "notes", manner.notes, kNotes, fields);
    get(json, "count", manner.count, kCounts, fields);
    get(json, "order", manner.order, kOrders, fields);
    if (Fields::find(json, "tempi")) {
        const Json& tempi = fields.array(json, "tempi", where, kMostLessonTempi);
        manner.tempi.clear();
        for (std::size_t i = 0; i < tempi.size(); ++i)
            manner.tempi.push_back(
                fields.item(tempi, i, kSlowestLesson, kFastestLesson, where + ".tempi"));
    }
    for (const Json& word : fields.array(json, "glossary", where, kMaxGlossary))
        manner.glossary.push_back(
            {fields.text(word, "ours", where), fields.text(word, "own", where)});
    return manner;
}

Json phrasesToJson(const std::vector<TaughtPhrase>& phrases) {
    Json all = Json::array();
    for (const TaughtPhrase& phrase : phrases) {
        Json one = {{"start_s", phrase.span.start_s}, {"end_s", phrase.span.end_s}};
        putText(one, "title", phrase.title);
        if (phrase.left_out)
            one["left_out"] = true;
        if (phrase.free)
            one["free"] = true;
        all.push_back(std::move(one));
    }
    return all;
}

Json wordsToJson(const std::vector<OwnWords>& words) {
    Json all = Json::array();
    for (const OwnWords& own : words) {
        Json one = {{"phrase_s", own.phrase_s}, {"text", own.text}, {"instead_of", own.instead_of}};
        put(one, "step", own.step, kSteps);
        if (own.layer != 0)
            one["layer"] = own.layer;
        all.push_back(std::move(one));
    }
    return all;
}

Json observationsToJson(const std::vector<Observation>& observations) {
    Json all = Json::array();
    for (const Observation& seen : observations) {
        Json one = {{"at_s", seen.at_s}, {"pupils", seen.pupils}};
        put(one, "kind", seen.kind, kStumbles);
        putText(one, "remark", seen.remark);
        all.push_back(std::move(one));
    }
    return all;
}

Json objectionsToJson(const std::vector<Objection>& objections) {
    Json all = Json::array();
    for (const Objection& objection : objections) {
        Json one = {{"at_s", objection.at_s}, {"text", objection.text}};
        put(one, "verdict", objection.verdict, kVerdicts);
        putText(one, "who", objection.who);
        putText(one, "when", objection.when);
        putText(one, "answer", objection.answer);
        all.push_back(std::move(one));
    }
    return all;
}

void readLists(const Json& json, Fields& fields, LessonPlan& plan) {
    const std::string where = "lesson";
    for (const Json& one : fields.array(json, "phrases", where, kMaxTaught))
        plan.phrases.push_back({{time(one, "start_s", fields), time(one, "end_s", fields)},
                                fields.text(one, "title", where),
                                Fields::isTrue(one, "left_out"),
                                Fields::isTrue(one, "free")});
    for (const Json& one : fields.array(json, "words", where, kMaxOwnWords)) {
        OwnWords own;
        own.phrase_s = time(one, "phrase_s", fields);
        get(one, "step", own.step, kSteps, fields);
        own.layer = fields.integer(one, "layer", 0, 0, static_cast<int>(kMaxTaught), where);
        own.text = remark(one, "text", fields);
        own.instead_of = remark(one, "instead_of", fields);
        plan.words.push_back(std::move(own));
    }
    for (const Json& one : fields.array(json, "retakes", where, kMaxRetakes)) {
        Retake retake;
        retake.phrase_s = time(one, "phrase_s", fields);
        get(one, "step", retake.step, kSteps, fields);
        plan.retakes.push_back(retake);
    }
}

void readWhatWasHeard(const Json& json, Fields& fields, LessonPlan& plan) {
    const std::string where = "lesson";
    for (const Json& one : fields.array(json, "observations", where, kMaxObservations)) {
        Observation seen;
        seen.at_s = time(one, "at_s", fields);
        get(one, "kind", seen.kind, kStumbles, fields);
        seen.pupils = fields.integer(one, "pupils", 1, 0, kMostPupils, where);
        seen.remark = remark(one, "remark", fields);
        plan.observations.push_back(std::move(seen));
    }
    for (const Json& one : fields.array(json, "objections", where, kMaxObjections)) {
        Objection objection;
        objection.at_s = time(one, "at_s", fields);
        objection.who = fields.text(one, "who", where);
        objection.text = remark(one, "text", fields);
        objection.when = fields.text(one, "when", where);
        get(one, "verdict", objection.verdict, kVerdicts, fields);
        objection.answer = remark(one, "answer", fields);
        plan.objections.push_back(std::move(objection));
    }
    for (const Json& one : fields.array(json, "versions", where, kMaxVersions))
        plan.versions.push_back(
            {fields.integer(one, "number", 1, 1, static_cast<int>(kMaxVersions) * 100, where),
             fields.text(one, "when", where),
             remark(one, "what", fields)});
}

// What a lesson says of itself, by field.
constexpr std::array<std::pair<const char*, std::string LessonPlan::*>, 5> kTexts = {
    {{"level", &LessonPlan::level},
     {"presupposes", &LessonPlan::presupposes},
     {"background", &LessonPlan::background},
     {"credits", &LessonPlan::credits},
     {"series", &LessonPlan::series}}};

} // namespace

Json lessonToJson(const LessonPlan& plan) {
    Json json = Json::object();
    if (plan.manner != TeachingManner{})
        json["manner"] = mannerToJson(plan.manner);
    if (!plan.taught.empty())
        json["taught"] = {{"start_s", plan.taught.start_s}, {"end_s", plan.taught.end_s}};
    if (!plan.phrases.empty())
        json["phrases"] = phrasesToJson(plan.phrases);
    if (!plan.words.empty())
        json["words"] = wordsToJson(plan.words);
    if (!plan.observations.empty())
        json["observations"] = observationsToJson(plan.observations);
    if (!plan.objections.empty())
        json["objections"] = objectionsToJson(plan.objections);
    for (const Retake& retake : plan.retakes) {
        Json one = {{"phrase_s", retake.phrase_s}};
        put(one, "step", retake.step, kSteps);
        json["retakes"].push_back(std::move(one));
    }
    for (const PublishedVersion& version : plan.versions)
        json["versions"].push_back(
            {{"number", version.number}, {"when", version.when}, {"what", version.what}});
    for (const auto& [field, of] : kTexts)
        putText(json, field, plan.*of);
    if (!plan.captions.empty()) {
        const auto [field, path] = pathField(plan.captions);
        json["captions"] = {{field, path}};
    }
    return json;
}

LessonPlan lessonFrom(const Json& json, Fields& fields) {
    LessonPlan plan;
    if (const Json* manner = Fields::find(json, "manner"))
        plan.manner = mannerFrom(*manner, fields);
    if (const Json* taught = Fields::find(json, "taught"))
        plan.taught = {time(*taught, "start_s", fields), time(*taught, "end_s", fields)};
    readLists(json, fields, plan);
    readWhatWasHeard(json, fields, plan);
    for (const auto& [field, of] : kTexts)
        plan.*of = remark(json, field, fields);
    if (const Json* captions = Fields::find(json, "captions"))
        plan.captions = pathFrom(*captions, fields, "lesson.captions");
    return plan;
}

} // namespace wirenote::json_fields
