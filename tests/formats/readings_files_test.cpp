// Files about readings: what differs between two, and collections of licks.
#include "formats/differences_json.h"
#include "formats/licks_json.h"
#include "support/pieces.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <nlohmann/json.hpp>

namespace wirenote {
namespace {

Piece tune() {
    return test::pieceOf({{0.0, 0.4, 60, {2, 1}}, {0.5, 0.9, 64, {2, 5}}, {1.0, 1.4, 60, {2, 1}}});
}

TEST(DifferencesJson, SaysBarBeatWhatAndBoth) {
    const Piece a = tune();
    Piece b = a;
    b.asPlayed().plans[1].position.value = {1, 0};
    b.notes[2].techniques = {Technique::Vibrato};
    const auto json =
        nlohmann::json::parse(writeDifferencesJson(compareReadings(a, b), "one", "other"));
    EXPECT_EQ(json["format"], "wirenote-differences/1");
    EXPECT_EQ(json["b"], "other");
    ASSERT_EQ(json["differences"].size(), 2U);
    const auto& place = json["differences"][0];
    EXPECT_EQ(place["bar"], 1);
    EXPECT_EQ(place["beat"], 2.0);
    EXPECT_EQ(place["what"], "place");
    EXPECT_EQ(place["a"], "string 2, fret 5");
    EXPECT_EQ(place["b"], "string 1, fret 0");
    EXPECT_EQ(place["note_a"], a.notes[1].id);
    EXPECT_TRUE(place["gains"].is_array() && !place["gains"].empty());
    EXPECT_TRUE(place["losses"].is_array());
    EXPECT_NE(place["group"], json["differences"][1]["group"]);
}

Lick lick() {
    Piece piece = tune();
    piece.title = "Tune";
    piece.notes[1].techniques = {Technique::Slide, Technique::Vibrato};
    piece.asPlayed().plans[0].finger.value = Finger::Index;
    piece.asPlayed().plans[0].stroke.value = Stroke::Down;
    auto made = lickOf(piece, {0.0, 1.5}, "three", "C");
    EXPECT_TRUE(made.ok());
    made->remark = "for the end of a verse";
    return *made;
}

TEST(LicksJson, ACollectionComesBack) {
    const std::vector<Lick> licks{lick(), transposed(lick(), 3)};
    const auto read = readLicksJson(writeLicksJson(licks));
    ASSERT_TRUE(read.ok()) << read.error().message;
    ASSERT_EQ(read->size(), 2U);
    for (std::size_t i = 0; i < 2; ++i) {
        EXPECT_EQ((*read)[i].notes, licks[i].notes);
        EXPECT_EQ((*read)[i].name, licks[i].name);
        EXPECT_EQ((*read)[i].chord, licks[i].chord);
        EXPECT_EQ((*read)[i].remark, licks[i].remark);
        EXPECT_EQ(tuningText((*read)[i].instrument), tuningText(licks[i].instrument));
    }
    EXPECT_TRUE(readLicksJson(writeLicksJson({})).ok());
}

// A refusal said what was out of range and not what to do about it.
TEST(LicksJson, ARefusalSaysWhatToDo) {
    Lick lick;
    lick.instrument = standardInstrument(InstrumentKind::Guitar);
    lick.notes = {{Rational(0), Rational(1), 60, {2, 1}, Finger::Unknown, Stroke::Unknown, {}}};
    auto json = nlohmann::json::parse(writeLicksJson({lick}));
    json["licks"][0]["instrument"]["strings"][0]["number"] = 1000;
    const auto damaged = readLicksJson(json.dump());
    ASSERT_FALSE(damaged.ok());
    EXPECT_THAT(damaged.error().message,
                testing::AllOf(testing::HasSubstr("strings[0].number is out of range"),
                               testing::HasSubstr("; open an earlier copy")));
    json["format"] = "something else";
    const auto foreign = readLicksJson(json.dump());
    ASSERT_FALSE(foreign.ok());
    EXPECT_THAT(foreign.error().message, testing::HasSubstr("; choose a file"));
}

TEST(LicksJson, WhatIsNoCollectionIsSaid) {
    const std::string good = writeLicksJson({lick()});
    const auto with = [&good](const std::string& from, const std::string& to) {
        std::string text = good;
        text.replace(text.find(from), from.size(), to);
        return readLicksJson(text);
    };
    for (const auto& read : {readLicksJson(""),
                             readLicksJson("{}"),
                             readLicksJson("[1, 2"),
                             with("wirenote-licks/1", "wirenote-licks/9"),
                             with("\"midi\": 60", "\"midi\": 600"),
                             with("\"string\": 2", "\"string\": 11"),
                             with("\"start\": [", "\"start\": [0.5, "),
                             with("\"length\": [", "\"length\": [-1, "),
                             with("\"start\"", "\"begin\"")}) {
        ASSERT_FALSE(read.ok());
        EXPECT_FALSE(read.error().message.empty());
    }
}

} // namespace
} // namespace wirenote
