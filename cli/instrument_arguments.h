// The arguments that say which instrument it is.
#pragma once

#include "base/result.h"
#include "music/instrument.h"

#include <CLI/CLI.hpp>
#include <filesystem>
#include <optional>
#include <string>
#include <vector>

namespace wirenote {

struct InstrumentArguments {
    std::string instrument;
    std::optional<std::string> tuning;
    std::optional<int> capo;
    std::string strings;
    std::string string_table;

    bool given() const { return !instrument.empty() || tuning || capo; }
    void addTo(CLI::App& command);
    std::vector<std::filesystem::path> inputs() const; // files that are read
    // Starts from `base` when no instrument is named.
    Result<Instrument> resolve(const Instrument& base) const;

  private:
    // With the strings and by the table that were named.
    Status string(Instrument& chosen) const;
};

} // namespace wirenote
