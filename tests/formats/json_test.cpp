#include "formats/instrument_json.h"
#include "formats/journal.h"
#include "formats/notes_json.h"
#include "formats/piece_json.h"
#include "support/performances.h"

#include <cmath>
#include <filesystem>
#include <fstream>
#include <gmock/gmock.h>
#include <nlohmann/json.hpp>

namespace wirenote {
namespace {

using ::testing::HasSubstr;

TEST(PieceJson, KeepsWhichTakeAStretchFollows) {
    Piece piece = test::richPiece();
    piece.takes.resize(2);
    piece.followed = {{{0.5, 1.5}, 1}, {{2.0, 3.0}, 0}};
    const auto again = readPieceJson(writePieceJson(piece));
    ASSERT_TRUE(again.ok()) << again.error().message;
    EXPECT_EQ(again->followed, piece.followed);
    piece.followed[1].take = 2;
    EXPECT_FALSE(readPieceJson(writePieceJson(piece)).ok()) << "there is no such take";
}

TEST(PieceJson, KeepsWhatWasSaidOfThePulse) {
    Piece piece = test::richPiece();
    piece.timeline.changes = {{2, {3, 4}}, {4, {7, 8}}};
    piece.timeline.pinned = {1, 3};
    piece.timeline.swing = 1.5;
    piece.timeline.divisions = {{2, 3}};
    piece.timeline.sections = {{"Low water", {0.5, 2.5}}};
    const auto read = readPieceJson(writePieceJson(piece));
    ASSERT_TRUE(read.ok()) << read.error().message;
    EXPECT_EQ(read->timeline, piece.timeline);
}

TEST(PieceJson, KeepsEveryDecisionWithItsEvidence) {
    Piece piece = test::richPiece();
    piece.takes = {Take{}};
    piece.lead()->path = "take.wav";
    piece.lead()->sha256 = std::string(64, 'a');
    piece.lead()->length_s = 5.5;
    piece.lead()->reference = {438.5, 3.0, Basis::Heard};
    piece.lead()->cautions = {SoundCaution::Clipped};
    piece.takes.push_back(piece.takes.front());
    Take& other = piece.takes.back();
    other.path = "film.mp4";
    other.kind = TakeKind::Stage;
    other.trim = {1.0, 4.5};
    other.sound_stream = 2;
    other.channels = ChannelChoice::Difference;
    other.gain_db = -3.5;
    other.has_picture = true;
    other.quality = {0.001, 41.0, 12.0, 50.0, 0.7, 16000.0, 2.0, 0.6};
    other.remark = "left hand visible";
    other.origin = "the evening class";
    other.rights = TakeRights::StudyOnly;
    other.alignment = {{{{0.5, 2.0}, {4.0, 6.25}}}, Basis::Heard, 0.9, -2};
    piece.instrument.left_handed = true;
    piece.instrument.capo = 0;
    piece.asPlayed().head.tool.set(PluckingTool::Fingers);
    for (StringSpec& s : piece.instrument.strings) // stored to a ten-thousandth of a millimetre
        s.gauge_mm = std::round(s.gauge_mm * 1e4) / 1e4;
    const auto read = readPieceJson(writePieceJson(piece));
    ASSERT_TRUE(read.ok()) << read.error().message;
    EXPECT_TRUE(*read == piece);
}

TEST(PieceJson, KeepsTheSchoolAndTheWishOfAReading) {
    Piece piece = test::richPiece();
    piece.asPlayed().head.fretting = {FrettingSchool::BassOneTwoFour,
                                      {FrettingRule::ShortBarre, FrettingRule::Lift}};
    piece.readings.push_back(piece.asPlayed());
    piece.readings.back().head.name = "stretch of 4 frets";
    piece.readings.back().head.wish = {WishKind::Stretch, 4.0};
    const auto read = readPieceJson(writePieceJson(piece));
    ASSERT_TRUE(read.ok()) << read.error().message;
    EXPECT_EQ(read->asPlayed().head, piece.asPlayed().head);
    EXPECT_EQ(read->readings.back().head, piece.readings.back().head);
}

TEST(PieceJson, TheFirstVersionIsStillRead) {
    std::string text = writePieceJson(test::richPiece());
    const std::string takes = "\"takes\": []";
    ASSERT_NE(text.find(takes), std::string::npos);
    text.replace(text.find(takes),
                 takes.size(),
                 "\"take\": {\"name\": \"old\", \"path\": \"old.wav\", \"length_s\": 7.5}");
    text.replace(text.find("wirenote-piece/3"), 16, "wirenote-piece/1");
    const auto read = readPieceJson(text);
    ASSERT_TRUE(read.ok()) << read.error().message;
    ASSERT_EQ(read->takes.size(), 1U);
    EXPECT_EQ(read->lead()->path, "old.wav");
    EXPECT_EQ(read->lead()->kind, TakeKind::Own);
}

// Files as earlier versions wrote them, kept in tests/data/earlier.
TEST(PieceJson, EveryFileOfAnEarlierVersionOpens) {
    const std::filesystem::path folder =
        std::filesystem::path(WIRENOTE_SOURCE_DIR) / "tests/data/earlier";
    int opened = 0;
    for (const auto& entry : std::filesystem::directory_iterator(folder)) {
        std::ifstream file(entry.path(), std::ios::binary);
        const std::string text{std::istreambuf_iterator<char>(file), {}};
        SCOPED_TRACE(entry.path().filename().string());
        Piece piece;
        if (entry.path().extension() == ".journal") {
            const auto journal = readJournal(text);
            ASSERT_TRUE(journal.ok()) << journal.error().message;
            piece = journal->piece;
        } else {
            const auto read = readPieceJson(text);
            ASSERT_TRUE(read.ok()) << read.error().message;
            piece = *read;
        }
        EXPECT_GE(piece.notes.size(), 8U);
        EXPECT_EQ(piece.asPlayed().head.fretting.school, FrettingSchool::FingerPerFret);
        EXPECT_EQ(piece.asPlayed().head.tool.value, PluckingTool::Unknown);
        EXPECT_TRUE(readPieceJson(writePieceJson(piece)).ok());
        ++opened;
    }
    EXPECT_GE(opened, 3);
}

TEST(PieceJson, WhatEarlierFilesKeptAmongReasonsIsReadAsFacts) {
    Piece piece = test::richPiece();
    for (Note& note : piece.notes)
        note.facts.clear();
    piece.notes[0].time.reasons = {{ReasonKind::SharpAttack, Basis::Heard, 0, 0, 0.75},
                                   {ReasonKind::StringsInTurn, Basis::Heard, -1, 0, 0.875}};
    piece.notes[1].time.reasons = {{ReasonKind::StringsInTurn, Basis::Heard, 1, 0, 0.75}};
    piece.notes[2].time.reasons = {{ReasonKind::SoftAttack, Basis::Heard, 0, 0, 0.0}};
    piece.notes[3].time.reasons = {{ReasonKind::DecidedByPerson, Basis::Set, 0, 0, 0.0}};
    auto earlier = nlohmann::json::parse(writePieceJson(piece));
    earlier["format"] = "wirenote-piece/2";
    for (auto& note : earlier["notes"]) {
        note.erase("existence");
        note.erase("facts");
    }
    const auto read = readPieceJson(earlier.dump());
    ASSERT_TRUE(read.ok()) << read.error().message;
    EXPECT_EQ(read->notes[0].existence.probability, piece.notes[0].time.probability);
    EXPECT_EQ(read->notes[0].heard().attack, (HeardAttack{0.75, false}));
    EXPECT_EQ(read->notes[0].heard().thick_first, 0.125);
    EXPECT_EQ(read->notes[1].heard().thick_first, 0.75);
    EXPECT_TRUE(read->notes[2].heard().attack.soft);
    EXPECT_EQ(read->notes[3].heard(), HeardFacts{});
    for (std::size_t i = 0; i < 3; ++i)
        EXPECT_TRUE(read->notes[i].time.reasons.empty()) << i;
    EXPECT_EQ(read->notes[3].time.reasons.size(), 1U);
    const auto again = readPieceJson(writePieceJson(*read));
    ASSERT_TRUE(again.ok());
    EXPECT_TRUE(*again == *read);
}

TEST(PieceJson, TheOneStretchOfAnEarlierFileIsRead) {
    Piece piece = test::richPiece();
    piece.takes = {Take{}, Take{}};
    auto earlier = nlohmann::json::parse(writePieceJson(piece));
    earlier["format"] = "wirenote-piece/2";
    earlier["takes"][1]["alignment"].erase("stretches");
    earlier["takes"][1]["alignment"]["moments"] = {{0.5, 2.0}, {4.0, 6.25}};
    const auto read = readPieceJson(earlier.dump());
    ASSERT_TRUE(read.ok()) << read.error().message;
    EXPECT_EQ(read->takes[1].alignment.stretches,
              (std::vector<TakeAlignment::Stretch>{{{0.5, 2.0}, {4.0, 6.25}}}));
    EXPECT_TRUE(read->takes[0].alignment.sameClock());
}

// What a hostile or damaged file may say of readings and facts.
TEST(PieceJson, ReadingsAndFactsThatDoNotFitAreRefusedWhereTheyStand) {
    const auto good = nlohmann::json::parse(writePieceJson(test::richPiece()));
    struct Case {
        const char* at;
        nlohmann::json value;
        const char* problem;
    };
    const nlohmann::json none = nlohmann::json::array();
    for (const auto& [at, value, problem] : {
             Case{"/readings", none, "placements"},
             Case{"/readings", nlohmann::json(33, good["readings"][0]), "readings"},
             Case{"/readings/1/plans", none, "placements"},
             Case{"/readings/1/plans/2/note", 1, "wrong number"},
             Case{"/readings/1/plans/2/position/value", {6, 99}, "position"},
             Case{"/readings/0/plucking",
                  {{"value", "telepathy"}, {"basis", "set"}, {"probability", 1}},
                  "plucking is a word this version does not know"},
             Case{"/readings/0/motion/per_beat", 1000000, "out of range"},
             Case{"/readings/1/purpose", std::string(200000, 'x'), "purpose"},
             Case{"/notes/0/existence/value", 7, "neither true nor false"},
             Case{"/notes/0/facts/0/take", 9, "a take or a time that is not there"},
             Case{"/notes/0/facts/0/take", -1, "out of range"},
             Case{"/notes/0/facts/0/span", {0, 1e300}, "out of range"},
             Case{"/notes/0/facts", nlohmann::json(257, good["notes"][0]["facts"][0]), "facts"},
         }) {
        auto changed = good;
        changed[nlohmann::json::json_pointer(at)] = value;
        const auto read = readPieceJson(changed.dump());
        ASSERT_FALSE(read.ok()) << at;
        EXPECT_THAT(read.error().message, HasSubstr(problem)) << at;
    }
}

TEST(PieceJson, ATakeThatGoesBackInTimeIsRefused) {
    Piece piece = test::richPiece();
    piece.takes = {Take{}};
    std::string text = writePieceJson(piece);
    const std::string none = "\"stretches\": []";
    text.replace(text.find(none), none.size(), "\"stretches\": [[[0,1],[1,0]]]");
    EXPECT_THAT(readPieceJson(text).error().message, HasSubstr("do not go forward"));
}

TEST(NotesJson, KeepsNotesPlacesFingersStrokesAndConfidence) {
    const Piece piece = test::richPiece();
    const auto read = readNotesJson(writeNotesJson(piece));
    ASSERT_TRUE(read.ok()) << read.error().message;
    ASSERT_EQ(read->notes.size(), piece.notes.size());
    for (std::size_t i = 0; i < piece.notes.size(); ++i) {
        EXPECT_NEAR(read->notes[i].onset_s(), piece.notes[i].onset_s(), 1e-4);
        EXPECT_EQ(read->notes[i].techniques, piece.notes[i].techniques);
        EXPECT_EQ(read->asPlayed().plans[i].position.value,
                  piece.asPlayed().plans[i].position.value);
        EXPECT_NEAR(read->asPlayed().plans[i].position.probability, 0.9, 1e-9);
        EXPECT_EQ(read->asPlayed().plans[i].position.runners_up.size(), 1U);
        EXPECT_EQ(read->asPlayed().plans[i].finger.value, piece.asPlayed().plans[i].finger.value);
        EXPECT_EQ(read->asPlayed().plans[i].stroke.value, piece.asPlayed().plans[i].stroke.value);
    }
    EXPECT_EQ(read->timeline.first_downbeat, 2);
}

TEST(NotesJson, WhatIsWrittenOfAnOddPieceOpensAgain) {
    Piece piece = test::richPiece();
    Note& bent = piece.notes.front();
    bent.time.value = {0.5, 0.50002}; // shorter than the steps in which times are written
    bent.techniques = {Technique::Bend};
    bent.curve = {{0.5, 0.0}, {0.5001, 3000.0}};
    piece.asPlayed().plans.front().position.value = {1, 0};
    piece.asPlayed().plans.front().position.runners_up = {{{0, 0}, 0.25}, {{2, 5}, 0.125}};
    ASSERT_TRUE(checkPiece(piece).ok());
    const auto read = readNotesJson(writeNotesJson(piece));
    ASSERT_TRUE(read.ok()) << read.error().message;
    const auto& others = read->asPlayed().plans.front().position.runners_up;
    ASSERT_EQ(others.size(), 1u) << "not placed is no other place";
    EXPECT_EQ(others.front().value, (Position{2, 5}));
    EXPECT_EQ(read->notes.front().bendSemitones(), 30.0);
}

TEST(NotesJson, OnlyTimesAndPitchesAreNeeded) {
    const auto read = readNotesJson(
        R"({"format":"wirenote-notes/1","notes":[{"onset_s":1,"offset_s":2,"midi":60.4},{"onset_s":0,"offset_s":1,"midi":64,"string":null}]})");
    ASSERT_TRUE(read.ok()) << read.error().message;
    EXPECT_EQ(read->notes[0].midi(), 64) << "notes are put in order of time";
    EXPECT_FALSE(read->asPlayed().plans[0].placed());
}

struct Hostile {
    const char* name;
    std::string text;
    const char* says;
};
void PrintTo(const Hostile& h, std::ostream* out) {
    *out << h.name;
}

std::string withNote(const std::string& note) {
    return R"({"format":"wirenote-notes/1","notes":[)" + note + "]}";
}

class HostileNotes : public ::testing::TestWithParam<Hostile> {};
TEST_P(HostileNotes, AreOneClearSentence) {
    const auto read = readNotesJson(GetParam().text);
    ASSERT_FALSE(read.ok());
    EXPECT_EQ(read.error().kind, ErrorKind::BadInput);
    EXPECT_THAT(read.error().message, HasSubstr(GetParam().says));
}
INSTANTIATE_TEST_SUITE_P(
    Files,
    HostileNotes,
    ::testing::Values(
        Hostile{"empty", "", "not JSON"},
        Hostile{"cut_off", R"({"format":"wirenote-notes/1","notes":[)", "not JSON"},
        Hostile{"other_format", R"({"format":"something/1"})", "not a notes file"},
        Hostile{"array", "[1,2,3]", "not a notes file"},
        Hostile{"deep", std::string(100000, '[') + std::string(100000, ']'), "nested too deeply"},
        Hostile{"no_time", withNote(R"({"midi":60})"), "notes[0] has no onset_s"},
        Hostile{"text_time",
                withNote(R"({"onset_s":"1","offset_s":2,"midi":60})"),
                "onset_s is not a number"},
        Hostile{"backwards",
                withNote(R"({"onset_s":2,"offset_s":1,"midi":60})"),
                "does not end after it starts"},
        Hostile{"huge_time",
                withNote(R"({"onset_s":1e300,"offset_s":1e301,"midi":60})"),
                "out of range"},
        Hostile{"pitch", withNote(R"({"onset_s":0,"offset_s":1,"midi":600})"), "out of range"},
        Hostile{"off_the_neck",
                withNote(R"({"onset_s":0,"offset_s":1,"midi":60,"string":9,"fret":1})"),
                "off the neck"},
        Hostile{"half_fret",
                withNote(R"({"onset_s":0,"offset_s":1,"midi":60,"string":1,"fret":1.5})"),
                "whole number"},
        Hostile{"technique",
                withNote(R"({"onset_s":0,"offset_s":1,"midi":60,"techniques":["juggle"]})"),
                "does not know"},
        Hostile{
            "thirteen_strings",
            R"({"format":"wirenote-notes/1","instrument":{"strings":[1,2,3,4,5,6,7,8,9,10,11,12,13]}})",
            "list of at most 12"}),
    [](const auto& row) { return std::string(row.param.name); });

TEST(PieceJson, DamagedOrNewerIsSaidSo) {
    EXPECT_THAT(readPieceJson("{}").error().message, HasSubstr("not a piece"));
    EXPECT_THAT(readPieceJson(R"({"format":"wirenote-piece/9"})").error().message,
                HasSubstr("newer version"));
    std::string text = writePieceJson(test::richPiece());
    const auto at = text.find("\"next_id\": 10");
    ASSERT_NE(at, std::string::npos);
    text.replace(at, 13, "\"next_id\": 3 ");
    EXPECT_THAT(readPieceJson(text).error().message, HasSubstr("damaged"));
}

TEST(InstrumentJson, ReadsADescriptionAndRefusesNonsense) {
    const auto read = readInstrumentJson(
        R"({"kind":"bass","frets":24,"scale_mm":812,"strings":[{"number":1,"open_midi":43},{"number":2,"open_midi":38},{"number":3,"open_midi":33},{"number":4,"open_midi":26}]})");
    ASSERT_TRUE(read.ok()) << read.error().message;
    EXPECT_EQ(read->string(4).open_midi, 26);
    EXPECT_EQ(read->frets, 24);
    EXPECT_GT(read->string(4).gauge_mm, 2.0) << "gauges that are not given are the usual ones";
    EXPECT_FALSE(readInstrumentJson(R"({"kind":"kazoo"})").ok());
    EXPECT_FALSE(readInstrumentJson(R"({"frets":4000})").ok());
}

} // namespace
} // namespace wirenote
