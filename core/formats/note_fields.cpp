#include "formats/note_fields.h"

#include "formats/string_fields.h"
#include "formats/words.h"

#include <algorithm>

namespace wirenote::json_fields {
namespace {

Json toJson(double v) {
    return v;
}
Json toJson(const TimeRange& v) {
    return Json::array({v.start_s, v.end_s});
}
Json toJson(const Position& v) {
    return Json::array({v.string, v.fret});
}
Json toJson(Finger v) {
    return wordFor(v);
}
Json toJson(Stroke v) {
    return wordFor(v);
}
Json toJson(PluckingTool v) {
    return wordFor(v);
}
Json toJson(PluckingSchool v) {
    return wordFor(v);
}
Json toJson(bool v) {
    return v;
}

void fromJson(const Json& json, double& v, Fields& fields, const std::string& where) {
    v = fields.item(Json::array({json}), 0, -1000, 1000, where);
}
void fromJson(const Json& json, TimeRange& v, Fields& fields, const std::string& where) {
    v = {fields.item(json, 0, 0, kLongest_s, where), fields.item(json, 1, 0, kLongest_s, where)};
}
void fromJson(const Json& json, Position& v, Fields& fields, const std::string& where) {
    v = {static_cast<int>(fields.item(json, 0, 0, kMaxStrings, where)),
         static_cast<int>(fields.item(json, 1, 0, kMaxFrets, where))};
}
void fromJson(const Json& json, Finger& v, Fields& fields, const std::string& where) {
    v = fields.known(json.is_string() ? fingerFrom(json.get<std::string>()) : std::nullopt,
                     Finger::Unknown,
                     where);
}
void fromJson(const Json& json, Stroke& v, Fields& fields, const std::string& where) {
    v = fields.known(json.is_string() ? strokeFrom(json.get<std::string>()) : std::nullopt,
                     Stroke::Unknown,
                     where);
}
void fromJson(const Json& json, PluckingTool& v, Fields& fields, const std::string& where) {
    v = fields.known(json.is_string() ? toolFrom(json.get<std::string>()) : std::nullopt,
                     PluckingTool::Unknown,
                     where);
}
void fromJson(const Json& json, PluckingSchool& v, Fields& fields, const std::string& where) {
    v = fields.known(json.is_string() ? pluckingSchoolFrom(json.get<std::string>()) : std::nullopt,
                     PluckingSchool::Unknown,
                     where);
}
void fromJson(const Json& json, bool& v, Fields& fields, const std::string& where) {
    if (json.is_boolean())
        v = json.get<bool>();
    else
        fields.fail(where, "is neither true nor false");
}

Json reasonToJson(const Reason& r) {
    return {
        {"why", wordFor(r.kind)}, {"basis", wordFor(r.basis)}, {"a", r.a}, {"b", r.b}, {"x", r.x}};
}

Reason reasonFromJson(const Json& json, Fields& fields, const std::string& where) {
    Reason r;
    r.kind = fields.known(
        reasonFrom(fields.text(json, "why", where)), ReasonKind::DecidedByPerson, where + ".why");
    r.basis = fields.known(
        basisFrom(fields.text(json, "basis", where)), Basis::Reasoned, where + ".basis");
    r.a = fields.integer(json, "a", 0, -100000, 100000, where);
    r.b = fields.integer(json, "b", 0, -100000, 100000, where);
    r.x = fields.number(json, "x", 0, -1e9, 1e9, where);
    return r;
}

template <class T> Json decisionToJson(const Decision<T>& d) {
    Json json = {
        {"value", toJson(d.value)}, {"basis", wordFor(d.basis)}, {"probability", d.probability}};
    for (const auto& other : d.runners_up)
        json["runners_up"].push_back(
            {{"value", toJson(other.value)}, {"probability", other.probability}});
    for (const Reason& r : d.reasons)
        json["reasons"].push_back(reasonToJson(r));
    return json;
}

template <class T>
Decision<T>
decisionFrom(const Json& owner, const char* key, Fields& fields, const std::string& owner_where) {
    Decision<T> d;
    const std::string where = owner_where + "." + key;
    const Json* json = Fields::find(owner, key);
    const Json* value = json ? Fields::find(*json, "value") : nullptr;
    if (!value) {
        fields.fail(where, "is missing");
        return d;
    }
    fromJson(*value, d.value, fields, where);
    d.basis = fields.known(
        basisFrom(fields.text(*json, "basis", where)), Basis::Reasoned, where + ".basis");
    d.probability = fields.number(*json, "probability", 0, 0, 1.0 + 1e-9, where);
    for (const Json& other : fields.array(*json, "runners_up", where, 100)) {
        RunnerUp<T> runner;
        if (const Json* v = Fields::find(other, "value"))
            fromJson(*v, runner.value, fields, where);
        runner.probability = fields.number(other, "probability", 0, 0, 1.0 + 1e-9, where);
        d.runners_up.push_back(std::move(runner));
    }
    for (const Json& r : fields.array(*json, "reasons", where, 100))
        d.reasons.push_back(reasonFromJson(r, fields, where));
    return d;
}

// Earlier files kept what was heard of a note beside its pitch, and of an attack only among the
// reasons for its time.
void factsOfEarlierFile(const Json& json, Note& note, Fields& fields, const std::string& where) {
    HeardFacts heard = heardFrom(json, fields, where);
    std::erase_if(note.time.reasons, [&heard](const Reason& r) {
        switch (r.kind) {
        case ReasonKind::SharpAttack:
            heard.attack.strength = std::max(0.0, r.x);
            return true;
        case ReasonKind::SoftAttack:
            heard.attack.soft = true;
            return true;
        case ReasonKind::StringsInTurn:
            heard.thick_first = std::clamp(r.a > 0 ? r.x : 1.0 - r.x, 0.0, 1.0);
            return true;
        default:
            return false;
        }
    });
    if (heard != HeardFacts{})
        note.facts = {{0, note.time.value, heard, {}}};
}

Json factsToJson(const std::vector<NoteFacts>& facts) {
    Json all = Json::array();
    for (const NoteFacts& from : facts) {
        Json json = {{"take", from.take}, {"span", toJson(from.span)}};
        heardToJson(from.heard, json);
        seenToJson(from.seen, json);
        all.push_back(std::move(json));
    }
    return all;
}

std::vector<NoteFacts> factsFrom(const Json& note, Fields& fields, const std::string& where) {
    std::vector<NoteFacts> facts;
    for (const Json& json : fields.array(note, "facts", where, kMaxFactsOfNote)) {
        NoteFacts from;
        from.take = static_cast<std::size_t>(
            fields.integer(json, "take", 0, 0, static_cast<int>(kMaxTakes), where + ".facts"));
        if (const Json* span = Fields::find(json, "span"))
            fromJson(*span, from.span, fields, where + ".facts.span");
        from.heard = heardFrom(json, fields, where + ".facts");
        from.seen = seenFrom(json, fields, where + ".facts");
        facts.push_back(std::move(from));
    }
    return facts;
}

// What was sure of a note's time meant that it was played at all, before that was said apart.
Decision<bool> existenceOfEarlierFile(const Note& note) {
    return {true, note.time.basis, note.time.probability, {}, {}};
}

} // namespace

Json noteToJson(const Note& note) {
    Json curve = Json::array();
    for (const PitchPoint& p : note.curve)
        curve.push_back(
            Json::array({std::round(p.time_s * 1e4) / 1e4, std::round(p.dev_cents * 10) / 10}));
    Json techniques = Json::array();
    for (const Technique t : note.techniques)
        techniques.push_back(wordFor(t));
    Json json = {{"id", note.id},
                 {"existence", decisionToJson(note.existence)},
                 {"time", decisionToJson(note.time)},
                 {"pitch", decisionToJson(note.pitch)},
                 {"curve", curve},
                 {"loudness_db", note.loudness_db},
                 {"velocity", note.velocity},
                 {"techniques", techniques}};
    if (note.slip)
        json["slip"] = {{"meant_midi", note.slip->meant_midi}};
    if (note.voice)
        json["voice"] = wordFor(*note.voice);
    if (!note.facts.empty())
        json["facts"] = factsToJson(note.facts);
    return json;
}

Note noteFrom(const Json& json, Fields& fields, const std::string& where) {
    Note note;
    note.id = static_cast<NoteId>(fields.number(json, "id", 0, 1, 1e15, where));
    note.time = decisionFrom<TimeRange>(json, "time", fields, where);
    note.pitch = decisionFrom<double>(json, "pitch", fields, where);
    for (const Json& p : fields.array(json, "curve", where, 1000000))
        note.curve.push_back(
            {fields.item(p, 0, 0, kLongest_s, where), fields.item(p, 1, -1e5, 1e5, where)});
    note.loudness_db = fields.number(json, "loudness_db", -30, -200, 100, where);
    note.velocity = fields.number(json, "velocity", 0.6, 0, 1, where);
    for (const Json& t : fields.array(json, "techniques", where, 32))
        note.techniques.push_back(
            fields.known(t.is_string() ? techniqueFrom(t.get<std::string>()) : std::nullopt,
                         Technique::Accent,
                         where + ".techniques"));
    if (const Json* slip = Fields::find(json, "slip"))
        note.slip =
            Slip{static_cast<int>(fields.number(*slip, "meant_midi", 0, 0, 127, where + ".slip"))};
    if (Fields::find(json, "voice"))
        note.voice = fields.known(voiceFrom(fields.text(json, "voice", where)),
                                  Voice::Upper,
                                  where + ".voice");
    if (Fields::find(json, "existence")) {
        note.existence = decisionFrom<bool>(json, "existence", fields, where);
        note.facts = factsFrom(json, fields, where);
    } else {
        factsOfEarlierFile(json, note, fields, where);
        note.existence = existenceOfEarlierFile(note);
    }
    return note;
}

Json planToJson(const NotePlan& plan) {
    return {{"note", plan.note},
            {"position", decisionToJson(plan.position)},
            {"finger", decisionToJson(plan.finger)},
            {"stroke", decisionToJson(plan.stroke)},
            {"hand_fret", plan.hand_fret}};
}

NotePlan planFrom(const Json& json, Fields& fields, const std::string& where) {
    NotePlan plan;
    plan.note = static_cast<NoteId>(fields.number(json, "note", 0, 1, 1e15, where));
    plan.position = decisionFrom<Position>(json, "position", fields, where);
    plan.finger = decisionFrom<Finger>(json, "finger", fields, where);
    plan.stroke = decisionFrom<Stroke>(json, "stroke", fields, where);
    plan.hand_fret = fields.integer(json, "hand_fret", 0, 0, kMaxFrets, where);
    return plan;
}

Json readingHeadToJson(const ReadingHead& head) {
    Json json = {{"name", head.name}, {"fretting_school", wordFor(head.fretting.school)}};
    for (const FrettingRule rule : head.fretting.rules)
        json["fretting_rules"].push_back(wordFor(rule));
    if (!head.purpose.empty())
        json["purpose"] = head.purpose;
    if (head.wish.kind != WishKind::None)
        json["wish"] = {{"kind", wordFor(head.wish.kind)}, {"value", head.wish.value}};
    if (head.tool.value != PluckingTool::Unknown)
        json["tool"] = decisionToJson(head.tool);
    if (head.plucking_school.value != PluckingSchool::Unknown)
        json["plucking"] = decisionToJson(head.plucking_school);
    if (head.motion)
        json["motion"] = {{"per_beat", head.motion->per_beat},
                          {"trust", head.motion->trust},
                          {"reversed", head.motion->reversed}};
    return json;
}

ReadingHead readingHeadFrom(const Json& json, Fields& fields, const std::string& where) {
    ReadingHead head;
    head.name = fields.text(json, "name", where);
    head.purpose = fields.text(json, "purpose", where, kLongestRemark);
    if (const std::string school = fields.text(json, "fretting_school", where); !school.empty())
        head.fretting.school = fields.known(
            frettingSchoolFrom(school), FrettingSchool::FingerPerFret, where + ".fretting_school");
    for (const Json& rule : fields.array(json, "fretting_rules", where, kFrettingRules))
        head.fretting.follow(fields.known(
            rule.is_string() ? frettingRuleFrom(rule.get<std::string>()) : std::nullopt,
            FrettingRule::FullBarre,
            where + ".fretting_rules"));
    if (const Json* wish = Fields::find(json, "wish"))
        head.wish = {fields.known(wishKindFrom(fields.text(*wish, "kind", where + ".wish")),
                                  WishKind::None,
                                  where + ".wish.kind"),
                     fields.number(*wish, "value", 0, 0, kMaxFrets, where + ".wish")};
    if (Fields::find(json, "tool"))
        head.tool = decisionFrom<PluckingTool>(json, "tool", fields, where);
    if (Fields::find(json, "plucking"))
        head.plucking_school = decisionFrom<PluckingSchool>(json, "plucking", fields, where);
    if (const Json* motion = Fields::find(json, "motion"))
        head.motion = HandMotion{fields.integer(*motion, "per_beat", 0, 0, 8, where + ".motion"),
                                 fields.number(*motion, "trust", 0, 0, 1, where + ".motion"),
                                 Fields::isTrue(*motion, "reversed")};
    return head;
}

Json logEntryToJson(const LogEntry& entry) {
    return {{"when", entry.when}, {"what", entry.what}, {"note", entry.note}};
}

LogEntry logEntryFrom(const Json& json, Fields& fields) {
    return {fields.text(json, "when", "log"),
            fields.text(json, "what", "log"),
            static_cast<NoteId>(fields.number(json, "note", 0, 0, 1e15, "log"))};
}

} // namespace wirenote::json_fields
