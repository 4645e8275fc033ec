#include "formats/piece_json.h"

#include "base/json_fields.h"
#include "formats/instrument_fields.h"
#include "formats/string_fields.h"
#include "formats/take_fields.h"
#include "formats/timeline_fields.h"
#include "formats/words.h"

namespace wirenote {
namespace {

using json_fields::Fields;
using json_fields::Json;

using json_fields::kLongest_s;
using json_fields::kMostItems;

// --- values of decisions, both ways
// -------------------------------------------------------------------

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

// --- parts of a piece
// ---------------------------------------------------------------------------------

Json noteToJson(const Note& note) {
    Json curve = Json::array();
    for (const PitchPoint& p : note.curve)
        curve.push_back(
            Json::array({std::round(p.time_s * 1e4) / 1e4, std::round(p.dev_cents * 10) / 10}));
    Json techniques = Json::array();
    for (const Technique t : note.techniques)
        techniques.push_back(wordFor(t));
    Json json = {{"id", note.id},
                 {"time", decisionToJson(note.time)},
                 {"pitch", decisionToJson(note.pitch)},
                 {"curve", curve},
                 {"loudness_db", note.loudness_db},
                 {"velocity", note.velocity},
                 {"techniques", techniques}};
    if (note.slip)
        json["slip"] = {{"meant_midi", note.slip->meant_midi}};
    json_fields::heardStringToJson(note, json);
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
    json_fields::heardStringFrom(json, note, fields, where);
    return note;
}

Json missesToJson(const std::vector<NearMiss>& misses) {
    Json all = Json::array();
    for (const NearMiss& m : misses)
        all.push_back({{"start_s", m.time.start_s},
                       {"end_s", m.time.end_s},
                       {"midi", m.midi},
                       {"probability", m.probability},
                       {"string", m.place.string},
                       {"fret", m.place.fret}});
    return all;
}

std::vector<NearMiss> missesFrom(const Json& json, Fields& fields) {
    std::vector<NearMiss> misses;
    const std::string where = "misses";
    for (const Json& m : fields.array(json, "misses", "the file", kMaxMisses))
        misses.push_back({{fields.number(m, "start_s", 0, 0, kLongest_s, where),
                           fields.number(m, "end_s", 0, 0, kLongest_s, where)},
                          fields.integer(m, "midi", 60, 0, 127, where),
                          fields.number(m, "probability", 0, 0, 1, where),
                          {fields.integer(m, "string", 0, 0, kMaxStrings, where),
                           fields.integer(m, "fret", 0, 0, kMaxFrets, where)}});
    return misses;
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

} // namespace

std::string writePieceJson(const Piece& piece) {
    Json json = {{"format", kPieceFormat},
                 {"title", piece.title},
                 {"instrument", json_fields::instrumentToJson(piece.instrument)},
                 {"timeline", json_fields::timelineToJson(piece.timeline)},
                 {"key_fifths", piece.key.fifths},
                 {"string_traits", json_fields::traitsToJson(piece.string_traits)},
                 {"misses", missesToJson(piece.misses)},
                 {"next_id", piece.next_id}};
    json["takes"] = Json::array();
    for (const Take& take : piece.takes)
        json["takes"].push_back(json_fields::takeToJson(take));
    Json notes = Json::array();
    for (const Note& note : piece.notes)
        notes.push_back(noteToJson(note));
    json["notes"] = notes;
    Json plans = Json::array();
    for (const NotePlan& plan : piece.reading.plans)
        plans.push_back(planToJson(plan));
    json["reading"] = {{"name", piece.reading.name},
                       {"fretting_school", piece.reading.fretting_school},
                       {"plucking_school", piece.reading.plucking_school},
                       {"plans", plans}};
    Json log = Json::array();
    for (const LogEntry& entry : piece.log)
        log.push_back({{"when", entry.when}, {"what", entry.what}, {"note", entry.note}});
    json["log"] = log;
    return json.dump(1) + "\n";
}

Result<Piece> readPieceJson(const std::string& text) {
    const auto parsed = json_fields::parse(text);
    if (!parsed)
        return parsed.error();
    const Json& json = *parsed;
    Fields fields;
    const std::string format = fields.text(json, "format", "the file");
    if (format != kPieceFormat && format != kFirstPieceFormat)
        return badInput({},
                        format.starts_with("wirenote-piece/")
                            ? "was written by a newer version; update to open it"
                            : "is not a piece (its \"format\" is not wirenote-piece/2)");
    Piece piece;
    piece.title = fields.text(json, "title", "the file");
    if (const Json* instrument = Fields::find(json, "instrument"))
        piece.instrument = json_fields::instrumentFrom(*instrument, fields);
    if (const Json* take = Fields::find(json, "take")) // the first version had one take
        piece.takes.push_back(json_fields::takeFrom(*take, fields, "take"));
    const Json& takes = fields.array(json, "takes", "the file", kMaxTakes);
    for (std::size_t i = 0; i < takes.size() && fields.ok(); ++i)
        piece.takes.push_back(
            json_fields::takeFrom(takes[i], fields, "takes[" + std::to_string(i) + "]"));
    if (const Json* timeline = Fields::find(json, "timeline"))
        piece.timeline = json_fields::timelineFrom(*timeline, fields);
    piece.string_traits = json_fields::traitsFrom(json, fields);
    piece.misses = missesFrom(json, fields);
    piece.key.fifths = fields.integer(json, "key_fifths", 0, -7, 7, "the file");
    piece.next_id = static_cast<NoteId>(fields.number(json, "next_id", 1, 1, 1e15, "the file"));
    const Json& notes = fields.array(json, "notes", "the file", kMaxNotes);
    for (std::size_t i = 0; i < notes.size() && fields.ok(); ++i)
        piece.notes.push_back(noteFrom(notes[i], fields, "notes[" + std::to_string(i) + "]"));
    if (const Json* reading = Fields::find(json, "reading")) {
        piece.reading.name = fields.text(*reading, "name", "reading");
        piece.reading.fretting_school = fields.text(*reading, "fretting_school", "reading");
        piece.reading.plucking_school = fields.text(*reading, "plucking_school", "reading");
        const Json& plans = fields.array(*reading, "plans", "reading", kMaxNotes);
        for (std::size_t i = 0; i < plans.size() && fields.ok(); ++i)
            piece.reading.plans.push_back(
                planFrom(plans[i], fields, "reading.plans[" + std::to_string(i) + "]"));
    }
    for (const Json& entry : fields.array(json, "log", "the file", 10000000))
        piece.log.push_back({fields.text(entry, "when", "log"),
                             fields.text(entry, "what", "log"),
                             static_cast<NoteId>(fields.number(entry, "note", 0, 0, 1e15, "log"))});
    if (!fields.ok())
        return badInput({}, "is damaged: " + *fields.problem());
    if (const Status sound = checkPiece(piece); !sound)
        return badInput({}, "is damaged: " + sound.error().message);
    return piece;
}

} // namespace wirenote
