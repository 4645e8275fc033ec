#include "formats/timeline_fields.h"

#include "base/numbers.h"
#include "formats/words.h"
#include "piece/piece.h"

namespace wirenote::json_fields {

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
    t.tempo_bpm = fields.number(json, "tempo_bpm", 0, 0, kFastestTempo_bpm, where);
    if (const auto metre = parseMetre(fields.text(json, "metre", where)); metre)
        t.metre = *metre;
    else
        fields.fail(where + ".metre", "cannot be counted");
    t.basis = fields.known(
        basisFrom(fields.text(json, "basis", where)), Basis::Reasoned, where + ".basis");
    const Json& beats = fields.array(json, "beats_s", where, kMaxBeats);
    for (std::size_t i = 0; i < beats.size(); ++i)
        t.beats_s.push_back(fields.item(beats, i, -kLongest_s, kLongest_s, where + ".beats_s"));
    t.first_downbeat = fields.integer(json,
                                      "first_downbeat",
                                      0,
                                      -kMostPickupBeats,
                                      static_cast<int>(kMaxBeats) + kMostPickupBeats,
                                      where);
    for (const Json& change : fields.array(json, "metre_changes", where, kMostItems)) {
        const auto metre = parseMetre(fields.text(change, "metre", where + ".metre_changes"));
        if (!metre)
            fields.fail(where + ".metre_changes", "cannot be counted");
        else
            t.changes.push_back(
                {fields.integer(change, "bar", 2, 2, kMostBars, where + ".metre_changes"), *metre});
    }
    for (const Json& beat : fields.array(json, "placed_beats", where, kMaxBeats)) {
        if (!beat.is_number_integer())
            fields.fail(where + ".placed_beats", "holds something that is not a number of a beat");
        else
            t.pinned.push_back(saturated(beat.get<double>()));
    }
    for (const Json& division : fields.array(json, "divided_beats", where, kMaxBeats))
        t.divisions.push_back(
            {fields.integer(division, "beat", 0, 0, static_cast<int>(kMaxBeats), where),
             fields.integer(division, "parts", 1, 1, 12, where)});
    t.swing = fields.number(json, "swing", 1.0, 1.0, kMostSwing, where);
    for (const Json& s : fields.array(json, "sections", where, kMaxSections))
        t.sections.push_back({fields.text(s, "label", where),
                              {fields.number(s, "start_s", 0, 0, kLongest_s, where),
                               fields.number(s, "end_s", 0, 0, kLongest_s, where)}});
    return t;
}

} // namespace wirenote::json_fields
