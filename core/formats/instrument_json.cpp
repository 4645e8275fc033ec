#include "formats/instrument_json.h"

#include "formats/instrument_fields.h"
#include "formats/words.h"

namespace wirenote {
namespace json_fields {

Json instrumentToJson(const Instrument& instrument) {
    Json strings = Json::array();
    for (int s = 1; s <= instrument.stringCount(); ++s) {
        const StringSpec& spec = instrument.string(s);
        Json string = {{"number", s},
                       {"open_midi", spec.open_midi},
                       {"gauge_mm", std::round(spec.gauge_mm * 1e4) / 1e4},
                       {"material", materialName(spec.material)}};
        if (spec.build) {
            string["unit_mass_kg_m"] = spec.build->linear_density_kg_m;
            string["core_mm"] = 1000.0 * spec.build->core_diameter_m;
            string["modulus_gpa"] = 1e-9 * spec.build->young_modulus_pa;
        }
        strings.push_back(std::move(string));
    }
    return {{"kind", instrumentName(instrument.kind)},
            {"frets", instrument.frets},
            {"capo", instrument.capo},
            {"scale_mm", instrument.scale_mm},
            {"left_handed", instrument.left_handed},
            {"strings", strings}};
}

Instrument instrumentFrom(const Json& json, Fields& fields) {
    const std::string where = "instrument";
    const std::string kind_word = fields.text(json, "kind", where);
    const auto kind = parseInstrumentName(kind_word.empty() ? "guitar" : kind_word);
    if (!kind)
        fields.fail(where + ".kind", "is not an instrument this version knows");
    Instrument instrument = standardInstrument(kind ? *kind : InstrumentKind::Guitar);
    instrument.frets = fields.integer(json, "frets", instrument.frets, 5, kMaxFrets, where);
    instrument.capo = fields.integer(json, "capo", 0, 0, kMaxFrets, where);
    instrument.scale_mm = fields.number(json, "scale_mm", instrument.scale_mm, 200, 1500, where);
    if (const Json* left = Fields::find(json, "left_handed"))
        instrument.left_handed = left->is_boolean() && left->get<bool>();
    const Json& strings = fields.array(json, "strings", where, kMaxStrings);
    if (!strings.empty()) {
        const std::vector<StringSpec> usual = instrument.strings;
        instrument.strings.assign(strings.size(), StringSpec{});
        for (std::size_t i = 0; i < strings.size(); ++i) {
            const std::string at = where + ".strings[" + std::to_string(i) + "]";
            const int number = fields.integer(strings[i],
                                              "number",
                                              static_cast<int>(i) + 1,
                                              1,
                                              static_cast<int>(strings.size()),
                                              at);
            StringSpec& spec = instrument.strings[static_cast<std::size_t>(number - 1)];
            if (static_cast<std::size_t>(number) <= usual.size())
                spec = usual[static_cast<std::size_t>(number - 1)];
            spec.open_midi = fields.integer(strings[i], "open_midi", spec.open_midi, 12, 100, at);
            spec.gauge_mm = fields.number(strings[i], "gauge_mm", spec.gauge_mm, 0.05, 6.0, at);
            if (const std::string word = fields.text(strings[i], "material", at); !word.empty())
                spec.material = fields.known(parseMaterial(word), spec.material, at + ".material");
            if (Fields::find(strings[i], "unit_mass_kg_m"))
                spec.build = StringBuild{
                    fields.number(strings[i], "unit_mass_kg_m", 0, 1e-6, 1, at),
                    0.001 * fields.number(strings[i], "core_mm", spec.gauge_mm, 0.02, 6.0, at),
                    1e9 * fields.number(strings[i], "modulus_gpa", 200, 0.01, 1000, at)};
        }
    }
    if (fields.ok())
        if (const Status usable = checkInstrument(instrument); !usable)
            fields.fail(where + ":", usable.error().message);
    return instrument;
}

} // namespace json_fields

Result<Instrument> readInstrumentJson(const std::string& text) {
    const auto json = json_fields::parse(text);
    if (!json)
        return json.error();
    json_fields::Fields fields;
    const auto* inner = json_fields::Fields::find(*json, "instrument");
    const json_fields::Json& object = inner ? *inner : *json;
    if (!json_fields::Fields::find(object, "kind") && !json_fields::Fields::find(object, "strings"))
        return badInput({},
                        "is not an instrument (it has neither \"kind\" nor \"strings\"); choose "
                        "another file");
    Instrument instrument = json_fields::instrumentFrom(object, fields);
    if (!fields.ok())
        return badInput({}, *fields.problem() + json_fields::kMendJson);
    return instrument;
}

} // namespace wirenote
