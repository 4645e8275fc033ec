// The open table of strings: what ships, what a person may change, and what is refused.
#include "music/string_table.h"

#include "music/string_physics.h"

#include <cmath>
#include <gmock/gmock.h>
#include <set>

namespace wirenote {
namespace {

using ::testing::HasSubstr;

// The shipped text with one piece of it changed.
std::string changed(const std::string& from, const std::string& to) {
    std::string text = shippedStringsText();
    const auto at = text.find(from);
    EXPECT_NE(at, std::string::npos) << from;
    return text.replace(at, from.size(), to);
}

std::string problemOf(const std::string& text) {
    const auto table = readStringTable(text);
    EXPECT_FALSE(table.ok());
    return table ? std::string() : table.error().message;
}

TEST(StringTable, TheShippedOneNamesASourceForEveryRow) {
    const StringTable& table = shippedStrings();
    for (const MaterialRow& row : table.materials())
        EXPECT_FALSE(row.source.empty()) << materialName(row.material);
    std::set<std::pair<InstrumentKind, std::string>> names;
    for (const StringSet& set : table.sets()) {
        EXPECT_FALSE(set.source.empty()) << set.name;
        EXPECT_TRUE(names.emplace(set.instrument, set.name).second) << set.name << " comes twice";
        for (std::size_t i = 1; i < set.strings.size(); ++i) {
            EXPECT_LT(set.strings[i].open_midi, set.strings[i - 1].open_midi) << set.name;
            if (set.strings[i].material == set.strings[i - 1].material) {
                EXPECT_GT(set.strings[i].gauge_mm, set.strings[i - 1].gauge_mm) << set.name;
            }
        }
    }
}

// Usual gauges in thousandths of an inch: common practice.
TEST(StringTable, TheFirstSetOfAKindIsTheUsualOne) {
    const auto gauges = [](InstrumentKind kind) {
        std::vector<long> mils;
        for (const StringSpec& s : standardInstrument(kind).strings)
            mils.push_back(std::lround(s.gauge_mm / 0.0254));
        return mils;
    };
    EXPECT_EQ(gauges(InstrumentKind::Guitar), (std::vector<long>{10, 13, 17, 26, 36, 46}));
    EXPECT_EQ(gauges(InstrumentKind::Acoustic), (std::vector<long>{12, 16, 24, 32, 42, 53}));
    EXPECT_EQ(gauges(InstrumentKind::Bass), (std::vector<long>{45, 65, 85, 105}));
    EXPECT_EQ(gauges(InstrumentKind::Bass5), (std::vector<long>{45, 65, 85, 105, 130}));
    for (const InstrumentKind kind : {InstrumentKind::Guitar,
                                      InstrumentKind::Guitar7,
                                      InstrumentKind::Acoustic,
                                      InstrumentKind::Nylon,
                                      InstrumentKind::Bass,
                                      InstrumentKind::Bass5}) {
        const Instrument instrument = standardInstrument(kind);
        ASSERT_NE(shippedStrings().matching(instrument), nullptr);
        EXPECT_EQ(shippedStrings().matching(instrument)->name,
                  shippedStrings().setsFor(kind).front().name);
        for (const StringSpec& s : instrument.strings)
            EXPECT_FALSE(s.build) << "what ships needs no build of its own";
    }
}

// Plain steel wire of 0.010 inch weighs 0.0000224 pounds an inch, 0.40 g a metre: makers' tables,
// from memory. Tensions of a light electric set at 648 mm are 16 to 20 pounds (71 to 89 N) a
// string, of a light acoustic one 23 to 33 (102 to 147 N), of a bass 35 to 55 (155 to 245 N):
// common practice.
TEST(StringTable, MassesAndTensionsAreThoseOfHandbooks) {
    EXPECT_NEAR(shippedStrings().buildOf(StringMaterial::PlainSteel, 0.254).linear_density_kg_m,
                4.0e-4,
                4e-6);
    const auto tensions = [](InstrumentKind kind, double low, double high) {
        const Instrument instrument = standardInstrument(kind);
        for (const StringSpec& s : instrument.strings) {
            const double hz = 440.0 * std::exp2((s.open_midi - 69) / 12.0);
            const double newton = tension_n(stringPhysics(s), instrument.scale_mm / 1000.0, hz);
            EXPECT_GT(newton, low) << s.open_midi;
            EXPECT_LT(newton, high) << s.open_midi;
        }
    };
    tensions(InstrumentKind::Guitar, 60.0, 95.0);
    tensions(InstrumentKind::Acoustic, 90.0, 155.0);
    tensions(InstrumentKind::Nylon, 45.0, 95.0);
    tensions(InstrumentKind::Bass, 155.0, 245.0);
    // Bronze is heavier than steel: the same string at the same pitch is tighter and less stiff.
    const StringBuild steel = shippedStrings().buildOf(StringMaterial::WoundSteel, 1.0);
    const StringBuild bronze = shippedStrings().buildOf(StringMaterial::WoundBronze, 1.0);
    EXPECT_GT(bronze.linear_density_kg_m, 1.05 * steel.linear_density_kg_m);
    EXPECT_DOUBLE_EQ(bronze.core_diameter_m, steel.core_diameter_m);
}

TEST(StringTable, CoresLieBetweenTheirNeighboursAndNeverOutsideTheString) {
    double last = 0.0;
    for (double gauge_mm = 0.3; gauge_mm < 4.5; gauge_mm += 0.05) {
        const double core_mm =
            1000.0 * shippedStrings().buildOf(StringMaterial::WoundSteel, gauge_mm).core_diameter_m;
        EXPECT_GT(core_mm, last);
        EXPECT_LE(core_mm, gauge_mm + 1e-12);
        last = core_mm;
    }
}

TEST(StringTable, ASetKeepsTheTuningAndNeedsTheSameNumberOfStrings) {
    Instrument instrument = standardInstrument(InstrumentKind::Guitar);
    ASSERT_TRUE(setTuning(instrument, "D2 A2 D3 G3 B3 E4").ok());
    const StringSet* heavier =
        shippedStrings().find(InstrumentKind::Guitar, "wound third, 12 to 52");
    ASSERT_NE(heavier, nullptr);
    ASSERT_TRUE(shippedStrings().apply(*heavier, instrument).ok());
    EXPECT_EQ(instrument.string(6).open_midi, 38);
    EXPECT_TRUE(instrument.string(3).wound());
    EXPECT_EQ(shippedStrings().matching(instrument), heavier);
    Instrument bass = standardInstrument(InstrumentKind::Bass);
    const Status refused = shippedStrings().apply(*heavier, bass);
    ASSERT_FALSE(refused.ok());
    EXPECT_THAT(refused.error().message, HasSubstr("4"));
    EXPECT_EQ(bass, standardInstrument(InstrumentKind::Bass));
}

TEST(StringTable, AChangedTableChangesTheStringsThatFollowIt) {
    const auto table =
        readStringTable(changed("\"material\": \"plain-steel\", \"core_density_kg_m3\": 7850",
                                "\"material\": \"plain-steel\", \"core_density_kg_m3\": 8000"));
    ASSERT_TRUE(table.ok()) << table.error().message;
    Instrument instrument = standardInstrument(InstrumentKind::Guitar);
    const double before = stiffnessAt(instrument, 1, 0);
    const double wound_before = stiffnessAt(instrument, 6, 0);
    table->rebuild(instrument);
    ASSERT_TRUE(instrument.string(1).build.has_value());
    EXPECT_NEAR(stiffnessAt(instrument, 1, 0) / before, 7850.0 / 8000.0, 1e-9)
        << "heavier, tighter, less stiff";
    EXPECT_FALSE(instrument.string(6).build.has_value()) << "wound strings are as they ship";
    EXPECT_DOUBLE_EQ(stiffnessAt(instrument, 6, 0), wound_before);
    shippedStrings().rebuild(instrument);
    EXPECT_EQ(instrument, standardInstrument(InstrumentKind::Guitar));
}

TEST(StringTable, WhatAMakerPublishesGoesBeforeTheMaterial) {
    const auto table = readStringTable(
        changed("{\"pitch\": \"E2\", \"gauge_in\": 0.046, \"material\": \"wound-steel\"}",
                "{\"pitch\": \"E2\", \"gauge_in\": 0.046, \"material\": \"wound-steel\", "
                "\"unit_mass_kg_m\": 0.0066, \"core_mm\": 0.41}"));
    ASSERT_TRUE(table.ok()) << table.error().message;
    Instrument instrument = standardInstrument(InstrumentKind::Guitar);
    ASSERT_TRUE(
        table->apply(*table->find(InstrumentKind::Guitar, "light, 10 to 46"), instrument).ok());
    const StringBuild build = stringPhysics(instrument.string(6));
    EXPECT_DOUBLE_EQ(build.linear_density_kg_m, 0.0066);
    EXPECT_DOUBLE_EQ(build.core_diameter_m, 0.00041);
    EXPECT_DOUBLE_EQ(build.young_modulus_pa, 200e9) << "what is not said is the material's";
    EXPECT_FALSE(instrument.string(5).build.has_value());
}

TEST(StringTable, WhatCannotBeUsedIsRefusedInOneSentence) {
    EXPECT_FALSE(readStringTable("{").ok());
    EXPECT_THAT(problemOf("{}"), HasSubstr("wirenote-strings/1"));
    EXPECT_THAT(problemOf(R"({"format": "wirenote-strings/1"})"), HasSubstr("lack plain-steel"));
    EXPECT_THAT(problemOf(changed("\"material\": \"plain-nylon\"", "\"material\": \"gut\"")),
                HasSubstr("materials[3].material"));
    EXPECT_THAT(problemOf(changed("\"modulus_gpa\": 200", "\"modulus_gpa\": -3")),
                HasSubstr("modulus_gpa is out of range"));
    EXPECT_THAT(problemOf(changed("{\"gauge_in\": 0.017, \"core_in\": 0.01201}",
                                  "{\"gauge_in\": 0.017, \"core_in\": 0.02}")),
                HasSubstr("cores"));
    EXPECT_THAT(problemOf(changed("\"pitch\": \"E4\"", "\"pitch\": \"H9\"")), HasSubstr("pitch"));
    EXPECT_THAT(problemOf(changed("\"gauge_in\": 0.01,", "\"gauge_in\": 1e300,")),
                HasSubstr("out of range"));
    EXPECT_THAT(problemOf(changed("\"instrument\": \"nylon\"", "\"instrument\": \"lute\"")),
                HasSubstr("sets["));
}

} // namespace
} // namespace wirenote
