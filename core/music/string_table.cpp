#include "music/string_table.h"

#include "base/json_fields.h"
#include "music/pitch.h"
#include "music/string_table_data.h"

#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <numbers>

namespace wirenote {
namespace {

using json_fields::Fields;
using json_fields::Json;

constexpr const char* kFormat = "wirenote-strings/1";
constexpr double kInch_mm = 25.4;
constexpr double kSame_mm = 0.002; // gauges are given to a ten-thousandth of an inch
constexpr std::size_t kMostRows = 1000;

double area_m2(double diameter_m) {
    return std::numbers::pi * diameter_m * diameter_m / 4.0;
}

double coreOf(const MaterialRow& row, double gauge_mm) {
    if (row.core_share > 0.0)
        return row.core_share * gauge_mm;
    const auto& cores = row.cores;
    if (cores.empty())
        return gauge_mm;
    if (cores.size() == 1)
        return std::min(gauge_mm, cores.front().core_mm);
    auto above = std::ranges::lower_bound(cores, gauge_mm, {}, &MaterialRow::Core::gauge_mm);
    above = std::clamp(above, cores.begin() + 1, cores.end() - 1);
    const auto below = above - 1;
    const double power =
        std::log(above->core_mm / below->core_mm) / std::log(above->gauge_mm / below->gauge_mm);
    return std::min(gauge_mm, below->core_mm * std::pow(gauge_mm / below->gauge_mm, power));
}

MaterialRow materialFrom(const Json& json, Fields& fields, const std::string& where) {
    MaterialRow row;
    row.material = fields.known(parseMaterial(fields.text(json, "material", where)),
                                StringMaterial::PlainSteel,
                                where + ".material");
    row.core_density_kg_m3 = fields.number(json, "core_density_kg_m3", 0, 100, 25000, where);
    row.modulus_pa = 1e9 * fields.number(json, "modulus_gpa", 0, 0.01, 1000, where);
    row.winding_density_kg_m3 = fields.number(json, "winding_density_kg_m3", 0, 0, 25000, where);
    row.winding_fill = fields.number(json, "winding_fill", 1.0, 0.1, 1.0, where);
    row.core_share = fields.number(json, "core_share", 0.0, 0.0, 1.0, where);
    for (const Json& core : fields.array(json, "cores", where, kMostRows))
        row.cores.push_back(
            {kInch_mm * fields.number(core, "gauge_in", 0, 0.001, 0.3, where + ".cores"),
             kInch_mm * fields.number(core, "core_in", 0, 0.001, 0.3, where + ".cores")});
    for (std::size_t i = 0; i < row.cores.size(); ++i)
        if (row.cores[i].core_mm <= 0.0 || row.cores[i].core_mm > row.cores[i].gauge_mm ||
            (i > 0 && row.cores[i].gauge_mm <= row.cores[i - 1].gauge_mm))
            fields.fail(where + ".cores",
                        "do not go from thin to thick, each core thinner than its string");
    row.source = fields.text(json, "source", where);
    if (row.core_density_kg_m3 <= 0.0 || row.modulus_pa <= 0.0)
        fields.fail(where, "needs core_density_kg_m3 and modulus_gpa");
    return row;
}

StringSet setFrom(const Json& json, Fields& fields, const std::string& where) {
    StringSet set;
    set.name = fields.text(json, "set", where, 100);
    const auto kind = parseInstrumentName(fields.text(json, "instrument", where));
    if (set.name.empty() || !kind)
        fields.fail(where, "needs a name (set) and an instrument this version knows");
    else
        set.instrument = *kind;
    set.source = fields.text(json, "source", where);
    const auto& strings = fields.array(json, "strings", where, kMaxStrings);
    if (strings.empty())
        fields.fail(where, "has no strings");
    for (const Json& s : strings) {
        StringSpec spec;
        const auto pitch = parsePitchName(fields.text(s, "pitch", where));
        if (!pitch)
            fields.fail(where + ".pitch", "is not a pitch; write it like E2 or F#3");
        else
            spec.open_midi = *pitch;
        spec.gauge_mm = kInch_mm * fields.number(s, "gauge_in", 0, 0.002, 0.3, where);
        spec.material = fields.known(parseMaterial(fields.text(s, "material", where)),
                                     StringMaterial::PlainSteel,
                                     where + ".material");
        if (spec.gauge_mm <= 0.0)
            fields.fail(where, "needs a gauge_in for every string");
        // What a maker publishes goes before what the material lets expect.
        StringBuild build;
        build.linear_density_kg_m = fields.number(s, "unit_mass_kg_m", 0, 0, 1, where);
        build.core_diameter_m = 0.001 * fields.number(s, "core_mm", 0, 0, 6, where);
        build.young_modulus_pa = 1e9 * fields.number(s, "modulus_gpa", 0, 0, 1000, where);
        if (build != StringBuild{})
            spec.build = build;
        set.strings.push_back(spec);
    }
    return set;
}

} // namespace

std::vector<StringSet> StringTable::setsFor(InstrumentKind kind) const {
    std::vector<StringSet> found;
    std::ranges::copy_if(m_sets, std::back_inserter(found), [kind](const StringSet& set) {
        return set.instrument == kind;
    });
    return found;
}

const StringSet* StringTable::find(InstrumentKind kind, std::string_view name) const {
    const auto at = std::ranges::find_if(
        m_sets, [&](const StringSet& set) { return set.instrument == kind && set.name == name; });
    return at == m_sets.end() ? nullptr : &*at;
}

const StringSet* StringTable::matching(const Instrument& instrument) const {
    const auto same = [](const StringSpec& a, const StringSpec& b) {
        return a.material == b.material && std::abs(a.gauge_mm - b.gauge_mm) < kSame_mm;
    };
    const auto at = std::ranges::find_if(m_sets, [&](const StringSet& set) {
        return set.instrument == instrument.kind &&
               std::ranges::equal(set.strings, instrument.strings, same);
    });
    return at == m_sets.end() ? nullptr : &*at;
}

StringBuild StringTable::buildOf(StringMaterial material, double gauge_mm) const {
    const auto row = std::ranges::find(m_materials, material, &MaterialRow::material);
    if (row == m_materials.end())
        return {};
    const double outer_m = 0.001 * gauge_mm;
    const bool wound = row->winding_density_kg_m3 > 0.0;
    const double core_m = wound ? 0.001 * coreOf(*row, gauge_mm) : outer_m;
    const double winding = wound ? (area_m2(outer_m) - area_m2(core_m)) *
                                       row->winding_density_kg_m3 * row->winding_fill
                                 : 0.0;
    return {area_m2(core_m) * row->core_density_kg_m3 + winding, core_m, row->modulus_pa};
}

Status StringTable::apply(const StringSet& set, Instrument& instrument) const {
    if (set.strings.size() != instrument.strings.size())
        return badCall("the set \"" + set.name + "\" has " + std::to_string(set.strings.size()) +
                       " strings, this instrument has " +
                       std::to_string(instrument.strings.size()));
    for (std::size_t i = 0; i < set.strings.size(); ++i) {
        const int open_midi = instrument.strings[i].open_midi;
        instrument.strings[i] = set.strings[i];
        instrument.strings[i].open_midi = open_midi;
    }
    rebuild(instrument);
    return {};
}

void StringTable::rebuild(Instrument& instrument) const {
    for (StringSpec& spec : instrument.strings) {
        StringBuild build = buildOf(spec.material, spec.gauge_mm);
        const StringSet* set = matching(instrument);
        const auto at = static_cast<std::size_t>(&spec - instrument.strings.data());
        if (const auto said = set ? set->strings[at].build : std::nullopt) {
            if (said->linear_density_kg_m > 0.0)
                build.linear_density_kg_m = said->linear_density_kg_m;
            if (said->core_diameter_m > 0.0)
                build.core_diameter_m = said->core_diameter_m;
            if (said->young_modulus_pa > 0.0)
                build.young_modulus_pa = said->young_modulus_pa;
        }
        if (build == shippedStrings().buildOf(spec.material, spec.gauge_mm))
            spec.build.reset();
        else
            spec.build = build;
    }
}

Result<StringTable> readStringTable(const std::string& text) {
    const auto json = json_fields::parse(text);
    if (!json)
        return json.error();
    Fields fields;
    if (fields.text(*json, "format", "the file") != kFormat)
        return badInput({},
                        "is not a table of strings (\"format\" must be \"wirenote-strings/1\"); begin with "
                        "a copy of the shipped one");
    StringTable table;
    const auto& materials = fields.array(*json, "materials", "the file", kMostRows);
    for (std::size_t i = 0; i < materials.size() && fields.ok(); ++i)
        table.m_materials.push_back(
            materialFrom(materials[i], fields, "materials[" + std::to_string(i) + "]"));
    const auto& sets = fields.array(*json, "sets", "the file", kMostRows);
    for (std::size_t i = 0; i < sets.size() && fields.ok(); ++i)
        table.m_sets.push_back(setFrom(sets[i], fields, "sets[" + std::to_string(i) + "]"));
    for (const StringMaterial material : kAllMaterials)
        if (fields.ok() && table.buildOf(material, 1.0) == StringBuild{})
            fields.fail("materials", "lack " + std::string(materialName(material)));
    if (!fields.ok())
        return badInput({}, *fields.problem() + json_fields::kMendJson);
    return table;
}

const std::string& shippedStringsText() {
    static const std::string text = kStringTableText;
    return text;
}

const StringTable& shippedStrings() {
    static const StringTable table = [] {
        auto read = readStringTable(shippedStringsText());
        if (!read || read->sets().empty())
            std::abort(); // the program itself is broken
        return *read;
    }();
    return table;
}

} // namespace wirenote
