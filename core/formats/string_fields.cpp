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

void heardToJson(const HeardFacts& heard, Json& json) {
    if (heard.attack.told())
        json["attack"] = {{"strength", heard.attack.strength}, {"soft", heard.attack.soft}};
    if (heard.attack.slurred >= 0.0)
        json["attack"]["slurred"] = rounded(heard.attack.slurred);
    if (heard.attack.edge_db)
        json["attack"]["edge_db"] = rounded(*heard.attack.edge_db);
    if (heard.thick_first)
        json["thick_first"] = *heard.thick_first;
    if (heard.stiffness.told())
        json["stiffness"] = {{"log_b", heard.stiffness.log_b},
                             {"sd", heard.stiffness.sd},
                             {"borrowed", heard.stiffness.borrowed},
                             {"among", heard.stiffness.among}};
    for (std::size_t k = 0; k < kFigures.size(); ++k)
        if (heard.tone[k].told())
            json["tone"][kFigures[k]] =
                Json::array({rounded(heard.tone[k].value), rounded(heard.tone[k].sd)});
    if (heard.squeak_before)
        json["squeak_before"] = true;
}

HeardFacts heardFrom(const Json& json, Fields& fields, const std::string& where) {
    HeardFacts heard;
    if (const Json* attack = Fields::find(json, "attack")) {
        heard.attack = {fields.number(*attack, "strength", -1, -1, 1e9, where + ".attack"),
                        Fields::isTrue(*attack, "soft"),
                        fields.number(*attack, "slurred", -1, -1, 1, where + ".attack"),
                        std::nullopt};
        if (Fields::find(*attack, "edge_db"))
            heard.attack.edge_db =
                fields.number(*attack, "edge_db", -30, -200, 0, where + ".attack");
    }
    if (Fields::find(json, "thick_first"))
        heard.thick_first = fields.number(json, "thick_first", 0.5, 0, 1, where);
    if (const Json* stiffness = Fields::find(json, "stiffness"))
        heard.stiffness = {fields.number(*stiffness, "log_b", 0, -30, 10, where + ".stiffness"),
                           fields.number(*stiffness, "sd", -1, -1, 100, where + ".stiffness"),
                           Fields::isTrue(*stiffness, "borrowed"),
                           Fields::isTrue(*stiffness, "among")};
    heard.squeak_before = Fields::isTrue(json, "squeak_before");
    const Json* tone = Fields::find(json, "tone");
    for (std::size_t k = 0; tone && k < kFigures.size(); ++k)
        if (const Json* figure = Fields::find(*tone, kFigures[k])) {
            const std::string at = where + ".tone." + kFigures[k];
            heard.tone[k] = {fields.item(*figure, 0, -kMostValue, kMostValue, at),
                             fields.item(*figure, 1, 0, kMostValue, at)};
        }
    return heard;
}

void seenToJson(const SeenFacts& seen, Json& json) {
    if (!seen.told())
        return;
    json["seen"] = {{"trust", rounded(seen.trust)}, {"tips", Json::array()}};
    if (seen.down)
        json["seen"]["down"] = rounded(*seen.down);
    if (seen.plucked != std::array<double, 5>{}) {
        json["seen"]["plucked"] = Json::array();
        for (const double likely : seen.plucked)
            json["seen"]["plucked"].push_back(rounded(likely));
    }
    if (seen.unplucked)
        json["seen"]["unplucked"] = rounded(*seen.unplucked);
    if (seen.shown)
        json["seen"]["shown"] = Json::array({seen.shown->time_s, seen.shown->x, seen.shown->y});
    if (seen.plucked_mm)
        json["seen"]["plucked_mm"] = rounded(*seen.plucked_mm);
    if (seen.swing_mm)
        json["seen"]["swing_mm"] = rounded(*seen.swing_mm);
    if (seen.heel_mm)
        json["seen"]["heel_mm"] = rounded(*seen.heel_mm);
    if (seen.forearm_mm)
        json["seen"]["forearm_mm"] = rounded(*seen.forearm_mm);
    for (const SeenTip& tip : seen.tips) {
        Json row = {tip.finger, rounded(tip.fret), rounded(tip.string)};
        if (tip.pressed)
            row.push_back(rounded(*tip.pressed));
        json["seen"]["tips"].push_back(std::move(row));
    }
}

SeenFacts seenFrom(const Json& json, Fields& fields, const std::string& where) {
    SeenFacts seen;
    const Json* found = Fields::find(json, "seen");
    if (!found)
        return seen;
    seen.trust = fields.number(*found, "trust", 0, 0, 1, where + ".seen");
    if (Fields::find(*found, "down"))
        seen.down = fields.number(*found, "down", 0.5, 0, 1, where + ".seen");
    if (const Json* plucked = Fields::find(*found, "plucked"))
        for (std::size_t k = 0; k < seen.plucked.size(); ++k)
            seen.plucked[k] = fields.item(*plucked, k, 0, 1, where + ".seen.plucked");
    if (Fields::find(*found, "unplucked"))
        seen.unplucked = fields.number(*found, "unplucked", 0.5, 0, 1, where + ".seen");
    constexpr double kWidest_mm = 2000.0;
    if (Fields::find(*found, "plucked_mm"))
        seen.plucked_mm =
            fields.number(*found, "plucked_mm", 0, -kWidest_mm, kWidest_mm, where + ".seen");
    if (Fields::find(*found, "swing_mm"))
        seen.swing_mm = fields.number(*found, "swing_mm", 0, 0, kWidest_mm, where + ".seen");
    if (Fields::find(*found, "heel_mm"))
        seen.heel_mm = fields.number(*found, "heel_mm", 0, 0, kWidest_mm, where + ".seen");
    if (Fields::find(*found, "forearm_mm"))
        seen.forearm_mm = fields.number(*found, "forearm_mm", 0, 0, kWidest_mm, where + ".seen");
    if (const Json* shown = Fields::find(*found, "shown")) {
        constexpr double kFarthest_px = 1e5;
        const std::string at = where + ".seen.shown";
        seen.shown = ShownIn{fields.item(*shown, 0, 0, json_fields::kLongest_s, at),
                             fields.item(*shown, 1, -kFarthest_px, kFarthest_px, at),
                             fields.item(*shown, 2, -kFarthest_px, kFarthest_px, at)};
    }
    for (const Json& tip : fields.array(*found, "tips", where + ".seen", kMaxSeenTips)) {
        const std::string at = where + ".seen.tips";
        seen.tips.push_back({static_cast<int>(std::lround(fields.item(tip, 0, 0, 4, at))),
                             fields.item(tip, 1, -10, 40, at),
                             fields.item(tip, 2, -20, 40, at)});
        if (tip.is_array() && tip.size() > 3)
            seen.tips.back().pressed = fields.item(tip, 3, 0, 1, at);
    }
    return seen;
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
