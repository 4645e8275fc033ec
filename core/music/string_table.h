// The open table of strings: what materials weigh and how they bend, and the usual sets. It ships
// as data/strings.json with its sources; a person may use a changed copy.
#pragma once

#include "music/instrument.h"

#include <string>
#include <vector>

namespace wirenote {

// What strings of one kind are made of.
struct MaterialRow {
    StringMaterial material = StringMaterial::PlainSteel;
    double core_density_kg_m3 = 0.0; // of the whole string when it is plain
    double modulus_pa = 0.0;         // Young's, of what bends
    double winding_density_kg_m3 = 0.0;
    double winding_fill = 1.0; // how much of the ring around the core the winding fills
    double core_share = 0.0;   // of the gauge; 0: by `cores`
    struct Core {
        double gauge_mm = 0.0;
        double core_mm = 0.0;
    };
    std::vector<Core> cores; // by rising gauge; between them a power law
    std::string source;
};

struct StringSet {
    std::string name;
    InstrumentKind instrument = InstrumentKind::Guitar;
    std::vector<StringSpec> strings; // the thinnest first
    std::string source;
};

class StringTable {
  public:
    const std::vector<MaterialRow>& materials() const { return m_materials; }
    const std::vector<StringSet>& sets() const { return m_sets; }
    // Of one instrument, the usual one first.
    std::vector<StringSet> setsFor(InstrumentKind kind) const;
    const StringSet* find(InstrumentKind kind, std::string_view name) const;
    // The set whose gauges and materials these are; null when there is none.
    const StringSet* matching(const Instrument& instrument) const;
    // What a string of this material and thickness weighs and how its core bends.
    StringBuild buildOf(StringMaterial material, double gauge_mm) const;
    // Strings the instrument with the set, keeping its tuning. Errors: another number of strings.
    Status apply(const StringSet& set, Instrument& instrument) const;
    // The build of every string as this table has it, where it is not the shipped one's.
    void rebuild(Instrument& instrument) const;

  private:
    friend Result<StringTable> readStringTable(const std::string& text);
    std::vector<MaterialRow> m_materials;
    std::vector<StringSet> m_sets;
};

// Errors: what is wrong, and where.
Result<StringTable> readStringTable(const std::string& text);

// The table that ships, and its text for who wants to change it.
const StringTable& shippedStrings();
const std::string& shippedStringsText();

} // namespace wirenote
