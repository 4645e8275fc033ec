#include "formats/jams.h"

#include "base/json_fields.h"

#include <algorithm>
#include <nlohmann/json.hpp>

namespace wirenote {
namespace {

using Json = nlohmann::json;

Json annotation(const char* name_space, double duration_s, Json data) {
    return {{"namespace", name_space},
            {"annotation_metadata", {{"annotation_tools", "Wirenote"}, {"data_source", "program"}}},
            {"time", 0.0},
            {"duration", duration_s},
            {"data", std::move(data)},
            {"sandbox", Json::object()}};
}

} // namespace

std::string writeJams(const Piece& piece) {
    double end_s = piece.lead() ? piece.lead()->length_s : 0.0;
    Json notes = Json::array();
    Json places = Json::array();
    for (std::size_t i = 0; i < piece.notes.size(); ++i) {
        const Note& note = piece.notes[i];
        const NotePlan& plan = piece.asPlayed().plans[i];
        end_s = std::max(end_s, note.offset_s());
        notes.push_back({{"time", note.onset_s()},
                         {"duration", note.time.value.length_s()},
                         {"value", note.pitch.value},
                         {"confidence", note.pitch.probability}});
        places.push_back(
            {{"string", plan.position.value.string}, {"fret", plan.position.value.fret}});
    }
    Json beats = Json::array();
    const Timeline& timeline = piece.timeline;
    const BarGrid grid(timeline);
    for (std::size_t b = 0; b < timeline.beats_s.size(); ++b) {
        const int from_one = grid.at(static_cast<int>(b)).beat;
        beats.push_back({{"time", timeline.beats_s[b]},
                         {"duration", 0.0},
                         {"value", from_one + 1},
                         {"confidence", nullptr}});
    }
    Json note_annotation = annotation("note_midi", end_s, std::move(notes));
    note_annotation["sandbox"]["positions"] = std::move(places);
    const Json json = {
        {"file_metadata",
         {{"title", piece.title},
          {"artist", piece.about.player},
          {"duration", end_s},
          {"jams_version", "0.3.4"},
          {"identifiers", Json::object()}}},
        {"annotations",
         Json::array({note_annotation, annotation("beat", end_s, std::move(beats))})},
        {"sandbox", Json::object()}};
    return json_fields::written(json);
}

} // namespace wirenote
