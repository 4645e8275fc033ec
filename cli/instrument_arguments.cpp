#include "instrument_arguments.h"

#include "base/atomic_file.h"
#include "formats/instrument_json.h"
#include "music/string_table.h"

namespace wirenote {

void InstrumentArguments::addTo(CLI::App& command) {
    command.add_option(
        "--instrument", instrument, "guitar, guitar-7, nylon, acoustic, bass, bass-5 or FILE.json");
    command.add_option("--tuning", tuning, "open strings, thickest first: \"E2 A2 D3 G3 B3 E4\"");
    command.add_option("--capo", capo, "fret of the capo");
    command.add_option(
        "--strings", strings, "set of strings by its name in the table: \"light, 10 to 46\"");
    command.add_option(
        "--string-table", string_table, "a table of strings of your own instead of the shipped");
}

std::vector<std::filesystem::path> InstrumentArguments::inputs() const {
    std::vector<std::filesystem::path> files;
    if (instrument.ends_with(".json"))
        files.emplace_back(instrument);
    if (!string_table.empty())
        files.emplace_back(string_table);
    return files;
}

Result<Instrument> InstrumentArguments::resolve(const Instrument& base) const {
    Instrument chosen = base;
    if (instrument.ends_with(".json")) {
        const auto text = readWholeFile(instrument, 1'000'000);
        if (!text)
            return text.error();
        auto read = readInstrumentJson(*text);
        if (!read)
            return badInput(instrument, read.error().message);
        chosen = *read;
    } else if (!instrument.empty()) {
        const auto kind = parseInstrumentName(instrument);
        if (!kind)
            return kind.error();
        chosen = standardInstrument(*kind);
    }
    if (const Status strung = string(chosen); !strung)
        return strung.error();
    if (tuning)
        if (const Status set = setTuning(chosen, *tuning); !set)
            return set.error();
    if (capo)
        if (const Status set = setCapo(chosen, *capo); !set)
            return set.error();
    return chosen;
}

Status InstrumentArguments::string(Instrument& chosen) const {
    StringTable table = shippedStrings();
    if (!string_table.empty()) {
        const auto text = readWholeFile(string_table, 1'000'000);
        if (!text)
            return text.error();
        auto read = readStringTable(*text);
        if (!read)
            return badInput(string_table, read.error().message);
        table = *read;
        table.rebuild(chosen);
    }
    if (strings.empty())
        return {};
    if (const StringSet* set = table.find(chosen.kind, strings))
        return table.apply(*set, chosen);
    std::string names;
    for (const StringSet& set : table.setsFor(chosen.kind))
        names += (names.empty() ? "\"" : ", \"") + set.name + "\"";
    return badCall("there are no strings \"" + strings + "\" for this instrument; there are " +
                   names);
}

} // namespace wirenote
