#include "formats/string_fields.h"

#include "formats/words.h"

#include <cmath>

namespace wirenote::json_fields {
namespace {

constexpr std::array<const char*, kToneFigures> kFigures = {
    "decay_low", "decay_high", "comb", "tilt"};
constexpr double kMostValue = 1000.0;

double rounded(double x) {
    return std::round(x * 1e4) / 1e4;
}

} // namespace

void heardToJson(const Note& note, Json& json) {
    if (const HeardAttack& attack = note.heard.attack; attack.told())
        json["attack"] = {{"strength", attack.strength}, {"soft", attack.soft}};
    if (note.heard.thick_first)
        json["thick_first"] = *note.heard.thick_first;
    if (note.heard.stiffness.told())
        json["stiffness"] = {{"log_b", note.heard.stiffness.log_b},
                             {"sd", note.heard.stiffness.sd},
                             {"borrowed", note.heard.stiffness.borrowed},
                             {"among", note.heard.stiffness.among}};
    for (std::size_t k = 0; k < kFigures.size(); ++k)
        if (note.heard.tone[k].told())
            json["tone"][kFigures[k]] =
                Json::array({rounded(note.heard.tone[k].value), rounded(note.heard.tone[k].sd)});
    if (note.heard.squeak_before)
        json["squeak_before"] = true;
}

void heardFrom(const Json& json, Note& note, Fields& fields, const std::string& where) {
    if (const Json* attack = Fields::find(json, "attack"))
        note.heard.attack = {fields.number(*attack, "strength", -1, -1, 1e9, where + ".attack"),
                             Fields::isTrue(*attack, "soft")};
    if (Fields::find(json, "thick_first"))
        note.heard.thick_first = fields.number(json, "thick_first", 0.5, 0, 1, where);
    if (const Json* heard = Fields::find(json, "stiffness"))
        note.heard.stiffness = {fields.number(*heard, "log_b", 0, -30, 10, where + ".stiffness"),
                                fields.number(*heard, "sd", -1, -1, 100, where + ".stiffness"),
                                Fields::isTrue(*heard, "borrowed"),
                                Fields::isTrue(*heard, "among")};
    note.heard.squeak_before = Fields::isTrue(json, "squeak_before");
    const Json* tone = Fields::find(json, "tone");
    for (std::size_t k = 0; tone && k < kFigures.size(); ++k)
        if (const Json* figure = Fields::find(*tone, kFigures[k])) {
            const std::string at = where + ".tone." + kFigures[k];
            note.heard.tone[k] = {fields.item(*figure, 0, -kMostValue, kMostValue, at),
                                  fields.item(*figure, 1, 0, kMostValue, at)};
        }
}

void toneToJson(const StringTrait& trait, Json& json) {
    for (std::size_t k = 0; k < kFigures.size(); ++k)
        if (const ToneTrait& t = trait.tone[k]; t.told())
            json["tone"][kFigures[k]] = Json::array({rounded(t.at_open),
                                                     rounded(t.per_octave),
                                                     rounded(t.sd),
                                                     rounded(t.stopped),
                                                     rounded(t.per_db)});
}

void toneFrom(const Json& json, StringTrait& trait, Fields& fields, const std::string& where) {
    const Json* tone = Fields::find(json, "tone");
    for (std::size_t k = 0; tone && k < kFigures.size(); ++k)
        if (const Json* figure = Fields::find(*tone, kFigures[k])) {
            const std::string at = where + ".tone." + kFigures[k];
            trait.tone[k] = {fields.item(*figure, 0, -kMostValue, kMostValue, at),
                             fields.item(*figure, 1, -kMostValue, kMostValue, at),
                             fields.item(*figure, 2, 0, kMostValue, at),
                             fields.item(*figure, 3, -kMostValue, kMostValue, at),
                             fields.item(*figure, 4, -kMostValue, kMostValue, at)};
        }
}

Json traitsToJson(const std::vector<StringTrait>& traits) {
    Json all = Json::array();
    for (const StringTrait& t : traits) {
        Json json = {{"log_factor", t.log_factor}, {"sd", t.sd}, {"basis", wordFor(t.basis)}};
        toneToJson(t, json);
        all.push_back(std::move(json));
    }
    return all;
}

std::vector<StringTrait> traitsFrom(const Json& json, Fields& fields) {
    std::vector<StringTrait> traits;
    const std::string where = "string_traits";
    for (const Json& t : fields.array(json, "string_traits", "the file", kMaxStrings)) {
        traits.push_back({fields.number(t, "log_factor", 0, -10, 10, where),
                          fields.number(t, "sd", 1, 0, 100, where),
                          fields.known(basisFrom(fields.text(t, "basis", where)),
                                       Basis::Reasoned,
                                       where + ".basis"),
                          {}});
        toneFrom(t, traits.back(), fields, where);
    }
    return traits;
}

} // namespace wirenote::json_fields
