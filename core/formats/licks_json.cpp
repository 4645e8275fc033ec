#include "formats/licks_json.h"

#include "base/json_fields.h"
#include "formats/instrument_fields.h"
#include "formats/words.h"

#include <algorithm>

namespace wirenote {
namespace {

using json_fields::Fields;
using json_fields::Json;

constexpr const char* kFormat = "wirenote-licks/1";
constexpr double kMostQuarters = 10000.0;
constexpr int kFinest = 10000; // denominator

Json toJson(const Rational& value) {
    return Json::array({value.num(), value.den()});
}

Rational
rationalFrom(const Json& owner, const char* key, Fields& fields, const std::string& where) {
    const Json* json = Fields::find(owner, key);
    if (!json) {
        fields.fail(where + "." + key, "is missing");
        return {};
    }
    const auto whole = [&](std::size_t i, double low, double high) {
        const double x = fields.item(*json, i, low, high, where + "." + key);
        if (x != static_cast<double>(static_cast<std::int64_t>(x)))
            fields.fail(where + "." + key, "is not a fraction of whole numbers");
        return static_cast<std::int64_t>(x);
    };
    const std::int64_t numerator = whole(0, 0.0, kMostQuarters * kFinest);
    const std::int64_t denominator = std::max<std::int64_t>(1, whole(1, 1.0, kFinest));
    return {numerator, denominator};
}

Json noteToJson(const LickNote& note) {
    Json json = {{"start", toJson(note.start)},
                 {"length", toJson(note.length)},
                 {"midi", note.midi},
                 {"string", note.place.string},
                 {"fret", note.place.fret}};
    if (note.finger != Finger::Unknown)
        json["finger"] = wordFor(note.finger);
    if (note.stroke != Stroke::Unknown)
        json["stroke"] = wordFor(note.stroke);
    for (const Technique t : note.techniques)
        json["techniques"].push_back(wordFor(t));
    return json;
}

LickNote noteFrom(const Json& json, Fields& fields, const std::string& where) {
    LickNote note;
    note.start = rationalFrom(json, "start", fields, where);
    note.length = rationalFrom(json, "length", fields, where);
    note.midi = fields.integer(json, "midi", 60, 0, 127, where);
    note.place = {fields.integer(json, "string", 0, 0, kMaxStrings, where),
                  fields.integer(json, "fret", 0, 0, kMaxFrets, where)};
    note.finger = fields.known(
        fingerFrom(fields.text(json, "finger", where)), Finger::Unknown, where + ".finger");
    note.stroke = fields.known(
        strokeFrom(fields.text(json, "stroke", where)), Stroke::Unknown, where + ".stroke");
    for (const Json& t : fields.array(json, "techniques", where, kTechniqueCount))
        note.techniques.push_back(
            fields.known(t.is_string() ? techniqueFrom(t.get<std::string>()) : std::nullopt,
                         Technique::Accent,
                         where + ".techniques"));
    return note;
}

Lick lickFrom(const Json& json, Fields& fields, const std::string& where) {
    Lick lick;
    lick.name = fields.text(json, "name", where);
    lick.piece = fields.text(json, "piece", where);
    lick.bar = fields.integer(json, "bar", 1, -kMostBars, kMostBars, where);
    lick.key.fifths = fields.integer(json, "key_fifths", 0, -7, 7, where);
    lick.chord = fields.text(json, "chord", where);
    lick.remark = fields.text(json, "remark", where, kLongestRemark);
    lick.instrument = standardInstrument(InstrumentKind::Guitar);
    if (const Json* instrument = Fields::find(json, "instrument"))
        lick.instrument = json_fields::instrumentFrom(*instrument, fields);
    for (const Json& note : fields.array(json, "notes", where, kMaxLickNotes))
        lick.notes.push_back(noteFrom(note, fields, where + ".notes"));
    if (lick.notes.empty())
        fields.fail(where + ".notes", "has no note");
    for (const LickNote& note : lick.notes)
        if (note.place.string > lick.instrument.stringCount() ||
            note.place.fret > lick.instrument.highestFret())
            fields.fail(where + ".notes", "lies off the neck");
    return lick;
}

} // namespace

std::string writeLicksJson(const std::vector<Lick>& licks) {
    Json json = {{"format", kFormat}, {"licks", Json::array()}};
    for (const Lick& lick : licks) {
        Json one = {{"name", lick.name},
                    {"piece", lick.piece},
                    {"bar", lick.bar},
                    {"key_fifths", lick.key.fifths},
                    {"chord", lick.chord},
                    {"remark", lick.remark},
                    {"instrument", json_fields::instrumentToJson(lick.instrument)},
                    {"notes", Json::array()}};
        for (const LickNote& note : lick.notes)
            one["notes"].push_back(noteToJson(note));
        json["licks"].push_back(std::move(one));
    }
    return json_fields::written(json);
}

Result<std::vector<Lick>> readLicksJson(const std::string& text) {
    const auto json = json_fields::parse(text);
    if (!json)
        return json.error();
    Fields fields;
    const std::string format = fields.text(*json, "format", "the file");
    if (format != kFormat)
        return badInput({},
                        format.starts_with("wirenote-licks/")
                            ? "was written by a newer version; update to open it"
                            : "is no collection of licks (its \"format\" is not wirenote-licks/1); "
                              "choose a file that Wirenote wrote one to");
    std::vector<Lick> licks;
    const Json& all = fields.array(*json, "licks", "the file", kMaxLicks);
    for (std::size_t i = 0; i < all.size() && fields.ok(); ++i)
        licks.push_back(lickFrom(all[i], fields, "licks[" + std::to_string(i) + "]"));
    if (!fields.ok())
        return badInput({}, "is damaged: " + *fields.problem() +
                            "; open an earlier copy of it, or mend this place in a text editor");
    return licks;
}

} // namespace wirenote
