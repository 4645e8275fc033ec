#include "formats/note_fields.h"

#include "formats/instrument_fields.h"
#include "formats/string_fields.h"
#include "formats/words.h"

#include <algorithm>
#include <array>
#include <utility>

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

// What a person says of a note without changing what was heard of it.
void remarksToJson(const Note& note, Json& json) {
    if (note.need != Need{})
        json["need"] = {{"kind", wordFor(note.need.kind)},
                        {"above_bpm", note.need.above_bpm},
                        {"when", note.need.when}};
    for (const LeftOpen& one : note.left_open)
        json["left_open"].push_back({{"doubt", wordFor(one.kind)}, {"word", one.word}});
}

void remarksFrom(const Json& json, Note& note, Fields& fields, const std::string& owner) {
    if (const Json* need = Fields::find(json, "need")) {
        const std::string where = owner + ".need";
        note.need = {fields.known(necessityFrom(fields.text(*need, "kind", where)),
                                  Necessity::Ordinary,
                                  where + ".kind"),
                     fields.number(*need, "above_bpm", 0, 0, kFastestTempo_bpm, where),
                     fields.text(*need, "when", where)};
    }
    const std::string where = owner + ".left_open";
    for (const Json& one : fields.array(json, "left_open", owner, kDoubtKindCount))
        note.left_open.push_back({fields.known(doubtKindFrom(fields.text(one, "doubt", where)),
                                               DoubtKind::Place,
                                               where + ".doubt"),
                                  fields.text(one, "word", where)});
}

Json techniquesToJson(const std::vector<Technique>& techniques) {
    Json all = Json::array();
    for (const Technique t : techniques)
        all.push_back(wordFor(t));
    return all;
}

std::vector<Technique> techniquesFrom(const Json& json, Fields& fields, const std::string& where) {
    std::vector<Technique> all;
    for (const Json& t : fields.array(json, "techniques", where, 32))
        all.push_back(
            fields.known(t.is_string() ? techniqueFrom(t.get<std::string>()) : std::nullopt,
                         Technique::Accent,
                         where + ".techniques"));
    return all;
}

Json departureToJson(const Departure& departure) {
    Json json = {{"why", wordFor(departure.why)}};
    if (departure.left_out)
        json["left_out"] = true;
    if (departure.semitones != 0)
        json["semitones"] = departure.semitones;
    if (departure.techniques)
        json["techniques"] = techniquesToJson(*departure.techniques);
    return json;
}

Departure departureFrom(const Json& json, Fields& fields, const std::string& where) {
    Departure departure;
    departure.why = fields.known(
        departureWhyFrom(fields.text(json, "why", where)), DepartureWhy::Person, where + ".why");
    departure.left_out = Fields::isTrue(json, "left_out");
    departure.semitones = fields.integer(json, "semitones", 0, -127, 127, where);
    if (Fields::find(json, "techniques"))
        departure.techniques = techniquesFrom(json, fields, where);
    return departure;
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
    Json json = {{"id", note.id},
                 {"existence", decisionToJson(note.existence)},
                 {"time", decisionToJson(note.time)},
                 {"pitch", decisionToJson(note.pitch)},
                 {"curve", curve},
                 {"loudness_db", note.loudness_db},
                 {"velocity", note.velocity},
                 {"techniques", techniquesToJson(note.techniques)}};
    if (note.slip)
        json["slip"] = {{"meant_midi", note.slip->meant_midi}};
    if (note.voice)
        json["voice"] = wordFor(*note.voice);
    remarksToJson(note, json);
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
    note.techniques = techniquesFrom(json, fields, where);
    if (const Json* slip = Fields::find(json, "slip"))
        note.slip =
            Slip{static_cast<int>(fields.number(*slip, "meant_midi", 0, 0, 127, where + ".slip"))};
    if (Fields::find(json, "voice"))
        note.voice = fields.known(
            voiceFrom(fields.text(json, "voice", where)), Voice::Upper, where + ".voice");
    remarksFrom(json, note, fields, where);
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
    Json json = {{"note", plan.note},
                 {"position", decisionToJson(plan.position)},
                 {"finger", decisionToJson(plan.finger)},
                 {"stroke", decisionToJson(plan.stroke)},
                 {"hand_fret", plan.hand_fret}};
    if (!plan.departure.none())
        json["departure"] = departureToJson(plan.departure);
    return json;
}

NotePlan planFrom(const Json& json, Fields& fields, const std::string& where) {
    NotePlan plan;
    plan.note = static_cast<NoteId>(fields.number(json, "note", 0, 1, 1e15, where));
    plan.position = decisionFrom<Position>(json, "position", fields, where);
    plan.finger = decisionFrom<Finger>(json, "finger", fields, where);
    plan.stroke = decisionFrom<Stroke>(json, "stroke", fields, where);
    plan.hand_fret = fields.integer(json, "hand_fret", 0, 0, kMaxFrets, where);
    if (const Json* departure = Fields::find(json, "departure"))
        plan.departure = departureFrom(*departure, fields, where + ".departure");
    return plan;
}

namespace {

// What only readings other than the first have.
void ownToJson(const ReadingHead& head, Json& json) {
    if (!head.made_from.empty())
        json["made_from"] = head.made_from;
    if (head.instrument)
        json["instrument"] = instrumentToJson(*head.instrument);
    if (head.semitones != 0)
        json["semitones"] = head.semitones;
    for (const Origin& one : head.origins)
        json["origins"].push_back({{"start_s", one.span.start_s},
                                   {"end_s", one.span.end_s},
                                   {"of", one.of},
                                   {"why", one.why}});
    for (const AddedNote& one : head.added)
        json["added"].push_back({{"note", noteToJson(one.note)}, {"plan", planToJson(one.plan)}});
    if (head.tempi != TempoRange{})
        json["tempi"] = {{"from_bpm", head.tempi.from_bpm}, {"to_bpm", head.tempi.to_bpm}};
    if (head.claim)
        json["claim"] = wordFor(*head.claim);
    if (!head.statement.empty())
        json["statement"] = head.statement;
}

void ownFrom(const Json& json, ReadingHead& head, Fields& fields, const std::string& where) {
    head.made_from = fields.text(json, "made_from", where);
    if (const Json* instrument = Fields::find(json, "instrument"))
        head.instrument = instrumentFrom(*instrument, fields);
    head.semitones = fields.integer(json, "semitones", 0, -127, 127, where);
    for (const Json& one : fields.array(json, "origins", where, kMaxOrigins))
        head.origins.push_back(
            {{fields.number(one, "start_s", 0, -kLongest_s, kLongest_s, where + ".origins"),
              fields.number(one, "end_s", 0, -kLongest_s, kLongest_s, where + ".origins")},
             fields.text(one, "of", where + ".origins"),
             fields.text(one, "why", where + ".origins", kLongestRemark)});
    for (const Json& one : fields.array(json, "added", where, kMaxAdded)) {
        const Json* note = Fields::find(one, "note");
        const Json* plan = Fields::find(one, "plan");
        if (!note || !plan) {
            fields.fail(where + ".added", "is not a note with its plan");
            return;
        }
        head.added.push_back(
            {noteFrom(*note, fields, where + ".added"), planFrom(*plan, fields, where + ".added")});
    }
    if (const Json* tempi = Fields::find(json, "tempi"))
        head.tempi = {fields.number(*tempi, "from_bpm", 0, 0, kFastestTempo_bpm, where + ".tempi"),
                      fields.number(*tempi, "to_bpm", 0, 0, kFastestTempo_bpm, where + ".tempi")};
    head.statement = fields.text(json, "statement", where);
    if (Fields::find(json, "claim"))
        head.claim = fields.known(
            exactnessFrom(fields.text(json, "claim", where)), Exactness::Adapted, where + ".claim");
}

} // namespace

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
    ownToJson(head, json);
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
    ownFrom(json, head, fields, where);
    return head;
}

namespace {
// The texts of an entry that are written where they say anything.
const std::array<std::pair<const char*, std::string LogEntry::*>, 6> kLogTexts = {
    {{"who", &LogEntry::who},
     {"from", &LogEntry::from},
     {"to", &LogEntry::to},
     {"evidence", &LogEntry::evidence},
     {"rejected", &LogEntry::rejected},
     {"reading", &LogEntry::reading}}};
} // namespace

Json logEntryToJson(const LogEntry& entry) {
    Json json = {{"when", entry.when}, {"what", entry.what}, {"note", entry.note}};
    for (const auto& [field, text] : kLogTexts)
        if (!(entry.*text).empty())
            json[field] = entry.*text;
    if (entry.why != SetWhy::Unsaid)
        json["why"] = wordFor(entry.why);
    if (!entry.remark.empty())
        json["remark"] = entry.remark;
    return json;
}

LogEntry logEntryFrom(const Json& json, Fields& fields) {
    LogEntry entry{fields.text(json, "when", "log"),
                   fields.text(json, "what", "log"),
                   static_cast<NoteId>(fields.number(json, "note", 0, 0, 1e15, "log"))};
    for (const auto& [field, text] : kLogTexts)
        entry.*text = fields.text(json, field, "log");
    entry.why =
        fields.known(setWhyFrom(fields.text(json, "why", "log")), SetWhy::Unsaid, "log.why");
    entry.remark = fields.text(json, "remark", "log", kLongestRemark);
    return entry;
}

} // namespace wirenote::json_fields
