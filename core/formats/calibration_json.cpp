#include "formats/calibration_json.h"

#include "formats/instrument_fields.h"
#include "formats/string_fields.h"

namespace wirenote {
namespace {

constexpr const char* kFormat = "wirenote-calibration/1";

double rounded(double x) {
    return std::round(x * 1e4) / 1e4;
}

// A string that could not be told is learned from the takes.
Basis basisOf(const json_fields::Json& string) {
    const auto* measured = json_fields::Fields::find(string, "measured");
    return measured && measured->is_boolean() && !measured->get<bool>() ? Basis::Reasoned
                                                                        : Basis::Set;
}

} // namespace

std::string writeCalibrationJson(const Calibration& calibration) {
    using json_fields::Json;
    Json strings = Json::array();
    for (std::size_t i = 0; i < calibration.traits.size(); ++i) {
        Json string = {{"number", i + 1},
                       {"log_factor", rounded(calibration.traits[i].log_factor)},
                       {"sd", rounded(calibration.traits[i].sd)},
                       {"measured", calibration.traits[i].basis == Basis::Set},
                       {"octave_cents", rounded(calibration.octave_cents[i])}};
        json_fields::toneToJson(calibration.traits[i], string);
        strings.push_back(std::move(string));
    }
    const Json json = {{"format", kFormat},
                       {"instrument", json_fields::instrumentToJson(calibration.instrument)},
                       {"strings", strings}};
    return json_fields::written(json);
}

Result<Calibration> readCalibrationJson(const std::string& text) {
    const auto json = json_fields::parse(text);
    if (!json)
        return json.error();
    json_fields::Fields fields;
    if (fields.text(*json, "format", "the file") != kFormat)
        return badInput(
            {},
            "is not a calibration (\"format\" must be \"wirenote-calibration/1\"); choose a file "
            "that calibrate wrote");
    Calibration calibration;
    if (const auto* instrument = json_fields::Fields::find(*json, "instrument"))
        calibration.instrument = json_fields::instrumentFrom(*instrument, fields);
    else
        fields.fail("the file", "has no instrument");
    const auto& strings = fields.array(*json, "strings", "the file", kMaxStrings);
    if (fields.ok() && strings.size() != calibration.instrument.strings.size())
        fields.fail("strings", "are not as many as the instrument has");
    calibration.traits.resize(strings.size());
    calibration.octave_cents.resize(strings.size());
    for (std::size_t i = 0; i < strings.size() && fields.ok(); ++i) {
        const std::string where = "strings[" + std::to_string(i) + "]";
        const int number = fields.integer(strings[i],
                                          "number",
                                          static_cast<int>(i) + 1,
                                          1,
                                          static_cast<int>(strings.size()),
                                          where);
        const auto at = static_cast<std::size_t>(number - 1);
        calibration.traits[at] = {fields.number(strings[i], "log_factor", 0.0, -6.0, 6.0, where),
                                  fields.number(strings[i], "sd", 0.1, 0.0, 6.0, where),
                                  basisOf(strings[i]),
                                  {}};
        json_fields::toneFrom(strings[i], calibration.traits[at], fields, where);
        calibration.octave_cents[at] =
            fields.number(strings[i], "octave_cents", 0.0, -100.0, 100.0, where);
    }
    if (!fields.ok())
        return badInput({}, *fields.problem() + json_fields::kMendJson);
    return calibration;
}

} // namespace wirenote
