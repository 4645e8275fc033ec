#include "formats/differences_json.h"

#include "base/json_fields.h"

namespace wirenote {
namespace {

using json_fields::Json;

void addWeighed(const GainsAndLosses& weighed, Json& json) {
    json["gains"] = Json::array();
    json["losses"] = Json::array();
    for (const Gain& gain : weighed.gains)
        json["gains"].push_back(gainText(gain));
    for (const Gain& loss : weighed.losses)
        json["losses"].push_back(lossText(loss));
}

} // namespace

std::string writeDifferencesJson(const ReadingComparison& comparison,
                                 const std::string& a,
                                 const std::string& b) {
    Json json = {{"format", "wirenote-differences/1"},
                 {"a", a},
                 {"b", b},
                 {"semitones", comparison.semitones},
                 {"differences", Json::array()}};
    for (const ReadingDifference& one : comparison.differences) {
        Json difference = {{"bar", one.bar},
                           {"beat", one.beat},
                           {"what", differenceWord(one.kind)},
                           {"a", one.a_text},
                           {"b", one.b_text},
                           {"group", one.group + 1}};
        if (one.a != 0)
            difference["note_a"] = one.a;
        if (one.b != 0)
            difference["note_b"] = one.b;
        addWeighed(comparison.groups[one.group].weighed, difference);
        json["differences"].push_back(std::move(difference));
    }
    return json_fields::written(json);
}

} // namespace wirenote
