#include "formats/piece_json.h"

#include "formats/instrument_fields.h"
#include "formats/json_fields.h"
#include "formats/words.h"

namespace wirenote {
namespace {

using json_fields::Fields;
using json_fields::Json;

constexpr double kLongest_s = 360000.0;
constexpr std::size_t kMostItems = 100000;

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

double numberAt(const Json& json,
                std::size_t i,
                double low,
                double high,
                Fields& fields,
                const std::string& where) {
    if (!json.is_array() || i >= json.size() || !json[i].is_number()) {
        fields.fail(where, "is not a list of numbers");
        return low;
    }
    const double x = json[i].get<double>();
    if (!(x >= low && x <= high))
        fields.fail(where, "is out of range");
    return x;
}

void fromJson(const Json& json, double& v, Fields& fields, const std::string& where) {
    v = numberAt(Json::array({json}), 0, -1000, 1000, fields, where);
}
void fromJson(const Json& json, TimeRange& v, Fields& fields, const std::string& where) {
    v = {numberAt(json, 0, 0, kLongest_s, fields, where),
         numberAt(json, 1, 0, kLongest_s, fields, where)};
}
void fromJson(const Json& json, Position& v, Fields& fields, const std::string& where) {
    v = {static_cast<int>(numberAt(json, 0, 0, kMaxStrings, fields, where)),
         static_cast<int>(numberAt(json, 1, 0, kMaxFrets, fields, where))};
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

Json alignmentToJson(const TakeAlignment& alignment) {
    Json moments = Json::array();
    for (const TakeAlignment::Moment& m : alignment.moments)
        moments.push_back(Json::array({m.piece_s, m.take_s}));
    return {{"basis", wordFor(alignment.basis)},
            {"certainty", alignment.certainty},
            {"semitones", alignment.semitones},
            {"moments", moments}};
}

Json qualityToJson(const TakeQuality& q) {
    return {{"clipped_share", q.clipped_share},
            {"signal_to_noise_db", q.signal_to_noise_db},
            {"hum_db", q.hum_db},
            {"hum_hz", q.hum_hz},
            {"reverberation_s", q.reverberation_s},
            {"top_hz", q.top_hz},
            {"mono_loss_db", q.mono_loss_db},
            {"neck_seen", q.neck_seen},
            {"neck_share", q.neck_share},
            {"neck_frets", q.neck_frets}};
}

Json takeToJson(const Take& take) {
    return {{"name", take.name},
            {"path", take.path},
            {"sha256", take.sha256},
            {"length_s", take.length_s},
            {"cautions", take.cautions},
            {"reference",
             {{"a4_hz", take.reference.a4_hz},
              {"spread_cents", take.reference.spread_cents},
              {"basis", wordFor(take.reference.basis)}}},
            {"kind", wordFor(take.kind)},
            {"trim_s", toJson(take.trim)},
            {"sound_stream", take.sound_stream},
            {"channels", wordFor(take.channels)},
            {"gain_db", take.gain_db},
            {"has_picture", take.has_picture},
            {"quality", qualityToJson(take.quality)},
            {"remark", take.remark},
            {"origin", take.origin},
            {"rights", wordFor(take.rights)},
            {"alignment", alignmentToJson(take.alignment)}};
}

TakeAlignment alignmentFrom(const Json& json, Fields& fields, const std::string& where) {
    TakeAlignment alignment;
    alignment.basis = fields.known(
        basisFrom(fields.text(json, "basis", where)), Basis::Reasoned, where + ".basis");
    alignment.certainty = fields.number(json, "certainty", 0, 0, 1, where);
    alignment.semitones = fields.integer(json, "semitones", 0, -48, 48, where);
    const std::string at = where + ".moments";
    for (const Json& m : fields.array(json, "moments", where, kMostItems))
        alignment.moments.push_back({numberAt(m, 0, -kLongest_s, kLongest_s, fields, at),
                                     numberAt(m, 1, -kLongest_s, kLongest_s, fields, at)});
    if (!alignment.valid())
        fields.fail(at, "do not go forward in time");
    return alignment;
}

TakeQuality qualityFrom(const Json& json, Fields& fields, const std::string& where) {
    TakeQuality q;
    q.clipped_share = fields.number(json, "clipped_share", -1, -1, 1, where);
    q.signal_to_noise_db = fields.number(json, "signal_to_noise_db", -1, -1, 300, where);
    q.hum_db = fields.number(json, "hum_db", -1, -300, 300, where);
    q.hum_hz = fields.number(json, "hum_hz", 0, 0, 1000, where);
    q.reverberation_s = fields.number(json, "reverberation_s", -1, -1, 1000, where);
    q.top_hz = fields.number(json, "top_hz", -1, -1, 1e6, where);
    q.mono_loss_db = fields.number(json, "mono_loss_db", -1, -300, 300, where);
    q.neck_seen = fields.number(json, "neck_seen", -1, -1, 1, where);
    q.neck_share = fields.number(json, "neck_share", -1, -1, 2, where);
    q.neck_frets = fields.number(json, "neck_frets", -1, -1, 40, where);
    return q;
}

TuningReference referenceFrom(const Json& json, Fields& fields, const std::string& where) {
    TuningReference reference;
    reference.a4_hz = fields.number(json, "a4_hz", kStandardA4Hz, kLowestA4Hz, kHighestA4Hz, where);
    reference.spread_cents = fields.number(json, "spread_cents", 0, 0, 1e6, where);
    reference.basis =
        fields.known(basisFrom(fields.text(json, "basis", where)), Basis::Heard, where + ".basis");
    return reference;
}

// What a file of the first version does not say has its usual value.
template <class E, class From>
E wordOr(const Json& json,
         const char* key,
         E usual,
         From from,
         Fields& fields,
         const std::string& where) {
    return Fields::find(json, key)
               ? fields.known(from(fields.text(json, key, where)), usual, where + "." + key)
               : usual;
}

Take takeFrom(const Json& json, Fields& fields, const std::string& where) {
    Take take;
    take.name = fields.text(json, "name", where);
    take.path = fields.text(json, "path", where, 4096);
    take.sha256 = fields.text(json, "sha256", where, 64);
    take.length_s = fields.number(json, "length_s", 0, 0, kLongest_s, where);
    for (const Json& c : fields.array(json, "cautions", where, 100))
        if (c.is_string())
            take.cautions.push_back(c.get<std::string>());
    if (const Json* reference = Fields::find(json, "reference"))
        take.reference = referenceFrom(*reference, fields, where + ".reference");
    take.kind = wordOr(json, "kind", take.kind, takeKindFrom, fields, where);
    if (const Json* trim = Fields::find(json, "trim_s"))
        fromJson(*trim, take.trim, fields, where + ".trim_s");
    take.sound_stream = fields.integer(json, "sound_stream", -1, -1, 1000, where);
    take.channels = wordOr(json, "channels", take.channels, channelsFrom, fields, where);
    take.gain_db = fields.number(json, "gain_db", 0, -60, 40, where);
    if (const Json* picture = Fields::find(json, "has_picture"))
        take.has_picture = picture->is_boolean() && picture->get<bool>();
    if (const Json* quality = Fields::find(json, "quality"))
        take.quality = qualityFrom(*quality, fields, where + ".quality");
    take.remark = fields.text(json, "remark", where, 10000);
    take.origin = fields.text(json, "origin", where, 10000);
    take.rights = wordOr(json, "rights", take.rights, rightsFrom, fields, where);
    if (const Json* alignment = Fields::find(json, "alignment"))
        take.alignment = alignmentFrom(*alignment, fields, where + ".alignment");
    return take;
}

Json timelineToJson(const Timeline& t) {
    Json sections = Json::array();
    for (const Section& s : t.sections)
        sections.push_back(
            {{"label", s.label}, {"start_s", s.span.start_s}, {"end_s", s.span.end_s}});
    Json changes = Json::array();
    for (const MetreChange& change : t.changes)
        changes.push_back({{"bar", change.bar}, {"metre", change.metre.text()}});
    Json divisions = Json::array();
    for (const SetDivision& division : t.divisions)
        divisions.push_back({{"beat", division.beat}, {"parts", division.parts}});
    return {{"tempo_bpm", t.tempo_bpm},
            {"metre", t.metre.text()},
            {"basis", wordFor(t.basis)},
            {"beats_s", t.beats_s},
            {"first_downbeat", t.first_downbeat},
            {"metre_changes", changes},
            {"placed_beats", t.pinned},
            {"swing", t.swing},
            {"divided_beats", divisions},
            {"sections", sections}};
}

Timeline timelineFrom(const Json& json, Fields& fields) {
    Timeline t;
    const std::string where = "timeline";
    t.tempo_bpm = fields.number(json, "tempo_bpm", 0, 0, 1000, where);
    if (const auto metre = parseMetre(fields.text(json, "metre", where)); metre)
        t.metre = *metre;
    else
        fields.fail(where + ".metre", "cannot be counted");
    t.basis = fields.known(
        basisFrom(fields.text(json, "basis", where)), Basis::Reasoned, where + ".basis");
    const Json& beats = fields.array(json, "beats_s", where, kMaxNotes);
    for (std::size_t i = 0; i < beats.size(); ++i)
        t.beats_s.push_back(
            numberAt(beats, i, -kLongest_s, kLongest_s, fields, where + ".beats_s"));
    t.first_downbeat =
        fields.integer(json, "first_downbeat", 0, 0, static_cast<int>(kMaxNotes), where);
    for (const Json& change : fields.array(json, "metre_changes", where, kMostItems)) {
        const auto metre = parseMetre(fields.text(change, "metre", where + ".metre_changes"));
        if (!metre)
            fields.fail(where + ".metre_changes", "cannot be counted");
        else
            t.changes.push_back(
                {fields.integer(change, "bar", 2, 2, 1000000, where + ".metre_changes"), *metre});
    }
    for (const Json& beat : fields.array(json, "placed_beats", where, kMaxNotes)) {
        if (!beat.is_number_integer())
            fields.fail(where + ".placed_beats", "holds something that is not a number of a beat");
        else
            t.pinned.push_back(beat.get<int>());
    }
    for (const Json& division : fields.array(json, "divided_beats", where, kMaxNotes))
        t.divisions.push_back(
            {fields.integer(division, "beat", 0, 0, static_cast<int>(kMaxNotes), where),
             fields.integer(division, "parts", 1, 1, 12, where)});
    t.swing = fields.number(json, "swing", 1.0, 1.0, kMostSwing, where);
    for (const Json& s : fields.array(json, "sections", where, kMostItems))
        t.sections.push_back({fields.text(s, "label", where),
                              {fields.number(s, "start_s", 0, 0, kLongest_s, where),
                               fields.number(s, "end_s", 0, 0, kLongest_s, where)}});
    return t;
}

bool isTrue(const Json& json, const char* key) {
    const Json* value = Fields::find(json, key);
    return value && value->is_boolean() && value->get<bool>();
}

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
    if (note.stiffness.told())
        json["stiffness"] = {{"log_b", note.stiffness.log_b},
                             {"sd", note.stiffness.sd},
                             {"borrowed", note.stiffness.borrowed}};
    return json;
}

Note noteFrom(const Json& json, Fields& fields, const std::string& where) {
    Note note;
    note.id = static_cast<NoteId>(fields.number(json, "id", 0, 1, 1e15, where));
    note.time = decisionFrom<TimeRange>(json, "time", fields, where);
    note.pitch = decisionFrom<double>(json, "pitch", fields, where);
    for (const Json& p : fields.array(json, "curve", where, 1000000))
        note.curve.push_back({numberAt(p, 0, 0, kLongest_s, fields, where),
                              numberAt(p, 1, -1e5, 1e5, fields, where)});
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
    if (const Json* heard = Fields::find(json, "stiffness"))
        note.stiffness = {fields.number(*heard, "log_b", 0, -30, 10, where + ".stiffness"),
                          fields.number(*heard, "sd", -1, -1, 100, where + ".stiffness"),
                          isTrue(*heard, "borrowed")};
    return note;
}

Json traitsToJson(const std::vector<StringTrait>& traits) {
    Json all = Json::array();
    for (const StringTrait& t : traits)
        all.push_back({{"log_factor", t.log_factor}, {"sd", t.sd}, {"basis", wordFor(t.basis)}});
    return all;
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

std::vector<StringTrait> traitsFrom(const Json& json, Fields& fields) {
    std::vector<StringTrait> traits;
    const std::string where = "string_traits";
    for (const Json& t : fields.array(json, "string_traits", "the file", kMaxStrings))
        traits.push_back({fields.number(t, "log_factor", 0, -10, 10, where),
                          fields.number(t, "sd", 1, 0, 100, where),
                          fields.known(basisFrom(fields.text(t, "basis", where)),
                                       Basis::Reasoned,
                                       where + ".basis")});
    return traits;
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
                 {"timeline", timelineToJson(piece.timeline)},
                 {"key_fifths", piece.key.fifths},
                 {"string_traits", traitsToJson(piece.string_traits)},
                 {"misses", missesToJson(piece.misses)},
                 {"next_id", piece.next_id}};
    json["takes"] = Json::array();
    for (const Take& take : piece.takes)
        json["takes"].push_back(takeToJson(take));
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
        piece.takes.push_back(takeFrom(*take, fields, "take"));
    const Json& takes = fields.array(json, "takes", "the file", kMaxTakes);
    for (std::size_t i = 0; i < takes.size() && fields.ok(); ++i)
        piece.takes.push_back(takeFrom(takes[i], fields, "takes[" + std::to_string(i) + "]"));
    if (const Json* timeline = Fields::find(json, "timeline"))
        piece.timeline = timelineFrom(*timeline, fields);
    piece.string_traits = traitsFrom(json, fields);
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
