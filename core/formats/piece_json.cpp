#include "formats/piece_json.h"

#include "base/json_fields.h"
#include "formats/frame_fields.h"
#include "formats/note_fields.h"
#include "formats/take_fields.h"

#include <algorithm>

namespace wirenote {

using json_fields::Fields;
using json_fields::Json;

namespace {

Json exportedToJson(const std::vector<Exported>& exported) {
    Json all = Json::array();
    for (const Exported& one : exported) {
        const auto [field, path] = json_fields::pathField(one.path);
        all.push_back({{field, path},
                       {"when", one.when},
                       {"reading", one.reading},
                       {"content", one.content}});
    }
    return all;
}

std::vector<Exported> exportedFrom(const Json& json, Fields& fields) {
    std::vector<Exported> exported;
    const std::string where = "exported";
    for (const Json& one : fields.array(json, "exported", "the file", kMaxExported))
        exported.push_back({json_fields::pathFrom(one, fields, where),
                            fields.text(one, "when", where),
                            fields.text(one, "reading", where),
                            fields.text(one, "content", where)});
    return exported;
}

} // namespace

std::string writePieceJson(const Piece& piece) {
    Json json = {{"format", kPieceFormat}};
    json_fields::frameToJson(frameOf(piece), json);
    Json notes = Json::array();
    for (const Note& note : piece.notes)
        notes.push_back(json_fields::noteToJson(note));
    json["notes"] = std::move(notes);
    for (std::size_t r = 0; r < piece.readings.size(); ++r) {
        Json plans = Json::array();
        for (const NotePlan& plan : piece.readings[r].plans)
            plans.push_back(json_fields::planToJson(plan));
        json["readings"][r]["plans"] = std::move(plans);
    }
    Json log = Json::array();
    for (const LogEntry& entry : piece.log)
        log.push_back(json_fields::logEntryToJson(entry));
    json["log"] = std::move(log);
    if (!piece.exported.empty())
        json["exported"] = exportedToJson(piece.exported);
    return json_fields::written(json);
}

namespace {
Error damaged(const std::string& how) {
    return badInput({},
                    "is damaged: " + how +
                        "; open an earlier copy of it, or mend this place in a text editor");
}
} // namespace

Result<Piece> readPieceJson(const std::string& text) {
    const auto parsed = json_fields::parse(text);
    if (!parsed)
        return parsed.error();
    const Json& json = *parsed;
    Fields fields;
    const std::string format = fields.text(json, "format", "the file");
    if (std::ranges::find(kPieceFormats, format) == kPieceFormats.end())
        return badInput({},
                        format.starts_with("wirenote-piece/")
                            ? "was written by a newer version; update to open it"
                            : "is not a piece (its \"format\" is not wirenote-piece/3); choose a "
                              ".wirenote file");
    Piece piece;
    setFrame(json_fields::frameFrom(json, fields), piece);
    const Json& notes = fields.array(json, "notes", "the file", kMaxNotes);
    for (std::size_t i = 0; i < notes.size() && fields.ok(); ++i)
        piece.notes.push_back(
            json_fields::noteFrom(notes[i], fields, "notes[" + std::to_string(i) + "]"));
    const auto readPlans = [&](const Json& reading, std::size_t r, const std::string& where) {
        const Json& plans = fields.array(reading, "plans", where, kMaxNotes);
        for (std::size_t i = 0; i < plans.size() && fields.ok(); ++i)
            piece.readings[r].plans.push_back(json_fields::planFrom(
                plans[i], fields, where + ".plans[" + std::to_string(i) + "]"));
    };
    if (const Json* reading = Fields::find(json, "reading")) {
        readPlans(*reading, 0, "reading");
    } else {
        const Json& readings = fields.array(json, "readings", "the file", kMaxReadings);
        for (std::size_t r = 0; r < readings.size() && fields.ok(); ++r)
            readPlans(readings[r], r, "readings[" + std::to_string(r) + "]");
    }
    for (const Json& entry : fields.array(json, "log", "the file", kMaxLogEntries))
        piece.log.push_back(json_fields::logEntryFrom(entry, fields));
    piece.exported = exportedFrom(json, fields);
    if (!fields.ok())
        return damaged(*fields.problem());
    if (const Status sound = checkPiece(piece); !sound)
        return damaged(sound.error().message);
    return piece;
}

} // namespace wirenote
